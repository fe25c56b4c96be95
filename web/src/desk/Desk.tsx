import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useCallback, useMemo, useState } from "react";
import { Link } from "react-router";
import { useMay, useOwner } from "../api/session";
import { api, type Desk as DeskData, type Observation, ok, type Outlook, type Technique, type Verdict } from "../api/client";
import { ScoringHere } from "../components/Scoring";
import { Aside } from "./Aside";
import { useBoardDesk } from "./board/useBoardDesk";
import { useAttention } from "./attention";
import { ClipsDialog } from "./ClipsDialog";
import type { Draft } from "./Composer";
import { History } from "./History";
import type { OwnKeys } from "./keys";
import { Below } from "./Below";
import { isCalm } from "./SaveLine";
import { Film } from "./Film";
import { Head } from "./Head";
import { Layout } from "./Layout";
import { Legend } from "./Legend";
import { Pad } from "./Pad";
import { AlsoHere } from "./Present";
import { Playhead, type Stretch, usePlayhead } from "./playhead";
import { PeopleDialog } from "./PeopleDialog";
import { SettingDialog } from "./SettingDialog";
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

/** The playhead of a match's footage; other clips are another footage, and its playhead begins again. */
function usePlayheadOf({ parts }: DeskData): Playhead {
  const stretches = JSON.stringify(stretchesOf(parts));
  return useMemo(() => new Playhead(JSON.parse(stretches) as Stretch[]), [stretches]);
}

type Dialog = "legend" | "scoring" | "history" | "second" | "clips" | "setting" | "board" | null;

export function Desk({ desk }: { desk: DeskData }) {
  const { match } = desk;
  const playhead = usePlayheadOf(desk);
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
  const techniques = useTechniques(match);
  const choices = useChoices(match.attire);
  const showHistory = useCallback(() => setShown("history"), []);
  const showClips = useCallback(() => setShown("clips"), []);
  const held = { chosenNow, choose, detailingNow, askDetail };
  const hands = { playhead, log, desk, choices, marks, ...held, setDraft, setMarks, setView, help: () => setShown("legend") };
  const run = useCommands(hands);
  useDeskKeys(hands, run, own, draft !== null || shown !== null);
  const score = useScore(desk, log, playhead, outlook);
  const picked = log.observations.find((one) => one.id === chosen);
  const asksDetail = log.observations.find((one) => one.id === detailing);
  return (
    <>
      <Layout
        {...{ match, score, run }}
        unsaved={!isCalm(log)}
        above={match.practice && <Tour {...{ match, playhead, own }} observations={log.observations} />}
        picture={<Film {...{ desk, log, playhead, clip, view, setView, board, marks, outlook, picked, run }} />}
        pad={
          board.panel ?? (
            <Below {...{ draft, setDraft, asksDetail, askDetail, techniques, log, playhead, choose }} causes={choices.causes} run={run}>
              <Pad {...{ outlook, run, own, match }} who={showClips} />
            </Below>
          )
        }
        sheet={
          <Aside {...{ desk, log, attention, choices, playhead, chosen, choose, setDraft, run, own, board }} history={showHistory}>
            <Header match={match} playhead={playhead} show={setShown} />
            <Head
              {...{ desk, score }}
              decision={outlook?.decision}
              range={attention?.range}
              unsure={log.observations.filter((one) => one.sure === false).length}
            />
          </Aside>
        }
      />
      <Dialogs {...{ desk, log, playhead, shown, own, changeKeys }} show={setShown} />
    </>
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
