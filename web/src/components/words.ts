import type { Member, PositionName, Side, Tally } from "../api/client";
import words from "../api/words.json";

/** m:ss of a clock in seconds. */
export function clock(seconds: number): string {
  const whole = Math.max(0, Math.floor(seconds + 1e-6));
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, "0")}`;
}

/** m:ss.mmm of footage, for stepping frames. */
export function footage(seconds: number): string {
  const millis = Math.round(Math.max(0, seconds) * 1000);
  return `${clock(Math.floor(millis / 1000))}.${String(millis % 1000).padStart(3, "0")}`;
}

/** Seconds of footage that somebody typed: `1:02.5`, `1:02` or `62.5`; null where it is no time. */
export function footageOf(text: string): number | null {
  const found = /^(?:(\d{1,3}):(?=[0-5]?\d(?:\.|$)))?(\d{1,5}(?:\.\d{1,3})?)$/.exec(text.trim());
  return found ? Math.round((Number(found[1] ?? 0) * 60 + Number(found[2])) * 1000) / 1000 : null;
}

/** Seconds held, rounded down so that 2.99 never reads as 3. */
export function held(seconds: number): string {
  return `${(Math.floor(seconds * 10 + 1e-6) / 10).toFixed(1)} s`;
}

const labels = <Code extends string>(of: Record<Code, { label: string }>) =>
  Object.fromEntries(Object.entries<{ label: string }>(of).map(([code, { label }]) => [code, label])) as Record<Code, string>;

export const POSITION_WORDS: Record<PositionName, string> = labels(words.positions);
export const CLAIM_LABELS: Record<string, string> = labels(words.claims);
export const MOVE_LABELS = labels(words.moves);
export const FOUL_WORDS = labels(words.fouls);
export const CONTEST_WORDS: Record<string, string> = words.contests;
export const STOP_WORDS: Record<string, string> = words.stops;

export function claimWords(claim: string): string {
  return CLAIM_LABELS[claim] ?? claim;
}

/** Why a scorer was not sure of what was seen. */
export const DOUBT_WORDS = words.doubts;

/** Whose match it is. */
export interface Named {
  athlete_name: string;
  opponent: string;
}

const upper = (words: string) => words.slice(0, 1).toUpperCase() + words.slice(1);
const PEOPLE = new RegExp(
  `\\b(?:${Object.values(words.people)
    .flatMap((one) => [one, upper(one)])
    .join("|")})\\b`,
  "g",
);

/** A sentence of the core with the names of the two in it; never for a text that somebody wrote. */
export function named(text: string, { athlete_name, opponent }: Named): string {
  return text.replace(PEOPLE, (found) => (found.toLowerCase() === words.people.a ? athlete_name : opponent));
}

/** The first name, for where there is little room. */
export function firstOf(name: string): string {
  return name.split(" ")[0] ?? name;
}

/** How to tell one of the two apart in the clip: a colour, a word; empty where nobody has said. */
export function looksOf(match: { athlete_looks?: string; opponent_looks?: string }, side: Side): string {
  return (side === "a" ? match.athlete_looks : match.opponent_looks) ?? "";
}

const DAY = new Intl.DateTimeFormat(undefined, { year: "numeric", month: "short", day: "numeric" });

/** What somebody is in a club. */
export const ROLE_NAMES: Record<Member["role"], string> = {
  head_coach: "head coach",
  coach: "coach",
  scorer: "scorer",
  athlete: "athlete",
  guardian: "guardian",
};

/** A day as the browser's locale writes it, like the fields in which days are entered; empty where there is none. */
export function dayOf(iso: string | null | undefined): string {
  if (!iso) return "";
  const [year = 0, month = 1, day = 1] = iso.slice(0, 10).split("-").map(Number);
  return DAY.format(new Date(year, month - 1, day));
}

/** The day that it is now, as 2026-03-14. */
export function today(): string {
  return new Date().toISOString().slice(0, 10);
}

/** Whether a moment is over. */
export function isPast(iso: string): boolean {
  return new Date(iso) < new Date();
}

/** How a time is typed, for the pattern of a field. */
export const TIME_PATTERN = "\\d{1,3}:[0-5]\\d";

/** Seconds of `m:ss`. */
export function secondsOf(text: string): number {
  const [minutes = "0", seconds = "0"] = text.split(":");
  return Number(minutes) * 60 + Number(seconds);
}

/** How long a clip is, in seconds. */
export function lengthOf(clip: { duration_ms: number | null }): number {
  return (clip.duration_ms ?? 0) / 1000;
}

export const SIDE_WORDS: Record<Side, string> = { a: "athlete", b: "opponent" };
export const OTHER: Record<Side, Side> = { a: "b", b: "a" };

export function amount(n: number, tally: Tally): string {
  const one = { points: "point", advantages: "advantage", penalties: "penalty" }[tally];
  return `${n} ${Math.abs(n) === 1 ? one : tally}`;
}

/** How large something is, in the unit that a person compares disks by. */
export function sizeOf(bytes: number): string {
  if (bytes < 1e6) return "less than 1 MB";
  return bytes < 1e9 ? `${Math.round(bytes / 1e6)} MB` : `${(bytes / 1e9).toFixed(1)} GB`;
}

export function percent(share: number): string {
  const near = (share > 0 && share < 0.01) || (share > 0.99 && share < 1);
  return near ? `${(share * 100).toFixed(1).replace(/\.0$/, "")}%` : `${Math.round(share * 100)}%`;
}

/** How many matches, with their noun. */
export function matchesWords(n: number): string {
  return n === 1 ? "1 match" : `${n} matches`;
}
