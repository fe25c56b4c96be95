import { useQuery } from "@tanstack/react-query";
import { useGesture } from "@use-gesture/react";
import { type ReactNode, type RefObject, useCallback, useEffect, useRef, useState } from "react";
import { api, ApiError, type Clip, ok } from "../api/client";
import { ClipPicker, ClipWork, isFilmed } from "../components/ClipPicker";
import type { Playhead } from "./playhead";
import { moved, transformOf, type View, whole, zoomed } from "./view";

const WHEEL_ZOOM = 1.15;

/** The size of an element on the page, followed as it changes. */
function useSize(element: RefObject<HTMLElement | null>): { width: number; height: number } {
  const [size, setSize] = useState({ width: 0, height: 0 });
  useEffect(() => {
    const watched = element.current;
    if (!watched) return undefined;
    const watch = new ResizeObserver(() => setSize({ width: watched.clientWidth, height: watched.clientHeight }));
    watch.observe(watched);
    return () => watch.disconnect();
  }, [element]);
  return size;
}

/** Drag, pinch and wheel on the picture; a tap plays or pauses it. */
function useHandling(
  stage: RefObject<HTMLElement | null>,
  size: { width: number; height: number },
  playhead: Playhead,
  setView: (change: (view: View) => View) => void,
): void {
  const shares = (x: number, y: number) => {
    const box = stage.current?.getBoundingClientRect();
    return box ? { x: (x - box.left) / box.width - 0.5, y: (y - box.top) / box.height - 0.5 } : { x: 0, y: 0 };
  };
  const scale = useRef(1);
  useGesture(
    {
      onDrag: ({ tap, pinching, delta: [x, y], event }) => {
        if (pinching || !(event.target instanceof HTMLVideoElement)) return;
        if (tap) playhead.toggle();
        else setView((now) => moved(now, x / size.width, y / size.height));
      },
      onPinch: ({ first, origin: [x, y], movement: [by] }) => {
        const before = first ? 1 : scale.current;
        scale.current = by;
        setView((now) => zoomed(now, by / before, shares(x, y)));
      },
      onWheel: ({ event }) => {
        if (event.ctrlKey) return; // a pinch on a touchpad
        event.preventDefault();
        setView((now) => zoomed(now, event.deltaY < 0 ? WHEEL_ZOOM : 1 / WHEEL_ZOOM, shares(event.clientX, event.clientY)));
      },
    },
    { target: stage, eventOptions: { passive: false }, drag: { filterTaps: true } },
  );
}

/** The picture, with the counts laid over it; without a clip, how to get one. */
export function Stage({
  clip,
  playhead,
  view,
  setView,
  attach,
  over,
  children,
}: {
  clip: Clip | null;
  playhead: Playhead;
  view: View;
  setView: (change: (view: View) => View) => void;
  attach: (clip: Clip | null) => void;
  /** What is drawn on the picture and moves with it. */
  over?: ((size: { width: number; height: number }, transform: string) => ReactNode) | undefined;
  children: ReactNode;
}) {
  const stage = useRef<HTMLDivElement>(null);
  const size = useSize(stage);
  useHandling(stage, size, playhead, setView);
  const transform = transformOf(view, size.width, size.height);
  return (
    <div ref={stage} data-testid="stage" className="relative min-h-0 flex-1 overflow-hidden bg-black">
      {clip?.state === "ready" ? (
        <Picture key={clip.id} clip={clip} playhead={playhead} transform={transform} />
      ) : clip ? (
        <Preparing clip={clip} />
      ) : playhead.end !== null ? (
        <p className="absolute inset-0 grid place-items-center font-serif text-2xl text-fog">No footage for this part of the match</p>
      ) : (
        <NoClip attach={attach} />
      )}
      {view.zoom > 1 && (
        <button type="button" className="absolute top-2 right-2 bg-night/85 px-2 py-1 text-[15px] text-bone" onClick={() => setView(whole)}>
          {view.zoom.toFixed(1)}× · <span className="key">0</span> whole picture
        </button>
      )}
      {children}
      {clip?.state === "ready" && over?.(size, transform)}
    </div>
  );
}

const UNKNOWN = "Is the server running? Reload the page to try again. If it still won’t play, upload the clip again from a new match.";

/** What the server says of a clip that does not play; null where it would send it. */
async function whyNot(clip: string): Promise<string | null> {
  try {
    await ok(api.GET("/api/clips/{clip}/content", { params: { path: { clip } }, headers: { Range: "bytes=0-0" }, parseAs: "blob" }));
    return null;
  } catch (error) {
    return error instanceof ApiError ? error.message : null;
  }
}

/** The footage itself. What it begins to play from plays on, even when the worker has made a better copy meanwhile. */
function Picture({ clip, playhead, transform }: { clip: Clip; playhead: Playhead; transform: string }) {
  const [state, setState] = useState<"loading" | "shown" | "broken">("loading");
  const why = useQuery({ queryKey: ["why", clip.id], queryFn: () => whyNot(clip.id), enabled: state === "broken", gcTime: 0 });
  const [copy] = useState(clip.proxied);
  const follow = useCallback((video: HTMLVideoElement | null) => (video ? playhead.follow(video) : undefined), [playhead]);
  return (
    <>
      <video
        ref={follow}
        src={`/api/clips/${clip.id}/content?of=${copy ? "copy" : "original"}`}
        muted
        playsInline
        preload="auto"
        tabIndex={-1}
        aria-label="Footage of the match"
        className="absolute inset-0 h-full w-full touch-none object-contain"
        style={{ transform }}
        onLoadedData={() => setState((now) => (now === "broken" ? now : "shown"))}
        onError={() => setState("broken")}
      />
      {state === "loading" && <p className="absolute inset-0 grid place-items-center text-fog">Loading the clip…</p>}
      {state === "broken" && (
        <p role="alert" className="absolute inset-x-8 top-1/3 bg-rail p-4 text-bone">
          The clip does not play. {why.data ?? UNKNOWN} Your log is safe.
        </p>
      )}
    </>
  );
}

function Preparing({ clip }: { clip: Clip }) {
  return (
    <div className="absolute inset-0 flex flex-col justify-center gap-4 px-10 text-bone">
      <p className="font-serif text-2xl">{clip.state === "failed" ? "This clip does not play" : "The clip is being prepared"}</p>
      <p className="max-w-xl text-fog">
        {isFilmed(clip)
          ? "The simulated camera is filming this clip. It takes a minute or two; you can leave this page."
          : `Browsers can’t play ${clip.name} directly, so a playable copy is being made. You can leave this page.`}
      </p>
      <ClipWork dark clip={clip} />
    </div>
  );
}

function NoClip({ attach }: { attach: (clip: Clip | null) => void }) {
  return (
    <div className="absolute inset-0 flex flex-col justify-center gap-4 px-10 text-bone">
      <p className="font-serif text-2xl">No clip yet</p>
      <p className="max-w-xl text-fog">
        Add the footage of this match, or score from memory: Space starts and stops time, and the keys below log what you saw.
      </p>
      <ClipPicker dark clip={null} choose={attach} />
    </div>
  );
}
