import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type ReactNode, useCallback, useMemo, useState } from "react";
import { Link } from "react-router";
import { useMay, useOwner } from "../api/session";
import {
  api,
  type Clip,
  type Desk as DeskData,
  type Keyed,
  type Observation,
  ok,
  type Outlook,
  type Technique,
  type Verdict,
} from "../api/client";
import { placed, whole } from "../components/parts";
import { ScoringHere } from "../components/Scoring";
import { Aside } from "./Aside";
import { useBoardDesk } from "./board/useBoardDesk";
import { useAttention } from "./attention";
import { ClipsDialog } from "./ClipsDialog";
import { Who } from "./Who";
import { Composer, type Draft } from "./Composer";
import { Counts } from "./Count";
import { Details } from "./Details";
import { Handle } from "./Handle";
import { History } from "./History";
import type { Command, OwnKeys } from "./keys";
import { Legend } from "./Legend";
import { Legs, Pad } from "./Pad";
import { AlsoHere } from "./Present";
import { Playhead, type Stretch, usePlayhead } from "./playhead";
import { PeopleDialog } from "./PeopleDialog";
import { SettingDialog } from "./SettingDialog";
import { Stage } from "./Stage";
import { Transport } from "./Transport";
import { useHeld } from "./saveQueue";
import { type Marks, NO_MARKS } from "./hands";
import { useCommands } from "./useCommands";
import { useDeskKeys } from "./useDeskKeys";
import { useChoices } from "./useCauses";
import { useKeys } from "./useKeys";
import { type Log, useLog } from "./useLog";
import { Tour } from "./Tour";
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

/** The catalogue as it is in the match's division. */
function useTechniques({ age, belt, attire, ruleset }: DeskData["match"]): Technique[] {
  const asked = { age, belt, attire, ruleset: typeof ruleset === "string" ? ruleset : JSON.stringify(ruleset) };
  return (
    useQuery({
      queryKey: ["techniques", asked],
      queryFn: () => ok(api.GET("/api/techniques", { params: { query: asked } })),
      staleTime: Infinity,
    }).data ?? []
  );
}

/** Where the match stands at the playhead, and what can follow. */
function useOutlook(desk: DeskData, playhead: Playhead): Outlook | undefined {
  const match = desk.match.id;
  const stamp = usePlayhead(playhead, (one) => changedAt(desk.verdict, desk.observations, one.t));
  return useQuery({
    queryKey: ["outlook", match, stamp, desk.revision],
    queryFn: async ({ signal }) => {
      await breath();
      return ok(api.GET("/api/matches/{match}/outlook", { params: { path: { match }, query: { t: stamp } }, signal }));
    },
    placeholderData: keepPreviousData,
    staleTime: Infinity,
  }).data;
}

/** Give the match its first clip. */
function useAttach(match: string): (clip: Clip | null) => void {
  const queries = useQueryClient();
  const attach = useMutation({
    mutationFn: (first: Clip) =>
      ok(api.PUT("/api/matches/{match}/parts", { params: { path: { match } }, body: { parts: placed([whole(first)]) } })),
    onSuccess: (laid) => queries.setQueryData(["match", match], laid),
  });
  return (first) => first && attach.mutate(first);
}

/** The key of an observation: as it is drawn, at this very moment, and how to set it. */
function useKept(log: Log): [string | null, () => string | null, (key: string | null) => void] {
  const { shown, now, set } = useHeld<string | null>(log.queue, null);
  const keep = useCallback((key: string | null) => set(() => key), [set]);
  return [shown, now, keep];
}

/** The score at the playhead where that is past the log, else as it is at its end. */
function useScore(desk: DeskData, log: Log, playhead: Playhead, outlook: Outlook | undefined): Verdict["score"] {
  const logEnd = log.observations.at(-1)?.t ?? 0;
  const pastLog = usePlayhead(playhead, (one) => one.t >= logEnd);
  return pastLog && outlook && outlook.t >= logEnd ? outlook.score : desk.verdict.score;
}

type Dialog = "legend" | "scoring" | "history" | "second" | "clips" | "setting" | "board" | null;

export function Desk({ desk }: { desk: DeskData }) {
  const { match, verdict } = desk;
  // Other clips are another footage, and its playhead begins again.
  const stretches = JSON.stringify(stretchesOf(desk.parts));
  const playhead = useMemo(() => new Playhead(JSON.parse(stretches) as Stretch[]), [stretches]);
  const log = useLog(desk, playhead, useOwner());
  const [draft, setDraft] = useState<Draft | null>(null);
  const [shown, setShown] = useState<Dialog>(null);
  const [chosen, chosenNow, choose] = useKept(log);
  const [detailing, detailingNow, askDetail] = useKept(log);
  const [marks, setMarks] = useState<Marks>(NO_MARKS);
  const [view, setView] = useState<View>(PLAIN);
  const { own, change: changeKeys } = useKeys();
  const attention = useAttention(match.id, desk.revision);
  const clip = useParts(desk.parts, playhead);
  const board = useBoardDesk(desk, clip, playhead, shown === "board", setShown);
  const outlook = useOutlook(desk, playhead);
  const attach = useAttach(match.id);
  const techniques = useTechniques(match);
  const choices = useChoices(match.attire);
  const showHistory = useCallback(() => setShown("history"), []);
  const showClips = useCallback(() => setShown("clips"), []);
  const held = { chosenNow, choose, detailingNow, askDetail };
  const hands = { playhead, log, desk, choices, marks, ...held, setDraft, setMarks, setView, help: () => setShown("legend") };
  const run = useCommands(hands);
  useDeskKeys(hands, run, own, draft !== null || shown !== null);
  const logEnd = log.observations.at(-1)?.t ?? 0;
  const score = useScore(desk, log, playhead, outlook);
  const picked = log.observations.find((one) => one.id === chosen);
  const asksDetail = log.observations.find((one) => one.id === detailing);
  const length = (match.duration_ms ?? 0) / 1000;
  return (
    <div
      onPointerUp={(event) => giveBackKeys(event.currentTarget)}
      className="grid h-screen min-h-[600px] grid-cols-[minmax(0,1fr)_284px] xl:grid-cols-[minmax(0,1fr)_29vw] bg-night text-bone"
    >
      <div className="flex min-h-0 min-w-0 flex-col">
        {match.practice && <Tour {...{ match, playhead, own }} observations={log.observations} />}
        <Stage clip={clip} playhead={playhead} view={view} setView={setView} attach={attach} over={board.over}>
          <Counts verdict={verdict} playhead={playhead} />
          <Who match={match} outlook={outlook} />
          <Legs outlook={outlook} run={run} />
        </Stage>
        <Transport {...{ playhead, verdict, length, logEnd, marks, clip, run }} match={match.id} board={board}>
          {picked && <Handle seen={picked} slide={log.slide} playhead={playhead} />}
        </Transport>
        <section className="min-h-[160px] shrink-0 border-t-2 border-seam bg-deck" aria-label="What can follow">
          {board.panel ?? (
            <Below {...{ draft, setDraft, asksDetail, askDetail, techniques, log, playhead, choose }} causes={choices.causes} run={run}>
              <Pad {...{ outlook, run, own, match }} who={showClips} />
            </Below>
          )}
        </section>
      </div>
      <Aside {...{ desk, log, score, attention, choices, playhead, chosen, choose, setDraft, run, own, board }} history={showHistory}>
        <Header match={match} playhead={playhead} show={setShown} />
      </Aside>
      <Dialogs {...{ desk, log, playhead, shown, own, changeKeys }} show={setShown} />
    </div>
  );
}

/** Under the picture: the form of what is being logged, its details, or what can follow. */
function Below({
  draft,
  setDraft,
  asksDetail,
  askDetail,
  run,
  children,
  ...rest
}: Omit<Parameters<typeof Form>[0], "draft" | "close"> & {
  draft: Draft | null;
  setDraft: (draft: Draft | null) => void;
  asksDetail: Keyed | undefined;
  askDetail: (key: string | null) => void;
  run: (command: Command) => void;
  children: ReactNode;
}) {
  if (draft) return <Form {...rest} draft={draft} close={() => setDraft(null)} />;
  if (asksDetail) return <Details of={asksDetail} run={run} close={() => askDetail(null)} />;
  return children;
}

/** A button that was clicked gives the keys back to the desk; one reached with Tab keeps them. */
function giveBackKeys(desk: HTMLElement): void {
  requestAnimationFrame(() => {
    const { activeElement } = document;
    if (activeElement instanceof HTMLButtonElement && desk.contains(activeElement)) activeElement.blur();
  });
}

/** The form of the observation that is being logged or changed. */
function Form({
  techniques,
  causes,
  draft,
  log,
  playhead,
  choose,
  close,
}: {
  techniques: Technique[];
  causes: string[];
  draft: Draft;
  log: Log;
  playhead: Playhead;
  choose: (key: string | null) => void;
  close: () => void;
}) {
  const { observations } = log;
  const recent = useMemo(() => recentNames(observations, draft.kind === "grip"), [observations, draft]);
  return (
    <Composer
      key={`${draft.key ?? "new"}-${draft.kind}-${draft.t}`}
      draft={draft}
      techniques={techniques}
      recent={recent}
      causes={causes}
      now={() => playhead.now()}
      close={close}
      save={(body, key) => {
        if (key === null) choose(log.add(body));
        else log.put({ ...body, id: key } as Keyed);
        close();
      }}
    />
  );
}

function Header({ match, playhead, show }: { match: DeskData["match"]; playhead: Playhead; show: (dialog: Dialog) => void }) {
  return (
    <header className="flex items-baseline gap-2.5 px-3 pt-1.5 text-[15px] xl:gap-4">
      <h1 className="sr-only">
        {match.athlete_name} against {match.opponent}
      </h1>
      <Link to="/" className="quiet mr-auto text-fog" aria-label="Matches">
        <span className="max-xl:hidden">Matches</span>
        <span className="xl:hidden">←</span>
      </Link>
      <AlsoHere match={match.id} playhead={playhead} />
      {!match.practice && <Ways match={match} show={show} />}
    </header>
  );
}

/** What is done with a match besides scoring it, by those who may: a scorer scores it, and submits a second score. */
function Ways({ match, show }: { match: DeskData["match"]; show: (dialog: Dialog) => void }) {
  const staff = useMay("set_up");
  return (
    <>
      {staff && match.second_of === null && (
        <button type="button" className="quiet" onClick={() => show("setting")}>
          Settings
        </button>
      )}
      {staff && (
        <button type="button" className="quiet" onClick={() => show("clips")}>
          Clips
        </button>
      )}
      {(staff || match.second_of !== null) && (
        <button type="button" className="quiet whitespace-nowrap" onClick={() => show("second")}>
          {match.second_of ? "Submit" : "People"}
        </button>
      )}
      {staff && (
        <Link to={`/matches/${match.id}/review`} className="quiet">
          Review
        </Link>
      )}
    </>
  );
}

function Dialogs({
  desk,
  log,
  playhead,
  shown,
  show,
  own,
  changeKeys,
}: {
  desk: DeskData;
  log: Log;
  playhead: Playhead;
  shown: Dialog;
  show: (dialog: Dialog) => void;
  own: OwnKeys;
  changeKeys: ((own: OwnKeys) => void) | null;
}) {
  const { match } = desk;
  const dialog = (name: Dialog) => ({ open: shown === name, setOpen: (open: boolean) => show(open ? name : null) });
  return (
    <>
      <Legend {...dialog("legend")} own={own} change={changeKeys} scoring={() => show("scoring")} />
      <ScoringHere {...dialog("scoring")} match={match} />
      <History {...dialog("history")} match={match.id} revision={desk.revision} restore={log.restore} />
      <ClipsDialog {...dialog("clips")} match={match} parts={desk.parts} now={() => playhead.now()} />
      <PeopleDialog {...dialog("second")} match={match} />
      <SettingDialog {...dialog("setting")} match={match} />
    </>
  );
}

/** Techniques of this log, or grips, the latest first. */
function recentNames(observations: Keyed[], grips: boolean): string[] {
  const names = observations.flatMap((one) =>
    grips ? (one.kind === "grip" ? [one.grip] : []) : "technique" in one && one.technique ? [one.technique] : [],
  );
  return [...new Set(names.reverse())];
}
