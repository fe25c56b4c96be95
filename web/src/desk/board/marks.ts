import type { BoardMoment, FoundLine, Side, Tally } from "../../api/client";

/** A point as shares of the picture. */
export interface Point {
  x: number;
  y: number;
}

/** Four corners, clockwise from the top left one. */
export type Corners = number[][];
export type PartName = "clock" | `${Side}.${Tally}`;

const TALLIES: Tally[] = ["points", "advantages", "penalties"];
const SIDES: Side[] = ["a", "b"];
export const PARTS: PartName[] = ["clock", ...SIDES.flatMap((side) => TALLIES.map((tally): PartName => `${side}.${tally}`))];
export const CORNER_WORDS = ["top left", "top right", "bottom right", "bottom left"];
/** Moments nearer than this, in seconds, are one. */
const SAME_MOMENT = 0.02;
/** A drag shorter than this, in shares of the picture, is a click. */
const SHORTEST_DRAG = 0.006;

/** Whose figure a part is; null for the clock. */
export function sideOf(part: PartName): Side | null {
  return part === "clock" ? null : part.startsWith("a") ? "a" : "b";
}

/** An upright box between two opposite corners; null where it is only a click. */
export function boxBetween(one: Point, other: Point): Corners | null {
  const [left, right] = [Math.min(one.x, other.x), Math.max(one.x, other.x)];
  const [top, bottom] = [Math.min(one.y, other.y), Math.max(one.y, other.y)];
  if (right - left < SHORTEST_DRAG || bottom - top < SHORTEST_DRAG) return null;
  return [
    [left, top],
    [right, top],
    [right, bottom],
    [left, bottom],
  ];
}

export function isAt(moment: BoardMoment, t: number): boolean {
  return Math.abs(moment.t - t) < SAME_MOMENT;
}

/** The marked moment nearest to a time of the clip. */
export function nearest(moments: BoardMoment[], t: number): BoardMoment | undefined {
  return [...moments].sort((one, other) => Math.abs(one.t - t) - Math.abs(other.t - t))[0];
}

/** The boxes of one moment changed. Where the time is not marked yet, it becomes one, with the boxes of the nearest. */
export function changedAt(moments: BoardMoment[], t: number, change: (boxes: BoardMoment["boxes"]) => BoardMoment["boxes"]): BoardMoment[] {
  const now = moments.find((one) => isAt(one, t)) ?? { t, boxes: nearest(moments, t)?.boxes ?? {} };
  const next = { t: now.t, boxes: change(now.boxes) };
  return [...moments.filter((one) => one !== now), next].sort((one, other) => one.t - other.t);
}

/** A new part needs a box at every marked moment: elsewhere it lies where it lies here, moved along with the others. */
export function withPart(moments: BoardMoment[], t: number, part: PartName, box: Corners): BoardMoment[] {
  const changed = changedAt(moments, t, (boxes) => ({ ...boxes, [part]: box }));
  const here = changed.find((one) => isAt(one, t));
  return changed.map((one) => {
    if (one === here || !here || part in one.boxes) return one;
    return { ...one, boxes: { ...one.boxes, [part]: moved(box, apart(here.boxes, one.boxes)) } };
  });
}

export function withoutPart(moments: BoardMoment[], part: PartName): BoardMoment[] {
  return moments
    .map((one) => ({ ...one, boxes: Object.fromEntries(Object.entries(one.boxes).filter(([name]) => name !== part)) }))
    .filter((one) => Object.keys(one.boxes).length > 0);
}

/** How far the boxes of one moment lie from those of another, by a part that both have. */
function apart(from: BoardMoment["boxes"], to: BoardMoment["boxes"]): Point {
  const shared = Object.keys(from).find((name) => name in to);
  const [one, other] = shared ? [from[shared]?.[0], to[shared]?.[0]] : [];
  return one && other ? { x: (other[0] ?? 0) - (one[0] ?? 0), y: (other[1] ?? 0) - (one[1] ?? 0) } : { x: 0, y: 0 };
}

export function moved(box: Corners, by: Point): Corners {
  return box.map(([x = 0, y = 0]) => [x + by.x, y + by.y]);
}

/** The athlete's side and the opponent's changed over. */
export function swapped(moments: BoardMoment[]): BoardMoment[] {
  const other = (name: string) => (name.startsWith("a.") ? `b.${name.slice(2)}` : name.startsWith("b.") ? `a.${name.slice(2)}` : name);
  return moments.map((one) => ({ ...one, boxes: Object.fromEntries(Object.entries(one.boxes).map(([name, box]) => [other(name), box])) }));
}

const CLOCK = /^\d{1,2}[:.]\d{2}$/;

/** Which line of a board may be which part: the clock by its look, two or six figures by their order. */
export function guessed(lines: FoundLine[]): Partial<Record<PartName, Corners>> {
  const clock = lines.find((line) => CLOCK.test(line.text));
  const figures = lines.filter((line) => /^\d{1,2}$/.test(line.text));
  const parts = figures.length === 2 ? PARTS.filter((part) => part.endsWith("points")) : figures.length === 6 ? PARTS.slice(1) : [];
  const found: Partial<Record<PartName, Corners>> = clock ? { clock: clock.box } : {};
  inRows(figures, slopeOf(lines)).forEach((line, index) => {
    const part = parts[index];
    if (part) found[part] = line.box;
  });
  return found;
}

/** How far a board leans: what its widest line rises or falls over its width. */
function slopeOf(lines: FoundLine[]): number {
  const along = (line: FoundLine, axis: 0 | 1) => (line.box[1]?.[axis] ?? 0) - (line.box[0]?.[axis] ?? 0);
  const widest = [...lines].sort((one, other) => along(other, 0) - along(one, 0))[0];
  return widest && along(widest, 0) > 0 ? along(widest, 1) / along(widest, 0) : 0;
}

/** From the top down, and from left to right in each row of a board that leans by a slope. */
function inRows(lines: FoundLine[], slope: number): FoundLine[] {
  const middle = (line: FoundLine, axis: 0 | 1) => line.box.reduce((sum, corner) => sum + (corner[axis] ?? 0), 0) / 4;
  const down = (line: FoundLine) => middle(line, 1) - slope * middle(line, 0);
  const height = (line: FoundLine) => (line.box[3]?.[1] ?? 0) - (line.box[0]?.[1] ?? 0);
  return [...lines].sort((one, other) => {
    const below = down(one) - down(other);
    return Math.abs(below) > Math.max(height(one), height(other)) / 2 ? below : middle(one, 0) - middle(other, 0);
  });
}

/** What a part's corners are drawn as, in a picture that lies at a place in a box of pixels. */
export interface Place {
  left: number;
  top: number;
  width: number;
  height: number;
}

/** Where a picture of a shape lies that is fitted into a box. */
export function fitted(box: { width: number; height: number }, shape: { width: number; height: number }): Place {
  const scale = Math.min(box.width / shape.width, box.height / shape.height);
  const [width, height] = [shape.width * scale, shape.height * scale];
  return { left: (box.width - width) / 2, top: (box.height - height) / 2, width, height };
}
