import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { Link } from "react-router";
import { api, type Match, ok, type People } from "../api/client";
import { Problem } from "../components/Problem";
import { Sheet } from "../components/Sheet";

/** Who scores the match and who can see it; or, for a second scorer, the handing over of their score. */
export function PeopleDialog({ match, open, setOpen }: { match: Match; open: boolean; setOpen: (open: boolean) => void }) {
  return (
    <Sheet title={match.second_of ? "Submit your score" : "People and this match"} width="narrow" open={open} setOpen={setOpen}>
      {match.second_of ? <HandOver match={match} first={match.second_of} /> : open && <AllPeople match={match} />}
    </Sheet>
  );
}

function AllPeople({ match }: { match: Match }) {
  const people = useQuery({
    queryKey: ["people", match.id],
    queryFn: () => ok(api.GET("/api/matches/{match}/people", { params: { path: { match: match.id } } })),
  });
  if (!people.data) return <Problem error={people.error} />;
  return (
    <div className="flex flex-col gap-6">
      <Given match={match} people={people.data} />
      <Seconds match={match} people={people.data} />
      <section>
        <h3 className="border-b border-rule pb-1 font-semibold">Who can see this match</h3>
        <ul>
          {people.data.seen_by.map((one) => (
            <li key={one.user} className="flex gap-3 border-b border-rule py-1">
              <span className="flex-1">{one.name}</span>
              <span className="text-slate">{one.does}</span>
            </li>
          ))}
        </ul>
        <p className="pt-2 text-slate">And whoever has a link to its report, until the link ends.</p>
      </section>
    </div>
  );
}

/** To whom the match is given to score, and by when. */
function Given({ match, people }: { match: Match; people: People }) {
  const queries = useQueryClient();
  const [scorer, setScorer] = useState(String(people.scorer ?? ""));
  const [due, setDue] = useState(people.due ?? "");
  const give = useMutation({
    mutationFn: () =>
      ok(
        api.PUT("/api/matches/{match}/people", {
          params: { path: { match: match.id } },
          body: { scorer: Number(scorer), due: due || null },
        }),
      ),
    onSuccess: (now) => queries.setQueryData(["people", match.id], now),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    give.mutate();
  };
  return (
    <form onSubmit={submit} className="flex flex-wrap items-end gap-3">
      <Choice text="Scored by" people={people} value={scorer} set={setScorer} />
      <label>
        <span className="mb-1 block font-semibold">By</span>
        <input className="field" type="date" value={due} onChange={(event) => setDue(event.target.value)} />
      </label>
      <button type="submit" className="act" disabled={give.isPending}>
        {give.isSuccess ? "Saved" : "Save"}
      </button>
      <Problem error={give.error} />
    </form>
  );
}

function Choice({ text, people, value, set }: { text: string; people: People; value: string; set: (value: string) => void }) {
  return (
    <label className="flex-1">
      <span className="mb-1 block font-semibold">{text}</span>
      <select className="field" required value={value} onChange={(event) => set(event.target.value)}>
        <option value="">choose someone</option>
        {people.scorers.map((one) => (
          <option key={one.user} value={one.user}>
            {one.name}
          </option>
        ))}
      </select>
    </label>
  );
}

function Seconds({ match, people }: { match: Match; people: People }) {
  const queries = useQueryClient();
  const [user, setUser] = useState("");
  const key = ["seconds", match.id];
  const path = { params: { path: { match: match.id } } };
  const seconds = useQuery({ queryKey: key, queryFn: () => ok(api.GET("/api/matches/{match}/seconds", path)) });
  const ask = useMutation({
    mutationFn: () => ok(api.POST("/api/matches/{match}/seconds", { ...path, body: { user: Number(user) } })),
    onSuccess: () => {
      setUser("");
      return queries.invalidateQueries({ queryKey: key });
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    ask.mutate();
  };
  return (
    <section>
      <p>For a second score, someone else scores the same clip without seeing the first, and the two are then compared.</p>
      <ul className="py-2">
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
        <Choice text="Second score by" people={people} value={user} set={setUser} />
        <button type="submit" className="act" disabled={ask.isPending}>
          Ask
        </button>
      </form>
      <Problem error={ask.error ?? seconds.error} />
    </section>
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
