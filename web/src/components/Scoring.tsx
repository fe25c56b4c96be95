import { useQuery } from "@tanstack/react-query";
import { api, type Division, type Match, ok } from "../api/client";
import { choiceOf } from "../api/rulesets";
import { Problem } from "./Problem";
import { Sheet } from "./Sheet";

/** How a match of a division is scored, topic by topic. */
export function Scoring({ page }: { page: Division }) {
  return (
    <>
      <p className="pb-2 text-slate">
        {page.age_class ? `${page.age_class}, ` : ""}
        {page.division}. {page.ruleset}.
      </p>
      <dl className="grid grid-cols-[9rem_minmax(0,1fr)] border-t-2 border-rule">
        {page.scoring.map((rule) => (
          <div key={rule.topic} className="col-span-2 grid grid-cols-subgrid border-b border-rule py-1.5">
            <dt className="pr-3 font-semibold">{rule.topic}</dt>
            <dd>{rule.text}</dd>
          </div>
        ))}
      </dl>
    </>
  );
}

/** How the match on the desk is scored, without leaving it. */
export function ScoringHere({ match, open, setOpen }: { match: Match; open: boolean; setOpen: (open: boolean) => void }) {
  const { age, belt, attire } = match;
  const asked = { age, belt, attire, ruleset: choiceOf(match.ruleset) };
  const division = useQuery({
    queryKey: ["division", asked],
    queryFn: () => ok(api.GET("/api/division", { params: { query: asked } })),
    staleTime: Infinity,
    enabled: open,
  });
  return (
    <Sheet title="How this match is scored" width="middle" open={open} setOpen={setOpen}>
      <Problem error={division.error} />
      {division.isPending && <p className="text-slate">Loading the rules…</p>}
      {division.data && (
        <>
          <Scoring page={division.data} />
          <p className="mt-4 border-l-4 border-amber-deep pl-3">{division.data.deference}</p>
        </>
      )}
    </Sheet>
  );
}
