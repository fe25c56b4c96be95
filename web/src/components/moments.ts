import type { Season, SeasonMoment } from "../api/client";
import { beginOf, endOf } from "./parts";
import { clock } from "./words";

/** A match with the footage that moments are in. */
export type Footage = Pick<Season["played"][number], "id" | "opponent" | "parts">;

/** A moment as it is played: a stretch of one clip, in its own seconds, and what it is called. */
export interface Playable {
  clip: string;
  from: number;
  to: number;
  title: string;
  /** The match at that moment. */
  match: string;
}

/** What of some moments can be played: those that a clip shows, in the order in which they were given. */
export function playable(moments: SeasonMoment[], played: Footage[]): Playable[] {
  return moments.flatMap((moment) => {
    const match = played.find((one) => one.id === moment.match);
    const part = match?.parts.find((one) => beginOf(one) <= moment.t && moment.t < endOf(one));
    if (!match || part?.clip.state !== "ready") return [];
    const from = Math.max(moment.start, beginOf(part)) - part.start;
    const to = Math.min(moment.end, endOf(part)) - part.start;
    return [{ clip: part.clip.id, from, to, title: `against ${match.opponent}, ${clock(moment.t)}`, match: match.id }];
  });
}
