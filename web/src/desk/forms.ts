import type { Observation, Side } from "../api/client";
import words from "../api/words.json";
import { CLAIM_LABELS } from "../components/words";

/** A submission let go so shortly before the end of the match is what ended it. */
const STILL_ON = 1;

export type Values = Record<string, unknown>;

export type Field =
  | { name: string; label: string; type: "choice"; options: [string, string][]; optional?: boolean }
  | { name: string; label: string; type: "technique" | "grip" | "text" | "time"; optional?: boolean }
  | { name: string; label: string; type: "number" }
  | { name: string; label: string; type: "yes" };

const SIDE: [string, string][] = [
  ["a", "athlete"],
  ["b", "opponent"],
];
const by: Field = { name: "by", label: "By", type: "choice", options: SIDE };
const to: Field = { name: "to", label: "For", type: "choice", options: SIDE };
const TALLIES: Field[] = [
  { name: "points", label: "Points", type: "number" },
  { name: "advantages", label: "Advantages", type: "number" },
  { name: "penalties", label: "Penalties", type: "number" },
];
const until: Field = { name: "until", label: "Until", type: "time", optional: true };

export const TITLES: Record<Observation["kind"], string> = {
  clock: "Clock",
  position: "Position",
  pull: "Guard pull",
  submission: "Submission",
  technique: "Technique that may be illegal",
  near: "Very nearly came off",
  foul: "Foul",
  grip: "Grip",
  call: "What the officials showed",
  exchange: "New exchange",
  ruling: "Your own ruling",
  decision: "Decision",
  end: "How it ended",
};

const choice = (name: string, label: string, options: [string, string][]): Field => ({ name, label, type: "choice", options });
const same = (...words: string[]): [string, string][] => words.map((word) => [word, word]);

const technique: Field = { name: "technique", label: "Technique", type: "technique" };
const restart = choice("restart", "From", [
  ["standing", "standing"],
  ["same", "the same position"],
]);
const clockAction = choice("action", "Clock", [
  ["start", "started"],
  ["stop", "stopped"],
]);
const foul = choice(
  "foul",
  "Foul",
  Object.entries(words.fouls).map(([code, { short }]) => [code, short]),
);
const avoiding = choice("avoiding", "Fled from", same("takedown", "sweep", "submission"));
const votes: Field[] = [
  { name: "votes_a", label: "Votes for the athlete", type: "number" },
  { name: "votes_b", label: "Votes for the opponent", type: "number" },
];

/** The fields of a form; some depend on what is chosen in others. */
export function fieldsOf(kind: Observation["kind"], values: Values): Field[] {
  switch (kind) {
    case "clock":
      return values.action === "start" ? [clockAction, restart] : [clockAction];
    case "position":
      return [
        { name: "top", label: "On top", type: "choice", options: SIDE, optional: true },
        { name: "detail", label: "Detail", type: "text", optional: true },
      ];
    case "pull":
      return [
        choice("by", "By", [...SIDE, ["both", "both"]]),
        { name: "caught", label: "The other already had a leg or a takedown grip", type: "yes" },
      ];
    case "submission":
      return [by, technique, choice("threat", "Threat", same("attempt", "close")), until];
    case "technique":
      return [by, technique];
    case "near":
      return [by, choice("claim", "What", Object.entries(CLAIM_LABELS))];
    case "foul":
      return values.foul === "fleeing" ? [by, foul, avoiding] : [by, foul];
    case "grip":
      return [by, { name: "grip", label: "Grip", type: "grip" }, until];
    case "call":
    case "ruling":
      return [to, ...TALLIES];
    case "exchange":
      return [{ name: "title", label: "Name", type: "text", optional: true }];
    case "decision":
      return votes;
    case "end":
      return [choice("how", "How", same("time", "submission", "withdrawal", "disqualification", "decision")), ...endFields(values.how)];
  }
}

function endFields(how: unknown): Field[] {
  switch (how) {
    case "submission":
      return [{ ...by, label: "Winner" }, technique];
    case "withdrawal":
    case "disqualification":
      return [{ ...by, label: "Loser" }];
    case "decision":
      return votes;
    default:
      return [];
  }
}

/** Where somebody is at `t`: the position, and whether that one is on top in it. */
export function placeOf(observations: Observation[], t: number, side: Side): string {
  const last = observations.filter((one) => one.kind === "position" && one.t <= t).at(-1);
  if (last?.kind !== "position" || !last.top) return last?.kind === "position" ? last.position : "standing";
  return `${last.position} ${last.top === side ? "top" : "bottom"}`;
}

/** What comes off next from a place, as a rule. */
const NEXT: Record<string, string | undefined> = words.next;

/** What a form begins with, for one who is at a place. */
export function startOf(kind: Observation["kind"], side: Side, place = ""): Values {
  switch (kind) {
    case "submission":
      return { by: side, threat: "attempt" };
    case "near":
      return { by: side, claim: NEXT[place] };
    case "foul":
      return { by: side, foul: "stalling" };
    case "call":
    case "ruling":
      return { to: side };
    case "end":
      return { how: "time", by: side };
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

/** How a match that ends at `t` probably ended: by the submission that is on, or by time. */
export function endOf(observations: Observation[], t: number): Values {
  const before = observations.filter((one) => one.t <= t && one.kind !== "call" && one.kind !== "grip" && one.kind !== "exchange");
  const last = before.at(-1);
  if (last?.kind !== "submission") return { how: "time", by: "a" };
  const until = last.until ?? last.t;
  const on = until === last.t || until >= t - STILL_ON;
  return on ? { how: "submission", by: last.by, technique: last.technique } : { how: "time", by: "a" };
}

/** The values of a form for an observation that is there already. */
export function valuesOf(seen: Observation): Values {
  return seen.kind === "decision" ? { ...seen, votes_a: seen.votes.a, votes_b: seen.votes.b } : { ...seen };
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
  if (asDecision) {
    body.votes = { a: values.votes_a ?? 0, b: values.votes_b ?? 0 };
    delete body.votes_a;
    delete body.votes_b;
    delete body.how;
  }
  return body as unknown as Observation;
}
