import type { ReactNode } from "react";
import type { Command } from "./keys";
import { useBusy } from "./saveQueue";
import type { Log } from "./useLog";

/** Whether everything is stored; undo, redo and the history; and what others left unsaved in this browser. */
export function SaveLine({
  log,
  run,
  history,
  children,
}: {
  log: Log;
  run: (command: Command) => void;
  history: () => void;
  children: ReactNode;
}) {
  const { save } = log;
  return (
    <>
      <div className="flex flex-wrap items-center gap-x-3 border-y border-seam px-3 py-1 text-[15px] max-xl:gap-x-2 max-xl:px-2">
        <State log={log} />
        {(save.state === "away" || save.state === "signed_out" || save.state === "other_account") && (
          <button type="button" className="quiet whitespace-nowrap" onClick={log.retry}>
            Try now
          </button>
        )}
        <span className="ml-auto flex items-center gap-3 max-xl:gap-2">
          {children}
          <button type="button" className="quiet disabled:opacity-50" disabled={!log.canUndo} onClick={() => run({ do: "undo" })}>
            Undo
          </button>
          <button type="button" className="quiet disabled:opacity-50" disabled={!log.canRedo} onClick={() => run({ do: "redo" })}>
            Redo
          </button>
          <button type="button" className="quiet" onClick={history}>
            History
          </button>
        </span>
      </div>
      <OthersWaiting log={log} />
    </>
  );
}

/** Changes that others made in this browser and that are not saved: whose they are, and what becomes of them. */
function OthersWaiting({ log }: { log: Log }) {
  return [...log.others].map(([name, number]) => (
    <p key={name} className="px-3 pt-1 text-[15px] text-amber" data-testid="others-waiting">
      {number === 1 ? "1 change" : `${number} changes`} by {name} {number === 1 ? "is" : "are"} kept in this browser and not saved. Sign in
      as {name} and open this match to save {number === 1 ? "it" : "them"}.
    </p>
  ));
}

/** Whether everything is stored, or about to be. */
export function isCalm({ save, keeping }: Log): boolean {
  return (save.state === "saved" || save.state === "saving") && keeping;
}

function State({ log }: { log: Log }) {
  const busy = useBusy(log.queue);
  const calm = isCalm(log);
  return (
    <span role="status" aria-busy={busy} data-testid="save-state" className={calm ? "text-fog" : "font-semibold text-amber"}>
      {words(log)}
    </span>
  );
}

function words({ save, observations, keeping }: Log): string {
  const where = keeping ? "kept in this browser." : "and this browser has no room to keep them. Leave this page open.";
  const waiting = "waiting" in save ? save.waiting : 0;
  const changes = `${waiting} ${waiting === 1 ? "change" : "changes"} not saved yet`;
  switch (save.state) {
    case "saved":
      return observations.length ? "Saved" : "";
    case "saving":
      return keeping ? "Saving…" : `Saving ${save.waiting}, ${where}`;
    case "away":
      return `Server unreachable: ${changes}, ${where}`;
    case "other_account":
      return `Somebody else is signed in: ${changes}, ${where} Sign in as ${save.by} to save them.`;
    case "signed_out":
      return `You are signed out: ${changes}, ${where} Sign in again in another tab.`;
  }
}
