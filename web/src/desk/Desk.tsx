import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useMemo, useState } from "react";
import { Link } from "react-router";
import { api, type Clip, type Desk as DeskData, type Observation, ok, type Verdict } from "../api/client";
import { Aside } from "./Aside";
import { useAttention } from "./attention";
import { ClipsDialog } from "./ClipsDialog";
import { Composer, type Draft } from "./Composer";
import { Counts } from "./Count";
import { Handle } from "./Handle";
import { History } from "./History";
import { Legend } from "./Legend";
import { Pad } from "./Pad";
import { Playhead, type Stretch, usePlayhead } from "./playhead";
import { SecondScore } from "./SecondScore";
import { Stage } from "./Stage";
import { Transport } from "./Transport";
import { useHeld } from "./saveQueue";
import { type Marks, NO_MARKS, useCommands, useDeskKeys } from "./useCommands";
import { useKeys } from "./useKeys";
import type { Keyed } from "../api/client";
import { useLog } from "./useLog";
import { stretchesOf, useParts } from "./useParts";
import { PLAIN, type View } from "./view";

const BREATH_MS = 20;

/** The verdict is painted first. */
function breath(): Promise<void> {
  return new Promise((done) => setTimeout(done, BREATH_MS));
}

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
  const queries = useQueryClient();
  // Other clips are another footage, and its playhead begins anew.
  const stretches = JSON.stringify(stretchesOf(desk.parts));
  const playhead = useMemo(() => new Playhead(JSON.parse(stretches) as Stretch[]), [stretches]);
  const log = useLog(desk, playhead);
  const { observations } = log;
  const [draft, setDraft] = useState<Draft | null>(null);
  const [shown, setShown] = useState<"legend" | "history" | "second" | "clips" | null>(null);
  const { shown: chosen, now: chosenNow, set: setHeld } = useHeld<string | null>(log.queue, null);
  const setChosen = useCallback((key: string | null) => setHeld(() => key), [setHeld]);
  const [marks, setMarks] = useState<Marks>(NO_MARKS);
  const [view, setView] = useState<View>(PLAIN);
  const { own, change: changeKeys } = useKeys();
  const attention = useAttention(match.id, desk.revision);
  const logEnd = observations.at(-1)?.t ?? 0;

  const techniques = useQuery({
    queryKey: ["techniques", match.age, match.belt, match.attire, match.ruleset],
    queryFn: () =>
      ok(
        api.GET("/api/techniques", {
          params: {
            query: {
              age: match.age,
              belt: match.belt,
              attire: match.attire,
              ruleset: typeof match.ruleset === "string" ? match.ruleset : JSON.stringify(match.ruleset),
            },
          },
        }),
      ),
    staleTime: Infinity,
  });
  const clip = useParts(desk.parts, playhead);

  const stamp = usePlayhead(playhead, (one) => changedAt(verdict, desk.observations, one.t));
  const outlook = useQuery({
    queryKey: ["outlook", match.id, stamp, desk.revision],
    queryFn: async ({ signal }) => {
      await breath();
      return ok(api.GET("/api/matches/{match}/outlook", { params: { path: { match: match.id }, query: { t: stamp } }, signal }));
    },
    placeholderData: keepPreviousData,
    staleTime: Infinity,
  });
  const attach = useMutation({
    mutationFn: (first: Clip) =>
      ok(
        api.PUT("/api/matches/{match}/parts", {
          params: { path: { match: match.id } },
          body: { parts: [{ clip: first.id, start: 0 }] },
        }),
      ),
    onSuccess: (laid) => queries.setQueryData(["match", match.id], laid),
  });

  const showHistory = useCallback(() => setShown("history"), []);
  const hands = {
    playhead,
    log,
    desk,
    chosenNow,
    marks,
    choose: setChosen,
    setDraft,
    setMarks,
    setView,
    help: () => setShown("legend"),
  };
  const run = useCommands(hands);
  useDeskKeys(hands, run, own, draft !== null || shown !== null);

  const pastLog = usePlayhead(playhead, (one) => one.t >= logEnd);
  const score = pastLog && outlook.data && outlook.data.t >= logEnd ? outlook.data.score : verdict.score;
  const picked = observations.find((one) => one.id === chosen);
  const recent = useMemo(() => (draft ? recentNames(observations, draft.kind === "grip") : []), [observations, draft]);

  return (
    // A button that was clicked gives the keys back to the desk; one reached with Tab keeps them.
    <div
      onPointerUp={(event) => {
        const desk = event.currentTarget;
        requestAnimationFrame(
          () =>
            document.activeElement instanceof HTMLButtonElement && desk.contains(document.activeElement) && document.activeElement.blur(),
        );
      }}
      className="grid h-screen min-h-[600px] grid-cols-[minmax(0,1fr)_284px] xl:grid-cols-[minmax(0,1fr)_29vw] bg-night text-bone"
    >
      <div className="flex min-h-0 min-w-0 flex-col">
        <Stage clip={clip} playhead={playhead} view={view} setView={setView} attach={(first) => first && attach.mutate(first)}>
          <Counts verdict={verdict} playhead={playhead} />
        </Stage>
        <Transport
          playhead={playhead}
          verdict={verdict}
          length={match.duration_ms / 1000}
          logEnd={logEnd}
          marks={marks}
          clip={clip}
          run={run}
        >
          {picked && <Handle seen={picked} slide={log.slide} playhead={playhead} />}
        </Transport>
        <section className="min-h-[160px] shrink-0 border-t-2 border-seam bg-deck" aria-label="What can follow">
          {draft ? (
            <Composer
              key={`${draft.key ?? "new"}-${draft.kind}-${draft.t}`}
              draft={draft}
              techniques={techniques.data ?? []}
              recent={recent}
              now={() => playhead.now()}
              close={() => setDraft(null)}
              save={(body, key) => {
                if (key === null) setChosen(log.add(body));
                else log.put({ ...body, id: key } as Keyed);
                setDraft(null);
              }}
            />
          ) : (
            <Pad outlook={outlook.data} run={run} own={own} />
          )}
        </section>
      </div>
      <Aside
        desk={desk}
        log={log}
        score={score}
        attention={attention}
        playhead={playhead}
        chosen={chosen}
        choose={setChosen}
        setDraft={setDraft}
        run={run}
        own={own}
        history={showHistory}
      >
        <header className="flex items-baseline gap-3 px-3 pt-1.5 text-[15px] xl:gap-4">
          <h1 className="sr-only">
            {match.athlete_name} against {match.opponent}
          </h1>
          <Link to="/" className="quiet mr-auto text-fog">
            Matches
          </Link>
          <button type="button" className="quiet" onClick={() => setShown("clips")}>
            Clips
          </button>
          <button type="button" className="quiet whitespace-nowrap" onClick={() => setShown("second")}>
            {match.second_of ? "Hand over" : "Second score"}
          </button>
          <Link to={`/matches/${match.id}/review`} className="quiet">
            Review
          </Link>
        </header>
      </Aside>
      <Legend open={shown === "legend"} setOpen={(open) => setShown(open ? "legend" : null)} own={own} change={changeKeys} />
      <History
        match={match.id}
        revision={desk.revision}
        open={shown === "history"}
        setOpen={(open) => setShown(open ? "history" : null)}
        restore={log.restore}
      />
      <ClipsDialog
        match={match}
        parts={desk.parts}
        log={log}
        open={shown === "clips"}
        setOpen={(open) => setShown(open ? "clips" : null)}
      />
      <SecondScore match={match} open={shown === "second"} setOpen={(open) => setShown(open ? "second" : null)} />
    </div>
  );
}

/** Techniques of this log, or grips, the latest first. */
function recentNames(observations: Keyed[], grips: boolean): string[] {
  const names = observations.flatMap((one) =>
    grips ? (one.kind === "grip" ? [one.grip] : []) : "technique" in one && one.technique ? [one.technique] : [],
  );
  return [...new Set(names.reverse())];
}
