import type { Observation, Side } from "../api/client";
import { claimWords, DOUBT_WORDS, FOUL_WORDS, POSITION_WORDS } from "./words";

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
    case "clock":
      if (seen.action === "stop") return { text: "Clock stopped", side: null };
      return { text: seen.restart === "same" ? "Clock started, same position" : "Clock started", side: null };
    case "position": {
      const detail = seen.detail ? ` (${seen.detail})` : "";
      return { text: `${POSITION_WORDS[seen.position]}${detail}`, side: seen.top ?? null };
    }
    case "pull":
      if (seen.by === "both") return { text: "Both pulled guard", side: null };
      return { text: seen.caught ? "Pulled guard, leg already caught" : "Pulled guard", side: seen.by };
    case "submission":
      return { text: `${named(seen.technique)}${seen.threat === "close" ? ", close" : ""}`, side: seen.by };
    case "technique":
      return { text: named(seen.technique), side: seen.by };
    case "near":
      return { text: `Nearly: ${claimWords(seen.claim).toLowerCase()}`, side: seen.by };
    case "foul":
      return {
        text: FOUL_WORDS[seen.foul] + (seen.foul === "fleeing" ? ` from a ${seen.avoiding ?? ""}` : ""),
        side: seen.by,
      };
    case "grip":
      return { text: `Grip: ${seen.grip}`, side: seen.by };
    case "call":
      return { text: `Officials: ${counted(seen)}`, side: seen.to };
    case "exchange":
      return { text: seen.title ? `Exchange: ${seen.title}` : "New exchange", side: null };
    case "ruling":
      return { text: `Ruling: ${counted(seen)}`, side: seen.to };
    case "decision":
      return { text: `Decision: ${seen.votes.a} to ${seen.votes.b}`, side: null };
    case "end":
      switch (seen.how) {
        case "time":
          return { text: "Time", side: null };
        case "submission":
          return { text: `Finish: ${named(seen.technique ?? "")}`, side: seen.by ?? null };
        case "withdrawal":
          return { text: "Withdrew", side: seen.by ?? null };
        case "disqualification":
          return { text: "Disqualified", side: seen.by ?? null };
      }
  }
}

function named(technique: string): string {
  const words = technique.replaceAll("-", " ");
  return words.charAt(0).toUpperCase() + words.slice(1);
}

/** Until when a span lasts, where it lasts at all. */
export function until(seen: Observation): number | null {
  return (seen.kind === "submission" || seen.kind === "grip") && seen.until != null && seen.until > seen.t ? seen.until : null;
}

/** Why it is unsure, as the end of a phrase. */
export function doubtOf(seen: Observation): string {
  const why = (seen as { doubt?: keyof typeof DOUBT_WORDS }).doubt;
  return why && DOUBT_WORDS[why] ? `: ${DOUBT_WORDS[why]}` : "";
}
