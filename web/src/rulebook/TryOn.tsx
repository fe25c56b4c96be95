import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Column, type Match, ok, type Verdict } from "../api/client";
import { Problem } from "../components/Problem";
import { clock, named } from "../components/words";

/** What a match that is scored already would come to under a ruleset; nothing changes until that is asked for. */
export function TryOn({ ruleset, keep = false }: { ruleset: unknown; keep?: boolean }) {
  const queries = useQueryClient();
  const asked = { scored: true, page_size: 100 };
  const matches = useQuery({
    queryKey: ["matches", asked],
    queryFn: () => ok(api.GET("/api/matches", { params: { query: asked } })),
  });
  const scored = matches.data?.results ?? [];
  const [chosen, setChosen] = useState("");
  const match = scored.find((one) => one.id === chosen);
  const key = JSON.stringify(ruleset);
  const found = useQuery({
    queryKey: ["what-if", chosen, key],
    queryFn: () => ok(api.POST("/api/matches/{match}/what-if", { params: { path: { match: chosen } }, body: { ruleset } })),
    enabled: match !== undefined,
    retry: false,
  });
  const again = useMutation({
    mutationFn: () => ok(api.PATCH("/api/matches/{match}", { params: { path: { match: chosen } }, body: { ruleset } })),
    onSuccess: () => queries.invalidateQueries(),
  });
  if (matches.isSuccess && scored.length === 0) return null;
  const [own, here] = found.data?.columns ?? [];
  return (
    <div className="mt-3" data-testid="try-on">
      <label className="flex flex-wrap items-center gap-3">
        <span className="font-semibold">Try it on a match</span>
        <select
          className="field w-auto! max-w-full"
          disabled={!matches.isSuccess}
          value={chosen}
          onChange={(event) => setChosen(event.target.value)}
        >
          <option value="">choose…</option>
          {scored.map((one) => (
            <option key={one.id} value={one.id}>
              {one.athlete_name} against {one.opponent}, {one.ruleset_title}
            </option>
          ))}
        </select>
      </label>
      <Problem error={found.error ?? again.error} />
      {match && own && here && (
        <div className="mt-2">
          <Compared own={own} here={here} match={match} />
          {keep && (
            <button type="button" className="act mt-2" disabled={again.isPending} onClick={() => again.mutate()}>
              Rescore this match under these rules
            </button>
          )}
          {again.isSuccess && (
            <p role="status" className="mt-1">
              Done. The match is now scored under these rules.
            </p>
          )}
        </div>
      )}
    </div>
  );
}

/** The match as it was scored, under these rules, and each row that differs. */
function Compared({ own, here, match }: { own: Column; here: Column; match: Match }) {
  return (
    <>
      <p>
        As it was scored: <b>{score(own)}</b>. {named(own.because, match)}
      </p>
      <p>
        Under these rules: <b>{score(here)}</b>. {named(here.because, match)}
      </p>
      <ul className="mt-1">
        {here.differences.map((one, index) => (
          <li key={index} className="border-t border-rule py-1">
            <span className="text-slate">{clock((one.here ?? one.there)?.clock ?? 0)}</span>{" "}
            {named((one.here ?? one.there)?.because ?? "", match)}{" "}
            <b>{one.here ? (one.there ? "Scored differently under these rules." : "Only under these rules.") : "Not under these rules."}</b>{" "}
            {one.because}
          </li>
        ))}
      </ul>
      {here.differences.length === 0 && <p className="text-slate">The score would be the same.</p>}
    </>
  );
}

function score({ score: { a, b } }: Pick<Verdict, "score">): string {
  return `${a.points}–${b.points} points, ${a.advantages}–${b.advantages} advantages, ${a.penalties}–${b.penalties} penalties`;
}
