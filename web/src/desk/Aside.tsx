import { memo, type ReactNode, useCallback, useRef, useState } from "react";
import type { Attention, Desk, Exchange, Observation } from "../api/client";
import { exchangeAt } from "../components/timeline";
import { Spine } from "../components/Spine";
import { FILTERS, type Filter } from "../components/spineEntries";
import type { Draft } from "./Composer";
import { BeginForm } from "./BeginForm";
import { FromBoard } from "./board/FromBoard";
import type { BoardDesk } from "./board/useBoardDesk";
import { Far } from "./Far";
import { type Answer, answersOf, asks, type Choices, isSided } from "./answers";
import { startOf } from "./forms";
import { draftOf } from "./useCommands";
import { type Command, keyOf, type OwnKeys } from "./keys";
import { LookAgain } from "./LookAgain";
import { type Playhead, usePlayhead } from "./playhead";
import { Refusal } from "./Refusal";
import { SaveLine } from "./SaveLine";
import type { Keyed } from "../api/client";
import type { Log } from "./useLog";

interface Props {
  desk: Desk;
  log: Log;
  attention: Attention | undefined;
  choices: Choices;
  playhead: Playhead;
  chosen: string | null;
  choose: (key: string | null) => void;
  setDraft: (draft: Draft) => void;
  run: (command: Command) => void;
  own: OwnKeys;
  history: () => void;
  board: BoardDesk;
  children: ReactNode;
}

/** The right of the desk: its head, the spine, and what wants another look. */
export const Aside = memo(function Aside({
  desk,
  log,
  attention,
  choices,
  playhead,
  chosen,
  choose,
  setDraft,
  run,
  own,
  history,
  board,
  children,
}: Props) {
  const { match, verdict } = desk;
  const { observations } = log;
  const [filter, setFilter] = useState<Filter>("all");
  const scroller = useRef<HTMLDivElement>(null);
  const current = usePlayhead(playhead, (one) => exchangeAt(verdict, one.t));
  const seek = useCallback((t: number) => playhead.seek(t), [playhead]);
  const { add } = log;
  const addChosen = useCallback((body: Observation) => choose(add(body)), [add, choose]);
  const edit = (seen: Keyed) => setDraft(draftOf(seen));
  return (
    <aside className="flex min-h-0 flex-1 flex-col border-l-2 border-seam bg-deck">
      {children}
      <SaveLine log={log} run={run} history={history}>
        {observations.length > 0 && <Filters filter={filter} set={setFilter} />}
      </SaveLine>
      <Refusal log={log} correct={setDraft} />
      <Far log={log} playhead={playhead} />
      <FromBoard {...{ match, log, playhead }} {...board} />
      <div ref={scroller} className="min-h-0 flex-1 overflow-y-auto px-1 pt-1 pb-6" data-testid="spine" data-revision={desk.revision}>
        {observations.length === 0 && <Nothing {...{ match, log, playhead, own }} mark={board.board?.marked ? null : board.mark} />}
        {observations.length > 0 && (
          <Spine
            verdict={verdict}
            observations={observations}
            match={match}
            current={current}
            tone="night"
            seek={seek}
            pending={log.pending}
            chosen={chosen}
            choose={choose}
            audit={attention?.calls ?? []}
            filter={filter}
            scroller={scroller}
            exchangeActions={(exchange) => <OnExchange exchange={exchange} observations={observations} log={log} setDraft={setDraft} />}
            actions={(seen) => <OnSeen seen={seen} edit={() => edit(seen)} run={run} choices={choices} />}
          />
        )}
        <LookAgain {...{ match, verdict, observations, attention, playhead, seek, choose }} add={addChosen} />
      </div>
    </aside>
  );
});

function Filters({ filter, set }: { filter: Filter; set: (filter: Filter) => void }) {
  return (
    <select
      aria-label="Show on the timeline"
      className="desk-field w-32 py-0! text-[15px]! max-xl:w-[116px]"
      value={filter}
      onChange={(event) => set(event.target.value as Filter)}
    >
      {Object.entries(FILTERS).map(([value, words]) => (
        <option key={value} value={value}>
          {words}
        </option>
      ))}
    </select>
  );
}

/** How to begin: by the scoreboard, by keys, or inside the match. */
function Nothing({ own, mark, ...rest }: Parameters<typeof BeginForm>[0] & { own: OwnKeys; mark: (() => void) | null }) {
  return (
    <>
      <div className="px-6 py-6 text-fog">
        {mark && (
          <p className="pb-4">
            Does the clip show the event&rsquo;s scoreboard?{" "}
            <button type="button" className="quiet text-bone" onClick={mark}>
              Read it
            </button>
            : its clock and the officials&rsquo; calls are then proposed for the log.
          </p>
        )}
        <p>
          Nothing logged yet. Play the clip; when the referee starts the match press <Key name="clock" own={own} />, then log who is where:{" "}
          <Key name="guard" own={own} /> is guard with your athlete on top, <Key name="guard" own={own} shift /> with the opponent on top.
          The buttons under the picture show the rest.
        </p>
      </div>
      <BeginForm {...rest} />
    </>
  );
}

/** What can be done with the observation that is chosen. */
function OnSeen({ seen, edit, run, choices }: { seen: Keyed; edit: () => void; run: (command: Command) => void; choices: Choices }) {
  return (
    <>
      {seen.kind !== "begin" && seen.kind !== "period" && (
        <button type="button" className="quiet text-[15px]" onClick={() => edit()}>
          Change
        </button>
      )}
      <button type="button" className="quiet text-[15px]" onClick={() => run({ do: "unsure" })}>
        {seen.sure === false ? "Sure" : "Unsure"}
      </button>
      <button type="button" className="quiet text-[15px]" aria-label="0.1 s earlier" onClick={() => run({ do: "move", seconds: -0.1 })}>
        −0.1
      </button>
      <button type="button" className="quiet text-[15px]" aria-label="0.1 s later" onClick={() => run({ do: "move", seconds: 0.1 })}>
        +0.1
      </button>
      <button type="button" className="quiet text-[15px]" onClick={() => run({ do: "delete" })}>
        Delete
      </button>
      {isSided(seen) &&
        (["left", "right"] as const).map((to) => (
          <button key={to} type="button" className="quiet text-[15px]" onClick={() => run({ do: "lateral", to })}>
            {to === "left" ? "< left" : "right >"}
          </button>
        ))}
      {asks(seen) && <Digits answers={answersOf(seen, choices)} run={run} />}
    </>
  );
}

function Key({ name, own, shift = false }: { name: string; own: OwnKeys; shift?: boolean }) {
  return (
    <span className="key uppercase">
      {shift ? "⇧" : ""}
      {keyOf(name, own)}
    </span>
  );
}

/** What an observation asks, answered by one press or one digit. */
function Digits({ answers, run }: { answers: Answer[]; run: (command: Command) => void }) {
  return (
    <span className="flex w-full flex-wrap gap-x-3">
      {answers.map(({ text }, index) => (
        <button key={text} type="button" className="quiet text-[15px]" onClick={() => run({ do: "digit", number: index + 1, side: "a" })}>
          {index + 1} {text}
        </button>
      ))}
    </span>
  );
}

/** Name an exchange, or join one that was begun by hand to the one before. */
function OnExchange({
  exchange,
  observations,
  log,
  setDraft,
}: {
  exchange: Exchange;
  observations: Keyed[];
  log: Log;
  setDraft: (draft: Draft) => void;
}) {
  const own = observations.find((one) => one.kind === "exchange" && one.t === exchange.start);
  return (
    <span className="flex gap-3 bg-deck px-1">
      <button
        type="button"
        className="quiet text-[14px]"
        onClick={() => {
          if (own) setDraft(draftOf(own));
          else setDraft({ kind: "exchange", t: exchange.start, values: startOf("exchange", "a"), key: null });
        }}
      >
        {exchange.title ? "Rename" : "Name"}
      </button>
      {own && (
        <button type="button" className="quiet text-[14px]" onClick={() => log.remove(own.id)}>
          Merge with previous
        </button>
      )}
    </span>
  );
}
