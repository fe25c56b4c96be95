import type { ReviewError } from "../api/client";
import { percent } from "../components/words";

/** The three figures of what something cost, each with what it means. */
export function Costs({
  sheet,
  otherwise,
  swing,
}: {
  sheet: string;
  otherwise: ReviewError["otherwise"];
  swing: { was: number; otherwise: number } | { lost: number } | null;
}) {
  return (
    <dl className="my-2 grid gap-x-6 gap-y-2 border-y border-rule py-2 sm:grid-cols-3">
      <Figure name="On the sheet" said={sheet} />
      <Figure
        name="The result without it"
        said={otherwise === null ? "the same: it is on no row" : otherwise.because}
        note={otherwise === null ? undefined : otherwise.changes ? "a different result" : "no difference by itself"}
        strong={otherwise?.better ?? false}
      />
      {swing === null ? (
        <Figure name="Chance to win" said="as it was" />
      ) : "was" in swing ? (
        <Figure
          name="Chance to win"
          said={`${percent(swing.was)} after it`}
          note={`${percent(swing.otherwise)} had it gone otherwise`}
          strong={swing.otherwise - swing.was >= 0.15}
        />
      ) : (
        <Figure name="Chance to win" said={`${percent(swing.lost)} swung away`} note="all its links together" strong={swing.lost >= 0.15} />
      )}
    </dl>
  );
}

function Figure({ name, said, note, strong = false }: { name: string; said: string; note?: string | undefined; strong?: boolean }) {
  return (
    <div>
      <dt className="text-[15px] text-slate">{name}</dt>
      <dd className={`leading-snug ${strong ? "font-semibold text-amber-deep" : ""}`}>
        {said}
        {note && <span className="block text-[15px] font-normal text-slate">{note}</span>}
      </dd>
    </div>
  );
}
