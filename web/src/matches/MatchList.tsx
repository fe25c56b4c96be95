import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { AlertDialog } from "radix-ui";
import { Link, useSearchParams } from "react-router";
import { api, type MatchRow, ok, type Side, TALLIES } from "../api/client";
import { Mark } from "../components/Mark";
import { PaperPage } from "../components/PaperPage";
import { Problem } from "../components/Problem";
import { named } from "../components/words";

/** From how many matches on a list is worth searching. */
const WORTH_SEARCHING = 8;
const RESULTS = { won: "Won", lost: "Lost", level: "Level", open: "Not over" } as const;
type Result = keyof typeof RESULTS;

/** What is asked for of the list; kept in the address. */
function useAsked() {
  const [asked, setAsked] = useSearchParams();
  const query = {
    search: asked.get("search") ?? undefined,
    result: (asked.get("result") as Result | null) ?? undefined,
    page: Number(asked.get("page")) || 1,
  };
  const ask = (name: string, value: string) => {
    const next = new URLSearchParams(asked);
    if (value) next.set(name, value);
    else next.delete(name);
    if (name !== "page") next.delete("page");
    setAsked(next, { replace: name === "search" });
  };
  return { query, ask };
}

export function MatchList() {
  const { query, ask } = useAsked();
  const matches = useQuery({
    queryKey: ["matches", query],
    queryFn: () => ok(api.GET("/api/matches", { params: { query } })),
    placeholderData: keepPreviousData,
    staleTime: 0,
  });
  const narrowed = query.search !== undefined || query.result !== undefined;
  const { count = 0, results = [], previous, next } = matches.data ?? {};
  return (
    <PaperPage
      title="Matches"
      aside={
        <Link to="/matches/new" className="act">
          New match
        </Link>
      }
    >
      <Problem error={matches.error} />
      {matches.isPending && <p className="text-slate">Loading your matches…</p>}
      {(count > WORTH_SEARCHING || narrowed) && <Narrow search={query.search} result={query.result} count={count} ask={ask} />}
      {matches.isSuccess && count === 0 && !narrowed && (
        <p className="max-w-prose text-lg">
          No matches yet. Start{" "}
          <Link className="quiet" to="/matches/new">
            a new match
          </Link>
          : enter who is competing and the division, add the clip and score what you see.
        </p>
      )}
      <ul>
        {results.map((match) => (
          <Row key={match.id} match={match} />
        ))}
      </ul>
      {(previous || next) && (
        <div className="flex gap-6 border-t-2 border-rule py-4">
          {previous && (
            <button type="button" className="quiet" onClick={() => ask("page", String(query.page - 1))}>
              Later matches
            </button>
          )}
          {next && (
            <button type="button" className="quiet" onClick={() => ask("page", String(query.page + 1))}>
              Earlier matches
            </button>
          )}
        </div>
      )}
    </PaperPage>
  );
}

/** Search, and the result to narrow the list down to. */
function Narrow({
  search,
  result,
  count,
  ask,
}: {
  search: string | undefined;
  result: Result | undefined;
  count: number;
  ask: (name: string, value: string) => void;
}) {
  return (
    <div className="mb-4 flex flex-wrap items-center gap-x-4 gap-y-2">
      <input
        type="search"
        aria-label="Search matches"
        className="field w-72!"
        placeholder="Athlete, opponent or event"
        defaultValue={search}
        onChange={(event) => ask("search", event.target.value)}
      />
      <select aria-label="Result" className="field w-auto!" value={result ?? ""} onChange={(event) => ask("result", event.target.value)}>
        <option value="">Any result</option>
        {Object.entries(RESULTS).map(([name, words]) => (
          <option key={name} value={name}>
            {words}
          </option>
        ))}
      </select>
      <span role="status" className="text-slate">
        {count === 1 ? "1 match" : `${count} matches`}
      </span>
    </div>
  );
}

function Row({ match }: { match: MatchRow }) {
  return (
    <li className="grid gap-x-6 gap-y-2 border-t-2 border-rule py-5 md:grid-cols-[112px_1fr_300px_170px]">
      <div className="hidden md:block">
        {match.poster && match.clip && (
          <img src={`/api/clips/${match.clip}/pictures/poster`} alt="" loading="lazy" className="h-[63px] w-28 bg-night object-cover" />
        )}
      </div>
      <div>
        <h2 className="text-[22px] leading-snug font-semibold">
          {match.athlete_name} <span className="font-sans text-base font-normal text-slate">against</span> {match.opponent}
        </h2>
        <p className="text-slate">
          {[match.event, match.date, match.ruleset_title].filter(Boolean).join(" · ")}
          <br />
          {match.belt} belt, age {match.age}, {match.attire === "gi" ? "gi" : "no-gi"}
          {match.second_of && (
            <b className="block text-ink">{match.finished ? "Second score submitted" : "You have been asked for a blind second score"}</b>
          )}
        </p>
      </div>
      <div className="flex flex-col justify-center gap-1.5">
        {match.score ? (
          <>
            <Tallies match={match} side="a" name={match.athlete_name} />
            <Tallies match={match} side="b" name={match.opponent} />
          </>
        ) : null}
        <p className={match.score ? "text-[15px]" : "text-slate"}>{named(match.because, match)}</p>
      </div>
      <div className="flex flex-col items-start justify-center gap-2 md:items-end">
        <Link className="act" to={`/matches/${match.id}`}>
          {match.observed ? "Open the desk" : "Score it"}
        </Link>
        <span className="flex gap-4">
          {match.observed > 0 && (
            <Link className="quiet" to={`/matches/${match.id}/review`}>
              Review
            </Link>
          )}
          <DeleteMatch match={match} />
        </span>
      </div>
    </li>
  );
}

function Tallies({ match, side, name }: { match: MatchRow; side: Side; name: string }) {
  const tally = match.score?.[side];
  if (!tally) return null;
  const won = match.result?.winner === side;
  return (
    <div className="flex items-center gap-2">
      {TALLIES.map(
        (kind) => (kind === "points" || tally[kind] !== 0) && <Mark key={kind} kind={kind} n={tally[kind]} side={side} on="paper" />,
      )}
      <span className={won ? "font-semibold" : "text-slate"}>
        {name}
        {won ? ", won" : ""}
      </span>
    </div>
  );
}

function DeleteMatch({ match }: { match: MatchRow }) {
  const queries = useQueryClient();
  const remove = useMutation({
    mutationFn: () => ok(api.DELETE("/api/matches/{match}", { params: { path: { match: match.id } } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["matches"] }),
  });
  return (
    <AlertDialog.Root>
      <AlertDialog.Trigger className="quiet">Delete</AlertDialog.Trigger>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 bg-night/60" />
        <AlertDialog.Content className="paper fixed top-1/3 left-1/2 w-[min(440px,92vw)] -translate-x-1/2 border-t-4 border-alarm bg-paper p-6">
          <AlertDialog.Title className="text-xl font-semibold">Delete this match?</AlertDialog.Title>
          <AlertDialog.Description className="mt-2 mb-5">
            {match.athlete_name} against {match.opponent}, with its {match.observed} observations
            {match.second_scores > 0 &&
              ` and ${match.second_scores === 1 ? "the second score" : `the ${match.second_scores} second scores`} of it`}
            . This can't be undone. The clip itself is kept.
          </AlertDialog.Description>
          <Problem error={remove.error} />
          <div className="mt-3 flex gap-5">
            <AlertDialog.Action className="act" onClick={() => remove.mutate()}>
              Delete the match
            </AlertDialog.Action>
            <AlertDialog.Cancel className="quiet">Cancel</AlertDialog.Cancel>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
