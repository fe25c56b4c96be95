import type { PositionName, Side } from "../api/client";

export type ComposedKind = "submission" | "technique" | "foul" | "grip" | "call" | "ruling" | "exchange" | "end";

/** Log what is seen at the playhead. */
export type LogCommand =
  | { do: "position"; position: PositionName; top: Side | null }
  | { do: "pull"; by: Side | "both"; caught: boolean }
  | { do: "compose"; kind: ComposedKind; side: Side }
  | { do: "clock"; restart: "standing" | "same" }
  | { do: "period" }
  /** A move that was tried, guessed from where the two are. */
  | { do: "attempt"; by: Side }
  /** The coach's eye: something wrong, or well done. */
  | { do: "eye"; good: boolean; on: Side }
  | { do: "let_go" };

/** Change what was logged. */
export type ChangeCommand =
  | { do: "unsure" | "delete" | "near" }
  | { do: "move"; seconds: number }
  /** A detail of the position that was logged last. */
  | { do: "detail"; of: string; name: string }
  /** The first to the ninth answer to what the observation asks: the cause of a mark, what a stop was for, the move. */
  | { do: "digit"; number: number };

/** Move the picture, or the view of it. */
export type PictureCommand =
  | { do: "play" | "replay" | "loop" | "turn" | "mute" | "escape" }
  | { do: "mark"; which: "from" | "to" }
  | { do: "zoom"; by: number }
  | { do: "step"; frames: number }
  | { do: "nudge"; seconds: number }
  | { do: "rate"; by: 1 | -1 };

/** What a key asks the desk to do. */
export type Command = LogCommand | ChangeCommand | PictureCommand | { do: "undo" | "redo" | "help" };

type Group = "who" | "what" | "log";

interface Letter {
  name: string;
  key: string;
  group: Group;
  words: string;
  make: (side: Side, shift: boolean) => Command;
}

const topped = (position: PositionName, key: string, words: string): Letter => ({
  name: position,
  key,
  group: "who",
  words,
  make: (top) => ({ do: "position", position, top }),
});
const topless = (position: PositionName, key: string, words: string): Letter => ({
  name: position,
  key,
  group: "who",
  words,
  make: () => ({ do: "position", position, top: null }),
});
const composed = (kind: ComposedKind, key: string, words: string): Letter => ({
  name: kind,
  key,
  group: "what",
  words,
  make: (side) => ({ do: "compose", kind, side }),
});

/** Every letter of the desk; one for the athlete, with Shift for the opponent. A user may change the keys. */
export const LETTERS: Letter[] = [
  topped("guard", "g", "guard, on top"),
  topped("turtle", "t", "turtle, on top"),
  topped("side", "s", "side control"),
  topped("knee_on_belly", "k", "knee on belly"),
  topped("mount", "m", "mount"),
  topped("back_one_hook", "h", "back with one hook"),
  topped("back", "b", "back with both hooks"),
  topped("entangled", "e", "leg entanglement, on top (up, not attacking)"),
  topless("standing", "f", "standing"),
  topless("double_pull", "d", "both seated"),
  topless("scramble", "r", "scramble"),
  { name: "pull", key: "p", group: "who", words: "pulled guard", make: (by) => ({ do: "pull", by, caught: false }) },
  {
    name: "pull_caught",
    key: "i",
    group: "who",
    words: "pulled with a leg already caught",
    make: (by) => ({ do: "pull", by, caught: true }),
  },
  composed("submission", "x", "submission attempt; hold the key while it is on"),
  { name: "let_go", key: "l", group: "what", words: "submission or grip released now", make: () => ({ do: "let_go" }) },
  composed("technique", "q", "possibly illegal technique: a reap, a slam"),
  {
    name: "attempt",
    key: "n",
    group: "what",
    words: "failed attempt; hold the key while it lasts; a digit changes the move, Shift+Enter makes it a near score",
    make: (by) => ({ do: "attempt", by }),
  },
  composed("foul", "v", "foul"),
  composed("grip", "w", "grip; hold the key while it is on"),
  {
    name: "clock",
    key: "c",
    group: "what",
    words: "start/stop the clock; restart in the same position (Shift: restart standing)",
    make: (_, shift) => ({ do: "clock", restart: shift ? "standing" : "same" }),
  },
  composed("call", "o", "what the officials showed"),
  composed("ruling", "j", "your own ruling"),
  {
    name: "exchange",
    key: "y",
    group: "what",
    words: "new exchange, or its name (Shift: overtime begins)",
    make: (side, shift) => (shift ? { do: "period" } : { do: "compose", kind: "exchange", side }),
  },
  {
    name: "replay",
    key: "a",
    group: "log",
    words: "replay slowly from 4 s before the last entry (Shift: double guard pull)",
    make: (_, shift) => (shift ? { do: "pull", by: "both", caught: false } : { do: "replay" }),
  },
  {
    name: "unsure",
    key: "u",
    group: "log",
    words: "mark the last or selected entry unsure, then 1-4 for the reason",
    make: () => ({ do: "unsure" }),
  },
  {
    name: "undo",
    key: "z",
    group: "log",
    words: "undo (Shift: redo)",
    make: (_, shift) => ({ do: shift ? "redo" : "undo" }),
  },
];

/** Command names to keys, where a user has changed them. */
export type OwnKeys = Record<string, string>;

export function keyOf(name: string, own: OwnKeys): string {
  return own[name] ?? LETTERS.find((one) => one.name === name)?.key ?? "";
}

/** Give a command a key; the one that had it gets the other's, so that each keeps one. */
export function withKey(own: OwnKeys, name: string, key: string): OwnKeys {
  const had = LETTERS.find((one) => keyOf(one.name, own) === key);
  const next = { ...own, [name]: key, ...(had && had.name !== name ? { [had.name]: keyOf(name, own) } : {}) };
  return Object.fromEntries(Object.entries(next).filter(([command, now]) => LETTERS.find((one) => one.name === command)?.key !== now));
}

export const TOPPED: PositionName[] = ["guard", "turtle", "side", "knee_on_belly", "mount", "back_one_hook", "back", "entangled"];
export const TOPLESS: PositionName[] = ["standing", "double_pull", "scramble"];

/** The letter of a key press, whatever Shift makes of it. */
function letterOf(event: KeyboardEvent): string {
  return /^Digit\d$/.test(event.code) ? event.code.slice(5) : event.key.toLowerCase();
}

/** The command of a key press, or null where it means nothing here. */
export function commandOf(event: KeyboardEvent, own: OwnKeys): Command | null {
  const shift = event.shiftKey;
  const letter = letterOf(event);
  if (event.ctrlKey || event.metaKey) {
    if (letter === "z") return { do: shift ? "redo" : "undo" };
    return letter === "y" ? { do: "redo" } : null;
  }
  if (event.altKey) {
    if (event.key === "ArrowLeft") return { do: "move", seconds: shift ? -1 : -0.1 };
    return event.key === "ArrowRight" ? { do: "move", seconds: shift ? 1 : 0.1 } : null;
  }
  if (event.code === "Semicolon" || event.code === "Quote") return { do: "eye", good: event.code === "Quote", on: shift ? "b" : "a" };
  const chosen = LETTERS.find((one) => keyOf(one.name, own) === letter);
  if (chosen) return chosen.make(shift ? "b" : "a", shift);
  switch (event.key) {
    case " ":
      return { do: "play" };
    case "ArrowLeft":
      return shift ? { do: "nudge", seconds: -1 } : { do: "step", frames: -1 };
    case "ArrowRight":
      return shift ? { do: "nudge", seconds: 1 } : { do: "step", frames: 1 };
    case "ArrowUp":
      return { do: "nudge", seconds: -5 };
    case "ArrowDown":
      return { do: "nudge", seconds: 5 };
    case ",":
      return { do: "rate", by: -1 };
    case ".":
      return { do: "rate", by: 1 };
    case "[":
      return { do: "mark", which: "from" };
    case "]":
      return { do: "mark", which: "to" };
    case "\\":
      return { do: "loop" };
    case "=":
    case "+":
      return { do: "zoom", by: 1.25 };
    case "-":
      return { do: "zoom", by: 0.8 };
    case "0":
      return { do: "zoom", by: 0 };
    case "`":
      return { do: "turn" };
    case "/":
      return { do: "mute" };
    case "?":
      return { do: "help" };
    case "Enter":
      return shift ? { do: "near" } : { do: "compose", kind: "end", side: "a" };
    case "Backspace":
    case "Delete":
      return { do: "delete" };
    case "Escape":
      return { do: "escape" };
  }
  const number = Number(letter);
  return number >= 1 && number <= 9 ? { do: "digit", number } : null;
}

/** The parts of the legend whose keys stay as they are. */
export interface FixedKeys {
  title: string;
  rows: [string, string][];
}
export const FIXED: Record<"eye" | "footage" | "chosen", FixedKeys> = {
  eye: {
    title: "Your judgement (Shift: the opponent)",
    rows: [
      [";", "something wrong here; then a digit for the cause"],
      ["'", "well done; then a digit for the cause"],
    ],
  },
  footage: {
    title: "Footage",
    rows: [
      ["Space", "play or pause"],
      ["← →", "one frame back / forward"],
      ["Shift ← →", "one second"],
      ["↑ ↓", "five seconds back / forward"],
      [", .", "slower, faster"],
      ["[ ]", "set start / end mark here"],
      ["\\", "repeat between the marks, or this exchange"],
      ["= - 0", "zoom in, zoom out, fit (or mouse wheel and drag)"],
      ["`", "rotate the picture 90°"],
      ["/", "sound on or off"],
    ],
  },
  chosen: {
    title: "The selected entry",
    rows: [
      ["Alt ← →", "0.1 s earlier / later (Shift: 1 s)"],
      [
        "same again",
        "pressed twice: a position then takes a letter for its detail (half, north-south), an attempt its technique, a mark its text",
      ],
      ["1 to 9", "answers what it asks: the move tried, the cause of a mark, what a stop was for; otherwise why it is unsure"],
      ["Shift ⏎", "near score: it very nearly worked"],
      ["Delete", "delete it"],
      ["Enter", "how the match ended, or a decision"],
      ["Esc", "close what is open; clear the marks"],
    ],
  },
};
export const GROUPS: Record<Group, string> = {
  who: "Who is where (Shift: the opponent)",
  what: "What happened (Shift: by the opponent)",
  log: "The log",
};
