import { useState } from "react";
import { describe } from "../components/describe";
import { footage } from "../components/words";
import type { Playhead } from "./playhead";
import type { Log, Touched } from "./useLog";

const FAR_SECONDS = 10;

/** Asks whether it is meant, when something is changed that lies far from what is on the screen. */
export function Far({ log, playhead }: { log: Log; playhead: Playhead }) {
  const { touched } = log;
  const [meant, setMeant] = useState<Touched | null>(null);
  if (!touched || touched === meant || Math.abs(touched.seen.t - touched.from) <= FAR_SECONDS) return null;
  const { seen, gone, from } = touched;
  return (
    <div role="status" className="mx-3 mb-2 border-l-4 border-bone bg-rail p-2 text-[15px]" data-testid="far">
      <p>
        You {gone ? "deleted" : "changed"} <b>{describe(seen).text}</b> at {footage(seen.t)}, but the video is at {footage(from)}. Is that
        right?
      </p>
      <span className="flex gap-4 pt-1">
        <button type="button" className="quiet" onClick={() => setMeant(touched)}>
          Yes
        </button>
        <button type="button" className="quiet" onClick={() => playhead.seek(seen.t)}>
          Go there
        </button>
        <button
          type="button"
          className="quiet"
          onClick={() => {
            log.undo();
            setMeant(touched);
          }}
        >
          Undo it
        </button>
      </span>
    </div>
  );
}
