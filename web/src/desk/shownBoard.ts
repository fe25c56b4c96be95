import type { Observation } from "../api/client";

/** What a scoreboard shows of either side. */
type Figures = Extract<Observation, { kind: "board" }>["score"];

/** The order of the pairs of figures as they are typed. */
const TYPED = ["points", "advantages", "penalties"] as const;
export const BOARD_PATTERN = String.raw`\s*\d{1,3}\s*[-:]\s*\d{1,3}(\s+\d{1,3}\s*[-:]\s*\d{1,3}){0,2}\s*`;

/** The figures of a scoreboard out of "4-2 1-0 0-0": points, then advantages, then penalties, the athlete's first. Of what
 * is not typed nothing is known. */
export function boardOf(text: string): Figures {
  const pairs = [...text.matchAll(/(\d+)\s*[-:]\s*(\d+)/g)];
  const score: Figures = { a: {}, b: {} };
  pairs.slice(0, TYPED.length).forEach(([, a, b], index) => {
    const tally = TYPED[index] ?? "points";
    score.a = { ...score.a, [tally]: Number(a) };
    score.b = { ...score.b, [tally]: Number(b) };
  });
  return score;
}

/** Figures as they are typed, up to the last that is known. */
export function boardText(score: Figures): string {
  const pairs = TYPED.map((tally) => [score.a?.[tally] ?? 0, score.b?.[tally] ?? 0] as const);
  const last = TYPED.findLastIndex((tally) => score.a?.[tally] !== undefined || score.b?.[tally] !== undefined);
  return pairs
    .slice(0, Math.max(1, last + 1))
    .map(([a, b]) => `${a}-${b}`)
    .join(" ");
}
