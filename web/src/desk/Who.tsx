import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, type Match, ok, type Outlook } from "../api/client";
import { Problem } from "../components/Problem";
import { looksOf, POSITION_WORDS } from "../components/words";

/** On the picture: the position at the playhead, and which of the two in the clip is on top. */
export function Who({ match, outlook }: { match: Match; outlook: Outlook | undefined }) {
  if (!outlook?.started || outlook.over) return null;
  const { top } = outlook;
  const name = top === "a" ? match.athlete_name : match.opponent;
  const looks = top ? looksOf(match, top) : "";
  return (
    <p data-testid="who" className="absolute top-2 right-2 bg-night/80 px-2 py-0.5 text-[15px] text-bone">
      {POSITION_WORDS[outlook.position]}
      {top && (
        <>
          {": "}
          <b className={top === "a" ? "text-amber" : "text-sea"}>
            {name}
            {looks && `, ${looks}`}
          </b>{" "}
          on top
        </>
      )}
    </p>
  );
}

/** What the two look like in this clip, for whoever scores it. */
export function LooksForm({ match }: { match: Match }) {
  const queries = useQueryClient();
  const [athlete, setAthlete] = useState(looksOf(match, "a"));
  const [opponent, setOpponent] = useState(looksOf(match, "b"));
  const save = useMutation({
    mutationFn: () =>
      ok(
        api.PATCH("/api/matches/{match}", {
          params: { path: { match: match.id } },
          body: { athlete_looks: athlete.trim(), opponent_looks: opponent.trim() },
        }),
      ),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["match", match.id], exact: true }),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    save.mutate();
  };
  return (
    <form onSubmit={submit} className="mt-4 border-t-2 border-rule pt-2">
      <h3 className="font-serif text-xl font-semibold">Which one is which</h3>
      <p className="pb-2 text-slate">A colour, the hair, a word: the buttons and the picture then show it.</p>
      <div className="flex flex-wrap items-end gap-4">
        <Looks name={match.athlete_name} value={athlete} set={setAthlete} />
        <Looks name={match.opponent} value={opponent} set={setOpponent} />
        <button type="submit" className="act" disabled={save.isPending}>
          Save
        </button>
      </div>
      {save.isSuccess && <p role="status">Saved.</p>}
      <Problem error={save.error} />
    </form>
  );
}

function Looks({ name, value, set }: { name: string; value: string; set: (value: string) => void }) {
  return (
    <label>
      <span className="mb-1 block">{name}</span>
      <input className="field" maxLength={60} placeholder="white gi" value={value} onChange={(event) => set(event.target.value)} />
    </label>
  );
}
