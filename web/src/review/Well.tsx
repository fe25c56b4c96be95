import { useState } from "react";
import type { Review } from "../api/client";

/** So long before it begins and after it is done its footage is shown. */
const LEAD = 3;
const LEAD_OUT = 2;
const SHOWN = 4;

/** What was done well, each with its place in the footage. */
export function Well({ well, show }: { well: Review["well"]; show: ((t: number, end?: number) => void) | null }) {
  const [all, setAll] = useState(false);
  // What was stopped has a list of its own.
  const others = well.filter((one) => one.kind !== "stopped");
  if (others.length === 0) return null;
  return (
    <section aria-label="Done well" className="mb-5 border-l-4 border-sea-deep pl-4">
      <h2 className="font-serif text-xl font-semibold">Done well</h2>
      <ul>
        {(all ? others : others.slice(0, SHOWN)).map((one) => (
          <li key={`${one.kind}-${one.since}-${one.because}`} className="flex items-baseline justify-between gap-4 py-0.5">
            <span>{one.because}</span>
            {show && (
              <button
                type="button"
                className="quiet text-[15px] whitespace-nowrap"
                onClick={() => show(Math.max(0, one.since - LEAD), one.t + LEAD_OUT)}
              >
                Play clip<span className="sr-only">: {one.because}</span>
              </button>
            )}
          </li>
        ))}
      </ul>
      {others.length > SHOWN && (
        <button type="button" className="quiet text-[15px]" aria-expanded={all} onClick={() => setAll(!all)}>
          {all ? "Show fewer" : `Show ${others.length - SHOWN} more`}
        </button>
      )}
    </section>
  );
}
