import type { ReactNode } from "react";
import type { Verdict } from "../api/client";
import { clockAt } from "../components/clockAt";
import { clock, footage } from "../components/words";
import { type Playhead, usePlayhead } from "./playhead";

export const RATES = [0.1, 0.25, 0.5, 1, 1.5, 2];

/** Play, step, speed and where we are: footage time, match clock, time left. */
export function Transport({ playhead, verdict, length, logEnd }: { playhead: Playhead; verdict: Verdict; length: number; logEnd: number }) {
  const t = usePlayhead(playhead, (one) => one.t);
  const playing = usePlayhead(playhead, (one) => one.playing);
  const rate = usePlayhead(playhead, (one) => one.rate);
  const now = clockAt(verdict, t);
  const end = playhead.duration ?? Math.max(length * 1.5, t + 30, logEnd + 30);
  return (
    <div className="bg-deck px-3 pt-1.5 pb-1">
      <div className="relative h-4">
        {verdict.exchanges.map((exchange) => (
          <span key={`${exchange.start}`} aria-hidden className={`absolute top-0 h-1.5 w-0.5 ${exchange.last.top === "a" ? "bg-amber" : exchange.last.top === "b" ? "bg-sea" : "bg-fog"}`}
            style={{ left: `${(exchange.start / end) * 100}%` }} />
        ))}
        <input type="range" aria-label="Time in the footage" aria-valuetext={footage(t)} min={0} max={end} step={0.04} value={Math.min(t, end)}
          className="absolute inset-0 w-full accent-amber" onKeyDown={(event) => event.preventDefault()}
          onChange={(event) => playhead.seek(Number(event.target.value))} />
      </div>
      <div className="flex items-center gap-1.5 pt-1">
        <Act name="One second back" press={() => playhead.nudge(-1)}>−1 s</Act>
        <Act name="One frame back" press={() => playhead.step(-1)}>−1 f</Act>
        <button type="button" onClick={playhead.toggle} className="w-20 bg-amber py-1 font-bold text-night">{playing ? "Pause" : "Play"}</button>
        <Act name="One frame on" press={() => playhead.step(1)}>+1 f</Act>
        <Act name="One second on" press={() => playhead.nudge(1)}>+1 s</Act>
        <label className="ml-2 flex items-center gap-1.5 text-fog">
          <span className="max-xl:sr-only">Speed</span>
          <select className="desk-field" value={rate} onChange={(event) => playhead.setRate(Number(event.target.value))}>
            {RATES.map((one) => <option key={one} value={one}>{one}×</option>)}
          </select>
        </label>
        <span className="ml-auto flex items-baseline gap-4 whitespace-nowrap">
          <span className="text-fog"><span className="max-xl:sr-only">footage</span> <b className="text-bone" data-testid="footage-time">{footage(t)}</b></span>
          <span className="text-fog">
            {now ? (now.running ? "clock" : "clock stopped") : "clock not started"}{" "}
            {now && <b className="text-xl text-bone" data-testid="match-clock">{clock(now.clock)}</b>}
          </span>
          {now && <span className="text-fog">left <b className="text-bone">{clock(Math.max(0, length - now.clock))}</b></span>}
        </span>
      </div>
    </div>
  );
}

function Act({ name, press, children }: { name: string; press: () => void; children: ReactNode }) {
  return (
    <button type="button" aria-label={name} title={name} onClick={press} className="border border-seam px-2 py-1 whitespace-nowrap text-bone hover:bg-rail">
      {children}
    </button>
  );
}
