import {
  type PointerEvent,
  type Ref,
  type RefObject,
  type SyntheticEvent,
  useCallback,
  useEffect,
  useImperativeHandle,
  useRef,
  useState,
} from "react";
import type { Note, Part, PictureMark } from "../api/client";
import { beginOf, endOf } from "../components/parts";

/** A part of the footage that is played, in seconds. */
export interface Stretch {
  start: number;
  end: number;
}

export interface Shown {
  /** Go to a time of the footage; with an end, play up to there and stop. */
  show: (t: number, end?: number) => void;
  /** Play one after the other. */
  playAll: (stretches: Stretch[]) => void;
  pause: () => void;
}

export type Tool = PictureMark["kind"];

const NEAR = 0.4;
/** How long a note on a moment stays in the picture. */
const NOTE_S = 2.5;

interface Going {
  video: RefObject<HTMLVideoElement | null>;
  part: Part | undefined;
  /** What a clip does once it can be played. */
  loaded: () => void;
}

/** Stops the footage at an end, where there is one, and says so. */
function useStopAt(end: RefObject<number | null>, video: RefObject<HTMLVideoElement | null>, part: Part | undefined, stopped: () => void) {
  // Between two time updates of the player a quarter of a second passes: too coarse to stop by.
  useEffect(() => {
    const timer = window.setInterval(() => {
      const now = video.current;
      if (!now || !part || (end.current === null && part.closes === null)) return;
      const t = part.start + now.currentTime;
      const over = now.ended || (!now.paused && t >= Math.min(end.current ?? Infinity, endOf(part)));
      if (!over) return;
      now.pause();
      stopped();
    }, 40);
    return () => window.clearInterval(timer);
  }, [end, video, part, stopped]);
}

/** Which of the clips is shown, and going to a place in any of them; up to an end, where one is asked for. */
function useGoing(parts: Part[], setT: (t: number) => void, ref: Ref<Shown>): Going {
  const video = useRef<HTMLVideoElement>(null);
  const [at, setAt] = useState(0);
  const wanted = useRef<number | null>(null);
  const end = useRef<number | null>(null);
  /** What is played after what is playing now. */
  const waiting = useRef<Stretch[]>([]);
  const part = parts[at] ?? parts[0];
  const play = useCallback((local: number) => {
    if (!video.current) return;
    video.current.currentTime = local;
    void video.current.play().catch(() => undefined);
    video.current.scrollIntoView({ block: "nearest" });
  }, []);
  const go = useCallback(
    (start: number, until: number | null) => {
      setT(start);
      end.current = until;
      const to = Math.max(0, parts.filter((one) => beginOf(one) <= start).length - 1);
      const local = Math.max(0, start - (parts[to]?.start ?? 0));
      if (to === at) play(local);
      else {
        wanted.current = local;
        setAt(to);
      }
    },
    [at, parts, play, setT],
  );
  const playNext = useCallback(() => {
    const next = waiting.current.shift();
    if (next) go(next.start, next.end);
  }, [go]);
  useImperativeHandle(
    ref,
    () => ({
      show: (start, until) => {
        waiting.current = [];
        go(start, until ?? null);
      },
      playAll: (stretches) => {
        waiting.current = [...stretches];
        playNext();
      },
      pause: () => video.current?.pause(),
    }),
    [go, playNext],
  );
  const stop = useCallback(() => {
    end.current = null;
    playNext();
  }, [playNext]);
  useStopAt(end, video, part, stop);
  const loaded = useCallback(() => {
    if (wanted.current !== null) play(wanted.current);
    wanted.current = null;
  }, [play]);
  return { video, part, loaded };
}

/** The footage of the match, with the notes that belong to the moment drawn over it; or marks being made. */
export function Player({
  parts,
  notes,
  t,
  setT,
  tool,
  draw,
  drawn,
  ref,
}: {
  parts: Part[];
  notes: Note[];
  t: number;
  setT: (t: number) => void;
  /** What the next drag or click in the picture makes; null: nothing. */
  tool: Tool | null;
  draw: (mark: PictureMark) => void;
  /** Marks that are being made. */
  drawn: PictureMark[];
  ref: Ref<Shown>;
}) {
  const { video, part, loaded } = useGoing(parts, setT, ref);
  if (!part) return null;
  const shown = notes.filter((note) => t >= note.t - NEAR && t <= (note.until ?? note.t + NOTE_S));
  const words = shown.flatMap((note) => (note.text ? [note.text] : []));
  const moved = (event: SyntheticEvent<HTMLVideoElement>) => setT(part.start + event.currentTarget.currentTime);
  return (
    <div className="relative aspect-video w-full bg-night">
      <video
        key={part.clip.id}
        ref={video}
        src={`/api/clips/${part.clip.id}/content`}
        controls={tool === null}
        muted
        playsInline
        preload="metadata"
        aria-label="Footage of the match"
        className="absolute inset-0 h-full w-full object-contain"
        onTimeUpdate={moved}
        onSeeked={moved}
        onLoadedMetadata={loaded}
      />
      <Picture
        width={part.clip.width ?? 640}
        height={part.clip.height ?? 360}
        marks={[...shown.flatMap((note) => note.marks ?? []), ...drawn]}
        tool={tool}
        draw={draw}
      />
      {tool === null && words.length > 0 && (
        <p className="pointer-events-none absolute inset-x-0 top-0 bg-night/80 px-3 py-1.5 text-bone">{words.join(" · ")}</p>
      )}
    </div>
  );
}

/** Marks in the clip's own pixels, over the picture as it is fitted in. */
function Picture({
  width,
  height,
  marks,
  tool,
  draw,
}: {
  width: number;
  height: number;
  marks: PictureMark[];
  tool: Tool | null;
  draw: (mark: PictureMark) => void;
}) {
  const from = useRef<{ x: number; y: number } | null>(null);
  const [drag, setDrag] = useState<PictureMark | null>(null);
  const place = (event: PointerEvent<SVGSVGElement>) => {
    const matrix = event.currentTarget.getScreenCTM();
    const at = matrix ? new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse()) : { x: 0, y: 0 };
    const within = (value: number, most: number) => Math.round(Math.min(Math.max(0, value), most));
    return { x: within(at.x, width), y: within(at.y, height) };
  };
  const size = width / 640;
  const down = (event: PointerEvent<SVGSVGElement>) => {
    if (!tool) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    from.current = place(event);
  };
  const move = (event: PointerEvent<SVGSVGElement>) => {
    if (tool !== "arrow" || !from.current) return;
    const to = place(event);
    setDrag({ kind: "arrow", ...from.current, to_x: to.x, to_y: to.y });
  };
  const up = (event: PointerEvent<SVGSVGElement>) => {
    const start = from.current;
    from.current = null;
    setDrag(null);
    if (!tool || !start) return;
    const to = place(event);
    if (tool === "arrow") {
      if (Math.hypot(to.x - start.x, to.y - start.y) > 4 * size) draw({ kind: "arrow", ...start, to_x: to.x, to_y: to.y });
    } else draw({ kind: tool, ...start });
  };
  return (
    <svg
      viewBox={`0 0 ${width} ${height}`}
      className={`absolute inset-0 h-full w-full touch-none ${tool ? "cursor-crosshair" : "pointer-events-none"}`}
      onPointerDown={down}
      onPointerMove={move}
      onPointerUp={up}
      data-testid="picture"
      role="img"
      aria-label={tool ? "The picture: click or drag to mark" : "Marks in the picture"}
    >
      {[...marks, ...(drag ? [drag] : [])].map((mark, index) => (
        <Drawn key={index} mark={mark} size={size} />
      ))}
    </svg>
  );
}

function Drawn({ mark, size }: { mark: PictureMark; size: number }) {
  const line = { stroke: "#12181b", strokeWidth: 7 * size, fill: "none" };
  const over = { stroke: "#eba53c", strokeWidth: 3.5 * size, fill: "none" };
  switch (mark.kind) {
    case "point":
      return (
        <>
          {[line, over].map((look, index) => (
            <circle key={index} cx={mark.x} cy={mark.y} r={14 * size} {...look} />
          ))}
        </>
      );
    case "text":
      return (
        <text
          x={mark.x}
          y={mark.y}
          fontSize={20 * size}
          fontWeight={700}
          fill="#eba53c"
          stroke="#12181b"
          strokeWidth={4 * size}
          paintOrder="stroke"
        >
          {mark.text ?? "…"}
        </text>
      );
    case "arrow": {
      const [x, y] = [mark.to_x ?? mark.x, mark.to_y ?? mark.y];
      const angle = Math.atan2(y - mark.y, x - mark.x);
      const wing = (turn: number) => `${x - 16 * size * Math.cos(angle + turn)},${y - 16 * size * Math.sin(angle + turn)}`;
      const path = `M ${mark.x},${mark.y} L ${x},${y} M ${wing(0.45)} L ${x},${y} L ${wing(-0.45)}`;
      return (
        <>
          {[line, over].map((look, index) => (
            <path key={index} d={path} strokeLinejoin="round" {...look} />
          ))}
        </>
      );
    }
  }
}
