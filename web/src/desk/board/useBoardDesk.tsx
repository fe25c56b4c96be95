import { type ReactNode, useCallback } from "react";
import type { Board, Clip, Desk } from "../../api/client";
import { type Playhead, usePlayhead } from "../playhead";
import { BoardPanel, partWords } from "./BoardPanel";
import { MarkBoxes } from "./MarkBoxes";
import { type Marking, useBoard, useMarking } from "./useBoard";

/** All that the desk has of the scoreboard in the clip, each for its place; null where there is nothing to show. */
export interface BoardDesk {
  board: Board | undefined;
  /** Begins to mark the board. */
  mark: (() => void) | null;
  over: ((size: { width: number; height: number }, transform: string) => ReactNode) | undefined;
  panel: ReactNode;
}

/** The scoreboard of the clip under the playhead. `open`: whether it is being marked. */
export function useBoardDesk(
  desk: Desk,
  clip: Clip | null,
  playhead: Playhead,
  open: boolean,
  show: (dialog: "board" | null) => void,
): BoardDesk {
  const { match } = desk;
  const board = useBoard(match.id, clip?.id ?? null, desk.revision);
  const marking = useMarking(match.id, clip?.id ?? "");
  const { begin } = marking;
  const marks = board?.marks;
  const mark = useCallback(() => {
    playhead.pause();
    begin(marks ?? [], playhead.now() - playhead.clipStart);
    show("board");
  }, [playhead, begin, marks, show]);
  if (clip?.state !== "ready" || match.practice) return { board: undefined, mark: null, over: undefined, panel: null };
  if (!open) return { board, mark, over: undefined, panel: null };
  return {
    board,
    mark,
    over: (size, transform) => <Over {...{ desk, marking, playhead, size, transform }} />,
    panel: <BoardPanel {...{ match, clip, board, marking, playhead }} close={() => show(null)} />,
  };
}

function Over({
  desk,
  marking,
  playhead,
  size,
  transform,
}: {
  desk: Desk;
  marking: Marking;
  playhead: Playhead;
  size: { width: number; height: number };
  transform: string;
}) {
  const t = usePlayhead(playhead, (one) => one.t - one.clipStart);
  return <MarkBoxes {...{ marking, size, transform, t }} label={(part) => partWords(part, desk.match)} />;
}
