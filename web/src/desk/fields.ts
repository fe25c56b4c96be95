import type { Observation } from "../api/client";
import words from "../api/words.json";
import { CONTEST_WORDS, MOVE_LABELS, POSITION_WORDS, STOP_WORDS } from "../components/words";

export type Values = Record<string, unknown>;

/** A list of names for a field; of details it is that of the position. */
export type List = "grips" | "causes" | "details";

export type Field =
  | { name: string; label: string; type: "choice"; options: [string, string][]; optional?: boolean }
  | { name: string; label: string; type: "technique" | "time"; optional?: boolean }
  /** `note` is shown once something is written. */
  | { name: string; label: string; type: "text"; optional?: boolean; note?: string }
  /** A name out of a list; other words do as well. */
  | { name: string; label: string; type: "word"; list: List; optional?: boolean }
  | { name: string; label: string; type: "number" }
  /** The figures of a scoreboard as one text: "4-2", or with advantages and penalties "4-2 1-0 0-1". */
  | { name: string; label: string; type: "board" }
  | { name: string; label: string; type: "yes" };

const SIDE: [string, string][] = [
  ["a", "athlete"],
  ["b", "opponent"],
];
const by = { name: "by", label: "By", type: "choice", options: SIDE } satisfies Field;
const byAny = { ...by, options: [...SIDE, ["both", "both"]] } satisfies Field;
const to = { name: "to", label: "For", type: "choice", options: SIDE } satisfies Field;
const TALLIES: Field[] = [
  { name: "points", label: "Points", type: "number" },
  { name: "advantages", label: "Advantages", type: "number" },
  { name: "penalties", label: "Penalties", type: "number" },
];
const until: Field = { name: "until", label: "Ends", type: "time", optional: true };

export const TITLES: Record<Observation["kind"], string> = {
  clock: "Clock",
  position: "Position",
  pull: "Guard pull",
  submission: "Submission",
  technique: "Possibly illegal technique",
  begin: "The footage starts partway through the match",
  period: "Overtime",
  attempt: "Tried",
  mark: "Coach's mark",
  foul: "Foul",
  grip: "Grip",
  legs: "Legs",
  contest: "Contest",
  board: "The scoreboard shows",
  unwatched: "Not watched",
  call: "Officials' call",
  exchange: "New exchange",
  ruling: "Your own ruling",
  decision: "Decision",
  end: "How it ended",
};

const choice = (name: string, label: string, options: [string, string][], optional = false): Field => ({
  name,
  label,
  type: "choice",
  options,
  ...(optional ? { optional } : {}),
});
export const same = (...words: string[]): [string, string][] => words.map((word) => [word, word]);

/** What is logged where somebody says nothing of which technique it was. */
export const NOT_NAMED = "not named";

const technique = { name: "technique", label: "Technique", type: "technique" } satisfies Field;
const restart = choice("restart", "From", [
  ["standing", "standing"],
  ["same", "the same position"],
  ["placed", "where they were placed"],
]);
const PLACED: Field[] = [
  choice(
    "position",
    "Position",
    Object.entries(POSITION_WORDS).filter(([code]) => code !== "scramble"),
  ),
  { name: "top", label: "On top", type: "choice", options: SIDE, optional: true },
];
const why: Field = { name: "why", label: "For", type: "choice", options: Object.entries(STOP_WORDS), optional: true };
const stopped: Field = { name: "by", label: "By", type: "choice", options: SIDE, optional: true };
export const MOVES = Object.entries(MOVE_LABELS);
const clockAction = choice("action", "Clock", [
  ["start", "started"],
  ["stop", "stopped"],
]);
const foul = choice(
  "foul",
  "Foul",
  Object.entries(words.fouls).map(([code, { short }]) => [code, short]),
);
const avoiding = choice("avoiding", "Fled", [
  ...MOVES.filter(([code]) => !["knee_on_belly", "escape", "stand_up"].includes(code)),
  ["submission", "submission"],
]);
const verbal: Field = { name: "verbal", label: "A caution only", type: "yes" };
const votes: Field[] = [
  { name: "votes_a", label: "Votes for the athlete", type: "number" },
  { name: "votes_b", label: "Votes for the opponent", type: "number" },
];

const lateral = (name: "own" | "target", label: string): Field => choice(name, label, same("left", "right", "both"), true);
/** The arm, leg or side of the one who acts, and of the other. */
export const LATERAL = [lateral("own", "Own"), lateral("target", "The other's")];

/** The usual cautions, and who reads of an injury. */
const HURT =
  "Stop, and have it seen by licensed medical staff. Only the head coach, the coaches named for the athlete and the guardians see this; no link shows it.";

/** The fields of forms that always ask the same. */
const ASKED: Partial<Record<Observation["kind"], Field[]>> = {
  position: [
    choice("position", "Position", Object.entries(POSITION_WORDS)),
    { name: "top", label: "On top", type: "choice", options: SIDE, optional: true },
    { name: "detail", label: "Detail", type: "word", list: "details", optional: true },
  ],
  pull: [
    choice("by", "By", [...SIDE, ["both", "both"]]),
    { name: "caught", label: "Opponent already had a leg or a takedown grip", type: "yes" },
    { name: "attack", label: "Straight into a submission", type: "yes" },
  ],
  attempt: [
    by,
    choice("move", "What", MOVES),
    choice("outcome", "Outcome", [
      ["failed", "failed"],
      ["near", "near score"],
      ["done", "worked"],
    ]),
    { ...technique, optional: true },
    until,
    ...LATERAL,
  ],
  mark: [
    { name: "on", label: "Whose", type: "choice", options: SIDE },
    { name: "good", label: "Well done", type: "yes" },
    { name: "cause", label: "Cause", type: "word", list: "causes", optional: true },
    { name: "text", label: "Text", type: "text", optional: true },
    { name: "instead", label: "Instead", type: "text", optional: true },
    { name: "chance", label: "Chance missed", type: "choice", options: [...MOVES, ["submission", "Submission"]], optional: true },
    { name: "hurt", label: "Injured part", type: "text", optional: true, note: HURT },
    until,
    ...LATERAL,
  ],
  submission: [by, { ...technique, optional: true }, choice("threat", "Threat", same("attempt", "close")), until, ...LATERAL],
  technique: [by, technique, ...LATERAL],
  grip: [
    by,
    { name: "grip", label: "Grip", type: "word", list: "grips", optional: true },
    { name: "controls", label: "Controls", type: "choice", options: same(...words.controls), optional: true },
    choice("outcome", "Outcome", [
      ["held", "taken"],
      ["failed", "missed"],
    ]),
    { name: "broken", label: "Broken by the other", type: "yes" },
    until,
    ...LATERAL,
  ],
  legs: [
    { ...by, label: "Attacker" },
    choice("knee", "The other's knee", same("caught", "free"), true),
    choice("heel", "Heel", same("exposed", "hidden"), true),
    choice("leg", "Leg", same("left", "right"), true),
  ],
  contest: [
    choice("for", "For", Object.entries(CONTEST_WORDS)),
    { name: "won", label: "Won by", type: "choice", options: SIDE, optional: true },
    until,
    ...LATERAL,
  ],
  board: [{ name: "board", label: "Athlete first", type: "board" }],
  unwatched: [{ name: "until", label: "Until", type: "time" }],
  call: [{ ...to, optional: true }, ...TALLIES],
  ruling: [to, ...TALLIES],
  exchange: [{ name: "title", label: "Name", type: "text", optional: true }],
  decision: votes,
};

/** The fields of a form; some depend on what is chosen in others. */
export function fieldsOf(kind: Observation["kind"], values: Values): Field[] {
  if (kind === "clock") return clockFields(values);
  if (kind === "foul") {
    if (values.foul === "fleeing") return [by, foul, avoiding, verbal];
    return values.foul === "severe" ? [byAny, foul] : [byAny, foul, verbal];
  }
  return kind === "end" ? [how, ...endFields(values.how)] : (ASKED[kind] ?? []);
}

function clockFields(values: Values): Field[] {
  if (values.action !== "start") return [clockAction, why, stopped];
  return values.restart === "placed" ? [clockAction, restart, ...PLACED] : [clockAction, restart];
}

const how = choice("how", "How", same("time", "submission", "withdrawal", "stoppage", "disqualification", "decision"));

function endFields(how: unknown): Field[] {
  switch (how) {
    case "submission":
      return [
        { ...by, label: "Winner" },
        { ...technique, optional: true },
      ];
    case "withdrawal":
    case "stoppage":
      return [{ ...by, label: "Loser" }];
    case "disqualification":
      return [{ ...byAny, label: "Loser" }];
    case "decision":
      return votes;
    default:
      return [];
  }
}
