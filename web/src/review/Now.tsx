import type { Prospects, Spread } from "../api/client";
import { lastAt } from "../components/timeline";
import { clock, held, named, percent } from "../components/words";

/** The moment under the playhead: the chance to win, and what would still have been enough. */
export function Now({
  prospects,
  spread,
  danger,
  now,
  names,
  score,
}: {
  prospects: Prospects;
  spread: Spread | undefined;
  /** Whether nothing scores, so that only a finish wins. */
  danger: boolean;
  now: number;
  names: { athlete_name: string; opponent: string };
  /** Points at that moment, as "2–0". */
  score: string;
}) {
  const second = Math.max(
    0,
    lastAt(prospects.moments, now, (one) => one.clock),
  );
  const moment = prospects.moments[second];
  const window = prospects.windows.findLast((one) => one.clock <= now + 1e-6) ?? prospects.windows[0];
  if (!moment || !window) return null;
  const low = spread?.low[second];
  const high = spread?.high[second];
  return (
    <section aria-label="At this moment" className="border-t-2 border-rule pt-2" data-testid="now">
      <p className="flex flex-wrap items-baseline justify-between gap-x-4">
        <span>
          <b className="text-lg">{clock(now)}</b> {score}, {window.stands}
        </span>
        <span>
          <b className="text-lg">{percent(moment.win)}</b> {danger ? "to finish" : "to win"}
          {low !== undefined && high !== undefined && (
            <span className="text-slate">
              {" "}
              ({Math.round(low * 100)} to {Math.round(high * 100)})
            </span>
          )}
          {danger && (
            <>
              , <b className="text-lg">{percent(moment.lose)}</b> to be finished
            </>
          )}
        </span>
      </p>
      {window.ways.length > 0 && <Ways ways={window.ways} now={now} />}
      <p className="pt-1 text-[15px] text-slate">
        {window.ways.length > 0
          ? "The fastest ways to win or draw level, and the latest start for each. A submission is always enough."
          : window.stands.startsWith("ahead")
            ? "Ahead: protect the lead."
            : "Only a submission would have been enough."}
        {window.turns && ` ${named(window.turns, names)}`}
      </p>
    </section>
  );
}

/** The quickest ways that were enough at this moment, and until when each was. */
function Ways({ ways, now }: { ways: Prospects["windows"][number]["ways"]; now: number }) {
  const left = (way: { closes: number }) => way.closes - now;
  return (
    <ul className="mt-1">
      {ways.map((way) => (
        <li
          key={way.said}
          className={`flex items-baseline justify-between gap-x-3 border-b border-rule py-0.5 ${left(way) < 0 ? "text-slate" : ""}`}
        >
          <span className={left(way) < 0 ? "line-through" : ""}>{way.said}</span>
          <span className="shrink-0 text-right text-[15px] text-slate">
            {way.outcome === "levels" ? "levels" : way.worth}, takes {held(way.takes)};{" "}
            {left(way) < 0 ? "too late" : `start by ${clock(way.closes)}`}
          </span>
        </li>
      ))}
    </ul>
  );
}
