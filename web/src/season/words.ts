import type { OfKind, OfMove, Tried } from "../api/client";
import { dayOf, percent } from "../components/words";

export const MOVE_NAMES: Record<OfMove["move"], string> = {
  takedown: "Takedowns",
  sweep: "Sweeps",
  guard_pass: "Guard passes",
  back: "Taking the back",
  escape: "Escapes from control",
  submission: "Submissions",
};

/** A share as it may be read: how many of how many, and between what the true one lies; never a bare percentage. */
export function shareWords({ done, of, low, high }: Tried["share"]): string {
  return of ? `${done} of ${of}: between ${percent(low)} and ${percent(high)}` : "none tried";
}

const CHANGES: Record<OfKind["change"]["word"], string> = {
  better: "better",
  "probably better": "probably better, not certain",
  "no difference": "no difference to be seen",
  "probably worse": "probably worse, not certain",
  worse: "worse",
};

/** With fewer, before and since together, rates say nothing. */
const LEAST = 4;

/** Whether an error has become rarer since a day, with what that is seen from. */
export function changeWords({ before, since, word }: OfKind["change"], split: string | null): string {
  if (before.n + since.n < LEAST) return "too few to say whether it changes";
  if (split === null) return `${before.n}, ${perTen(before)}`;
  return `${before.n} before ${dayOf(split)} (${perTen(before)}), ${since.n} since (${perTen(since)}): ${CHANGES[word]}`;
}

function perTen({ per_ten }: { per_ten: number }): string {
  return `${per_ten.toFixed(1)} in ten minutes`;
}
