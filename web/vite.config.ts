import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig(({ mode }) => ({
  base: "/static/",
  // The compiler remembers what a component drew: a key then draws only what it changes. Tests see the code as written.
  plugins: [react(mode === "test" ? {} : { compiler: true }), tailwindcss()],
  build: {
    manifest: true,
    outDir: "dist",
    emptyOutDir: true,
    chunkSizeWarningLimit: 900,
    rolldownOptions: { checks: { pluginTimings: false } },
  },
  test: {
    environment: "node",
    include: ["src/**/*.test.{ts,tsx}"],
    restoreMocks: true,
    coverage: {
      provider: "v8",
      // What decides something; what only draws is seen by the browser's journeys.
      include: ["src/**/*.ts"],
      exclude: ["src/api/schema.d.ts", "src/**/*.test.ts", "src/vite-env.d.ts"],
      reporter: ["text"],
      thresholds: { statements: 80 },
    },
  },
}));
