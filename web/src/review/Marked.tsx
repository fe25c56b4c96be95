import type { Review } from "../api/client";
import { clock } from "../components/words";
import type { Stretch } from "./Player";

/** So long before and after a mark its footage is played. */
const LEAD_IN = 4;
const LEAD_OUT = 2;

/** The coach's own marks by their cause; all of one cause are played one after the other. */
export function Marked({ marks, playAll }: { marks: Review["marks"]; playAll: ((stretches: Stretch[]) => void) | null }) {
  const causes = [...new Set(marks.map((mark) => mark.cause))];
  if (marks.length === 0) return null;
  return (
    <section aria-label="Your marks" className="mt-5 mb-6">
      <h2 className="border-b-2 border-rule pb-1 font-serif text-xl font-semibold">Your marks</h2>
      <ul>
        {causes.map((cause) => {
          const these = marks.filter((mark) => mark.cause === cause);
          const stretches = these.map((mark) => ({ start: Math.max(0, mark.t - LEAD_IN), end: mark.until + LEAD_OUT }));
          return (
            <li key={cause ?? ""} className="flex flex-wrap items-baseline gap-x-4 border-b border-rule py-1">
              <b className="w-20 shrink-0 font-semibold">{cause ?? "no cause"}</b>
              <span className="min-w-0 flex-1">
                {these.map((mark, index) => (
                  <span key={mark.id}>
                    {index > 0 && "; "}
                    <span className="text-slate">{clock(mark.clock)}</span> {mark.good && <span className="text-sea-deep">well: </span>}
                    {mark.text}
                  </span>
                ))}
              </span>
              {playAll && (
                <button type="button" className="quiet" onClick={() => playAll(stretches)}>
                  {these.length === 1 ? "Play" : `Play all ${these.length}`}
                  <span className="sr-only"> marked {cause ?? "without a cause"}</span>
                </button>
              )}
            </li>
          );
        })}
      </ul>
    </section>
  );
}
