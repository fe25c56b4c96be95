import type { Review } from "../api/client";
import { clock, firstOf } from "../components/words";

/** What several tries of a move are called. */
const TRIES: Record<string, string> = {
  takedown: "takedowns",
  sweep: "sweeps",
  guard_pass: "guard passes",
  back: "back takes",
  escape: "escapes",
  submission: "submissions",
};

/** How many of the opponent's tries at each move came to nothing. */
export function Stopped({ stopped }: { stopped: Review["stopped"] }) {
  const some = stopped.filter((one) => one.stopped > 0);
  if (some.length === 0) return null;
  return (
    <p className="mb-5 border-l-4 border-sea-deep pl-4">
      <b>Stopped:</b> {some.map((one) => `${one.stopped} of ${one.tried} ${TRIES[one.move] ?? one.move}`).join(", ")}.
    </p>
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
      <p className="pt-1 text-[15px] text-slate">The referees decide; this only counts what was logged.</p>
    </details>
  );
}
