import type { Entry } from "../api/client";

export type Status = Entry["status"];
export const STATUS_WORDS: Record<Status, string> = { legal: "legal", stop: "stopped", illegal: "illegal" };
/** Told apart by fill, not by colour: open, hatched, full. */
const FILL: Record<Status, string> = {
  legal: "border-ink text-ink",
  stop: "hatched border-ink bg-sheet text-ink",
  illegal: "border-ink bg-ink text-bone",
};

export function Standing({ status, small = false }: { status: Status; small?: boolean }) {
  return (
    <span
      className={`inline-block shrink-0 border-2 text-center font-semibold ${small ? "w-16 text-[14px] leading-5" : "w-20 leading-7"} ${FILL[status]}`}
    >
      {STATUS_WORDS[status]}
    </span>
  );
}
