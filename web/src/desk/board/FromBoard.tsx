import { useMemo, useState } from "react";
import type { Board, Keyed, Match, Observation, Proposal } from "../../api/client";
import { JobWork, underWay } from "../../components/JobWork";
import { footage, held, named } from "../../components/words";
import { useLetBe } from "../attention";
import { type Playhead, usePlayhead } from "../playhead";
import type { Log } from "../useLog";

const DOUBTFUL = 0.9;
/** A smaller share of the clip is not worth a sentence. */
const WORTH_SAYING = 0.05;

/** An observation that is taken from the board, with the answer to how they started again. */
export function taken(one: Proposal, restart?: "standing" | "same"): Keyed {
  const body = one.body as Observation;
  return { ...body, ...(restart && body.kind === "clock" ? { restart } : {}), id: one.key };
}

/** What has not been taken into the log or ignored, and restarts of which nobody has said how. */
export function openOf(board: Board | undefined, ignored: ReadonlySet<string>): Proposal[] {
  return board?.proposals.filter((one) => (one.standing !== "logged" || one.asks) && !ignored.has(one.key)) ?? [];
}

/** What the scoreboard in the clip proposes for the log. */
export function FromBoard({
  match,
  board,
  log,
  playhead,
  mark,
}: {
  match: Match;
  board: Board | undefined;
  log: Log;
  playhead: Playhead;
  mark: (() => void) | null;
}) {
  const { letBe, dismiss } = useLetBe(match.id);
  const open = openOf(board, letBe);
  if (!board?.marked || !mark) return null;
  const read = underWay(board.job) ? null : board.clock;
  return (
    <section className="mx-3 border-b border-seam py-1.5 text-[15px]" aria-label="From the scoreboard" data-testid="from-board">
      <Working match={match} board={board} mark={mark} />
      {read && !read.readable && <p>{read.because}</p>}
      {!underWay(board.job) && open.length > 0 && <Open {...{ match, board, open, log, playhead, dismiss }} />}
      {read?.readable && open.length === 0 && <p className="text-fog">The log agrees with the scoreboard.</p>}
      {read?.readable && <OnlyLogged board={board} playhead={playhead} />}
    </section>
  );
}

/** How far the reading is; once it is done, how much of the clock was read. */
function Working({ match, board, mark }: { match: Match; board: Board; mark: () => void }) {
  const { job, clock } = board;
  if (job && job.state !== "done") {
    const failed = job.state === "failed" ? `The scoreboard could not be read: ${job.trouble}.` : "Reading stopped.";
    return (
      <div className="flex items-center gap-3">
        <JobWork
          dark
          job={job}
          doing="Reading the scoreboard"
          said={underWay(job) ? "Reading the scoreboard" : failed}
          shown={[["board", match.id]]}
        />
      </div>
    );
  }
  return (
    <>
      <p className="flex items-baseline gap-3">
        <b>From the scoreboard</b>
        <span className="min-w-0 flex-1 truncate text-fog" title={clock?.because}>
          {clock?.readable && `clock seen in ${Math.round(clock.seen * 100)} %`}
        </span>
        <button type="button" className="quiet" onClick={mark}>
          Boxes
        </button>
      </p>
      {board.lost >= WORTH_SAYING && (
        <p>The boxes were lost in {Math.round(board.lost * 100)} % of the clip. Mark one more moment there.</p>
      )}
    </>
  );
}

function Open({
  match,
  board,
  open,
  log,
  playhead,
  dismiss,
}: {
  match: Match;
  board: Board;
  open: Proposal[];
  log: Log;
  playhead: Playhead;
  dismiss: (key: string) => void;
}) {
  const [all, setAll] = useState(false);
  const fresh = open.filter((one) => one.standing === "new" && !one.asks);
  const t = usePlayhead(playhead, (one) => one.t);
  const sofar = fresh.filter((one) => one.t <= t);
  const take = (rows: Proposal[]) => log.putAll(rows.map((one) => taken(one)));
  const unread = board.unread.length > 0;
  return (
    <>
      <p className="flex flex-wrap items-baseline gap-x-3 py-0.5">
        {fresh.length > 0 && (
          <button type="button" className="bg-amber px-2 font-bold text-night" onClick={() => take(fresh)}>
            Take all {fresh.length}
          </button>
        )}
        {sofar.length > 0 && sofar.length < fresh.length && (
          <button type="button" className="quiet" onClick={() => take(sofar)}>
            Take the {sofar.length} up to here
          </button>
        )}
        <button type="button" className="quiet" aria-expanded={all} onClick={() => setAll(!all)}>
          {all ? "Hide the list" : "One by one"}
        </button>
      </p>
      {unread && <p className="text-fog">Some figures can&rsquo;t be read. Mark them again, close around the digits.</p>}
      <ul className={all ? "max-h-[42vh] overflow-y-auto" : ""}>
        {open
          .filter((one) => all || one.standing === "differs" || one.asks)
          .map((one) => (
            <Row key={one.key} {...{ match, one, log, playhead }} ignore={() => dismiss(one.key)} />
          ))}
      </ul>
    </>
  );
}

/** One proposal: shown in the picture, taken or ignored; where the log has it elsewhere, moved. */
function Row({ match, one, log, playhead, ignore }: { match: Match; one: Proposal; log: Log; playhead: Playhead; ignore: () => void }) {
  const logged = log.observations.find((seen) => seen.id === one.logged);
  return (
    <li className="border-t border-seam py-1" data-testid="proposal">
      <button type="button" className="block text-left hover:underline" onClick={() => playhead.seek(one.t)}>
        <span className="text-fog">{footage(one.t)}</span> {named(one.because, match)}
        {one.sure < DOUBTFUL && <span className="text-fog"> Not sure.</span>}
      </button>
      {one.picture && <img src={one.picture} alt="The scoreboard then" className="my-1 max-h-16" loading="lazy" />}
      <span className="flex flex-wrap gap-x-4">
        {logged && one.standing === "differs" && (
          <>
            <span>
              Yours is {held(Math.abs(one.off))} {one.off > 0 ? "later" : "earlier"}.
            </span>
            <button type="button" className="quiet" onClick={() => log.putAll([{ ...logged, t: one.t }])}>
              Move it
            </button>
          </>
        )}
        {(!logged || one.asks) && <Take one={one} logged={logged} log={log} />}
        <button type="button" className="quiet" onClick={ignore}>
          Ignore
        </button>
      </span>
    </li>
  );
}

function Take({ one, logged, log }: { one: Proposal; logged: Keyed | undefined; log: Log }) {
  const again = (restart: "standing" | "same") => log.putAll([logged?.kind === "clock" ? { ...logged, restart } : taken(one, restart)]);
  if (!one.asks) {
    return (
      <button type="button" className="quiet" onClick={() => log.putAll([taken(one)])}>
        Take
      </button>
    );
  }
  return (
    <>
      <span>They were on the ground when it stopped. It went on:</span>
      <button type="button" className="quiet" onClick={() => again("standing")}>
        standing
      </button>
      <button type="button" className="quiet" onClick={() => again("same")}>
        as they were
      </button>
    </>
  );
}

/** Starts and stops of the log that the board does not show. */
function OnlyLogged({ board, playhead }: { board: Board; playhead: Playhead }) {
  return (
    <ul>
      {board.only_logged.map((one) => (
        <li key={one.logged}>
          <button type="button" className="text-left hover:underline" onClick={() => playhead.seek(one.t)}>
            <span className="text-fog">{footage(one.t)}</span> Only in your log: {one.because}
          </button>
        </li>
      ))}
    </ul>
  );
}

const GHOST = { a: "bg-amber", b: "bg-sea", clock: "bg-bone" };

/** Where on the time line the proposals lie: hollow marks that become entries when they are taken. */
export function Ghosts({ match, board, begin, end }: { match: string; board: Board | undefined; begin: number; end: number }) {
  const { letBe } = useLetBe(match);
  const open = useMemo(() => openOf(board, letBe), [board, letBe]);
  return (
    <>
      {open.map((one) => {
        const kind = one.part === null ? "clock" : one.part.startsWith("a") ? "a" : "b";
        return (
          <span
            key={one.key}
            aria-hidden
            data-testid="ghost"
            className={`pointer-events-none absolute bottom-0 h-1.5 w-1.5 -translate-x-1/2 opacity-80 ${GHOST[kind]}`}
            style={{ left: `${((one.t - begin) / (end - begin)) * 100}%` }}
          />
        );
      })}
    </>
  );
}
