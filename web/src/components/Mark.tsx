import type { Side, Tally } from "../api/client";
import { amount, SIDE_WORDS } from "./words";

const FILL: Record<Side, string> = { a: "bg-amber text-night", b: "bg-sea text-night" };
const EDGE: Record<"night" | "paper", Record<Side, string>> = {
  night: { a: "border-amber text-amber", b: "border-sea text-sea" },
  paper: { a: "border-amber-deep text-amber-deep", b: "border-sea-deep text-sea-deep" },
};

/** An award, known by its shape: points a heavy block, advantages an open ring, penalties a notched slab. */
export function Mark({ kind, n, side, on = "night" }: { kind: Tally; n: number; side: Side; on?: "night" | "paper" }) {
  const label = `${amount(n, kind)} ${kind === "penalties" ? "against" : "for"} the ${SIDE_WORDS[side]}`;
  const shared = "inline-grid h-6 min-w-6 place-items-center px-1 text-[15px] leading-none";
  const look = {
    points: `${FILL[side]} font-bold`,
    advantages: `rounded-full border-2 ${EDGE[on][side]} font-semibold`,
    penalties: `notched hatched ${FILL[side]} font-semibold`,
  }[kind];
  return (
    <span role="img" aria-label={label} title={label} className={`${shared} ${look}`}>
      {n < 0 ? `−${-n}` : n}
    </span>
  );
}
