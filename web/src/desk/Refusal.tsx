import { describe } from "../components/describe";
import { Problem } from "../components/Problem";
import { footage } from "../components/words";
import type { Draft } from "./Composer";
import { valuesOf } from "./forms";
import type { Log } from "./useLog";

/** Changes that the server did not take, one at a time: to be corrected, or two hands' changes to choose between. */
export function Refusal({ log, correct }: { log: Log; correct: (draft: Draft) => void }) {
  const first = log.aside[0];
  if (!first) return null;
  const { change, error } = first;
  const more = log.aside.length - 1;
  const letGo = () => log.dismiss(first);
  if (error.code === "conflict") return <Conflict log={log} change={change} letGo={letGo} />;
  return (
    <div className="px-2 pb-2" data-testid="set-aside">
      <Problem dark error={error} />
      <p className="px-3 text-[15px]">
        {change.body ? `${describe(change.body).text} at ${footage(change.body.t)}` : "A deletion"} is not saved. It is kept here;
        everything else is saved as usual.
        {more > 0 && ` ${more} more after this one.`}
      </p>
      <span className="flex gap-4 px-3 pt-1">
        {error.status >= 500 && (
          <button type="button" className="quiet" onClick={() => log.sendAgain(first)}>
            Send it again
          </button>
        )}
        {change.body && (
          <button
            type="button"
            className="quiet"
            onClick={() => {
              if (change.body) correct({ kind: change.body.kind, t: change.body.t, values: valuesOf(change.body), key: change.key });
              letGo();
            }}
          >
            Correct it
          </button>
        )}
        <button type="button" className="quiet" onClick={letGo}>
          Discard
        </button>
      </span>
    </div>
  );
}

/** Two hands changed one observation: which of the two stays. */
function Conflict({ log, change, letGo }: { log: Log; change: Log["aside"][number]["change"]; letGo: () => void }) {
  const theirs = log.observations.find((one) => one.id === change.key);
  const mine = change.body;
  return (
    <div role="alert" className="mx-3 mb-2 border-l-4 border-bone bg-rail p-2 text-[15px]" data-testid="conflict">
      <p className="font-semibold">Also changed in another window</p>
      <p>
        There: {theirs ? `${describe(theirs).text} at ${footage(theirs.t)}` : "deleted"}. Here:{" "}
        {mine ? `${describe(mine).text} at ${footage(mine.t)}` : "deleted"}.
      </p>
      <span className="flex gap-4 pt-1">
        <button type="button" className="quiet" onClick={letGo}>
          Keep theirs
        </button>
        <button
          type="button"
          className="quiet"
          onClick={() => {
            letGo();
            log.restore(change.key, mine);
          }}
        >
          Use mine
        </button>
      </span>
    </div>
  );
}
