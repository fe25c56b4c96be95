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
      "react-hooks/rules-of-hooks": "error",
      "react-hooks/exhaustive-deps": "error",
      "@typescript-eslint/switch-exhaustiveness-check": "error",
    },
    languageOptions: { parserOptions: { projectService: true } },
  },
);
