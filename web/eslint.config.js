import js from "@eslint/js";
import hooks from "eslint-plugin-react-hooks";
import { defineConfig } from "eslint/config";
import tseslint from "typescript-eslint";

/** The views, each a folder: none knows another, and what several need is a component. */
const VIEWS = [
  "account",
  "athletes",
  "audit",
  "club",
  "desk",
  "events",
  "matches",
  "own",
  "report",
  "review",
  "rulebook",
  "season",
  "session",
  "training",
  "words",
];

/** Which folders each folder may not import from. */
function rooms() {
  const closed = (from, others) => ({
    files: [`src/${from}/**`],
    rules: {
      "no-restricted-imports": [
        "error",
        {
          patterns: others.map((name) => ({
            group: [`**/${name}/**`],
            message: `${from}/ may know nothing of ${name}/.`,
          })),
        },
      ],
    },
  });
  const all = [...VIEWS, "components"];
  return [
    closed("components", VIEWS),
    closed("api", all),
    ...VIEWS.map((view) =>
      closed(
        view,
        VIEWS.filter((other) => other !== view),
      ),
    ),
  ];
}

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
      "max-lines": ["error", 350],
      "max-lines-per-function": ["error", { max: 60, skipBlankLines: true, skipComments: true }],
    },
    languageOptions: { parserOptions: { projectService: true } },
  },
  { files: ["src/**/*.test.{ts,tsx}"], rules: { "max-lines-per-function": "off" } },
  ...rooms(),
);
