import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Dialog } from "radix-ui";
import { type FormEvent, useState } from "react";
import { Link } from "react-router";
import { api, type Match, ok } from "../api/client";
import { Problem } from "../components/Problem";

/** Ask somebody to score the match again, blind; or, being that somebody, hand the score over. */
export function SecondScore({ match, open, setOpen }: { match: Match; open: boolean; setOpen: (open: boolean) => void }) {
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-20 bg-night/70" />
        <Dialog.Content aria-describedby={undefined} className="paper fixed z-20 top-1/2 left-1/2 w-[min(560px,96vw)] -translate-x-1/2 -translate-y-1/2 border-t-4 border-amber-deep bg-paper px-7 py-6 text-ink">
          <Dialog.Title className="pb-2 text-2xl font-semibold">{match.second_of ? "Hand over your score" : "A second score"}</Dialog.Title>
          {match.second_of ? <HandOver match={match} first={match.second_of} /> : <Ask match={match} open={open} />}
          <Dialog.Close className="act mt-5">Back to the desk</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
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
      <p>Somebody else scores the same clip without seeing your score; then the two are laid side by side.</p>
      <ul className="py-3">
        {seconds.data?.map((one) => (
          <li key={one.match} className="flex items-baseline gap-4 border-b border-rule py-1">
            <b>{one.scorer}</b>
            <span className="text-slate">{one.finished ? "handed over" : one.observed ? `at work: ${one.observed} logged` : "asked, not begun"}</span>
            {one.observed > 0 && <Link className="quiet ml-auto" to={`/matches/${match.id}/seconds/${one.match}`}>Side by side</Link>}
          </li>
        ))}
      </ul>
      <form onSubmit={submit} className="flex items-end gap-3">
        <label className="flex-1"><span className="mb-1 block font-semibold">Sign-in name of the second scorer</span>
          <input className="field" required maxLength={150} value={name} onChange={(event) => setName(event.target.value)} />
        </label>
        <button type="submit" className="act" disabled={ask.isPending}>Ask</button>
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
    return <p>Your score is handed over. <Link className="quiet" to={`/matches/${first}/seconds/${match.id}`}>See both side by side</Link></p>;
  }
  return (
    <>
      <p>You were asked to score this match without seeing the first score. When you are done, hand yours over; then both of you see the two side by side.</p>
      <button type="button" className="act mt-3" disabled={hand.isPending} onClick={() => hand.mutate()}>I am done: hand it over</button>
      <Problem error={hand.error} />
    </>
  );
}
