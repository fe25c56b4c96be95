import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Award, type Column, ok, type Review, type Side } from "../api/client";
import { Mark } from "../components/Mark";
import { Problem } from "../components/Problem";
import { ScoreHead } from "../components/ScoreHead";
import { clock, named } from "../components/words";
import { rulesetOf, useRulesetChoices } from "../api/rulesets";

/** The same match under other rules, with the rows that differ. */
export function OtherRules({ review, show }: { review: Review; show: (t: number) => void }) {
  const { match } = review;
  const choices = useRulesetChoices();
  const others = choices.filter((one) => JSON.stringify(rulesetOf(one.value)) !== JSON.stringify(match.ruleset));
  const [picked, setPicked] = useState<string | null>(null);
  const other = others.find((one) => one.value === picked) ?? others[0];
  const answer = useQuery({
    queryKey: ["what-if", match.id, other?.value],
    queryFn: () =>
      ok(
        api.POST("/api/matches/{match}/what-if", {
          params: { path: { match: match.id } },
          body: { ruleset: rulesetOf(other?.value ?? "") },
        }),
      ),
    enabled: other !== undefined,
    staleTime: 0,
  });
  const [own, there] = answer.data?.columns ?? [];
  return (
    <div>
      <label className="flex flex-wrap items-baseline gap-3 pb-4">
        <span>The same match under</span>
        <select className="field w-auto!" value={other?.value ?? ""} onChange={(event) => setPicked(event.target.value)}>
          {others.map((one) => (
            <option key={one.value} value={one.value}>
              {one.title}
            </option>
          ))}
        </select>
        <span className="text-slate">This does not change the match.</span>
      </label>
      <Problem error={answer.error} />
      {own && there && <SideBySide own={own} there={there} match={match} show={show} />}
      {answer.isFetching && !answer.data && <p className="text-slate">Scoring it again…</p>}
    </div>
  );
}

/** Both scores of the match, and the rows that differ. */
function SideBySide({ own, there, match, show }: { own: Column; there: Column; match: Review["match"]; show: (t: number) => void }) {
  return (
    <>
      <div className="grid gap-x-8 gap-y-4 xl:grid-cols-2">
        {[own, there].map((column, index) => (
          <section key={column.title} className={index === 1 ? "border-t-4 border-amber-deep pt-2" : "border-t-4 border-rule pt-2"}>
            <h2 className="pb-2 text-lg font-semibold">{index === 0 ? `As it was scored: ${column.title}` : column.title}</h2>
            <ScoreHead score={column.score} athlete={match.athlete_name} opponent={match.opponent} tone="paper" />
            <p className="pt-2 text-center">{named(column.because, match)}</p>
          </section>
        ))}
      </div>
      <h2 className="mt-6 border-b-2 border-rule pb-1 text-xl font-semibold">{rowsDiffer(there.differences.length)}</h2>
      <ul>
        {there.differences.map((one, index) => (
          <li key={index} className="grid grid-cols-[52px_auto_1fr] items-center gap-3 border-b border-rule py-2">
            <button type="button" className="quiet text-left" onClick={() => show(one.t - 6)}>
              {clock((one.here ?? one.there)?.clock ?? 0)}
            </button>
            <span className="flex w-28 items-center gap-2">
              <Given row={one.there} side={one.to} /> <span aria-label="becomes">→</span> <Given row={one.here} side={one.to} />
            </span>
            <span>{named(one.because, match)}</span>
          </li>
        ))}
      </ul>
    </>
  );
}

function Given({ row, side }: { row: Award | null; side: Side }) {
  return row ? <Mark kind={row.kind} n={row.n} side={side} on="paper" /> : <span className="text-slate">nothing</span>;
}

function rowsDiffer(n: number): string {
  return n === 0 ? "No differences" : n === 1 ? "1 difference" : `${n} differences`;
}
