import type { Observation, PositionName, Side } from "../api/client";
import words from "../api/words.json";
import { MOVE_LABELS, POSITION_WORDS, STOP_WORDS } from "../components/words";

/** A submission let go so shortly before the end of the match is what ended it. */
const STILL_ON = 1;

export type Values = Record<string, unknown>;

/** A list of names for a field; of details it is that of the position. */
export type List = "grips" | "causes" | "details";

export type Field =
  | { name: string; label: string; type: "choice"; options: [string, string][]; optional?: boolean }
  | { name: string; label: string; type: "technique" | "text" | "time"; optional?: boolean }
  /** A name out of a list; other words do as well. */
  | { name: string; label: string; type: "word"; list: List; optional?: boolean }
  | { name: string; label: string; type: "number" }
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
  call: "Officials' call",
  exchange: "New exchange",
  ruling: "Your own ruling",
  decision: "Decision",
  end: "How it ended",
};

const choice = (name: string, label: string, options: [string, string][]): Field => ({ name, label, type: "choice", options });
const same = (...words: string[]): [string, string][] => words.map((word) => [word, word]);

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
const MOVES = Object.entries(MOVE_LABELS);
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

/** The fields of forms that always ask the same. */
const ASKED: Partial<Record<Observation["kind"], Field[]>> = {
  position: [
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
  ],
  mark: [
    { name: "on", label: "Whose", type: "choice", options: SIDE },
    { name: "good", label: "Well done", type: "yes" },
    { name: "cause", label: "Cause", type: "word", list: "causes", optional: true },
    { name: "text", label: "Text", type: "text", optional: true },
    { name: "chance", label: "Chance missed", type: "choice", options: [...MOVES, ["submission", "Submission"]], optional: true },
    until,
  ],
  submission: [by, { ...technique, optional: true }, choice("threat", "Threat", same("attempt", "close")), until],
  technique: [by, technique],
  grip: [
    by,
    { name: "grip", label: "Grip", type: "word", list: "grips" },
    { name: "controls", label: "Controls", type: "choice", options: same(...words.controls), optional: true },
    { name: "broken", label: "Broken by the opponent", type: "yes" },
    until,
  ],
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

/** One answer to what an observation asks: what it is called, and what it says of the observation. */
export interface Answer {
  text: string;
  says: Record<string, unknown>;
}

const answers = (field: string, options: [string, string][]): Answer[] =>
  options.map(([code, text]) => ({ text, says: { [field]: code } }));
const MOVE_ANSWERS = answers("move", MOVES);
const STOP_ANSWERS = answers("why", Object.entries(STOP_WORDS));
/** Why an observation is unsure. The reason travels with it; the format keeps fields it does not know. */
const DOUBT_ANSWERS = answers("doubt", Object.entries(words.doubts)).map(({ text, says }) => ({ text, says: { sure: false, ...says } }));
/** So many answers have a digit. */
export const DIGITS = 9;

/** What a digit answers of an observation: the move, the cause, what a stop was for; of any other why it is unsure. */
export function answersOf(seen: Observation, causes: string[]): Answer[] {
  if (seen.kind === "mark") return answers("cause", same(...causes)).slice(0, DIGITS);
  if (seen.kind === "attempt") return MOVE_ANSWERS;
  if (seen.kind === "clock" && seen.action === "stop") return STOP_ANSWERS;
  return DOUBT_ANSWERS;
}

export interface Detail {
  /** The letter that chooses it. */
  key: string;
  name: string;
  aliases: string[];
}

/** The details that a position is known to have. */
export function detailsOf(position: PositionName): Detail[] {
  return (words.details as Partial<Record<PositionName, Detail[]>>)[position] ?? [];
}

type Move = Extract<Observation, { kind: "attempt" }>["move"];

/** What is tried from a place, as a rule. */
export function triedFrom(place: string): Move {
  return ((words.next as Record<string, string>)[place] ?? "takedown") as Move;
}

/** What a form begins with, for one who is at a place. */
export function startOf(kind: Observation["kind"], side: Side, place = ""): Values {
  switch (kind) {
    case "submission":
      return { by: side, threat: "attempt" };
    case "attempt":
      return { by: side, move: triedFrom(place), outcome: "failed" };
    case "mark":
      return { on: side };
    case "foul":
      return { by: side, foul: "stalling" };
    case "call":
    case "ruling":
      return { to: side };
    case "end":
      return { by: side };
    case "begin":
    case "period":
    case "clock":
    case "position":
    case "pull":
    case "technique":
    case "grip":
    case "exchange":
    case "decision":
      return { by: side };
  }
}

/** What is noted apart from what happens on the mat. */
export const BESIDE: Observation["kind"][] = ["call", "grip", "exchange", "mark"];

/** So close to the end of time a match is taken to have ended by it, in seconds. */
const AT_THE_BELL = 2;

/**
 * How a match that ends at `t` probably ended: by the submission that is on, or by time where there is none left. `left`
 * is what is left of it in seconds, null where it has no end. With time left it has to be said.
 */
export function endOf(observations: Observation[], t: number, left: number | null): Values {
  const unsaid: Values = left === null || left > AT_THE_BELL ? { by: "a" } : { how: "time", by: "a" };
  const before = observations.filter((one) => one.t <= t && !BESIDE.includes(one.kind));
  const last = before.at(-1);
  if (last?.kind !== "submission") return unsaid;
  const until = last.until ?? last.t;
  const on = until === last.t || until >= t - STILL_ON;
  return on ? { how: "submission", by: last.by, technique: last.technique } : unsaid;
}

/** The values of a form for an observation that is there already. */
export function valuesOf(seen: Observation): Values {
  return seen.kind === "decision" ? { ...seen, votes_a: seen.votes.a, votes_b: seen.votes.b } : { ...seen };
}

/** The first choice of a form that has to be made and was not. */
export function unanswered(kind: Observation["kind"], values: Values): Field | undefined {
  return fieldsOf(kind, values).find((field) => field.type === "choice" && !field.optional && values[field.name] === undefined);
}

/** The observation a form stands for; the server checks it. */
export function observationOf(kind: Observation["kind"], values: Values, t: number): Observation {
  const asDecision = kind === "decision" || (kind === "end" && values.how === "decision");
  const body: Values = { t, kind: asDecision ? "decision" : kind };
  for (const name of ["note", "sure", "position", "top", "detail"]) {
    if (values[name] !== undefined && values[name] !== "" && (name === "note" || name === "sure" || kind === "position"))
      body[name] = values[name];
  }
  for (const field of fieldsOf(kind, values)) {
    const value = values[field.name];
    if (value !== undefined && value !== "") body[field.name] = value;
  }
  if ((kind === "submission" || (kind === "end" && values.how === "submission")) && !body.technique) body.technique = NOT_NAMED;
  if (asDecision) {
    body.votes = { a: values.votes_a ?? 0, b: values.votes_b ?? 0 };
    delete body.votes_a;
    delete body.votes_b;
    delete body.how;
  }
  return body as unknown as Observation;
}
