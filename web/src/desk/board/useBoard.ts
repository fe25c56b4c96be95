import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useState } from "react";
import { api, type Board, type BoardMoment, type FoundLine, ok } from "../../api/client";
import { underWay } from "../../components/JobWork";
import { changedAt, type Corners, guessed, isAt, moved, nearest, type PartName, type Point, swapped, withoutPart, withPart } from "./marks";

const LOOK_EVERY_MS = 1000;

/** The board of the current clip: where it is marked, and what it proposes for the log at a revision. */
export function useBoard(match: string, clip: string | null, revision: number): Board | undefined {
  return useQuery({
    queryKey: ["board", match, clip, revision],
    queryFn: () => ok(api.GET("/api/matches/{match}/boards/{clip}", { params: { path: { match, clip: clip ?? "" } } })),
    enabled: clip !== null,
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    refetchInterval: (query) => (underWay(query.state.data?.job) ? LOOK_EVERY_MS : false),
  }).data;
}

/** Have the board read as it is marked, or forget it. */
export function useReading(match: string, clip: string) {
  const queries = useQueryClient();
  const path = { match, clip };
  const done = () => queries.invalidateQueries({ queryKey: ["board", match, clip] });
  const read = useMutation({
    mutationFn: (body: Pick<Board, "marks" | "counts" | "last_second">) =>
      ok(api.PUT("/api/matches/{match}/boards/{clip}", { params: { path }, body })),
    onSuccess: done,
  });
  const forget = useMutation({
    mutationFn: () => ok(api.DELETE("/api/matches/{match}/boards/{clip}", { params: { path } })),
    onSuccess: done,
  });
  return { read, forget };
}

type Texts = Partial<Record<string, { text: string; sure: number }>>;

/** What boxes show, and which lines a whole board has, read from the clip at once. */
function useLook(match: string, clip: string) {
  const [texts, setTexts] = useState<Texts>({});
  const look = useMutation({
    mutationFn: (body: { t: number; boxes?: BoardMoment["boxes"]; board?: Corners }) =>
      ok(api.POST("/api/matches/{match}/boards/{clip}/look", { params: { path: { match, clip } }, body })),
    onSuccess: (seen) => setTexts((now) => ({ ...now, ...seen.parts })),
  });
  const { mutate } = look;
  const show = useCallback(
    (next: BoardMoment[], t: number) => {
      const boxes = (next.find((one) => isAt(one, t)) ?? nearest(next, t))?.boxes;
      if (boxes && Object.keys(boxes).length) mutate({ t, boxes });
    },
    [mutate],
  );
  return { look, show, texts, setTexts };
}

/** Marking a board: its boxes, which one is drawn next, and what each of them shows. */
export function useMarking(match: string, clip: string) {
  const [moments, setMoments] = useState<BoardMoment[]>([]);
  const [part, setPart] = useState<PartName | "board">("clock");
  const [lines, setLines] = useState<FoundLine[]>([]);
  const { look, show, texts, setTexts } = useLook(match, clip);
  const { mutate } = look;
  const put = useCallback(
    (t: number, next: BoardMoment[]) => {
      setMoments(next);
      show(next, t);
    },
    [show],
  );
  /** Begin with the boxes given, and read what they show now. */
  const begin = useCallback(
    (marks: BoardMoment[], t: number) => {
      setLines([]);
      setTexts({});
      setPart("clock");
      put(t, marks);
    },
    [put, setTexts],
  );
  const draw = (t: number, box: Corners) => {
    if (part !== "board") return put(t, withPart(moments, t, part, box));
    mutate({ t, board: box }, { onSuccess: (seen) => takeLines(t, seen.lines) });
  };
  const takeLines = (t: number, found: FoundLine[]) => {
    setLines(found);
    let next = moments;
    for (const [name, box] of Object.entries(guessed(found))) next = withPart(next, t, name as PartName, box);
    put(t, next);
    setPart("clock");
  };
  return {
    ...{ moments, part, setPart, lines, texts, look, draw },
    begin,
    /** While a corner is dragged: nothing is read before it is let go. */
    drag: (t: number, name: PartName, corner: number, to: Point) =>
      setMoments((now) => changedAt(now, t, (boxes) => withCorner(boxes, name, corner, to))),
    shift: (t: number, by: Point) =>
      setMoments((now) =>
        changedAt(now, t, (boxes) => Object.fromEntries(Object.entries(boxes).map(([name, box]) => [name, moved(box, by)]))),
      ),
    settle: (t: number) => show(moments, t),
    assign: (t: number, box: Corners) => part !== "board" && put(t, withPart(moments, t, part, box)),
    remove: (name: PartName) => setMoments((now) => withoutPart(now, name)),
    forgetMoment: (t: number) => setMoments((now) => now.filter((one) => !isAt(one, t))),
    swap: (t: number) => put(t, swapped(moments)),
  };
}

export type Marking = ReturnType<typeof useMarking>;

function withCorner(boxes: BoardMoment["boxes"], name: PartName, corner: number, to: Point): BoardMoment["boxes"] {
  const box = boxes[name];
  return box ? { ...boxes, [name]: box.map((one, index) => (index === corner ? [to.x, to.y] : one)) } : boxes;
}
