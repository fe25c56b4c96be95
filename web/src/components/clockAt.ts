import type { Verdict } from "../api/client";

/** The match clock at a time of the footage, from the stretches in which it ran; null before the first start. */
export function clockAt(verdict: Verdict, t: number): { clock: number; running: boolean } | null {
  const stretches = verdict.running;
  const first = stretches[0]?.[0];
  if (first === undefined || t < first) return null;
  let clock = 0;
  let running = false;
  stretches.forEach(([start = 0, stop = 0], index) => {
    // The last stretch of an unfinished log runs on past the last observation.
    const open = index === stretches.length - 1 && verdict.clock_running;
    const end = open ? Infinity : stop;
    if (t >= start) {
      clock += Math.min(t, end) - start;
      running = t < end;
    }
  });
  return { clock, running };
}

/** Times of the footage are whole milliseconds: what is nearer than one is the same moment, in seconds. */
export const SAME = 0.001;

/** The index of the exchange that a time of the footage falls into, -1 before the first. */
export function exchangeAt(verdict: Verdict, t: number): number {
  const { exchanges } = verdict;
  let low = -1;
  let high = exchanges.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if ((exchanges[middle]?.start ?? 0) <= t + SAME) low = middle;
    else high = middle - 1;
  }
  return low;
}
