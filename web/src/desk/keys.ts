import type { PositionName, Side } from "../api/client";

export type ComposedKind = "submission" | "technique" | "foul" | "call" | "ruling" | "board" | "exchange" | "end";

/** Log what is seen at the playhead. */
export type LogCommand =
  | { do: "position"; position: PositionName; top: Side | null }
  | { do: "pull"; by: Side | "both"; caught: boolean }
  | { do: "compose"; kind: ComposedKind; side: Side }
  | { do: "clock"; restart: "standing" | "same" }
  | { do: "period" }
  /** A move that was tried, guessed from where the two are. */
  | { do: "attempt"; by: Side }
  /** A grip, not named yet. */
  | { do: "grip"; by: Side }
  /** Both fight for something; `won` is who got it. */
  | { do: "contest"; won: Side }
  /** Who has whose leg, while legs are tied up: the first to the fourth fact. */
  | { do: "legs"; by: Side; number: number }
  /** What no one watched: between the marks, or since the last entry. */
  | { do: "unwatched" }
  /** The coach's eye: something wrong, or well done. */
  | { do: "eye"; good: boolean; on: Side }
  /** `broken`: by the other side. */
  | { do: "let_go"; broken: boolean };

/** Change what was logged. */
export type ChangeCommand =
  | { do: "unsure" | "delete" | "near" }
  | { do: "move"; seconds: number }
  /** The entry before or after the chosen one, or the playhead. */
  | { do: "pick"; by: -1 | 1 }
  /** A detail of the position that was logged last. */
  | { do: "detail"; of: string; name: string }
  /** The first to the ninth answer to what the observation asks: the cause of a mark, what a stop was for, the move. While
   * legs are tied up and nothing is asked, it is a fact about the legs, for the side. */
  | { do: "digit"; number: number; side: Side }
  /** Left or right: the actor's own arm, leg or side, and pressed again the other's. */
  | { do: "lateral"; to: "left" | "right" };

/** Move the picture, or the view of it. */
export type PictureCommand =
  | { do: "play" | "replay" | "back" | "loop" | "turn" | "mute" | "escape" }
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
/** Nobody is on top, so that Shift is free for something else. */
const topless = (position: PositionName, key: string, words: string, shifted: Command): Letter => ({
  name: position,
  key,
  group: "who",
  words,
  make: (_, shift) => (shift ? shifted : { do: "position", position, top: null }),
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
  topped("entangled", "e", "leg entanglement, up (whoever attacks the leg)"),
  topless("standing", "f", "standing (Shift: your own ruling)", { do: "compose", kind: "ruling", side: "a" }),
  topless("double_pull", "d", "both seated (Shift: what the scoreboard shows)", { do: "compose", kind: "board", side: "a" }),
  topless("scramble", "r", "scramble (Shift: leg entanglement, no one up)", { do: "position", position: "entangled", top: null }),
  { name: "pull", key: "p", group: "who", words: "pulled guard", make: (by) => ({ do: "pull", by, caught: false }) },
  {
    name: "pull_caught",
    key: "i",
    group: "who",
    words: "pulled with a leg already caught",
    make: (by) => ({ do: "pull", by, caught: true }),
  },
  composed("submission", "x", "submission attempt; hold the key while it is on"),
  {
    name: "let_go",
    key: "l",
    group: "what",
    words: "submission or grip released now (Shift: the grip was broken)",
    make: (_, shift) => ({ do: "let_go", broken: shift }),
  },
  composed("technique", "q", "possibly illegal technique: a reap, a slam"),
  {
    name: "attempt",
    key: "n",
    group: "what",
    words: "failed attempt; hold the key while it lasts; a digit changes the move, Shift+Enter makes it a near score",
    make: (by) => ({ do: "attempt", by }),
  },
  composed("foul", "v", "foul"),
  {
    name: "grip",
    key: "w",
    group: "what",
    words: "grip; hold the key while it is on; a digit names it, Shift+Enter: reached for and missed",
    make: (by) => ({ do: "grip", by }),
  },
  {
    name: "contest",
    key: "j",
    group: "what",
    words: "both fight for something, won by the athlete; hold the key while it lasts; a digit says for what",
    make: (won) => ({ do: "contest", won }),
  },
  {
    name: "clock",
    key: "c",
    group: "what",
    words: "start/stop the clock; restart in the same position (Shift: restart standing)",
    make: (_, shift) => ({ do: "clock", restart: shift ? "standing" : "same" }),
  },
  composed("call", "o", "what the officials showed"),
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
    words: "mark the last or selected entry unsure, then 1-4 for the reason (Shift: no one watched since the last entry)",
    make: (_, shift) => ({ do: shift ? "unwatched" : "unsure" }),
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

/** What the other keys do, and with Shift where that is something else. */
const OTHERS: Record<string, [Command, Command?]> = {
  " ": [{ do: "play" }],
  ArrowLeft: [
    { do: "step", frames: -1 },
    { do: "nudge", seconds: -1 },
  ],
  ArrowRight: [
    { do: "step", frames: 1 },
    { do: "nudge", seconds: 1 },
  ],
  ArrowUp: [
    { do: "nudge", seconds: -5 },
    { do: "pick", by: -1 },
  ],
  ArrowDown: [
    { do: "nudge", seconds: 5 },
    { do: "pick", by: 1 },
  ],
  ",": [{ do: "rate", by: -1 }],
  ".": [{ do: "rate", by: 1 }],
  "<": [{ do: "lateral", to: "left" }],
  ">": [{ do: "lateral", to: "right" }],
  "[": [{ do: "mark", which: "from" }],
  "]": [{ do: "mark", which: "to" }],
  Home: [{ do: "mark", which: "from" }],
  End: [{ do: "mark", which: "to" }],
  "\\": [{ do: "loop" }],
  "=": [{ do: "zoom", by: 1.25 }],
  "+": [{ do: "zoom", by: 1.25 }],
  "-": [{ do: "zoom", by: 0.8 }],
  "0": [{ do: "zoom", by: 0 }],
  "`": [{ do: "turn" }],
  "/": [{ do: "mute" }],
  "?": [{ do: "help" }],
  Enter: [{ do: "compose", kind: "end", side: "a" }, { do: "near" }],
  Backspace: [{ do: "delete" }],
  Delete: [{ do: "delete" }],
  Escape: [{ do: "escape" }],
};

/** The command of a key press, or null where it means nothing here. */
export function commandOf(event: KeyboardEvent, own: OwnKeys): Command | null {
  const shift = event.shiftKey;
  const letter = letterOf(event);
  if (event.ctrlKey || event.metaKey) {
    if (letter === "z") return { do: shift ? "redo" : "undo" };
    return letter === "y" ? { do: "redo" } : null;
  }
  if (event.altKey) {
    if (event.key === "ArrowUp") return { do: "back" };
    if (event.key === "ArrowLeft") return { do: "move", seconds: shift ? -1 : -0.1 };
    return event.key === "ArrowRight" ? { do: "move", seconds: shift ? 1 : 0.1 } : null;
  }
  if (event.code === "Semicolon" || event.code === "Quote") return { do: "eye", good: event.code === "Quote", on: shift ? "b" : "a" };
  const chosen = LETTERS.find((one) => keyOf(one.name, own) === letter);
  if (chosen) return chosen.make(shift ? "b" : "a", shift);
  const other = OTHERS[event.key];
  if (other) return shift ? (other[1] ?? other[0]) : other[0];
  const number = Number(letter);
  return number >= 1 && number <= 9 ? { do: "digit", number, side: shift ? "b" : "a" } : null;
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
      ["Alt ↑", "back to where you were before a jump"],
      [", .", "slower, faster"],
      ["[ ]", "set start / end mark here (or Home / End)"],
      ["\\", "repeat between the marks, or this exchange"],
      ["= - 0", "zoom in, zoom out, fit (or mouse wheel and drag)"],
      ["`", "rotate the picture 90°; after a full turn it is mirrored"],
      ["/", "sound on or off"],
    ],
  },
  chosen: {
    title: "The selected entry",
    rows: [
      ["Shift ↑ ↓", "the entry before / after"],
      ["Alt ← →", "0.1 s earlier / later (Shift: 1 s)"],
      [
        "same again",
        "pressed twice: a position then takes a letter for its detail (half, north-south), an attempt its technique, a mark its text, a grip its name",
      ],
      ["1 to 9", "answers what it asks: the move tried, the grip, the cause of a mark, what a stop was for; otherwise why it is unsure"],
      ["1 to 4", "while legs are tied up: knee caught, knee free, heel exposed, heel hidden (Shift: by the opponent)"],
      ["< >", "left, right: the one who acts; pressed again, the other one's"],
      ["Shift ⏎", "near score: it very nearly worked; of a grip: reached for and missed"],
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
