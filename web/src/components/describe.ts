import type { Observation, Side } from "../api/client";
import { clock, CONTEST_WORDS, DOUBT_WORDS, FOUL_WORDS, MOVE_LABELS, POSITION_WORDS, STOP_WORDS } from "./words";

function counted(one: { points?: number; advantages?: number; penalties?: number }): string {
  const parts: string[] = [];
  if (one.points) parts.push(`${one.points} pts`);
  if (one.advantages) parts.push(`${one.advantages} adv`);
  if (one.penalties) parts.push(`${one.penalties} pen`);
  return parts.join(", ") || "nothing";
}

/** What was seen, in a coach's words, and whose it is. */
export function describe(seen: Observation): { text: string; side: Side | null } {
  switch (seen.kind) {
    case "begin":
      return { text: `Footage starts at ${clock(seen.clock ?? 0)} of the match`, side: null };
    case "clock":
      return { text: clockWords(seen), side: null };
    case "period":
      return { text: "Overtime", side: null };
    case "position": {
      const detail = seen.detail ? ` (${seen.detail})` : "";
      return { text: `${POSITION_WORDS[seen.position]}${detail}`, side: seen.top ?? null };
    }
    case "pull":
      if (seen.by === "both") return { text: "Both pulled guard", side: null };
      return { text: `Pulled guard${seen.attack ? " into a submission" : ""}${seen.caught ? ", leg already caught" : ""}`, side: seen.by };
    case "attempt":
      return { text: `${attemptWords(seen)}${sided(seen)}`, side: seen.by };
    case "mark":
      return { text: `${markWords(seen)}${sided(seen)}`, side: seen.on };
    case "submission":
      return { text: `${named(seen.technique)}${seen.threat === "close" ? ", close" : ""}${sided(seen)}`, side: seen.by };
    case "technique":
      return { text: `${named(seen.technique)}${sided(seen)}`, side: seen.by };
    case "foul":
      return { text: foulWords(seen), side: sideOf(seen.by) };
    case "grip":
      return { text: `${gripWords(seen)}${sided(seen)}`, side: seen.by };
    case "legs":
      return { text: `Legs: ${legWords(seen)}`, side: seen.by };
    case "contest":
      return {
        text: `Fought for ${CONTEST_WORDS[seen.for]}${seen.won ? ", won" : ", no one got it"}${sided(seen)}`,
        side: seen.won ?? null,
      };
    case "board":
      return { text: `Scoreboard: ${figures(seen.score.a)} to ${figures(seen.score.b)}`, side: null };
    case "unwatched":
      return { text: "Not watched", side: null };
    case "call":
      return { text: `Officials: ${counted(seen)}${seen.to ? "" : ", side not seen"}`, side: seen.to ?? null };
    case "exchange":
      return { text: seen.title ? `Exchange: ${seen.title}` : "New exchange", side: null };
    case "ruling":
      return { text: `Ruling: ${counted(seen)}`, side: seen.to };
    case "decision":
      return { text: `Decision: ${seen.votes.a} to ${seen.votes.b}`, side: null };
    case "end":
      return { text: endWords(seen), side: sideOf(seen.by) };
  }
}

/** Left and right, where it is said. */
function sided(seen: { own?: string | null; target?: string | null }): string {
  const target = seen.target && (seen.target === "both" ? "both of the other's" : `the other's ${seen.target}`);
  return [seen.own, target]
    .filter(Boolean)
    .map((said) => `, ${said}`)
    .join("");
}

function gripWords(seen: Of<"grip">): string {
  if (seen.outcome === "failed") return `Missed grip: ${seen.grip}`;
  return `Grip: ${seen.grip}${seen.broken ? ", broken" : ""}`;
}

function legWords(seen: Of<"legs">): string {
  return [seen.knee && `knee ${seen.knee}`, seen.heel && `heel ${seen.heel}`, seen.leg && `${seen.leg} leg`].filter(Boolean).join(", ");
}

/** One side of a scoreboard: points, then advantages and penalties where there are some. */
function figures(one: { points?: number; advantages?: number; penalties?: number } = {}): string {
  const rest = [one.advantages && `${one.advantages} adv`, one.penalties && `${one.penalties} pen`].filter(Boolean).join(", ");
  return `${one.points ?? 0}${rest ? ` (${rest})` : ""}`;
}

type Of<Kind extends Observation["kind"]> = Extract<Observation, { kind: Kind }>;

function sideOf(by: Side | "both" | null | undefined): Side | null {
  return by === "a" || by === "b" ? by : null;
}

function clockWords(seen: Of<"clock">): string {
  if (seen.action === "stop") return seen.why ? `Clock stopped: ${STOP_WORDS[seen.why]}` : "Clock stopped";
  if (seen.restart === "placed" && seen.position) return `Clock started from ${POSITION_WORDS[seen.position].toLowerCase()}`;
  return seen.restart === "same" ? "Clock started, same position" : "Clock started";
}

function attemptWords(seen: Of<"attempt">): string {
  const move = MOVE_LABELS[seen.move].toLowerCase();
  const said = { near: `Nearly: ${move}`, done: `${MOVE_LABELS[seen.move]} worked`, failed: `Tried: ${move}` }[seen.outcome ?? "failed"];
  return seen.technique ? `${said} (${named(seen.technique).toLowerCase()})` : said;
}

function markWords(seen: Of<"mark">): string {
  const about = [seen.cause, seen.chance && `${seen.chance.replaceAll("_", " ")} missed`].filter(Boolean).join(", ");
  const said = `${seen.good ? "Well done" : "Wrong"}${about ? `: ${about}` : ""}`;
  const injured = seen.hurt ? ` Injured: ${seen.hurt}.` : "";
  return `${seen.text ? `${said}. ${seen.text}` : said}${injured}`;
}

function foulWords(seen: Of<"foul">): string {
  const from = seen.foul === "fleeing" ? ` a ${(seen.avoiding ?? "").replaceAll("_", " ")}` : "";
  return `${FOUL_WORDS[seen.foul]}${from}${seen.by === "both" ? ", both" : ""}${seen.verbal ? ", a caution only" : ""}`;
}

function endWords(seen: Of<"end">): string {
  switch (seen.how) {
    case "time":
      return "Time";
    case "submission":
      return `Finish: ${named(seen.technique ?? "")}`;
    case "withdrawal":
      return "Withdrew";
    case "stoppage":
      return "Stopped by the referee or medical staff";
    case "disqualification":
      return seen.by === "both" ? "Both disqualified" : "Disqualified";
  }
}

function named(technique: string): string {
  const words = technique.replaceAll("-", " ");
  return words.charAt(0).toUpperCase() + words.slice(1);
}

/** Until when a span lasts, where it lasts at all. */
export function until(seen: Observation): number | null {
  return "until" in seen && seen.until != null && seen.until > seen.t ? seen.until : null;
}

/** Why it is unsure, as the end of a phrase. */
export function doubtOf(seen: Observation): string {
  const why = (seen as { doubt?: keyof typeof DOUBT_WORDS }).doubt;
  return why && DOUBT_WORDS[why] ? `: ${DOUBT_WORDS[why]}` : "";
}
