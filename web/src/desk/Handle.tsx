import { useRef } from "react";
import { footage } from "../components/words";
import type { Playhead } from "./playhead";
import { movedTo } from "./useCommands";
import type { Keyed } from "../api/client";

const EVERY_MS = 120;

/** The chosen observation on the time line: dragged, it moves along time and the verdict follows. */
export function Handle({ seen, slide, playhead }: { seen: Keyed; slide: (body: Keyed) => void; playhead: Playhead }) {
  const last = useRef(0);
  const { begin, end } = playhead;
  if (end === null) return null;
  const drag = (element: HTMLElement, x: number, sure: boolean) => {
    const line = element.parentElement?.getBoundingClientRect();
    if (!line || (!sure && performance.now() - last.current < EVERY_MS)) return;
    last.current = performance.now();
    playhead.seek(begin + ((x - line.left) / line.width) * (end - begin));
    slide(movedTo(seen, playhead.now()));
  };
  return (
    <span
      aria-hidden
      title={`Drag to move it from ${footage(seen.t)}`}
      data-testid="handle"
      className="absolute -top-1 z-10 h-3 w-3 touch-none before:absolute before:-inset-3 -translate-x-1/2 rotate-45 cursor-ew-resize border-2 border-night bg-bone"
      style={{ left: `${((seen.t - begin) / (end - begin)) * 100}%` }}
      onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
      onPointerMove={(event) => event.buttons > 0 && drag(event.currentTarget, event.clientX, false)}
      onPointerUp={(event) => drag(event.currentTarget, event.clientX, true)}
    />
  );
}
