import type { PositionName, Side } from "../api/client";

/** One letter a position: as it is for the athlete, with Shift for the opponent. */
export const TOPPED: { position: PositionName; key: string }[] = [
  { position: "guard", key: "g" },
  { position: "turtle", key: "t" },
  { position: "side", key: "s" },
  { position: "knee_on_belly", key: "k" },
  { position: "mount", key: "m" },
  { position: "back_one_hook", key: "h" },
  { position: "back", key: "b" },
  { position: "entangled", key: "e" },
];
export const TOPLESS: { position: PositionName; key: string }[] = [
  { position: "standing", key: "f" },
  { position: "double_pull", key: "d" },
  { position: "scramble", key: "r" },
];

export type ComposedKind = "submission" | "technique" | "near" | "foul" | "grip" | "call" | "ruling" | "exchange" | "end";

/** What a key asks the desk to do. */
export type Command =
  | { do: "position"; position: PositionName; top: Side | null }
  | { do: "pull"; by: Side | "both"; caught: boolean }
  | { do: "compose"; kind: ComposedKind; side: Side }
  | { do: "clock"; restart: "standing" | "same" }
  | { do: "let_go" | "unsure" | "undo" | "redo" | "delete" | "help" }
  | { do: "play" }
  | { do: "step"; frames: number }
  | { do: "nudge"; seconds: number }
  | { do: "rate"; by: 1 | -1 }
  | { do: "replay" };

export const COMPOSE_KEYS: Record<string, ComposedKind> = {
  x: "submission",
  q: "technique",
  n: "near",
  v: "foul",
  w: "grip",
  o: "call",
  j: "ruling",
  y: "exchange",
};

/** The command of a key press, or null where it means nothing here. */
export function commandOf(event: KeyboardEvent): Command | null {
  const shift = event.shiftKey;
  const letter = event.key.toLowerCase();
  const side: Side = shift ? "b" : "a";
  if (event.ctrlKey || event.metaKey) {
    if (letter === "z") return { do: shift ? "redo" : "undo" };
    return letter === "y" ? { do: "redo" } : null;
  }
  if (event.altKey) return null;
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
    case "?":
      return { do: "help" };
    case "Enter":
      return { do: "compose", kind: "end", side: "a" };
    case "Backspace":
    case "Delete":
      return { do: "delete" };
  }
  const topped = TOPPED.find((one) => one.key === letter);
  if (topped) return { do: "position", position: topped.position, top: side };
  const topless = TOPLESS.find((one) => one.key === letter);
  if (topless) return { do: "position", position: topless.position, top: null };
  const composed = COMPOSE_KEYS[letter];
  if (composed) return { do: "compose", kind: composed, side };
  switch (letter) {
    case "p":
      return { do: "pull", by: side, caught: false };
    case "i":
      return { do: "pull", by: side, caught: true };
    case "a":
      return shift ? { do: "pull", by: "both", caught: false } : { do: "replay" };
    case "c":
      return { do: "clock", restart: shift ? "standing" : "same" };
    case "l":
      return { do: "let_go" };
    case "u":
      return { do: "unsure" };
    case "z":
      return { do: shift ? "redo" : "undo" };
    default:
      return null;
  }
}

/** The legend, by what a coach wants to do. */
export const LEGEND: { title: string; rows: [string, string][] }[] = [
  {
    title: "Footage",
    rows: [
      ["Space", "play or pause"],
      ["← →", "one frame back, on"],
      ["Shift ← →", "one second"],
      ["↑ ↓", "five seconds back, on"],
      [", .", "slower, faster"],
      ["A", "again, from 4 s before the last observation, slowly"],
    ],
  },
  {
    title: "Who is where (Shift: the opponent)",
    rows: [
      ["G T S", "guard, turtle, side control: on top"],
      ["K M", "knee on belly, mount"],
      ["H B", "back with one hook, with both"],
      ["E", "legs tied up, attacking"],
      ["F D R", "on the feet, both seated, scramble"],
      ["P I", "pulled guard; pulled with a leg already caught"],
      ["Shift A", "both pulled"],
    ],
  },
  {
    title: "What happened (Shift: by the opponent)",
    rows: [
      ["X L", "submission on; let go now"],
      ["Q", "technique that may be illegal: a reap, a slam"],
      ["N", "very nearly came off"],
      ["V", "foul"],
      ["W", "grip"],
      ["C", "clock: start, stop, start again in the same position"],
      ["Shift C", "start again standing"],
      ["O", "what the officials showed"],
      ["J", "a ruling of your own"],
      ["Y", "new exchange"],
      ["Enter", "how it ended, or a decision"],
    ],
  },
  {
    title: "The log",
    rows: [
      ["U", "unsure about the last observation"],
      ["Z, Shift Z", "undo, redo"],
      ["Delete", "delete the chosen observation"],
      ["Esc", "close what is open"],
    ],
  },
];
