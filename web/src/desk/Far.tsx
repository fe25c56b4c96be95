import { useEffect, useState } from "react";
import { describe } from "../components/describe";
import { footage } from "../components/words";
import type { Playhead } from "./playhead";
import type { Log, Touched } from "./useLog";

const FAR_SECONDS = 10;

/** Asks whether it is meant, when something is changed that lies far from what is on the screen. */
export function Far({ log, playhead }: { log: Log; playhead: Playhead }) {
  const { touched } = log;
  const [far, setFar] = useState<(Touched & { from: number }) | null>(null);
  useEffect(() => {
    const from = playhead.now();
    setFar(touched && Math.abs(touched.seen.t - from) > FAR_SECONDS ? { ...touched, from } : null);
  }, [touched, playhead]);
  if (!far) return null;
  const { text } = describe(far.seen);
  return (
    <div role="status" className="mx-3 mb-2 border-l-4 border-bone bg-rail p-2 text-[15px]" data-testid="far">
      <p>{far.gone ? "Deleted" : "Changed"}: <b>{text}</b> at {footage(far.seen.t)}, while the picture was at {footage(far.from)}. Was that the one you meant?</p>
      <span className="flex gap-4 pt-1">
        <button type="button" className="quiet" onClick={() => setFar(null)}>It was</button>
        <button type="button" className="quiet" onClick={() => playhead.seek(far.seen.t)}>Go there</button>
        <button type="button" className="quiet" onClick={() => {
          log.undo();
          setFar(null);
        }}>Undo it</button>
      </span>
    </div>
  );
}
