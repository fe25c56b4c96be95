import type { Match, Verdict } from "../api/client";
import { named } from "../components/words";

type RangeOf = Verdict["range"];

/** What the match comes to if what was marked as unsure was not so. */
export function Range({ range, ended, match }: { range: RangeOf; ended: boolean; match: Match }) {
  if (range.unsure.length === 0) return null;
  if (!ended) {
    // What is being counted at the end of the log may still be paid: a range before the end would mislead.
    return <p className="border-t border-dashed border-seam pt-1 pb-1.5 text-[15px] text-fog" data-testid="range">{range.unsure.length} unsure: what hangs on that is shown when the end is logged.</p>;
  }
  const points = ({ score }: RangeOf["worst"]) => `${score.a.points}–${score.b.points}`;
  const spread = points(range.worst) === points(range.best) ? points(range.best) : `${points(range.worst)} to ${points(range.best)}`;
  return (
    <div className="border-t border-dashed border-seam pt-1 pb-1.5 text-[15px] text-fog" data-testid="range">
      <p><b className="text-bone">{spread}</b> with {range.unsure.length} unsure. {named(range.because, match)}</p>
      {range.deciding.map((row) => <p key={String(row.observation)} className="text-bone">{named(row.because, match)}</p>)}
    </div>
  );
}
