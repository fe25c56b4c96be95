import { describe, expect, it } from "vitest";
import type { BoardMoment } from "../../api/client";
import { boxBetween, changedAt, fitted, guessed, moved, swapped, withoutPart, withPart } from "./marks";

const BOX = [
  [0.1, 0.1],
  [0.2, 0.1],
  [0.2, 0.2],
  [0.1, 0.2],
];

const line = (text: string, x: number, y: number) => ({ text, sure: 1, box: moved(BOX, { x, y }) });

describe("boxes of a board", () => {
  it("is upright between any two corners, and a click is none", () => {
    expect(boxBetween({ x: 0.2, y: 0.2 }, { x: 0.1, y: 0.1 })).toEqual(BOX);
    expect(boxBetween({ x: 0.1, y: 0.1 }, { x: 0.101, y: 0.4 })).toBeNull();
  });

  it("becomes a new moment where the board has moved, with all its boxes", () => {
    const first: BoardMoment[] = [{ t: 1, boxes: { clock: BOX, "a.points": moved(BOX, { x: 0.2, y: 0 }) } }];
    const all = (boxes: BoardMoment["boxes"]) =>
      Object.fromEntries(Object.entries(boxes).map(([name, box]) => [name, moved(box, { x: 0, y: 0.1 })]));
    const second = changedAt(first, 9, all);
    expect(second.map((one) => one.t)).toEqual([1, 9]);
    expect(Object.keys(second[1]?.boxes ?? {})).toEqual(["clock", "a.points"]);
    expect(second[0]).toEqual(first[0]);
  });

  it("lies at every moment, moved along with the others", () => {
    const moments: BoardMoment[] = [
      { t: 1, boxes: { clock: BOX } },
      { t: 9, boxes: { clock: moved(BOX, { x: 0, y: 0.5 }) } },
    ];
    const box = moved(BOX, { x: 0.3, y: 0 });
    const next = withPart(moments, 1, "b.points", box);
    expect(next[0]?.boxes["b.points"]).toEqual(box);
    expect(next[1]?.boxes["b.points"]?.[0]?.[1]).toBeCloseTo(0.6);
    expect(withoutPart(withoutPart(next, "b.points"), "clock")).toEqual([]);
  });

  it("finds the clock by its look and six figures by their rows", () => {
    const lines = [line("1", 0.3, 0.31), line("4:37", 0.2, 0), line("2", 0.1, 0.3), line("0", 0.5, 0.3)];
    const second = [line("12", 0.1, 0.6), line("0", 0.3, 0.6), line("3", 0.5, 0.6)];
    const found = guessed([...lines, ...second]);
    expect(found.clock).toEqual(lines[1]?.box);
    expect(found["a.points"]).toEqual(lines[2]?.box);
    expect(found["a.advantages"]).toEqual(lines[0]?.box);
    expect(found["b.penalties"]).toEqual(second[2]?.box);
    expect(Object.keys(guessed(lines))).toEqual(["clock"]);
  });

  it("finds the rows of a board that leans", () => {
    const leaning = (text: string, x: number, y: number, wide = 1) => {
      const at = { x: x / 10, y: (y - x * 0.6) / 10 };
      return {
        text,
        sure: 1,
        box: moved(
          [
            [0, 0],
            [0.1 * wide, -0.06 * wide],
            [0.1 * wide, 0.04],
            [0, 0.1],
          ],
          at,
        ),
      };
    };
    const rows = [1, 2].flatMap((row) => [0, 1, 2].map((column) => leaning(String(row * 3 + column), column, row)));
    const found = guessed([leaning("4:37", 0, 0, 3), ...rows.toReversed()]);
    expect([found["a.points"], found["a.penalties"], found["b.points"]]).toEqual([rows[0]?.box, rows[2]?.box, rows[3]?.box]);
  });

  it("changes the two sides over", () => {
    const [next] = swapped([{ t: 1, boxes: { clock: BOX, "a.points": BOX } }]);
    expect(Object.keys(next?.boxes ?? {})).toEqual(["clock", "b.points"]);
  });

  it("knows where the picture lies in the stage", () => {
    expect(fitted({ width: 400, height: 400 }, { width: 200, height: 100 })).toEqual({ left: 0, top: 100, width: 400, height: 200 });
  });
});
