import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, memo, useMemo, useState } from "react";
import { api, type Attention, type Match, ok, type Observation, type Prompt, type Verdict } from "../api/client";
import { describe, doubtOf } from "../components/describe";
import { Problem } from "../components/Problem";
import { clock, footage, named } from "../components/words";
import { useLetBe } from "./attention";
import { OfficialsCalls } from "./OfficialsCalls";
import type { Playhead } from "./playhead";
import type { Keyed } from "../api/client";

interface Props {
  match: Match;
  verdict: Verdict;
  observations: Keyed[];
  attention: Attention | undefined;
  playhead: Playhead;
  seek: (t: number) => void;
  choose: (key: string) => void;
  add: (body: Observation) => void;
}

/** Everything that wants another look, and why: unsure observations, prompts, warnings, the clock. */
export function LookAgain({ match, verdict, observations, attention, playhead, seek, choose, add }: Props) {
  const { letBe, dismiss } = useLetBe(match.id);
  const unsure = observations.filter((one) => one.sure === false);
  const prompts = useMemo(() => attention?.prompts.filter((prompt) => !letBe.has(prompt.key)) ?? [], [attention, letBe]);
  return (
    <section className="mx-3 mt-4 border-t border-seam pt-2 text-[15px]" aria-label="Worth checking">
      {(unsure.length > 0 || prompts.length > 0 || verdict.warnings.length > 0) && (
        <h2 className="pb-1 text-base font-semibold">Worth checking</h2>
      )}
      <ul className="flex flex-col gap-1.5">
        {unsure.map((one) => (
          <li key={one.id}>
            <button
              type="button"
              className="text-left hover:underline"
              onClick={() => {
                choose(one.id);
                seek(one.t);
              }}
            >
              <span className="text-fog">{footage(one.t)}</span> <b>{describe(one).text}</b>{" "}
              <span className="text-fog">unsure{doubtOf(one)}</span>
            </button>
          </li>
        ))}
        <Prompts prompts={prompts} match={match} seek={seek} add={add} dismiss={dismiss} />
        {verdict.warnings.map((warning) => (
          <li key={`${warning.reason}${warning.t}${warning.observations.join()}`}>
            <button type="button" className="text-left text-fog hover:text-bone" onClick={() => warning.t !== null && seek(warning.t)}>
              {named(warning.because, match)}
            </button>
          </li>
        ))}
      </ul>
      <Scoreboard match={match} checks={attention?.clock ?? []} playhead={playhead} seek={seek} />
      <OfficialsCalls match={match.id} />
    </section>
  );
}

const FEW = 4;

/** What may have been overlooked, the first few of it: never a wall of questions. A key changes none of them. */
const Prompts = memo(function Prompts({
  prompts,
  match,
  seek,
  add,
  dismiss,
}: {
  prompts: Prompt[];
  match: Match;
  seek: (t: number) => void;
  add: (body: Observation) => void;
  dismiss: (key: string) => void;
}) {
  const [all, setAll] = useState(false);
  return (
    <>
      {prompts.slice(0, all ? undefined : FEW).map((prompt) => (
        <li key={prompt.key} className="border-l-2 border-bone pl-2" data-testid="prompt">
          <button type="button" className="block text-left hover:underline" onClick={() => seek(prompt.t)}>
            {named(prompt.because, match)}
          </button>
          <span className="flex gap-4">
            {prompt.take && (
              <button
                type="button"
                className="quiet"
                onClick={() => {
                  seek(prompt.t);
                  if (prompt.take) add(prompt.take);
                  dismiss(prompt.key);
                }}
              >
                Log {describe(prompt.take).text.toLowerCase()}
              </button>
            )}
            <button type="button" className="quiet" onClick={() => dismiss(prompt.key)}>
              Ignore
            </button>
          </span>
        </li>
      ))}
      {prompts.length > FEW && (
        <li>
          <button type="button" className="quiet" onClick={() => setAll(!all)}>
            {all ? "Show fewer" : `${prompts.length - FEW} more`}
          </button>
        </li>
      )}
    </>
  );
});

/** Readings of the scoreboard in the clip, and whether the clock agrees with them. */
function Scoreboard({
  match,
  checks,
  playhead,
  seek,
}: {
  match: Match;
  checks: Attention["clock"];
  playhead: Playhead;
  seek: (t: number) => void;
}) {
  const queries = useQueryClient();
  const readings = match.readings ?? [];
  const save = useMutation({
    mutationFn: (next: typeof readings) =>
      ok(api.PATCH("/api/matches/{match}", { params: { path: { match: match.id } }, body: { readings: next } })),
    onSuccess: async () => {
      await queries.invalidateQueries({ queryKey: ["match", match.id], exact: true });
      await queries.invalidateQueries({ queryKey: ["attention", match.id] });
    },
  });
  return (
    <details className="mt-3" open={readings.length > 0}>
      <summary className="text-fog">Check the clock against the scoreboard</summary>
      <ul className="py-1">
        {readings.map((one, index) => (
          <li key={`${one.t}-${one.left}`} className="flex gap-3">
            <button type="button" className="hover:underline" onClick={() => seek(one.t)}>
              {footage(one.t)} showed {clock(one.left)} left
            </button>
            <button
              type="button"
              className="quiet"
              aria-label={`Remove the reading at ${footage(one.t)}`}
              onClick={() => save.mutate(readings.filter((_, at) => at !== index))}
            >
              remove
            </button>
          </li>
        ))}
        {checks.map((check) => (
          <li
            key={`${check.start}-${check.end}`}
            className={check.finding === "agrees" ? "text-fog" : "font-semibold"}
            data-testid="clock-check"
          >
            {check.because}
          </li>
        ))}
      </ul>
      <NewReading add={(left) => save.mutate([...readings, { t: playhead.now(), left }])} />
      <Problem dark error={save.error} />
    </details>
  );
}

/** What the scoreboard shows at the playhead. */
function NewReading({ add }: { add: (left: number) => void }) {
  const [shown, setShown] = useState("");
  const read = (event: FormEvent) => {
    event.preventDefault();
    const [minutes = "", seconds = ""] = shown.split(":");
    add(Number(minutes) * 60 + Number(seconds));
    setShown("");
  };
  return (
    <form onSubmit={read} className="flex items-center gap-2">
      <label className="flex items-center gap-2">
        <span className="text-fog">Time left on the scoreboard now</span>
        <input
          className="desk-field w-16"
          required
          pattern="\d{1,2}:[0-5]\d"
          title="Minutes and seconds, e.g. 4:05"
          placeholder="4:05"
          value={shown}
          onChange={(event) => setShown(event.target.value)}
        />
      </label>
      <button type="submit" className="quiet">
        Add
      </button>
    </form>
  );
}
