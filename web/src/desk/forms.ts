import type { Observation, Side } from "../api/client";
import { contestFrom, triedFrom } from "./answers";
import { type Field, fieldsOf, NOT_NAMED, type Values } from "./fields";
import { boardOf, boardText } from "./shownBoard";

/** A submission let go so shortly before the end of the match is what ended it. */
const STILL_ON = 1;

/** What a form begins with, for one who is at a place. */
export function startOf(kind: Observation["kind"], side: Side, place = ""): Values {
  switch (kind) {
    case "submission":
      return { by: side, threat: "attempt" };
    case "attempt":
      return { by: side, move: triedFrom(place), outcome: "failed" };
    case "mark":
      return { on: side };
    case "grip":
      return { by: side, outcome: "held" };
    case "contest":
      return { for: contestFrom(place), won: side };
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
    case "legs":
    case "board":
    case "unwatched":
    case "exchange":
    case "decision":
      return { by: side };
  }
}

/** What has no effect on the score. */
export const BESIDE: Observation["kind"][] = ["call", "grip", "exchange", "mark", "legs", "contest", "board", "unwatched"];

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
  if (seen.kind === "grip") return { outcome: "held", ...seen };
  if (seen.kind === "board") return { ...seen, board: boardText(seen.score) };
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
  if (kind === "board") {
    body.score = boardOf(String(values.board ?? ""));
    delete body.board;
  }
  if (kind === "grip" && !body.grip) body.grip = NOT_NAMED;
  if ((kind === "submission" || (kind === "end" && values.how === "submission")) && !body.technique) body.technique = NOT_NAMED;
  if (asDecision) {
    body.votes = { a: values.votes_a ?? 0, b: values.votes_b ?? 0 };
    delete body.votes_a;
    delete body.votes_b;
    delete body.how;
  }
  return body as unknown as Observation;
}
