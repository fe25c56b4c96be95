import { type Comparison, TALLIES } from "../api/client";
import { percent } from "./words";

/** How often both gave the same, with how sure that figure is. */
export function Figures({ comparison }: { comparison: Comparison }) {
  return (
    <section aria-label="Agreement">
      <h2 className="border-b-2 border-rule pb-1 text-xl font-semibold">How far they agree</h2>
      <dl>
        {TALLIES.map((kind) => {
          const figures = comparison.agreement[kind];
          const all = figures.agreed + figures.differently + figures.not_called + figures.not_awarded;
          return (
            <div key={kind} className="border-b border-rule py-2">
              <dt className="font-semibold capitalize">{kind}</dt>
              <dd>
                {figures.share === null ? (
                  "none given"
                ) : (
                  <>
                    {figures.agreed} of {all} the same: <b>{percent(figures.share)}</b>
                  </>
                )}
                {figures.interval && (
                  <span className="block text-[15px] text-slate">
                    likely between {percent(figures.interval[0] ?? 0)} and {percent(figures.interval[1] ?? 1)} over many matches
                  </span>
                )}
              </dd>
            </div>
          );
        })}
        <div className="py-2">
          <dt className="font-semibold">Over whole exchanges</dt>
          <dd>
            {comparison.kappa === null ? (
              "Too little was given to tell."
            ) : (
              <>
                Cohen&rsquo;s kappa <b>{comparison.kappa.toFixed(2)}</b>
              </>
            )}
            <span className="block text-[15px] text-slate">1 is full agreement, 0 what chance alone would give.</span>
          </dd>
        </div>
      </dl>
    </section>
  );
}
