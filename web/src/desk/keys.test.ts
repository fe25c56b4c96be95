// @vitest-environment jsdom
import { describe, expect, it } from "vitest";
import { commandOf, keyOf, LETTERS, withKey } from "./keys";

function press(key: string, more: Partial<KeyboardEventInit> = {}) {
  const code = /^\d$/.test(key) ? `Digit${key}` : /^[a-z]$/i.test(key) ? `Key${key.toUpperCase()}` : key;
  return new KeyboardEvent("keydown", { key, code, ...more });
}

describe("keys", () => {
  it("gives every command a key of its own", () => {
    expect(new Set(LETTERS.map((one) => one.key)).size).toBe(LETTERS.length);
  });

  it.each([
    [press("m"), { do: "position", position: "mount", top: "a" }],
    [press("M", { shiftKey: true }), { do: "position", position: "mount", top: "b" }],
    [press("f"), { do: "position", position: "standing", top: null }],
    [press("p"), { do: "pull", by: "a", caught: false }],
    [press("A", { shiftKey: true }), { do: "pull", by: "both", caught: false }],
    [press("c"), { do: "clock", restart: "same" }],
    [press("C", { shiftKey: true }), { do: "clock", restart: "standing" }],
    [press("X", { shiftKey: true }), { do: "compose", kind: "submission", side: "b" }],
    [press("z"), { do: "undo" }],
    [press("z", { ctrlKey: true }), { do: "undo" }],
    [press("z", { ctrlKey: true, shiftKey: true }), { do: "redo" }],
    [press("y", { metaKey: true }), { do: "redo" }],
    [press("ArrowRight"), { do: "step", frames: 1 }],
    [press("ArrowRight", { shiftKey: true }), { do: "nudge", seconds: 1 }],
    [press("ArrowLeft", { altKey: true }), { do: "move", seconds: -0.1 }],
    [press("ArrowUp"), { do: "nudge", seconds: -5 }],
    [press("2"), { do: "digit", number: 2, side: "a" }],
    [press("n"), { do: "attempt", by: "a" }],
    [press("Y", { shiftKey: true }), { do: "period" }],
    [press("Enter", { shiftKey: true }), { do: "near" }],
    [press(";", { code: "Semicolon" }), { do: "eye", good: false, on: "a" }],
    [press('"', { code: "Quote", shiftKey: true }), { do: "eye", good: true, on: "b" }],
    [press("`"), { do: "turn" }],
    [press("0"), { do: "zoom", by: 0 }],
    [press("Enter"), { do: "compose", kind: "end", side: "a" }],
    [press("Escape"), { do: "escape" }],
    [press("9"), { do: "digit", number: 9, side: "a" }],
    [press("s", { ctrlKey: true }), null],
    [press("F5"), null],
    [press("ArrowUp", { shiftKey: true }), { do: "pick", by: -1 }],
    [press("Home"), { do: "mark", which: "from" }],
    [press("End"), { do: "mark", which: "to" }],
    [press("W", { shiftKey: true }), { do: "grip", by: "b" }],
    [press("j"), { do: "contest", won: "a" }],
    [press("R", { shiftKey: true }), { do: "position", position: "entangled", top: null }],
    [press("D", { shiftKey: true }), { do: "compose", kind: "board", side: "a" }],
    [press("F", { shiftKey: true }), { do: "compose", kind: "ruling", side: "a" }],
    [press("U", { shiftKey: true }), { do: "unwatched" }],
    [press("L", { shiftKey: true }), { do: "let_go", broken: true }],
    [press("<", { shiftKey: true, code: "Comma" }), { do: "lateral", to: "left" }],
    [press("m", { altKey: true }), null],
  ])("press %#", (event, command) => {
    expect(commandOf(event, {})).toEqual(command);
  });

  it("takes a digit whatever the keyboard's layout writes for it with Shift", () => {
    expect(commandOf(new KeyboardEvent("keydown", { key: "!", code: "Digit1", shiftKey: true }), {})).toEqual({
      do: "digit",
      number: 1,
      side: "b",
    });
  });
});

describe("keys that a user has changed", () => {
  it("swap with the command that had them", () => {
    const own = withKey({}, "mount", "g");
    expect(own).toEqual({ mount: "g", guard: "m" });
    expect(commandOf(press("g"), own)).toEqual({ do: "position", position: "mount", top: "a" });
    expect(keyOf("guard", own)).toBe("m");
  });
  it("are forgotten when they are the usual ones again", () => {
    expect(withKey(withKey({}, "mount", "g"), "mount", "m")).toEqual({});
  });
  it("can be digits, which then no longer say why one was unsure", () => {
    const own = withKey({}, "mount", "1");
    expect(commandOf(press("1"), own)).toEqual({ do: "position", position: "mount", top: "a" });
  });
});
