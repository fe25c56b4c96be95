import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { Link } from "react-router";
import { api, type Clip, type Desk as DeskData, type Observation, ok, type Verdict } from "../api/client";
import { exchangeAt } from "../components/clockAt";
import { Problem } from "../components/Problem";
import { ScoreHead } from "../components/ScoreHead";
import { Spine } from "../components/Spine";
import { Composer, type Draft } from "./Composer";
import { Counts } from "./Count";
import { startOf, valuesOf } from "./forms";
import { type Command, commandOf } from "./keys";
import { Legend } from "./Legend";
import { Pad } from "./Pad";
import { Playhead, usePlayhead } from "./playhead";
import { SaveLine } from "./SaveLine";
import { Stage } from "./Stage";
import { RATES, Transport } from "./Transport";
import { type Keyed, useLog } from "./useLog";

const REPLAY_BEFORE = 4;
const REPLAY_RATE = 0.5;

/** The last moment up to `t` at which something changed: an observation, an award, a count that ran full. */
function changedAt(verdict: Verdict, observations: Observation[], t: number): number {
  let last = 0;
  const take = (moment: number) => {
    if (moment <= t + 0.0005 && moment > last) last = moment;
  };
  for (const seen of observations) take(seen.t);
  for (const row of verdict.ledger) take(row.t);
  for (const count of verdict.counts) if (count.counting_from !== null) take(count.counting_from + count.needed);
  return last;
}

export function Desk({ desk }: { desk: DeskData }) {
  const { match, verdict } = desk;
  const log = useLog(desk);
  const queries = useQueryClient();
  const { observations } = log;
  const [playhead] = useState(() => new Playhead(desk.clip?.fps ?? undefined, desk.clip?.duration_ms ? desk.clip.duration_ms / 1000 : null));
  const [draft, setDraft] = useState<Draft | null>(null);
  const [help, setHelp] = useState(false);
  const [chosen, setChosen] = useState<string | null>(null);
  const logEnd = observations.at(-1)?.t ?? 0;

  const techniques = useQuery({
    queryKey: ["techniques", match.age, match.belt, match.attire, match.ruleset],
    queryFn: () =>
      ok(api.GET("/api/techniques", {
        params: { query: { age: match.age, belt: match.belt, attire: match.attire, ruleset: typeof match.ruleset === "string" ? match.ruleset : JSON.stringify(match.ruleset) } },
      })),
    staleTime: Infinity,
  });
  const stamp = usePlayhead(playhead, (one) => changedAt(verdict, desk.observations, one.t));
  const current = usePlayhead(playhead, (one) => exchangeAt(verdict, one.t));
  const revision = queries.getQueryState(["match", match.id])?.dataUpdatedAt;
  const outlook = useQuery({
    queryKey: ["outlook", match.id, stamp, revision],
    queryFn: () => ok(api.GET("/api/matches/{match}/outlook", { params: { path: { match: match.id }, query: { t: stamp } } })),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
  });

  const attach = useMutation({
    mutationFn: (clip: Clip | null) => ok(api.PATCH("/api/matches/{match}", { params: { path: { match: match.id } }, body: { clip: clip?.id ?? null } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ["match", match.id] }).then(() => window.location.reload()),
  });

  const { add, put, remove, undo, redo } = log;
  const latest = useRef({ observations, chosen, outlook: outlook.data });
  useEffect(() => {
    latest.current = { observations, chosen, outlook: outlook.data };
  }, [observations, chosen, outlook.data]);

  const compose = useCallback(
    (kind: Observation["kind"], side: "a" | "b") => {
      playhead.pause();
      setDraft({ kind, t: playhead.now(), values: startOf(kind, side), key: null });
    },
    [playhead],
  );
  const edit = useCallback((seen: Keyed) => setDraft({ kind: seen.kind, t: seen.t, values: valuesOf(seen), key: seen.id }), []);

  const run = useCallback(
    (command: Command) => {
      const t = playhead.now();
      const { observations: all, chosen: picked, outlook: now } = latest.current;
      switch (command.do) {
        case "position":
          setChosen(add({ t, kind: "position", position: command.position, ...(command.top ? { top: command.top } : {}) }));
          break;
        case "pull":
          setChosen(add({ t, kind: "pull", by: command.by, ...(command.caught ? { caught: true } : {}) }));
          break;
        case "clock":
          if (now?.running) setChosen(add({ t, kind: "clock", action: "stop" }));
          else setChosen(add({ t, kind: "clock", action: "start", ...(now?.started ? { restart: command.restart } : {}) }));
          break;
        case "compose":
          compose(command.kind, command.side);
          break;
        case "let_go": {
          const on = all.filter((one) => (one.kind === "submission" || one.kind === "grip") && one.t <= t).at(-1);
          if (on) put({ ...on, until: t } as Keyed);
          break;
        }
        case "unsure": {
          const last = all.find((one) => one.id === picked) ?? all.filter((one) => one.t <= t).at(-1);
          if (last) put({ ...last, sure: last.sure === false });
          break;
        }
        case "undo":
          undo();
          break;
        case "redo":
          redo();
          break;
        case "delete":
          if (picked) remove(picked);
          setChosen(null);
          break;
        case "help":
          setHelp(true);
          break;
        case "play":
          playhead.toggle();
          break;
        case "step":
          playhead.step(command.frames);
          break;
        case "nudge":
          playhead.nudge(command.seconds);
          break;
        case "rate": {
          const at = RATES.indexOf(playhead.rate);
          playhead.setRate(RATES[Math.max(0, Math.min(RATES.length - 1, at + command.by))] ?? 1);
          break;
        }
        case "replay": {
          const last = all.filter((one) => one.t <= t + 0.001).at(-1);
          playhead.setRate(REPLAY_RATE);
          playhead.seek(Math.max(0, (last?.t ?? t) - REPLAY_BEFORE));
          playhead.play();
          break;
        }
      }
    },
    [add, compose, playhead, put, redo, remove, undo],
  );

  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      if (draft || help || target.closest("input:not([type=range]), select, textarea, [role=dialog]")) return;
      // A focused button keeps Enter and Space for itself.
      if (target.closest("button, a") && (event.key === "Enter" || event.key === " ")) return;
      const command = commandOf(event);
      if (!command || (event.repeat && command.do !== "step" && command.do !== "nudge")) return;
      event.preventDefault();
      run(command);
    };
    window.addEventListener("keydown", pressed);
    return () => window.removeEventListener("keydown", pressed);
  }, [draft, help, run]);

  const pastLog = usePlayhead(playhead, (one) => one.t >= logEnd);
  const score = pastLog && outlook.data && outlook.data.t >= logEnd ? outlook.data.score : verdict.score;
  const told = useMemo(() => verdict.because.replaceAll("The athlete", match.athlete_name).replaceAll("The opponent", match.opponent), [verdict.because, match]);
  const seek = useCallback((t: number) => playhead.seek(t), [playhead]);

  return (
    // A button that was clicked gives the keys back to the desk; one reached with Tab keeps them.
    <div onPointerUp={() => requestAnimationFrame(() => document.activeElement instanceof HTMLButtonElement && document.activeElement.blur())}
      className="grid h-screen min-h-[600px] grid-cols-[minmax(0,1fr)_minmax(330px,31.25vw)] bg-night text-bone">
      <div className="flex min-h-0 min-w-0 flex-col">
        <header className="flex items-baseline gap-4 px-3 py-1.5">
          <Link to="/" className="quiet text-fog">Matches</Link>
          <h1 className="min-w-0 truncate text-lg">{match.athlete_name} <span className="text-fog">against</span> {match.opponent}</h1>
          <span className="truncate text-fog">{match.ruleset_title}, {match.belt} belt, {match.age}</span>
          <Link to={`/matches/${match.id}/review`} className="quiet ml-auto">Review</Link>
        </header>
        <Stage clip={desk.clip} playhead={playhead} attach={(clip) => clip && attach.mutate(clip)}>
          <Counts verdict={verdict} playhead={playhead} />
        </Stage>
        <Transport playhead={playhead} verdict={verdict} length={match.duration_ms / 1000} logEnd={logEnd} />
        <section className="min-h-[182px] shrink-0 border-t-2 border-seam bg-deck" aria-label="What can follow">
          {draft ? (
            <Composer key={`${draft.key ?? "new"}-${draft.kind}-${draft.t}`} draft={draft} techniques={techniques.data ?? []} now={() => playhead.now()} close={() => setDraft(null)}
              save={(body, key) => {
                if (key === null) setChosen(add(body));
                else put({ ...body, id: key } as Keyed);
                setDraft(null);
              }} />
          ) : (
            <Pad outlook={outlook.data} run={run} />
          )}
        </section>
      </div>
      <aside className="flex min-h-0 flex-col border-l-2 border-seam bg-deck">
        <div className="px-3 pt-2.5">
          <ScoreHead score={score} athlete={match.athlete_name} opponent={match.opponent} tone="night" />
          <p className="py-1.5 text-center text-[15px] text-fog" aria-live="polite" data-testid="because">{told}</p>
        </div>
        <SaveLine log={log} run={run} />
        {log.refused && (
          <div className="px-3 pb-2">
            <Problem dark error={log.refused.error} />
            <span className="flex gap-4 px-3 pt-1">
              {log.refused.change.body && (
                <button type="button" className="quiet" onClick={() => {
                  const body = log.refused?.change.body;
                  if (body) setDraft({ kind: body.kind, t: body.t, values: valuesOf(body), key: log.refused?.change.key ?? null });
                  log.dismiss();
                }}>Correct it</button>
              )}
              <button type="button" className="quiet" onClick={log.dismiss}>Leave it out</button>
            </span>
          </div>
        )}
        <div className="min-h-0 flex-1 overflow-y-auto px-1 pt-1 pb-6" data-testid="spine">
          {observations.length === 0 ? (
            <p className="px-6 py-8 text-fog">
              Nothing logged yet. Play the clip; when the referee starts the match press <span className="key">C</span>, then
              log who is where: <span className="key">G</span> is guard with your athlete on top, <span className="key">⇧G</span> with
              the opponent on top. The pad under the picture shows the rest.
            </p>
          ) : (
            <Spine verdict={verdict} observations={observations} current={current} tone="night" seek={seek} pending={log.pending} chosen={chosen} choose={setChosen}
              actions={(seen) => (
                <>
                  <button type="button" className="quiet text-[15px]" onClick={() => edit(seen)}>Change</button>
                  <button type="button" className="quiet text-[15px]" onClick={() => put({ ...seen, sure: seen.sure === false })}>{seen.sure === false ? "Sure" : "Unsure"}</button>
                  <button type="button" className="quiet text-[15px]" onClick={() => {
                    remove(seen.id);
                    setChosen(null);
                  }}>Delete</button>
                </>
              )} />
          )}
          <Warnings verdict={verdict} seek={seek} />
        </div>
      </aside>
      <Legend open={help} setOpen={setHelp} />
    </div>
  );
}

function Warnings({ verdict, seek }: { verdict: Verdict; seek: (t: number) => void }) {
  if (verdict.warnings.length === 0) return null;
  return (
    <section className="mx-3 mt-5 border-t border-seam pt-2" aria-label="Look at these again">
      <h2 className="text-base font-semibold">Look at these again</h2>
      <ul>
        {verdict.warnings.map((warning) => (
          <li key={`${warning.reason}${warning.t}${warning.observations.join()}`}>
            <button type="button" className="py-0.5 text-left text-[15px] text-fog hover:text-bone" onClick={() => warning.t !== null && seek(warning.t)}>{warning.because}</button>
          </li>
        ))}
      </ul>
    </section>
  );
}

