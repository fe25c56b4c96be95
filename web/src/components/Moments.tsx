import { createContext, useContext, useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import type { SeasonMoment } from "../api/client";
import { type Footage, type Shown, shownOf } from "./moments";
import { Sheet } from "./Sheet";

/** Whether who looks may open reviews and footage: athletes and guardians see numbers alone. */
export const Opens = createContext(true);

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
  const may = useContext(Opens);
  if (!may || !moments.length) return <span>{words}</span>;
  return (
    <>
      <button type="button" className="quiet" aria-label={`${title}: ${words}`} onClick={() => setOpen(true)}>
        {words}
      </button>
      <Sheet title={title} width="wide" back={back} open={open} setOpen={setOpen}>
        {open && <Moments shown={shownOf(moments, played)} />}
      </Sheet>
    </>
  );
}

/** The first moment from a place on that a clip shows; that place where there is none. */
function nextPlayed(shown: Shown[], from: number): number {
  const found = shown.findIndex((one, number) => number >= from && one.play);
  return found < 0 ? Math.min(from, shown.length - 1) : found;
}

function Moments({ shown }: { shown: Shown[] }) {
  const [at, setAt] = useState(nextPlayed(shown, 0));
  const now = shown[at];
  const over = () => {
    const next = nextPlayed(shown, at + 1);
    if (shown[next]?.play && next > at) setAt(next);
  };
  return (
    <div className="grid gap-5 md:grid-cols-[1fr_16rem]">
      <figure>
        {now?.play ? (
          <Stretch key={at} play={now.play} over={over} />
        ) : (
          <p className="border-l-4 border-rule pl-3">The match has no clip at this place.</p>
        )}
        {now && (
          <figcaption className="pt-1">
            {now.title}.{" "}
            <Link className="quiet" to={`/matches/${now.match}/review`}>
              Open the review
            </Link>
          </figcaption>
        )}
      </figure>
      <ol className="max-h-96 overflow-auto">
        {shown.map((one, index) => (
          <li key={index} className={`border-b border-rule py-1 ${index === at ? "font-semibold" : ""}`}>
            <button type="button" className="text-left hover:underline" aria-current={index === at} onClick={() => setAt(index)}>
              {one.title}
            </button>
            {!one.play && <span className="block text-slate">no clip</span>}
          </li>
        ))}
      </ol>
    </div>
  );
}

/** One stretch of a clip, played from its beginning to its end, and then the next one. */
function Stretch({ play, over }: { play: NonNullable<Shown["play"]>; over: () => void }) {
  const video = useRef<HTMLVideoElement>(null);
  useEffect(() => {
    const timer = window.setInterval(() => {
      const { current } = video;
      if (!current || current.paused || current.currentTime < play.to) return;
      current.pause();
      over();
    }, 40);
    return () => window.clearInterval(timer);
  }, [over, play]);
  return (
    <video
      ref={video}
      className="max-h-[60vh] w-full bg-night"
      src={`/api/clips/${play.clip}/content`}
      controls
      autoPlay
      muted
      playsInline
      onLoadedMetadata={(event) => {
        event.currentTarget.currentTime = play.from;
      }}
    />
  );
}
