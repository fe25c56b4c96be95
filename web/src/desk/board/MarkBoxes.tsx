import { type KeyboardEvent, type PointerEvent, useRef, useState } from "react";
import { boxBetween, CORNER_WORDS, type Corners, fitted, isAt, nearest, type PartName, type Place, type Point, sideOf } from "./marks";
import { Magnifier } from "./Magnifier";
import type { Marking } from "./useBoard";

const INK = { a: "stroke-amber", b: "stroke-sea", clock: "stroke-bone" };
const FINE = 1;
const COARSE = 6;
const ARROWS: Record<string, Point> = {
  ArrowLeft: { x: -1, y: 0 },
  ArrowRight: { x: 1, y: 0 },
  ArrowUp: { x: 0, y: -1 },
  ArrowDown: { x: 0, y: 1 },
};

/** What is dragged: a new box, a corner, or the whole board. */
type Drag = { what: "box"; from: Point } | { what: "corner"; part: PartName; corner: number } | { what: "board"; from: Point };

/** The boxes of a board over the picture, drawn, dragged and moved by keys. */
export function MarkBoxes({
  marking,
  t,
  label,
  size,
  transform,
}: {
  marking: Marking;
  /** The time of the clip. */
  t: number;
  label: (part: PartName) => string;
  /** Of the stage, in pixels. */
  size: { width: number; height: number };
  transform: string;
}) {
  const [svg, setSvg] = useState<SVGSVGElement | null>(null);
  const video = svg?.parentElement?.querySelector("video") ?? null;
  const place = fitted(size, shapeOf(video));
  const { down, move, up, draft, at } = useDragging(svg, place, marking, t);
  const shown = marking.moments.find((one) => isAt(one, t)) ?? nearest(marking.moments, t);
  const marked = shown !== undefined && isAt(shown, t);

  return (
    <>
      <svg
        ref={setSvg}
        data-testid="boxes"
        aria-label="Boxes of the scoreboard"
        className="absolute inset-0 h-full w-full touch-none cursor-crosshair"
        style={{ transform }}
        onPointerDown={(event) => down(event, (from) => ({ what: "box", from }))}
        onPointerMove={move}
        onPointerUp={up}
        onPointerCancel={up}
      >
        <Lines marking={marking} place={place} t={t} />
        {Object.entries(shown?.boxes ?? {}).map(([name, box]) => (
          <Box
            key={name}
            {...{ place, box, marked, down }}
            part={name as PartName}
            label={label(name as PartName)}
            nudge={(corner, by) => {
              const from = box[corner] ?? [0, 0];
              marking.drag(t, name as PartName, corner, {
                x: (from[0] ?? 0) + by.x / place.width,
                y: (from[1] ?? 0) + by.y / place.height,
              });
            }}
            settle={() => marking.settle(t)}
          />
        ))}
        {draft && <polygon points={pointsOf(draft, place)} className="fill-none stroke-bone" strokeWidth={2} strokeDasharray="5 3" />}
      </svg>
      {at && video && <Magnifier video={video} at={at} />}
    </>
  );
}

/** The lines that were found on a whole board: clicked, one becomes the box of the chosen part. */
function Lines({ marking, place, t }: { marking: Marking; place: Place; t: number }) {
  return marking.lines.map((line, index) => (
    <polygon
      key={index}
      points={pointsOf(line.box, place)}
      strokeDasharray="3 3"
      className="cursor-pointer fill-transparent stroke-fog"
      onPointerDown={(event) => event.stopPropagation()}
      onClick={() => marking.assign(t, line.box)}
    >
      <title>{line.text}</title>
    </polygon>
  ));
}

/** Draws new boxes, and drags corners and the board, by pointer. */
function useDragging(svg: SVGSVGElement | null, place: Place, marking: Marking, t: number) {
  const drag = useRef<Drag | null>(null);
  const [draft, setDraft] = useState<Corners | null>(null);
  const [at, setAt] = useState<Point | null>(null);
  const down = (event: PointerEvent, what: (from: Point) => Drag) => {
    const from = svg && pointOf(svg, event, place);
    if (!from || event.button !== 0) return;
    event.stopPropagation();
    svg?.setPointerCapture(event.pointerId);
    drag.current = what(from);
    setAt(from);
  };
  const move = (event: PointerEvent) => {
    const now = drag.current;
    const to = svg && pointOf(svg, event, place);
    if (!now || !to) return;
    setAt(to);
    if (now.what === "box") setDraft(boxBetween(now.from, to));
    if (now.what === "corner") marking.drag(t, now.part, now.corner, to);
    if (now.what === "board") {
      marking.shift(t, { x: to.x - now.from.x, y: to.y - now.from.y });
      now.from = to;
    }
  };
  const up = () => {
    const was = drag.current;
    drag.current = null;
    setAt(null);
    if (was?.what === "box" && draft) marking.draw(t, draft);
    else if (was) marking.settle(t);
    setDraft(null);
  };
  return { down, move, up, draft, at };
}

interface BoxProps {
  part: PartName;
  box: Corners;
  place: Place;
  marked: boolean;
  label: string;
  down: (event: PointerEvent, what: (from: Point) => Drag) => void;
  nudge: (corner: number, by: Point) => void;
  settle: () => void;
}

/** One part's box: dragged inside, the whole board moves; each corner by itself, by pointer or by keys. */
function Box({ part, box, place, marked, label, down, nudge, settle }: BoxProps) {
  return (
    <g className={INK[sideOf(part) ?? "clock"]}>
      <polygon
        points={pointsOf(box, place)}
        strokeWidth={2}
        strokeDasharray={marked ? undefined : "4 3"}
        className="cursor-move fill-transparent"
        data-part={part}
        onPointerDown={(event) => down(event, (from) => ({ what: "board", from }))}
      >
        <title>{label}</title>
      </polygon>
      <CornersOf {...{ part, box, place, label, down, nudge, settle }} />
    </g>
  );
}

/** The corners of a box: each is dragged, or moved by arrow keys. */
function CornersOf({ part, box, place, label, down, nudge, settle }: Omit<BoxProps, "marked">) {
  const key = (corner: number) => (event: KeyboardEvent) => {
    const arrow = ARROWS[event.key];
    if (!arrow) return;
    event.preventDefault();
    event.stopPropagation();
    const by = event.shiftKey ? COARSE : FINE;
    nudge(corner, { x: arrow.x * by, y: arrow.y * by });
  };
  return (
    <>
      {box.map(([x = 0, y = 0], corner) => (
        <circle
          key={corner}
          cx={place.left + x * place.width}
          cy={place.top + y * place.height}
          r={4}
          strokeWidth={1.5}
          tabIndex={0}
          role="button"
          aria-label={`${label}, ${CORNER_WORDS[corner]} corner`}
          className="cursor-grab fill-night outline-none focus:fill-bone"
          onKeyDown={key(corner)}
          onKeyUp={settle}
          onPointerDown={(event) => {
            event.currentTarget.focus();
            down(event, () => ({ what: "corner", part, corner }));
          }}
        />
      ))}
    </>
  );
}

/** The shape of the picture; before it is loaded, that of most clips. */
function shapeOf(video: HTMLVideoElement | null): { width: number; height: number } {
  return video?.videoWidth ? { width: video.videoWidth, height: video.videoHeight } : { width: 16, height: 9 };
}

/** Where a pointer is in the picture, as shares of it, however the picture is enlarged or turned. */
function pointOf(svg: SVGSVGElement, event: PointerEvent, place: Place): Point | null {
  const back = svg.getScreenCTM()?.inverse();
  if (!back) return null;
  const { x, y } = new DOMPoint(event.clientX, event.clientY).matrixTransform(back);
  return { x: (x - place.left) / place.width, y: (y - place.top) / place.height };
}

function pointsOf(box: Corners, place: Place): string {
  return box.map(([x = 0, y = 0]) => `${place.left + x * place.width},${place.top + y * place.height}`).join(" ");
}
