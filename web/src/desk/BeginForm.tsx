import { type FormEvent, useState } from "react";
import type { Match, PositionName, Side } from "../api/client";
import { POSITION_WORDS } from "../components/words";
import { TOPLESS, TOPPED } from "./keys";
import type { Playhead } from "./playhead";
import type { Log } from "./useLog";

const TIME = "\\d{1,3}:[0-5]\\d";
const TALLIES = ["points", "advantages", "penalties"] as const;
const SIDES = ["a", "b"] as const;

/** Seconds of `m:ss`. */
function secondsOf(text: string): number {
  const [minutes = "0", seconds = "0"] = text.split(":");
  return Number(minutes) * 60 + Number(seconds);
}

/** How much of a match has run when its clock shows `shown`: it counts down where the match has a length. */
export function runBy(shown: string, match: Pick<Match, "duration_ms">): number {
  const seconds = secondsOf(shown);
  return match.duration_ms === null ? seconds : Math.max(0, match.duration_ms / 1000 - seconds);
}

/** Footage that starts in the middle: the clock, the score and the position on the scoreboard in view, logged at the playhead. */
export function BeginForm({ match, log, playhead }: { match: Match; log: Log; playhead: Playhead }) {
  const [place, setPlace] = useState("standing");
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    const t = playhead.now();
    log.add({ t, kind: "begin", clock: runBy(String(form.get("clock")), match), score: scoreOf(form) });
    const [position, top] = place.split(" ") as [PositionName, Side | undefined];
    log.add({ t, kind: "position", position, ...(top ? { top } : {}) });
    if (form.get("running")) log.add({ t, kind: "clock", action: "start" });
  };
  return (
    <details className="mx-6 border-t border-seam pt-2 text-fog">
      <summary className="text-bone">Does the footage start partway through the match?</summary>
      <form onSubmit={submit} className="grid gap-2 pt-2">
        <label className="flex items-center justify-between gap-3">
          {match.duration_ms === null ? "Match time elapsed" : "Match time left"}
          <input
            name="clock"
            className="desk-field w-20"
            required
            pattern={TIME}
            title="Minutes and seconds, e.g. 2:30"
            placeholder="2:30"
          />
        </label>
        <label className="flex items-center justify-between gap-3">
          Position
          <select className="desk-field" value={place} onChange={(event) => setPlace(event.target.value)}>
            <Places match={match} />
          </select>
        </label>
        {SIDES.map((side) => (
          <Score key={side} side={side} name={side === "a" ? match.athlete_name : match.opponent} />
        ))}
        <label className="flex items-center gap-2">
          <input type="checkbox" name="running" defaultChecked className="h-5 w-5 accent-amber" />
          The clock is running here
        </label>
        <button type="submit" className="justify-self-start bg-amber px-3 py-1 font-bold text-night">
          Start from here
        </button>
      </form>
    </details>
  );
}

function scoreOf(form: FormData) {
  const of = (side: Side) => Object.fromEntries(TALLIES.map((tally) => [tally, Number(form.get(`${tally}_${side}`))]).filter(([, n]) => n));
  return { a: of("a"), b: of("b") };
}

/** Every position that a match can stand in, with the side on top. */
function Places({ match }: { match: Match }) {
  return (
    <>
      {TOPLESS.filter((position) => position !== "scramble").map((position) => (
        <option key={position} value={position}>
          {POSITION_WORDS[position]}
        </option>
      ))}
      {TOPPED.flatMap((position) =>
        SIDES.map((side) => (
          <option key={`${position}${side}`} value={`${position} ${side}`}>
            {POSITION_WORDS[position]}, {side === "a" ? match.athlete_name : match.opponent} on top
          </option>
        )),
      )}
    </>
  );
}

function Score({ side, name }: { side: Side; name: string }) {
  return (
    <fieldset className="flex items-center justify-between gap-2">
      <legend className="sr-only">Score of {name}</legend>
      <span className="truncate">{name}</span>
      <span className="flex gap-1">
        {TALLIES.map((tally) => (
          <input
            key={tally}
            name={`${tally}_${side}`}
            type="number"
            min={tally === "points" ? -99 : 0}
            max={99}
            placeholder={{ points: "pts", advantages: "adv", penalties: "pen" }[tally]}
            aria-label={`${name}: ${tally}`}
            className="desk-field w-16"
          />
        ))}
      </span>
    </fieldset>
  );
}
