import js from "@eslint/js";
import hooks from "eslint-plugin-react-hooks";
import { defineConfig } from "eslint/config";
import tseslint from "typescript-eslint";

export default defineConfig(
  { ignores: ["src/api/schema.d.ts"] },
  js.configs.recommended,
  tseslint.configs.strict,
  {
    plugins: { "react-hooks": hooks },
    rules: {
      ...hooks.configs.recommended.rules,
      "react-hooks/exhaustive-deps": "error",
      "react-hooks/incompatible-library": "off", // the one of that kind, the virtual list, is left alone by the compiler
      "@typescript-eslint/switch-exhaustiveness-check": "error",
    },
    languageOptions: { parserOptions: { projectService: true } },
  },
);
