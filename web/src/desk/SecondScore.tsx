import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { Link } from "react-router";
import { api, type Match, ok } from "../api/client";
import { Problem } from "../components/Problem";
import { Sheet } from "../components/Sheet";

/** Ask somebody to score the match again, blind; or, being that somebody, hand the score over. */
export function SecondScore({ match, open, setOpen }: { match: Match; open: boolean; setOpen: (open: boolean) => void }) {
  return (
    <Sheet title={match.second_of ? "Submit your score" : "A second score"} width="narrow" open={open} setOpen={setOpen}>
      {match.second_of ? <HandOver match={match} first={match.second_of} /> : <Ask match={match} open={open} />}
    </Sheet>
  );
}

function Ask({ match, open }: { match: Match; open: boolean }) {
  const queries = useQueryClient();
  const [name, setName] = useState("");
  const key = ["seconds", match.id];
  const seconds = useQuery({
    queryKey: key,
    queryFn: () => ok(api.GET("/api/matches/{match}/seconds", { params: { path: { match: match.id } } })),
    enabled: open,
  });
  const ask = useMutation({
    mutationFn: () => ok(api.POST("/api/matches/{match}/seconds", { params: { path: { match: match.id } }, body: { name } })),
    onSuccess: () => {
      setName("");
      return queries.invalidateQueries({ queryKey: key });
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    ask.mutate();
  };
  return (
    <>
      <p>Someone else scores the same clip without seeing your score, and the two are then compared.</p>
      <ul className="py-3">
        {seconds.data?.map((one) => (
          <li key={one.match} className="flex items-baseline gap-4 border-b border-rule py-1">
            <b>{one.scorer}</b>
            <span className="text-slate">
              {one.finished ? "submitted" : one.observed ? `in progress: ${one.observed} logged` : "invited, not started"}
            </span>
            {one.observed > 0 && (
              <Link className="quiet ml-auto" to={`/matches/${match.id}/seconds/${one.match}`}>
                Side by side
              </Link>
            )}
          </li>
        ))}
      </ul>
      <form onSubmit={submit} className="flex items-end gap-3">
        <label className="flex-1">
          <span className="mb-1 block font-semibold">Sign-in name of the second scorer</span>
          <input className="field" required maxLength={150} value={name} onChange={(event) => setName(event.target.value)} />
        </label>
        <button type="submit" className="act" disabled={ask.isPending}>
          Ask
        </button>
      </form>
      <Problem error={ask.error ?? seconds.error} />
    </>
  );
}

function HandOver({ match, first }: { match: Match; first: string }) {
  const queries = useQueryClient();
  const hand = useMutation({
    mutationFn: () => ok(api.POST("/api/matches/{match}/finished", { params: { path: { match: match.id } } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["match", match.id], exact: true }),
  });
  if (match.finished) {
    return (
      <p>
        Your score has been submitted.{" "}
        <Link className="quiet" to={`/matches/${first}/seconds/${match.id}`}>
          See both side by side
        </Link>
      </p>
    );
  }
  return (
    <>
      <p>
        You were asked to score this match without seeing the first score. When you have finished, submit yours; both of you can then see
        the two side by side.
      </p>
      <button type="button" className="act mt-3" disabled={hand.isPending} onClick={() => hand.mutate()}>
        Submit my score
      </button>
      <Problem error={hand.error} />
    </>
  );
}
