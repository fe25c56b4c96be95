import { describe } from "../components/describe";
import { Problem } from "../components/Problem";
import { footage } from "../components/words";
import type { Draft } from "./Composer";
import { valuesOf } from "./forms";
import type { Log } from "./useLog";

/** A change that the server did not take: to be corrected, or two hands' changes to choose between. */
export function Refusal({ log, correct }: { log: Log; correct: (draft: Draft) => void }) {
  if (!log.refused) return null;
  const { change, error } = log.refused;
  if (error.code === "conflict") {
    const theirs = log.observations.find((one) => one.id === change.key);
    const mine = change.body;
    return (
      <div role="alert" className="mx-3 mb-2 border-l-4 border-bone bg-rail p-2 text-[15px]" data-testid="conflict">
        <p className="font-semibold">Changed meanwhile at another place</p>
        <p>There: {theirs ? `${describe(theirs).text} at ${footage(theirs.t)}` : "deleted"}. Here: {mine ? `${describe(mine).text} at ${footage(mine.t)}` : "deleted"}.</p>
        <span className="flex gap-4 pt-1">
          <button type="button" className="quiet" onClick={log.dismiss}>Keep theirs</button>
          <button type="button" className="quiet" onClick={() => {
            log.dismiss();
            log.restore(change.key, mine);
          }}>Put mine</button>
        </span>
      </div>
    );
  }
  return (
    <div className="px-2 pb-2">
      <Problem dark error={error} />
      <span className="flex gap-4 px-3 pt-1">
        {change.body && (
          <button type="button" className="quiet" onClick={() => {
            if (change.body) correct({ kind: change.body.kind, t: change.body.t, values: valuesOf(change.body), key: change.key });
            log.dismiss();
          }}>Correct it</button>
        )}
        <button type="button" className="quiet" onClick={log.dismiss}>Leave it out</button>
      </span>
    </div>
  );
}
