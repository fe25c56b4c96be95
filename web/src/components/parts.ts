import type { Clip, Part } from "../api/client";
import { lengthOf } from "./words";

/** Where in the footage of the match a part of it begins, in seconds. */
export function beginOf({ start, opens }: Part): number {
  return start + opens;
}

/** Where it ends. */
export function endOf({ clip, start, closes }: Part): number {
  return start + (closes ?? lengthOf(clip));
}

/** The parts as the server is asked for them. */
export function placed(parts: Part[]) {
  return parts.map(({ clip, start, opens, closes }) => ({ clip: clip.id, start, opens, closes }));
}

/** A whole clip that begins at a time of the footage. */
export function whole(clip: Clip, start = 0): Part {
  return { clip, start, opens: 0, closes: null };
}
