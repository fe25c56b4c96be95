import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, type Clip, type Match, ok, type Part, type PositionName } from "../api/client";
import { Problem } from "../components/Problem";
import { clock, lengthOf, POSITION_WORDS } from "../components/words";
import { ClipPicker } from "../components/ClipPicker";
import { TOPLESS, TOPPED } from "./keys";
import { Sheet } from "./Sheet";
import type { Log } from "./useLog";

const TIME = "\\d{1,3}:[0-5]\\d";

/** Seconds of `m:ss`. */
function secondsOf(text: string): number {
  const [minutes = "0", seconds = "0"] = text.split(":");
  return Number(minutes) * 60 + Number(seconds);
}

/** The clips of a match in their places, and the state of a match whose footage begins in the middle. */
export function ClipsDialog({
  match,
  parts,
  log,
  open,
  setOpen,
}: {
  match: Match;
  parts: Part[];
  log: Log;
  open: boolean;
  setOpen: (open: boolean) => void;
}) {
  const queries = useQueryClient();
  const lay = useMutation({
    mutationFn: (next: Part[]) =>
      ok(
        api.PUT("/api/matches/{match}/parts", {
          params: { path: { match: match.id } },
          body: { parts: next.map(({ clip, start }) => ({ clip: clip.id, start })) },
        }),
      ),
    onSuccess: (laid) => queries.setQueryData(["match", match.id], laid),
  });
  const end = Math.max(0, ...parts.map((part) => part.start + lengthOf(part.clip)));
  const add = (clip: Clip | null) => clip && lay.mutate([...parts, { clip, start: Math.ceil(end) }]);
  return (
    <Sheet title="Clips of this match" width="middle" open={open} setOpen={setOpen}>
      <ul>
        {parts.map((part, index) => (
          <PartRow
            key={`${part.clip.id}-${part.start}`}
            part={part}
            move={(start) => lay.mutate(parts.map((one, at) => (at === index ? { ...one, start } : one)))}
            takeOut={() => lay.mutate(parts.filter((_, at) => at !== index))}
          />
        ))}
      </ul>
      <p className="py-2 text-slate">
        {parts.length
          ? "Another clip of the same match goes after the last; move it to leave a gap. What is logged keeps its time."
          : "This match has no clip yet."}
      </p>
      <ClipPicker clip={null} choose={add} />
      <Problem error={lay.error} />
      <Middle log={log} parts={parts} lay={(next) => lay.mutate(next)} done={() => setOpen(false)} />
    </Sheet>
  );
}

/** One clip of the match: how long it is and where in the footage it begins. */
function PartRow({ part, move, takeOut }: { part: Part; move: (start: number) => void; takeOut: () => void }) {
  return (
    <li className="border-b border-rule py-1.5">
      <form
        className="flex items-baseline gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          move(secondsOf(String(new FormData(event.currentTarget).get("start"))));
        }}
      >
        <b className="min-w-0 flex-1 truncate">{part.clip.name}</b>
        <span className="text-slate">{clock(lengthOf(part.clip))} long</span>
        <label className="flex items-baseline gap-2">
          begins at{" "}
          <input
            name="start"
            className="field w-20!"
            required
            pattern={TIME}
            title="Minutes and seconds, as 4:05"
            defaultValue={clock(part.start)}
          />
        </label>
        <button type="submit" className="quiet">
          Move
        </button>
        <button type="button" className="quiet" onClick={takeOut}>
          Take out
        </button>
      </form>
    </li>
  );
}

const TALLIES = ["points", "advantages", "penalties"] as const;

/**
 * A clip that begins in the middle of a match: what ran before it becomes a gap, with the
 * clock started at its beginning and the state logged where the clip begins.
 */
function Middle({ log, parts, lay, done }: { log: Log; parts: Part[]; lay: (next: Part[]) => void; done: () => void }) {
  const [place, setPlace] = useState("standing a");
  if (parts.length !== 1 || log.observations.length > 0) return null;
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    const run = secondsOf(String(form.get("run")));
    log.add({ t: 0, kind: "clock", action: "start" });
    const [position = "standing", top] = place.split(" ") as [PositionName, "a" | "b"];
    log.add({ t: run, kind: "position", position, ...(TOPLESS.includes(position) ? {} : { top }) });
    for (const to of ["a", "b"] as const) {
      const given = Object.fromEntries(
        TALLIES.flatMap((tally) => {
          const n = Number(form.get(`${tally}_${to}`));
          return n ? [[tally, n]] : [];
        }),
      );
      if (Object.keys(given).length) log.add({ t: run, kind: "ruling", to, note: "the score when the clip begins", ...given });
    }
    lay(parts.map((part) => ({ ...part, start: run })));
    done();
  };
  return (
    <details className="mt-4 border-t-2 border-rule pt-2">
      <summary className="font-semibold">The clip begins in the middle of the match</summary>
      <form onSubmit={submit} className="grid gap-3 pt-2 sm:grid-cols-2">
        <label>
          Run on the match clock by then{" "}
          <input name="run" className="field" required pattern={TIME} title="Minutes and seconds, as 2:30" placeholder="2:30" />
        </label>
        <label>
          Who was where
          <select className="field" value={place} onChange={(event) => setPlace(event.target.value)}>
            <PlaceOptions />
          </select>
        </label>
        {(["a", "b"] as const).map((side) => (
          <ScoreOf key={side} side={side} />
        ))}
        <button type="submit" className="act justify-self-start">
          Begin there
        </button>
      </form>
    </details>
  );
}

/** Every position with the side on top. */
function PlaceOptions() {
  return (
    <>
      {TOPLESS.map((position) => (
        <option key={position} value={`${position} a`}>
          {POSITION_WORDS[position]}
        </option>
      ))}
      {TOPPED.flatMap((position) =>
        (["a", "b"] as const).map((side) => (
          <option key={`${position}${side}`} value={`${position} ${side}`}>
            {POSITION_WORDS[position]}, {side === "a" ? "athlete" : "opponent"} on top
          </option>
        )),
      )}
    </>
  );
}

function ScoreOf({ side }: { side: "a" | "b" }) {
  return (
    <fieldset className="flex items-baseline gap-2">
      <legend className="pb-1">Score of the {side === "a" ? "athlete" : "opponent"}</legend>
      {TALLIES.map((tally) => (
        <label key={tally} className="text-[15px] text-slate">
          {tally} <input name={`${tally}_${side}`} type="number" min={tally === "points" ? -99 : 0} max={99} className="field w-16!" />
        </label>
      ))}
    </fieldset>
  );
}
