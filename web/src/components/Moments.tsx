import { useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import type { SeasonMoment } from "../api/client";
import { type Footage, type Playable, playable } from "./moments";
import { Sheet } from "./Sheet";

/** A number that opens the moments behind it. */
export function Behind({
  words,
  title,
  moments,
  played,
  back = "Back to the season",
}: {
  words: string;
  title: string;
  moments: SeasonMoment[];
  played: Footage[];
  back?: string;
}) {
  const [open, setOpen] = useState(false);
  const shown = playable(moments, played);
  if (!shown.length) return <span>{words}</span>;
  return (
    <>
      <button type="button" className="quiet" aria-label={`${title}: ${words}`} onClick={() => setOpen(true)}>
        {words}
      </button>
      <Sheet title={title} width="wide" back={back} open={open} setOpen={setOpen}>
        {open && <Moments shown={shown} without={moments.length - shown.length} />}
      </Sheet>
    </>
  );
}

function Moments({ shown, without }: { shown: Playable[]; without: number }) {
  const [at, setAt] = useState(0);
  const now = shown[at];
  return (
    <div className="grid gap-5 md:grid-cols-[1fr_16rem]">
      <div>
        {now && <Stretch key={at} shown={now} over={() => setAt((before) => Math.min(before + 1, shown.length - 1))} />}
        {without > 0 && (
          <p className="pt-2 text-slate">
            {without === 1 ? "1 moment is" : `${without} moments are`} in matches without a clip at that place.
          </p>
        )}
      </div>
      <ol className="max-h-96 overflow-auto">
        {shown.map((one, index) => (
          <li key={index} className={`border-b border-rule py-1 ${index === at ? "font-semibold" : ""}`}>
            <button type="button" className="text-left hover:underline" aria-current={index === at} onClick={() => setAt(index)}>
              {one.title}
            </button>
          </li>
        ))}
      </ol>
    </div>
  );
}

/** One stretch of a clip, played from its beginning to its end, and then the next one. */
function Stretch({ shown, over }: { shown: Playable; over: () => void }) {
  const video = useRef<HTMLVideoElement>(null);
  useEffect(() => {
    const timer = window.setInterval(() => {
      const { current } = video;
      if (!current || current.paused || current.currentTime < shown.to) return;
      current.pause();
      over();
    }, 40);
    return () => window.clearInterval(timer);
  }, [over, shown]);
  return (
    <figure>
      <video
        ref={video}
        className="max-h-[60vh] w-full bg-night"
        src={`/api/clips/${shown.clip}/content`}
        controls
        autoPlay
        muted
        playsInline
        onLoadedMetadata={(event) => {
          event.currentTarget.currentTime = shown.from;
        }}
      />
      <figcaption className="pt-1">
        {shown.title}.{" "}
        <Link className="quiet" to={`/matches/${shown.match}/review`}>
          Open the review
        </Link>
      </figcaption>
    </figure>
  );
}
