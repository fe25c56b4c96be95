import type { Observation, PositionName } from "../api/client";
import words from "../api/words.json";
import { CONTEST_WORDS, STOP_WORDS } from "../components/words";
import { MOVES, same } from "./fields";

/** One answer to what an observation asks: what it is called, and what it says of the observation. */
export interface Answer {
  text: string;
  says: Record<string, unknown>;
}

const answers = (field: string, options: [string, string][]): Answer[] =>
  options.map(([code, text]) => ({ text, says: { [field]: code } }));
const MOVE_ANSWERS = answers("move", MOVES);
const STOP_ANSWERS = answers("why", Object.entries(STOP_WORDS));
const CONTEST_ANSWERS = answers("for", Object.entries(CONTEST_WORDS));
/** Facts about legs that are tied up. */
export const LEG_ANSWERS: Answer[] = words.legs.map(({ label, says }) => ({ text: label, says }));
/** Why an observation is unsure. The reason travels with it; the format keeps fields it does not know. */
const DOUBT_ANSWERS = answers("doubt", Object.entries(words.doubts)).map(({ text, says }) => ({ text, says: { sure: false, ...says } }));
/** So many answers have a digit. */
export const DIGITS = 9;

/** What a coach chooses from: the own list of causes, and the grips that the attire has. */
export interface Choices {
  causes: string[];
  attire: "gi" | "nogi";
}

/** Whether an observation asks something that a digit answers, once it is logged. */
export function asks(seen: Observation): boolean {
  return (
    seen.sure === false || ["mark", "attempt", "grip", "contest"].includes(seen.kind) || (seen.kind === "clock" && seen.action === "stop")
  );
}

/** Whether an entry may say left and right. */
export function isSided(seen: Observation): boolean {
  return ["attempt", "submission", "technique", "grip", "contest", "mark", "legs"].includes(seen.kind);
}

/** What a digit answers of an observation: the move, the grip, the cause, what a stop was for; of any other why it is unsure. */
export function answersOf(seen: Observation, { causes, attire }: Choices): Answer[] {
  if (seen.kind === "mark") return answers("cause", same(...causes)).slice(0, DIGITS);
  if (seen.kind === "attempt") return MOVE_ANSWERS;
  if (seen.kind === "grip") return answers("grip", same(...words.grip_keys[attire]));
  if (seen.kind === "contest") return CONTEST_ANSWERS;
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

type Of<Kind extends Observation["kind"]> = Extract<Observation, { kind: Kind }>;

/** What is tried from a place, as a rule. */
export function triedFrom(place: string): Of<"attempt">["move"] {
  return ((words.next as Record<string, string>)[place] ?? "takedown") as Of<"attempt">["move"];
}

/** What both fight for from a place, as a rule. */
export function contestFrom(place: string): Of<"contest">["for"] {
  if (place === "standing") return "grip";
  return place.startsWith("guard") ? "posture" : "inside";
}
