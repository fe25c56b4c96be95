import type { Side, Verdict } from "../api/client";

/** Times of the footage are whole milliseconds: what is nearer than one is the same moment, in seconds. */
export const SAME = 0.001;

/** The place of the last row that begins at or before a time, -1 before the first. Rows are in order of time. */
export function lastAt<T>(rows: readonly T[], t: number, begins: (row: T) => number): number {
  let low = -1;
  let high = rows.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    const row = rows[middle];
    if (row !== undefined && begins(row) <= t + SAME) low = middle;
    else high = middle - 1;
  }
  return low;
}

export interface MatchClock {
  clock: number;
  running: boolean;
  /** What is left of regular time or of the period of overtime; null where that has no end. */
  left: number | null;
}

/** The match clock at a time of the footage, as the verdict's starts and stops say it; null before the first start. */
export function clockAt({ clock }: Pick<Verdict, "clock">, t: number): MatchClock | null {
  const last = clock[lastAt(clock, t, (one) => one.t)];
  if (last === undefined) return null;
  const ran = last.running ? Math.max(0, t - last.t) : 0;
  return { clock: last.clock + ran, running: last.running, left: last.left === null ? null : Math.max(0, last.left - ran) };
}

/** The index of the exchange that a time of the footage falls into, -1 before the first. */
export function exchangeAt({ exchanges }: Pick<Verdict, "exchanges">, t: number): number {
  return lastAt(exchanges, t, (one) => one.start);
}

/** The points of both sides at a time of the footage, as "2–0". */
export function pointsAt(verdict: Pick<Verdict, "ledger">, t: number): string {
  const of = (side: Side) =>
    verdict.ledger.reduce((sum, row) => (row.to === side && row.kind === "points" && row.t <= t ? sum + row.n : sum), 0);
  return `${of("a")}–${of("b")}`;
}
