import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { Link, useParams } from "react-router";
import { api, ok, type OfMove, type Season, type SeasonFigures, type Tried } from "../api/client";
import { PaperPage } from "../components/PaperPage";
import { Problem } from "../components/Problem";
import { clock, dayOf, percent } from "../components/words";
import { Behind } from "./Moments";
import { changeWords, MOVE_NAMES, shareWords } from "./words";

type Ask = (id: number, query: { split?: string }) => Promise<Season>;

/** The season of an athlete, for the coaches. */
export function SeasonPage() {
  const ask: Ask = (id, query) => ok(api.GET("/api/athletes/{id}/season", { params: { path: { id }, query } }));
  return (
    <OneSeason whose="an athlete" ask={ask} pageOf={(match) => `/matches/${match}/review`}>
      <Link className="quiet" to="/matches/new">
        Set up the first one.
      </Link>
    </OneSeason>
  );
}

/** One's own season, or one's child's: without footage, and with the errors of the reports that were sent. */
export function OwnSeasonPage() {
  const ask: Ask = (athlete, query) => ok(api.GET("/api/own/athletes/{athlete}/season", { params: { path: { athlete }, query } }));
  return <OneSeason whose="own" ask={ask} />;
}

function OneSeason({
  whose,
  ask,
  pageOf,
  children,
}: {
  whose: string;
  ask: Ask;
  pageOf?: (match: string) => string;
  children?: ReactNode;
}) {
  const { id = "" } = useParams();
  const [split, setSplit] = useState("");
  const season = useQuery({
    queryKey: ["season", whose, id, split],
    queryFn: () => ask(Number(id), split ? { split } : {}),
    placeholderData: (before) => before,
  });
  if (!season.data) {
    return (
      <PaperPage title="The season">
        {season.isPending && <p className="text-slate">Adding up the season…</p>}
        <Problem error={season.error} />
      </PaperPage>
    );
  }
  const { athlete, played, season: found } = season.data;
  return (
    <PaperPage title={athlete.name} aside={<p className="text-slate">{athlete.belt} belt</p>}>
      <Problem error={season.error} />
      {found.matches === 0 ? (
        <p>No matches yet. {children}</p>
      ) : (
        <div className="flex flex-col gap-10">
          <Played played={played} found={found} pageOf={pageOf} />
          <Works found={found} played={played} />
          <ComesBack found={found} played={played} split={split} setSplit={setSplit}>
            {whose === "own" ? "Errors of the matches with a report," : "Errors of all matches,"} what cost most on the sheet first.
          </ComesBack>
          <Times found={found} />
        </div>
      )}
    </PaperPage>
  );
}

function Title({ children }: { children: string }) {
  return <h2 className="mb-2 border-b-2 border-rule pb-1 font-serif text-2xl font-semibold">{children}</h2>;
}

function Played({
  played,
  found,
  pageOf,
}: {
  played: Season["played"];
  found: SeasonFigures;
  pageOf: ((match: string) => string) | undefined;
}) {
  const counts = found.record.map(({ ruleset, counts }) => {
    const said = ["won", "lost", "drawn"].filter((one) => counts[one]).map((one) => `${counts[one]} ${one}`);
    return `${ruleset}: ${said.join(", ") || "none decided"}`;
  });
  return (
    <section>
      <Title>Matches</Title>
      <p className="pb-2">
        {counts.join(". ")}.{found.unscored > 0 && ` ${found.unscored} not scored yet: they count nowhere below.`}
      </p>
      <ol className="max-h-80 overflow-auto">
        {played.map((one) => (
          <li
            key={one.id}
            className="grid grid-cols-[1fr_auto] items-baseline gap-x-4 sm:grid-cols-[7rem_1fr_auto] border-b border-rule py-1"
          >
            <span className="text-slate max-sm:col-span-2">{dayOf(one.date)}</span>
            <span>
              {pageOf ? (
                <Link className="quiet" to={pageOf(one.id)}>
                  against {one.opponent}
                </Link>
              ) : (
                `against ${one.opponent}`
              )}{" "}
              <span className="text-slate">{[one.event, one.ruleset, `${one.belt} belt`].filter(Boolean).join(", ")}</span>
            </span>
            <span className="text-right">
              {one.score && `${one.score.a.points}–${one.score.b.points} `}
              <b>{one.result || "not over"}</b>
            </span>
          </li>
        ))}
      </ol>
    </section>
  );
}

function Works({ found, played }: { found: SeasonFigures; played: Season["played"] }) {
  const tried = found.moves.filter((one) => one.whole.share.of > 0);
  return (
    <section>
      <Title>What works</Title>
      <p className="pb-3 text-slate">
        How much of what was tried worked. The bar shows where the true share lies, nine times in ten: a short bar is a sure figure.{" "}
        {played.some((one) => one.parts.length > 0) && "Click a number to watch what is behind it."}
      </p>
      <div className="grid gap-x-12 gap-y-6 lg:grid-cols-2">
        {(["a", "b"] as const).map((by) => (
          <div key={by}>
            <h3 className="font-semibold">{by === "a" ? "By the athlete" : "By the opponents"}</h3>
            {tried
              .filter((one) => one.by === by)
              .map((one) => (
                <OneMove key={one.move} one={one} played={played} />
              ))}
          </div>
        ))}
      </div>
    </section>
  );
}

function OneMove({ one, played }: { one: OfMove; played: Season["played"] }) {
  const name = MOVE_NAMES[one.move];
  return (
    <div className="border-b border-rule py-2">
      <Row name={name} tried={one.whole} played={played} side={one.by} strong />
      {one.whole.towards && (
        <p className="text-slate">
          With so few, and the club as it is: about {percent(one.whole.towards.estimate)}, between {percent(one.whole.towards.low)} and{" "}
          {percent(one.whole.towards.high)}.
        </p>
      )}
      {one.techniques.length + one.places.length > 0 && (
        <details>
          <summary className="cursor-pointer text-slate">by technique, and from where</summary>
          {one.techniques.map((tried) => (
            <Row key={tried.name} name={tried.name} tried={tried} played={played} side={one.by} />
          ))}
          {one.places.map((tried) => (
            <Row key={tried.name} name={`from ${tried.name.replaceAll("_", " ")}`} tried={tried} played={played} side={one.by} />
          ))}
        </details>
      )}
    </div>
  );
}

function Row({
  name,
  tried,
  played,
  side,
  strong = false,
}: {
  name: string;
  tried: Tried;
  played: Season["played"];
  side: OfMove["by"];
  strong?: boolean;
}) {
  const { share } = tried;
  const colour = side === "a" ? "bg-amber" : "bg-sea";
  return (
    <div className="grid grid-cols-[1fr_auto] items-center gap-x-4 py-0.5 sm:grid-cols-[11rem_1fr_auto]">
      <span className={strong ? "font-semibold" : "pl-4"}>{name}</span>
      <span
        className="relative h-3 bg-rule max-sm:order-last max-sm:col-span-2"
        role="img"
        aria-label={shareWords(share)}
        title={shareWords(share)}
      >
        <span className={`absolute inset-y-0 ${colour}`} style={{ left: percent(share.low), right: percent(1 - share.high) }} />
        <span className="absolute inset-y-[-3px] w-0.5 bg-ink" style={{ left: percent(share.estimate) }} />
      </span>
      <span className="w-40 text-right">
        <Behind words={`${share.done} worked`} title={`${name} that worked`} moments={tried.done} played={played} />,{" "}
        <Behind words={`${share.of - share.done} not`} title={`${name} that did not`} moments={tried.failed} played={played} />
      </span>
    </div>
  );
}

function ComesBack({
  found,
  played,
  split,
  setSplit,
  children,
}: {
  found: SeasonFigures;
  played: Season["played"];
  split: string;
  setSplit: (day: string) => void;
  /** Of which matches the errors are. */
  children: ReactNode;
}) {
  return (
    <section>
      <Title>What comes back</Title>
      <p className="flex flex-wrap items-baseline gap-x-6 pb-3 text-slate">
        <span>{children}</span>
        <label className="flex items-baseline gap-2">
          Before and since
          <input
            type="date"
            className="field w-44!"
            value={split || (found.split ?? "")}
            onChange={(event) => setSplit(event.target.value)}
          />
        </label>
      </p>
      {found.kinds.length === 0 && <p>No errors were found yet.</p>}
      <ul>
        {found.kinds.map((row) => (
          <li key={row.kind} className="grid gap-x-6 border-b border-rule py-2 sm:grid-cols-[17rem_1fr_auto]">
            <span className="font-semibold">{row.name}</span>
            <span>{changeWords(row.change, found.split)}.</span>
            <span className="text-right">
              {row.points > 0 && `${row.points} ${row.points === 1 ? "point" : "points"}, `}
              <Behind
                words={`${row.n} in ${row.matches} ${row.matches === 1 ? "match" : "matches"}`}
                title={row.name}
                moments={row.moments}
                played={played}
              />
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

const THIRDS = ["First third", "Middle third", "Last third"];
const STATES = { ahead: "While ahead", level: "While level", behind: "While behind" };

/** Where the time goes, and the points in each part of a match. */
function Times({ found }: { found: SeasonFigures }) {
  const share = (part: number) => (found.length ? percent(part / found.length) : "–");
  const parts = [
    ...found.thirds.map((part, number) => ({ ...part, name: THIRDS[number] ?? "" })),
    ...found.states.map((part) => ({ ...part, name: STATES[part.state] })),
  ];
  return (
    <section>
      <Title>Where the time goes</Title>
      <p className="pb-3">
        {clock(found.length)} of match time: {share(found.top)} on top, {share(found.below)} below, {share(found.feet)} on the feet or with
        no one on top.
      </p>
      <table className="w-full max-w-2xl">
        <thead>
          <tr className="border-b border-rule text-left">
            <th className="font-semibold">Part</th>
            <th className="text-right font-semibold">Time</th>
            <th className="text-right font-semibold">Points for</th>
            <th className="text-right font-semibold">Points against</th>
          </tr>
        </thead>
        <tbody>
          {parts.map((part) => (
            <tr key={part.name} className="border-b border-rule">
              <td>{part.name}</td>
              <td className="text-right">{clock(part.lasted)}</td>
              <td className="text-right">{part.points_a}</td>
              <td className="text-right">{part.points_b}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
