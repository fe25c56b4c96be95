import ts from "typescript";
import { expect, it } from "vitest";
import unwanted from "../../core/tests/unwanted_words.json";

const SOURCES = import.meta.glob<string>("./**/*.{ts,tsx}", { query: "?raw", import: "default", eager: true });
const WORDS = unwanted.words.map(([pattern = "", instead = ""]) => ({ pattern: new RegExp(pattern), instead }));
/** Attributes that nobody reads. */
const UNREAD = /^(className|data-|d$|key$|id$|name$|type$|to$|href$|src$|path$|viewBox|stroke|fill|style|pattern$)/;
/** Text that somebody may read: it has words, and does not look like styles or an address. */
const READ = /[A-Za-z].*\s.*[A-Za-z]/;

/** Every piece of text in a source file that may be shown, with its line. */
function shown(name: string, source: string): { at: string; text: string }[] {
  const file = ts.createSourceFile(name, source, ts.ScriptTarget.Latest, true, name.endsWith("x") ? ts.ScriptKind.TSX : ts.ScriptKind.TS);
  const found: { at: string; text: string }[] = [];
  const visit = (node: ts.Node): void => {
    if (ts.isJsxAttribute(node) && UNREAD.test(node.name.getText(file))) return;
    if (ts.isImportDeclaration(node)) return;
    const text = ts.isJsxText(node) || ts.isStringLiteralLike(node) || ts.isTemplateExpression(node) ? node.getText(file) : null;
    if (text !== null && READ.test(text)) {
      const line = file.getLineAndCharacterOfPosition(node.getStart(file)).line + 1;
      // What is filled in is looked at where it comes from.
      found.push({
        at: `${name}:${line}`,
        text: text
          .replace(/\$\{[^}]*\}/g, "…")
          .replace(/\s+/g, " ")
          .replace(/&rsquo;/g, "'"),
      });
    }
    ts.forEachChild(node, visit);
  };
  visit(file);
  return found;
}

const TEXTS = Object.entries(SOURCES)
  .filter(([name]) => !/\.test\.|schema\.d\.ts/.test(name))
  .flatMap(([name, source]) => shown(name, source));

it("finds the texts of the screens, and the words in them", () => {
  expect(TEXTS.length).toBeGreaterThan(500);
  expect(TEXTS.some(({ text }) => text.includes("What mattered"))).toBe(true);
  expect(WORDS.filter(({ pattern }) => pattern.test("Nothing is paid anew")).length).toBe(2);
});

it("no screen says a word that we do without (docs/wording.md)", () => {
  const faults = TEXTS.flatMap(({ at, text }) =>
    WORDS.flatMap(({ pattern, instead }) => {
      const word = pattern.exec(text)?.[0];
      return word ? [`${at}: ${word} in "${text}" - write: ${instead}`] : [];
    }),
  );
  expect(faults).toEqual([]);
});
