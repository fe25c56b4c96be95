import type { ReviewError, Spread } from "../api/client";
import { percent } from "../components/words";

/** So much of the chance is worth setting in bold. */
const MUCH = 0.15;

/** The figures of what an error cost, each with what it means. */
export function Costs({
  error,
  danger,
  range,
}: {
  error: ReviewError;
  /** Whether nothing scores, so that the cost is the danger of being finished. */
  danger: boolean;
  /** Between what its cost lies in four of five cases; undefined until it is known. */
  range: Spread["lost"][string] | undefined;
}) {
  const { cost, otherwise, swing } = error;
  return (
    <dl className="my-2 grid gap-x-6 gap-y-2 border-y border-rule py-2 sm:grid-cols-3">
      <Figure name="On the score sheet" said={cost} />
      <Figure
        name="The result without it"
        said={otherwise === null ? "unchanged: it does not affect the score sheet" : otherwise.because}
        note={otherwise === null ? undefined : otherwise.changes ? "a different result" : "no difference on its own"}
        strong={otherwise?.better ?? false}
      />
      {!swing || swing.lost < 0.005 ? (
        <Figure name={danger ? "Chance of being finished" : "Chance to win"} said="unchanged" />
      ) : danger ? (
        <Danger swing={swing} sure={surely(range)} />
      ) : (
        <Figure
          name="Chance to win"
          said={`${percent(swing.was)} afterwards, ${percent(swing.otherwise)} without it`}
          note={surely(range)}
          strong={swing.lost >= MUCH}
        />
      )}
    </dl>
  );
}

/** Where nothing scores: how likely it was to be finished, and to finish. */
function Danger({ swing, sure }: { swing: NonNullable<ReviewError["swing"]>; sure: string | undefined }) {
  const finishing = `of finishing: ${percent(swing.was)} afterwards, ${percent(swing.otherwise)} without it`;
  return (
    <Figure
      name="Chance of being finished"
      said={`${percent(swing.was_lose)} afterwards, ${percent(swing.otherwise_lose)} without it`}
      note={sure ? `${finishing}; ${sure}` : finishing}
      strong={swing.was_lose - swing.otherwise_lose >= MUCH}
    />
  );
}

function surely(range: Spread["lost"][string] | undefined): string | undefined {
  if (!range) return undefined;
  return `80% range of the cost: ${Math.round(range.low * 100)} to ${Math.round(range.high * 100)} points`;
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
