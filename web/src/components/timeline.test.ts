import { describe, expect, it } from "vitest";
import { clockAt, exchangeAt, lastAt, pointsAt } from "./timeline";

const running = (t: number, clock: number) => ({ t, clock, running: true, left: 50 - clock });
const stopped = (t: number, clock: number) => ({ t, clock, running: false, left: 50 - clock });

describe("lastAt", () => {
  const rows = [1, 2, 2, 5];
  it.each([
    [0, -1],
    [0.9995, 0], // nearer than a millisecond is the same moment
    [1, 0],
    [2, 2],
    [4.9, 2],
    [99, 3],
  ])("finds the last row that begins at or before %s", (t, expected) => {
    expect(lastAt(rows, t, (row) => row)).toBe(expected);
  });
  it("finds nothing among none", () => {
    expect(lastAt([], 3, (row: number) => row)).toBe(-1);
  });
});

describe("clockAt", () => {
  const clock = [running(10, 0), stopped(40, 30), running(50, 30)];
  it.each([
    [9, null],
    [10, { clock: 0, running: true, left: 50 }],
    [25.5, { clock: 15.5, running: true, left: 34.5 }],
    [40, { clock: 30, running: false, left: 20 }],
    [45, { clock: 30, running: false, left: 20 }],
    [50, { clock: 30, running: true, left: 20 }],
    [80, { clock: 60, running: true, left: 0 }], // an unfinished log runs on
  ])("at %s s of the footage", (t, expected) => {
    expect(clockAt({ clock }, t)).toEqual(expected);
  });
  it("says nothing of what is left where time has no end", () => {
    expect(clockAt({ clock: [{ ...running(10, 0), left: null }] }, 20)?.left).toBeNull();
  });
});

it("an exchange begins with its own start", () => {
  const exchanges = [{ start: 0 }, { start: 12.5 }] as Parameters<typeof exchangeAt>[0]["exchanges"];
  expect([-1, 0, 12.4, 12.5, 90].map((t) => exchangeAt({ exchanges }, t))).toEqual([-1, 0, 0, 1, 1]);
});

it("the points at a moment are those given up to then", () => {
  const row = (t: number, to: string, kind: string, n: number) => ({ t, to, kind, n });
  const ledger = [row(5, "a", "points", 2), row(9, "b", "advantages", 1), row(9, "b", "points", 3), row(20, "a", "points", -1)];
  const at = (t: number) => pointsAt({ ledger } as unknown as Parameters<typeof pointsAt>[0], t);
  expect([0, 5, 9, 30].map(at)).toEqual(["0–0", "2–0", "2–3", "1–3"]);
});
