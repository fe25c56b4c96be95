import { defineConfig } from "oxlint";

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

/** A folder, and which others it may not import from. */
function closed(from: string, others: string[]) {
  const patterns = others.map((name) => ({ group: [`**/${name}/**`], message: `${from}/ may know nothing of ${name}/.` }));
  return { files: [`src/${from}/**`], rules: { "no-restricted-imports": ["error", { patterns }] as const } };
}

export default defineConfig({
  plugins: ["typescript", "react", "oxc"],
  categories: { correctness: "error" },
  ignorePatterns: ["src/api/schema.d.ts", "dist"],
  rules: {
    "react/exhaustive-deps": "error",
    "react/rules-of-hooks": "error",
    "typescript/switch-exhaustiveness-check": "error",
    "typescript/no-explicit-any": "error",
    "typescript/no-non-null-assertion": "error",
    "react/incompatible-library": "off", // the one of that kind, the virtual list, is left alone by the compiler
    "typescript/no-base-to-string": "off", // fields of forms are texts, which their types do not say
    "typescript/no-misused-spread": "off",
    "typescript/require-array-sort-compare": "off",
    "max-lines": ["error", 350],
    "max-lines-per-function": ["error", { max: 60, skipBlankLines: true, skipComments: true }],
  },
  overrides: [
    { files: ["src/**/*.test.{ts,tsx}"], rules: { "max-lines-per-function": "off" } },
    closed("components", VIEWS),
    closed("api", [...VIEWS, "components"]),
    ...VIEWS.map((view) =>
      closed(
        view,
        VIEWS.filter((other) => other !== view),
      ),
    ),
  ],
});
