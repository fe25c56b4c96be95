import type { Side } from "../api/client";

export type Tone = "night" | "paper";

/** The line of time is the background of what lies on it: no row has to be lifted above it. */
export const LINE: Record<Tone, string> = {
  night: "relative time-line [--line:var(--color-seam)]",
  paper: "relative time-line [--line:var(--color-rule)]",
};
export const DIM: Record<Tone, string> = { night: "text-fog", paper: "text-slate" };
export const INK: Record<Tone, Record<Side, string>> = {
  night: { a: "text-amber", b: "text-sea" },
  paper: { a: "text-amber-deep", b: "text-sea-deep" },
};
export const BAR: Record<Side, string> = { a: "bg-amber", b: "bg-sea" };
