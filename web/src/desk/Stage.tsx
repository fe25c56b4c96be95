import { type ReactNode, useCallback, useState } from "react";
import type { Clip } from "../api/client";
import { ClipPicker } from "../matches/ClipPicker";
import type { Playhead } from "./playhead";

/** The picture, with the counts laid over it; without a clip, how to get one. */
export function Stage({ clip, playhead, attach, children }: { clip: Clip | null; playhead: Playhead; attach: (clip: Clip | null) => void; children: ReactNode }) {
  const [broken, setBroken] = useState(false);
  const [loaded, setLoaded] = useState(false);
  const follow = useCallback((video: HTMLVideoElement | null) => (video ? playhead.follow(video) : undefined), [playhead]);
  return (
    <div className="relative min-h-0 flex-1 bg-black">
      {clip ? (
        // The picture is silent by choice: halls are loud, and scoring is done by eye.
        <video ref={follow} src={`/api/clips/${clip.id}/content`} muted playsInline preload="auto" tabIndex={-1}
          aria-label="Footage of the match" className="absolute inset-0 h-full w-full object-contain" onClick={playhead.toggle}
          onLoadedData={() => setLoaded(true)} onError={() => setBroken(true)} />
      ) : (
        <div className="absolute inset-0 flex flex-col justify-center gap-4 px-10 text-bone">
          <p className="font-serif text-2xl">No clip yet</p>
          <p className="max-w-xl text-fog">
            Add the footage of this match, or score from memory: Space runs the time, the keys below log what you saw.
          </p>
          <ClipPicker dark clip={null} choose={attach} />
        </div>
      )}
      {clip && !loaded && !broken && <p className="absolute inset-0 grid place-items-center text-fog">Loading the clip…</p>}
      {broken && (
        <p role="alert" className="absolute inset-x-8 top-1/3 bg-rail p-4 text-bone">
          The clip does not play. Is the server running? Reload the page to try again; your log is safe. If it stays so,
          upload the clip again from a new match.
        </p>
      )}
      {children}
    </div>
  );
}
