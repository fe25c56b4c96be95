import type { Command } from "./keys";
import type { Log } from "./useLog";

/** Whether everything is stored, and undo and redo. */
export function SaveLine({ log, run }: { log: Log; run: (command: Command) => void }) {
  const { save } = log;
  return (
    <div className="flex items-center gap-4 border-y border-seam px-3 py-1 text-[15px]">
      <span role="status" data-testid="save-state" className={save.state === "saved" || save.state === "saving" ? "text-fog" : "font-semibold text-amber"}>{words(log)}</span>
      {(save.state === "away" || save.state === "signed_out") && <button type="button" className="quiet whitespace-nowrap" onClick={log.retry}>Try now</button>}
      <span className="ml-auto flex gap-3">
        <button type="button" className="quiet disabled:opacity-50" disabled={!log.canUndo} onClick={() => run({ do: "undo" })}>Undo</button>
        <button type="button" className="quiet disabled:opacity-50" disabled={!log.canRedo} onClick={() => run({ do: "redo" })}>Redo</button>
      </span>
    </div>
  );
}

function words({ save, observations }: Log): string {
  switch (save.state) {
    case "saved":
      return observations.length ? "Everything is saved" : "";
    case "saving":
      return "Saving…";
    case "away":
      return `Server gone: ${save.waiting} not saved yet. Keep this page open.`;
    case "signed_out":
      return `Signed out: ${save.waiting} not saved yet. Sign in in another tab; keep this page open.`;
  }
}
