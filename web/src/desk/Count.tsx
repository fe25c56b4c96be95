import type { Match, Side, Verdict } from "../api/client";
import words from "../api/words.json";
import { claimWords, held, named } from "../components/words";
import { type Playhead, usePlayhead } from "./playhead";

type Counted = Verdict["counts"][number];

const LINGER = 0.8;

interface Shown {
  count: Counted;
  held: number;
  state: "filling" | "waiting" | "full" | "ended";
}

/** What a claim's count shows at a moment of the footage, or null where it is not on. */
function at(count: Counted, t: number): Shown | null {
  const open = count.outcome === "open";
  if (t < count.since || (!open && t > count.ended + LINGER)) return null;
  if (!open && t > count.ended) {
    const last = count.counted.at(-1);
    return {
      count,
      held: last ? (last[1] ?? 0) - (last[0] ?? 0) : 0,
      state: count.outcome === "paid" ? "full" : "ended",
    };
  }
  if (open && count.counting_from !== null && t >= count.counting_from) {
    const long = t - count.counting_from;
    return { count, held: Math.min(long, count.needed), state: long >= count.needed ? "full" : "filling" };
  }
  const span = count.counted.find(([start = 0, end = 0]) => t >= start && t <= end);
  if (!span) return { count, held: 0, state: "waiting" };
  const long = t - (span[0] ?? 0);
  return { count, held: Math.min(long, count.needed), state: long >= count.needed ? "full" : "filling" };
}

/** So long after it fell what was given is said on the picture, in seconds of footage. */
const SAID = 4;

/** What was given in the last moments before `t`, and what has been held long enough and waits for the next entry. */
function givenAt(verdict: Verdict, t: number): { to: Side; text: string }[] {
  const given = verdict.ledger.filter((row) => t >= row.t && t < row.t + SAID).map((row) => ({ to: row.to, text: row.because }));
  const full = verdict.counts.filter(({ outcome, counting_from, needed, worth }) => {
    const due = outcome === "open" && worth !== "nothing" && counting_from !== null ? counting_from + needed : Infinity;
    return t >= due && t < due + SAID;
  });
  const name = { a: words.people.a, b: words.people.b };
  return [...given, ...full.map((one) => ({ to: one.to, text: `${claimWords(one.claim)}: ${name[one.to]} held it: ${one.worth}.` }))];
}

/** The three seconds of every running claim, filling at the playhead, and the sentence of what has just been given. */
export function Counts({ verdict, match, playhead }: { verdict: Verdict; match: Match; playhead: Playhead }) {
  const t = usePlayhead(playhead, (one) => one.t);
  const given = givenAt(verdict, t);
  const shown = verdict.counts
    .filter((count) => count.worth !== "nothing")
    .map((count) => at(count, t))
    .filter((one) => one !== null);
  return (
    <div className="pointer-events-none absolute bottom-2 left-2 flex w-72 flex-col gap-1.5" aria-live="off">
      {given.map((one) => (
        <p
          key={one.text}
          data-testid="given"
          className={`w-96 max-w-[90vw] border-l-4 bg-night/85 px-2 py-1 leading-snug font-semibold text-bone ${one.to === "a" ? "border-amber" : "border-sea"}`}
        >
          {named(one.text, match)}
        </p>
      ))}
      {shown.map((one) => (
        <Bar key={`${one.count.claim}${one.count.to}${one.count.since}`} {...one} />
      ))}
    </div>
  );
}

function Bar({ count, held: long, state }: Shown) {
  const colour = count.to === "a" ? "bg-amber" : "bg-sea";
  const share = count.needed > 0 ? Math.min(1, long / count.needed) : 1;
  const seconds = Math.max(1, Math.round(count.needed));
  const word = {
    filling: `of ${held(count.needed)}`,
    waiting: "on hold",
    full: `held: ${count.worth}`,
    ended: "not held",
  }[state];
  return (
    <div className="bg-night/85 px-2 py-1 text-bone" data-testid="count">
      <div className="flex items-baseline justify-between text-[15px]">
        <span className="font-semibold">{claimWords(count.claim)}</span>
        <span>
          <b>{held(long)}</b> {word}
        </span>
      </div>
      <div className={`relative mt-0.5 h-3 bg-seam ${state === "waiting" ? "hatched" : ""}`}>
        <span className={`absolute inset-y-0 left-0 ${colour}`} style={{ width: `${share * 100}%` }} />
        {Array.from({ length: seconds - 1 }, (_, second) => (
          <span key={second} className="absolute inset-y-0 w-0.5 bg-night" style={{ left: `${((second + 1) / seconds) * 100}%` }} />
        ))}
      </div>
    </div>
  );
}
