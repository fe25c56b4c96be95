import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link, useSearchParams } from "react-router";
import { useAthletes } from "../api/athletes";
import { usePractice } from "../api/practice";
import { api, type Job, type MatchRow, ok, type Side, TALLIES } from "../api/client";
import { useRulesets } from "../api/rulesets";
import { useMay } from "../api/session";
import { Confirm } from "../components/Confirm";
import { FILMING } from "../components/ClipPicker";
import { Bar, underWay } from "../components/JobWork";
import { Mark } from "../components/Mark";
import { PaperPage } from "../components/PaperPage";
import { Problem } from "../components/Problem";
import { named, dayOf } from "../components/words";
import { Poster } from "../components/Poster";

const LOOK_EVERY_MS = 2000;
/** From how many matches on a list is worth searching. */
const WORTH_SEARCHING = 4;
const FILTERS = {
  state: {
    label: "State",
    all: "Any state",
    options: {
      not_scored: "Not scored",
      in_work: "Being scored",
      scored: "Scored",
      reviewed: "Reviewed",
      sent: "Report sent",
      answered: "New replies",
      to_submit: "Second score to submit",
    },
  },
  result: { label: "Result", all: "Any result", options: { won: "Won", lost: "Lost", level: "Level", open: "Not over" } },
} as const;
const ORDERS = {
  "": "Latest first",
  date: "Oldest first",
  "-changed": "Last changed",
  athlete__name: "Athlete",
  opponent: "Opponent",
  event: "Event",
} as const;
type State = keyof typeof FILTERS.state.options;
type Result = keyof typeof FILTERS.result.options;
const NAMES = ["search", "state", "result", "athlete", "ruleset", "ordering"] as const;
type Name = (typeof NAMES)[number];

/** What is asked for of the list; kept in the address. */
function useAsked() {
  const [asked, setAsked] = useSearchParams();
  const given = Object.fromEntries(NAMES.flatMap((name) => (asked.get(name) ? [[name, asked.get(name) ?? ""]] : []))) as Partial<
    Record<Name, string>
  >;
  const ask = (name: Name | "page", value: string) => {
    const next = new URLSearchParams(asked);
    if (value) next.set(name, value);
    else next.delete(name);
    if (name !== "page") next.delete("page");
    setAsked(next, { replace: name === "search" });
  };
  return { given, page: Number(asked.get("page")) || 1, ask };
}

export function MatchList() {
  const { given, page, ask } = useAsked();
  const { state, result, athlete, ...others } = given;
  const query = {
    ...others,
    page,
    ...(state ? { state: state as State } : {}),
    ...(result ? { result: result as Result } : {}),
    ...(athlete ? { athlete: Number(athlete) } : {}),
  };
  const matches = useQuery({
    queryKey: ["matches", query],
    queryFn: () => ok(api.GET("/api/matches", { params: { query } })),
    placeholderData: keepPreviousData,
    staleTime: 0,
    refetchInterval: (found) => (found.state.data?.results.some((one) => underWay(one.clip_job)) ? LOOK_EVERY_MS : false),
  });
  const staff = useMay("set_up");
  const narrowed = Object.keys(given).length > 0;
  const { count = 0, results = [], previous, next } = matches.data ?? {};
  return (
    <PaperPage
      title="Matches"
      aside={
        staff && (
          <span className="flex flex-wrap items-baseline gap-x-5 gap-y-2">
            <Link to="/matches/deleted" className="quiet">
              Deleted matches
            </Link>
            <Link to="/matches/several" className="quiet">
              Several at once
            </Link>
            <Link to="/matches/new" className="act">
              New match
            </Link>
          </span>
        )
      }
    >
      <Problem error={matches.error} />
      {matches.isPending && <p className="text-slate">Loading your matches…</p>}
      <Waiting state={state} ask={ask} />
      {(count > WORTH_SEARCHING || narrowed) && <Narrow given={given} count={count} ask={ask} />}
      {matches.isSuccess && count === 0 && !narrowed && <FirstSteps />}
      <ul>
        {results.map((match) => (
          <Row key={match.id} match={match} />
        ))}
      </ul>
      <Pages page={page} previous={!!previous} next={!!next} turn={(to) => ask("page", String(to))} />
    </PaperPage>
  );
}

/** What an account without matches begins with. */
function FirstSteps() {
  const practise = usePractice();
  const staff = useMay("set_up");
  return (
    <div className="max-w-prose">
      <p className="text-lg">
        {staff
          ? "No matches yet. Learn the desk on a 90-second practice clip, one step at a time, or start with a match of your own."
          : "No match was given to you to score yet. Meanwhile, learn the desk on a 90-second practice clip, one step at a time."}
      </p>
      <p className="flex flex-wrap items-baseline gap-5 pt-4">
        <button type="button" className="act" disabled={practise.isPending} onClick={() => practise.mutate(false)}>
          Start with the practice
        </button>
        {staff && (
          <>
            <Link className="quiet" to="/matches/new">
              Set up a match
            </Link>
            <Link className="quiet" to="/matches/several">
              Set up several clips at once
            </Link>
          </>
        )}
      </p>
      <p className="pt-4 text-slate">You can leave the practice at any time; you will find it again under Help.</p>
      <Problem error={practise.error} />
    </div>
  );
}

function Pages({ page, previous, next, turn }: { page: number; previous: boolean; next: boolean; turn: (page: number) => void }) {
  if (!previous && !next) return null;
  return (
    <div className="flex gap-6 border-t-2 border-rule py-4">
      {previous && (
        <button type="button" className="quiet" onClick={() => turn(page - 1)}>
          Previous page
        </button>
      )}
      {next && (
        <button type="button" className="quiet" onClick={() => turn(page + 1)}>
          Next page
        </button>
      )}
    </div>
  );
}

const WAITING = { not_scored: "not scored", to_submit: "second scores to submit", answered: "replies from athletes" } as const;

/** What waits for the coach, each a way to those matches. */
function Waiting({ state, ask }: { state: string | undefined; ask: (name: "state", value: string) => void }) {
  const waiting = useQuery({ queryKey: ["waiting"], queryFn: () => ok(api.GET("/api/waiting")), staleTime: 0 });
  const some = (Object.keys(WAITING) as (keyof typeof WAITING)[]).filter((name) => (waiting.data?.[name] ?? 0) > 0);
  const clips = waiting.data?.clips ?? 0;
  if (some.length === 0 && clips === 0) return null;
  return (
    <p className="mb-4 flex flex-wrap items-baseline gap-x-6 gap-y-1 border-l-4 border-amber-deep bg-sheet px-3 py-2">
      <b>Waiting for you</b>
      {some.map((name) => (
        <button
          key={name}
          type="button"
          aria-pressed={state === name}
          className={state === name ? "border-b-[3px] border-amber-deep font-semibold" : "quiet"}
          onClick={() => ask("state", state === name ? "" : name)}
        >
          {WAITING[name]}: {waiting.data?.[name]}
        </button>
      ))}
      {clips > 0 && (
        <Link className="quiet" to="/matches/several">
          clips without a match: {clips}
        </Link>
      )}
    </p>
  );
}

/** Search, filters, and the order of the list. */
function Narrow({ given, count, ask }: { given: Partial<Record<Name, string>>; count: number; ask: (name: Name, value: string) => void }) {
  const athletes = useAthletes().data ?? [];
  const rulesets = useRulesets().data ?? [];
  const choices: { name: Name; label: string; all: string; options: (readonly [string, string])[] }[] = [
    { name: "state", ...FILTERS.state, options: Object.entries(FILTERS.state.options) },
    { name: "result", ...FILTERS.result, options: Object.entries(FILTERS.result.options) },
    { name: "athlete", label: "Athlete", all: "Any athlete", options: athletes.map((one) => [String(one.id), one.name] as const) },
    { name: "ruleset", label: "Ruleset", all: "Any ruleset", options: rulesets.map((one) => [one.id, one.title] as const) },
  ];
  return (
    <div className="mb-4 flex flex-wrap items-center gap-x-3 gap-y-2">
      <input
        type="search"
        aria-label="Search matches"
        className="field w-56!"
        placeholder="Athlete, opponent or event"
        defaultValue={given.search}
        onChange={(event) => ask("search", event.target.value)}
      />
      {choices.map(({ name, label, all, options }) => (
        <select
          key={name}
          aria-label={label}
          className="field w-auto!"
          value={given[name] ?? ""}
          onChange={(event) => ask(name, event.target.value)}
        >
          <option value="">{all}</option>
          {options.map(([value, words]) => (
            <option key={value} value={value}>
              {words}
            </option>
          ))}
        </select>
      ))}
      <select
        aria-label="Order"
        className="field w-auto!"
        value={given.ordering ?? ""}
        onChange={(event) => ask("ordering", event.target.value)}
      >
        {Object.entries(ORDERS).map(([value, words]) => (
          <option key={value} value={value}>
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
  const staff = useMay("set_up");
  return (
    <li className="grid gap-x-6 gap-y-2 border-t-2 border-rule py-5 md:grid-cols-[112px_1fr_300px_170px]">
      <div className="hidden md:block">
        {match.poster && match.clip && <Poster clip={match.clip} className="h-[63px] w-28 bg-night object-cover" />}
        {!match.poster && match.clip_job && underWay(match.clip_job) && <ClipUnderWay job={match.clip_job} />}
      </div>
      <div>
        <h2 className="text-[22px] leading-snug font-semibold">
          {match.athlete_name} <span className="font-sans text-base font-normal text-slate">against</span> {match.opponent}
        </h2>
        <p className="text-slate">
          {[match.event, dayOf(match.date), match.round, match.mat && `mat ${match.mat}`, match.ruleset_title].filter(Boolean).join(" · ")}
          <br />
          {match.belt} belt, age {match.age}, {match.attire === "gi" ? "gi" : "no-gi"}
          {match.due && match.observed === 0 && <b className="block text-ink">To be scored by {dayOf(match.due)}</b>}
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
          {staff && match.observed > 0 && (
            <Link className="quiet" to={`/matches/${match.id}/review`}>
              Review
            </Link>
          )}
          {staff && <DeleteMatch match={match} />}
        </span>
      </div>
    </li>
  );
}

/** Stands where the picture of a clip will be, as long as the worker has the clip. */
function ClipUnderWay({ job }: { job: Job }) {
  const doing = job.kind === FILMING ? "Filming" : "Preparing";
  return (
    <div className="flex h-[63px] w-28 flex-col justify-center gap-1.5 bg-sheet px-2 text-[14px] text-slate">
      {job.state === "waiting" ? "Clip in line" : `${doing} ${Math.floor(job.progress * 100)}%`}
      <span className="flex">
        <Bar share={job.progress} name="Work on the clip" />
      </span>
    </div>
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
        {won ? " (winner)" : ""}
      </span>
    </div>
  );
}

function DeleteMatch({ match }: { match: MatchRow }) {
  const queries = useQueryClient();
  const remove = useMutation({
    mutationFn: () => ok(api.DELETE("/api/matches/{match}", { params: { path: { match: match.id } } })),
    onSuccess: () => Promise.all(["matches", "waiting", "unused-clips"].map((name) => queries.invalidateQueries({ queryKey: [name] }))),
  });
  const seconds = match.second_scores === 1 ? "the second score" : `the ${match.second_scores} second scores`;
  return (
    <Confirm trigger="Delete" title="Delete this match?" act="Delete the match" run={() => remove.mutate()} error={remove.error}>
      {match.athlete_name} against {match.opponent}, with its {match.observed} entries
      {match.second_scores > 0 && ` and ${seconds} of it`}. You can restore it for 30 days, under “Deleted matches”. The clip itself is
      kept.
    </Confirm>
  );
}
