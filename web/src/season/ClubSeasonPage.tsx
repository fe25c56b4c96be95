import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, type ClubKind, type ClubSeason, type Group, ok } from "../api/client";
import { PaperPage } from "../components/PaperPage";
import { Problem } from "../components/Problem";
import { dayOf, percent, matchesWords } from "../components/words";
import { Calibration } from "./Calibration";
import { Numbers, NumbersRow, Title } from "./parts";

const MONTHS = [
  { months: 3, name: "the last three months" },
  { months: 12, name: "the last twelve months" },
  { months: 0, name: "everything" },
];

/** The first day of so many months up to now; null: from the beginning. */
function sinceMonths(months: number): string | null {
  if (!months) return null;
  const day = new Date();
  day.setMonth(day.getMonth() - months);
  return day.toISOString().slice(0, 10);
}

/** The season of the club: what costs it most, who shares that, belts and ages, and what waits. */
export function ClubSeasonPage() {
  const [months, setMonths] = useState(12);
  const since = sinceMonths(months);
  const season = useQuery({
    queryKey: ["club-season", since],
    queryFn: () => ok(api.GET("/api/club/season", { params: { query: since ? { since } : {} } })),
    placeholderData: (before) => before,
  });
  return (
    <PaperPage
      title="The club’s season"
      aside={
        <label className="flex items-baseline gap-2">
          Matches of
          <select className="field w-56!" value={months} onChange={(event) => setMonths(Number(event.target.value))}>
            {MONTHS.map((one) => (
              <option key={one.months} value={one.months}>
                {one.name}
              </option>
            ))}
          </select>
        </label>
      }
    >
      <Ways />
      {season.isPending && <p className="text-slate">Adding up the season…</p>}
      <Problem error={season.error} />
      {season.data && <Shown found={season.data} />}
    </PaperPage>
  );
}

/** Where else one goes from here. */
function Ways() {
  const ways = [
    ["/drills", "Drills"],
    ["/days", "Event days"],
    ["/season/record", "Your record as a scorer"],
    ["/season/import", "Import matches"],
  ] as const;
  return (
    <nav aria-label="Season" className="flex flex-wrap gap-x-6 gap-y-1 pb-6">
      {ways.map(([to, name]) => (
        <Link key={to} className="quiet" to={to}>
          {name}
        </Link>
      ))}
      <a className="quiet" href="/api/club/season/tables" download>
        Export as tables (CSV)
      </a>
    </nav>
  );
}

function Shown({ found }: { found: ClubSeason }) {
  const { season } = found;
  return (
    <div className="flex flex-col gap-10">
      {found.working > 0 && (
        <p className="border-l-4 border-amber-deep pl-3">
          {found.working === 1 ? "1 match is" : `${found.working} matches are`} still being worked out and will count in a few minutes.
        </p>
      )}
      {season.kinds[0] ? <Theme kind={season.kinds[0]} found={found} /> : <p>No errors were found in this time.</p>}
      {season.kinds.length > 1 && (
        <section>
          <Title>What costs us most</Title>
          <ol>
            {season.kinds.slice(1).map((kind) => (
              <li key={`${kind.kind} ${kind.part}`} className="grid gap-x-6 border-b border-rule py-2 sm:grid-cols-[17rem_1fr]">
                <span className="font-semibold">{kind.name}</span>
                <span>
                  {costOf(kind)} <span className="text-slate">{namesOf(kind)}.</span>
                </span>
              </li>
            ))}
          </ol>
        </section>
      )}
      <Groups title="Belts" groups={season.belts} />
      <Groups title="Ages" groups={season.ages} />
      <div className="grid gap-x-12 gap-y-8 md:grid-cols-2">
        <Waiting title="Not scored yet" waiting={found.not_scored} pageOf={(match) => `/matches/${match}`} />
        <Waiting title="Not reviewed yet" waiting={found.not_reviewed} pageOf={(match) => `/matches/${match}/review`} />
      </div>
      <Calibration />
    </div>
  );
}

function costOf(kind: ClubKind): string {
  const often = `${kind.n} in ${matchesWords(kind.matches)}`;
  return kind.cost ? `${often}. Cost: ${kind.cost}.` : `${often}.`;
}

function namesOf(kind: ClubKind): string {
  const names = kind.shared.map((one) => `${one.name} (${one.n})`);
  const more = kind.athletes - kind.shared.length;
  return names.join(", ") + (more > 0 ? ` and ${more} more` : "");
}

/** What to drill tonight: what costs most, with whom it concerns and the drills that are for it. */
function Theme({ kind, found }: { kind: ClubKind; found: ClubSeason }) {
  const drills = useQuery({ queryKey: ["drills"], queryFn: () => ok(api.GET("/api/drills")) });
  const meant = [kind.kind, `${kind.kind}:${kind.part}`];
  const fitting = drills.data?.filter((one) => one.kinds.some((name) => meant.includes(name))) ?? [];
  return (
    <section className="border-l-4 border-amber-deep pl-5">
      <h2 className="font-serif text-2xl font-semibold">Tonight: {kind.name.toLowerCase()}</h2>
      <p className="py-1">
        It costs the club most: {costOf(kind)} <span className="text-slate">From {matchesWords(found.season.matches)}.</span>
      </p>
      <ul className="flex flex-wrap gap-x-5 gap-y-1 py-1">
        {kind.shared.map((one) => (
          <li key={one.id}>
            <Link className="quiet" to={`/athletes/${one.id}#errors`}>
              {one.name}, {one.n === 1 ? "once" : `${one.n} times`}
            </Link>
          </li>
        ))}
      </ul>
      {fitting.length > 0 ? (
        fitting.map((one) => (
          <p key={one.id}>
            <b>{one.name}</b>, {one.minutes} min. {one.about}
          </p>
        ))
      ) : (
        <p>
          No drill in the library is for it yet.{" "}
          <Link className="quiet" to="/drills">
            Add one.
          </Link>
        </p>
      )}
    </section>
  );
}

function Groups({ title, groups }: { title: string; groups: Group[] }) {
  if (!groups.length) return null;
  return (
    <section className="overflow-x-auto">
      <Title>{title}</Title>
      <Numbers head={["", "Athletes", "Matches", "Won", "Errors in ten minutes", "Costs most"]}>
        {groups.map((one) => (
          <NumbersRow
            key={one.name}
            cells={[
              one.name,
              one.athletes,
              one.matches,
              one.won.of ? `${one.won.done} of ${one.won.of} (${percent(one.won.low)} to ${percent(one.won.high)})` : "–",
              `${one.often.toFixed(1)} (${one.often_low.toFixed(1)} to ${one.often_high?.toFixed(1) ?? "?"})`,
              one.worst,
            ]}
          />
        ))}
      </Numbers>
      <p className="pt-1 text-slate">In brackets: where the true figure lies, nine times in ten.</p>
    </section>
  );
}

function Waiting({ title, waiting, pageOf }: { title: string; waiting: ClubSeason["not_scored"]; pageOf: (match: string) => string }) {
  return (
    <section>
      <Title>{title}</Title>
      {waiting.n === 0 ? (
        <p>Nothing waits.</p>
      ) : (
        <>
          <p className="pb-2">{waiting.athletes.map((one) => `${one.name} (${one.n})`).join(", ")}.</p>
          <ul>
            {waiting.first.map((one) => (
              <li key={one.id} className="border-b border-rule py-1">
                <Link className="quiet" to={pageOf(one.id)}>
                  {one.athlete} against {one.opponent}
                </Link>{" "}
                <span className="text-slate">{[one.event, dayOf(one.date)].filter(Boolean).join(", ")}</span>
              </li>
            ))}
          </ul>
          {waiting.n > waiting.first.length && <p className="pt-1 text-slate">And {waiting.n - waiting.first.length} more.</p>}
        </>
      )}
    </section>
  );
}
