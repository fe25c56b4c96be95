import type { Review } from "../api/client";
import { clock, firstOf } from "../components/words";

/** What one try at a move is called, and several. */
const TRIES: Record<string, [string, string]> = {
  takedown: ["takedown", "takedowns"],
  sweep: ["sweep", "sweeps"],
  guard_pass: ["guard pass", "guard passes"],
  back: ["back take", "back takes"],
  escape: ["escape", "escapes"],
  submission: ["submission", "submissions"],
};

/** How many of the opponent's tries at each move came to nothing, when, and under which own grip. */
export function Stopped({ stopped, show }: { stopped: Review["stopped"]; show: ((t: number, end?: number) => void) | null }) {
  const some = stopped.filter((one) => one.stopped > 0);
  if (some.length === 0) return null;
  return (
    <section aria-label="Stopped" className="mb-5 border-l-4 border-sea-deep pl-4">
      <h2 className="font-serif text-xl font-semibold">Stopped</h2>
      <ul>
        {some.map((one) => (
          <li key={one.move} className="py-0.5">
            {one.stopped} of {one.tried} {TRIES[one.move]?.[one.tried === 1 ? 0 : 1] ?? one.move}
            {one.under.length > 0 && `, ${one.under.map((each) => `${each.times} with the ${each.grip} on`).join(", ")}`}
            {one.moments.map((moment) => (
              <Moment key={moment.start} moment={moment} show={show} />
            ))}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What of the plan was tried, when, and whether it came off. */
export function PlannedTries({ planned, show }: { planned: Review["planned"]; show: ((t: number, end?: number) => void) | null }) {
  return (
    <ul>
      {planned.map(({ what, tries }) => (
        <li key={what} className="text-[15px]">
          {what.charAt(0).toUpperCase() + what.slice(1)}: {triedSaid(tries)}
          {tries.map((one) => (
            <Moment key={one.start} moment={one} show={show} />
          ))}
        </li>
      ))}
    </ul>
  );
}

function triedSaid(tries: { done: boolean }[]): string {
  if (tries.length === 0) return "not tried";
  const done = tries.filter((one) => one.done).length;
  if (tries.length === 1) return done ? "tried once, worked" : "tried once, did not work";
  return `tried ${tries.length} times, ${done === 0 ? "none worked" : `${done} worked`}`;
}

function Moment({
  moment,
  show,
}: {
  moment: { clock: number; start: number; end: number };
  show: ((t: number, end?: number) => void) | null;
}) {
  if (!show) return <span className="ml-2 text-slate">{clock(moment.clock)}</span>;
  return (
    <button type="button" className="quiet ml-2 text-[15px]" onClick={() => show(moment.start, moment.end)}>
      <span className="sr-only">Play </span>
      {clock(moment.clock)}
    </button>
  );
}

const ROWS = [
  ["near", "Near scores and close submissions"],
  ["submissions", "Submissions tried"],
  ["attacking", "Time attacking"],
  ["on_top", "Time on top past the guard"],
] as const;

/** What referees are asked to weigh, for both sides next to each other: the match, and its last minute. */
export function Weighed({ review }: { review: Review }) {
  const { decision, match } = review;
  const said = (name: (typeof ROWS)[number][0], n: number) => (name === "attacking" || name === "on_top" ? clock(n) : n);
  return (
    <details className="my-5">
      <summary className="quiet">If it goes to the referees</summary>
      <table className="mt-2 w-full text-[15px]">
        <thead>
          <tr className="border-b-2 border-rule text-left">
            <th className="py-1 font-semibold">What is weighed</th>
            <th className="w-24 font-semibold">{firstOf(match.athlete_name)}</th>
            <th className="w-24 font-semibold">{firstOf(match.opponent)}</th>
            <th className="w-40 font-semibold">last minute</th>
          </tr>
        </thead>
        <tbody>
          {ROWS.map(([name, label]) => (
            <tr key={name} className="border-b border-rule">
              <td className="py-1">{label}</td>
              <td>{said(name, decision[name].a)}</td>
              <td>{said(name, decision[name].b)}</td>
              <td>
                {said(name, decision.last_minute[name].a)} to {said(name, decision.last_minute[name].b)}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {decision.said && <p className="pt-1">{decision.said}</p>}
      <p className="pt-1 text-[15px] text-slate">The referees decide; this only counts what was logged.</p>
    </details>
  );
}
