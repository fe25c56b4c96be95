import type { Attention, Match } from "../api/client";
import { named } from "../components/words";

type RangeOf = NonNullable<Attention["range"]>;

/** What the match comes to if what was marked as unsure was not so; `range` comes a breath after the verdict. */
export function Range({
  unsure,
  range,
  ended,
  match,
}: {
  unsure: number;
  range: RangeOf | null | undefined;
  ended: boolean;
  match: Match;
}) {
  const box = "border-t border-dashed border-seam pt-1 pb-1.5 text-[15px] text-fog";
  if (unsure === 0 && !range?.deciding.length) return null;
  if (unsure === 0)
    return (
      <div className={box} data-testid="range">
        <DecidingRows range={range} match={match} />
      </div>
    );
  if (!ended) {
    // What is being counted at the end of the log may still score: a range before the end would mislead.
    return (
      <p className={box} data-testid="range">
        {unsure === 1 ? "1 unsure entry: its" : `${unsure} unsure entries: their`} effect on the result is shown once the end of the match
        is logged.
      </p>
    );
  }
  if (range?.unsure.length !== unsure)
    return (
      <p className={box} data-testid="range">
        {unsure === 1 ? "1 unsure entry: checking its" : `${unsure} unsure entries: checking their`} effect…
      </p>
    );
  const points = ({ score }: RangeOf["worst"]) => `${score.a.points}–${score.b.points}`;
  const spread = points(range.worst) === points(range.best) ? points(range.best) : `${points(range.worst)} to ${points(range.best)}`;
  return (
    <div className={box} data-testid="range">
      <p>
        <b className="text-bone">{spread}</b> with {unsure === 1 ? "1 unsure entry" : `${unsure} unsure entries`}.{" "}
        {named(range.because, match)}
      </p>
      <DecidingRows range={range} match={match} />
    </div>
  );
}

/** The judgements that decide the match by themselves. */
function DecidingRows({ range, match }: { range: RangeOf | null | undefined; match: Match }) {
  return range?.deciding.map((row) => (
    <p key={String(row.observation)} className="text-bone">
      {named(row.because, match)}
    </p>
  ));
}
