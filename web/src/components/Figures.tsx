import { type Comparison, TALLIES } from "../api/client";
import { percent } from "./words";

/** How often both gave the same, with how sure that figure is. */
export function Figures({ comparison }: { comparison: Comparison }) {
  return (
    <section aria-label="Agreement">
      <h2 className="border-b-2 border-rule pb-1 text-xl font-semibold">How well they agree</h2>
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
                    {figures.agreed} of {all} agreed: <b>{percent(figures.share)}</b>
                  </>
                )}
                {figures.interval && (
                  <span className="block text-[15px] text-slate">
                    95% interval {Math.round((figures.interval[0] ?? 0) * 100)} to {percent(figures.interval[1] ?? 1)}
                  </span>
                )}
              </dd>
            </div>
          );
        })}
        <div className="py-2">
          <dt className="font-semibold">By exchange</dt>
          <dd>
            {comparison.kappa === null ? (
              "Too few awards to say."
            ) : (
              <>
                Cohen&rsquo;s kappa <b>{comparison.kappa.toFixed(2)}</b>
              </>
            )}
            <span className="block text-[15px] text-slate">1 = full agreement, 0 = no better than chance.</span>
          </dd>
        </div>
      </dl>
    </section>
  );
}
