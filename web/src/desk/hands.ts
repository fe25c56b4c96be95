import type { Desk, Keyed } from "../api/client";
import type { Choices } from "./answers";
import type { Draft } from "./Composer";
import type { Playhead } from "./playhead";
import type { Log } from "./useLog";
import type { View } from "./view";

export interface Marks {
  from: number | null;
  to: number | null;
}
export const NO_MARKS: Marks = { from: null, to: null };

export interface Hands {
  playhead: Playhead;
  log: Log;
  desk: Desk;
  /** The key of the observation that is chosen at this very moment. */
  chosenNow: () => string | null;
  marks: Marks;
  choose: (key: string | null) => void;
  choices: Choices;
  /** The position whose detail is asked at this very moment. */
  detailingNow: () => string | null;
  askDetail: (of: string | null) => void;
  setDraft: (draft: Draft) => void;
  setMarks: (marks: Marks) => void;
  setView: (change: (view: View) => View) => void;
  help: () => void;
}

export function millis(t: number): number {
  return Math.round(t * 1000) / 1000;
}

/** The observations as they are now, the chosen one, and the last one before the playhead. */
export function seenBy({ log, playhead, chosenNow }: Hands) {
  const all = log.live();
  const t = playhead.now();
  const upTo = (kinds: (one: Keyed) => boolean) => all.filter((one) => one.t <= t + 0.001 && kinds(one)).at(-1);
  return {
    t,
    upTo,
    picked: all.find((one) => one.id === chosenNow()),
    // What officials showed and names of exchanges are not seen on the mat.
    before: upTo((one) => !["call", "board", "exchange", "unwatched"].includes(one.kind)),
    clock: upTo((one) => one.kind === "clock"),
  };
}
