import type { Season, SeasonMoment } from "../api/client";
import { beginOf, endOf } from "./parts";
import { clock } from "./words";

/** A match with the footage that moments are in. */
export type Footage = Pick<Season["played"][number], "id" | "opponent" | "parts">;

/** A moment as it is listed; with a clip it is a stretch of that, in its own seconds. */
export interface Shown {
  title: string;
  /** The match at that moment. */
  match: string;
  play: { clip: string; from: number; to: number } | null;
}

/** Some moments with the clips that show them, in the order in which they were given. */
export function shownOf(moments: SeasonMoment[], played: Footage[]): Shown[] {
  return moments.flatMap((moment) => {
    const match = played.find((one) => one.id === moment.match);
    if (!match) return [];
    const part = match.parts.find((one) => beginOf(one) <= moment.t && moment.t < endOf(one));
    const play = part?.clip.state === "ready" && {
      clip: part.clip.id,
      from: Math.max(moment.start, beginOf(part)) - part.start,
      to: Math.min(moment.end, endOf(part)) - part.start,
    };
    return [{ title: `against ${match.opponent}, ${clock(moment.t)}`, match: match.id, play: play || null }];
  });
}
