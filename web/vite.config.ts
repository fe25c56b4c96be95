import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

export default defineConfig({
  base: "/static/",
  // The compiler remembers what a component drew: a key then draws only what it changes.
  plugins: [react({ compiler: true }), tailwindcss()],
  build: { manifest: true, outDir: "dist", emptyOutDir: true, chunkSizeWarningLimit: 900 },
});
