import { describe, expect, it } from "vitest";
import type { AuditLine, Exchange, Keyed, Verdict } from "../api/client";
import { disagreement, filtered, grouped, lineOf, quietened, type Shown, summary } from "./spineEntries";

const seen = (id: string, t: number, more: object = { kind: "position", position: "guard", top: "a" }) => ({ id, t, ...more }) as Keyed;
const exchange = (start: number, ledger_rows: number[] = [], missed_rows: number[] = []) =>
  ({
    start,
    ledger_rows,
    missed_rows,
    title: null,
    first: { position: "standing", top: null },
    last: { position: "guard", top: "a" },
  }) as unknown as Exchange;
const award = (t: number, reason = "held", to = "a") => ({
  t,
  reason,
  to,
  kind: "points",
  n: 2,
  because: `${reason} at ${t}`,
  observations: [],
});

const verdict = {
  exchanges: [exchange(5, [0]), exchange(10, [1], [0])],
  ledger: [award(8), award(14, "lost")],
  missed: [
    { t: 14, to: "a", claim: "mount" },
    { t: 14, to: "b", claim: "sweep" },
  ],
  unpaid: [{ t: 10, to: "a", claim: "reversal" }],
} as unknown as Verdict;

describe("what stands in an exchange", () => {
  it("is in order of time, and what was seen comes before what it gave", () => {
    const { before, rows } = grouped(verdict, [seen("early", 1), seen("a", 5), seen("b", 8), seen("c", 10)]);
    expect(before.map((one) => one.t)).toEqual([1]);
    expect(rows.map((list) => list.map((one) => [one.t, one.rank]))).toEqual([
      [
        [5, 0],
        [8, 0],
        [8, 1],
      ],
      [
        [10, 0],
        [10, 3],
        [14, 1],
      ], // the advantage for the lost claim tells its story
    ]);
  });
  it("a miss without an advantage is shown", () => {
    const only = { ...verdict, ledger: [], exchanges: [exchange(5, [], [1])], unpaid: [] } as unknown as Verdict;
    expect(grouped(only, []).rows[0]?.map((one) => one.rank)).toEqual([2]);
  });
});

describe("filters", () => {
  const rows =
    grouped(verdict, [
      seen("a", 5),
      seen("x", 6, { kind: "submission", by: "a", technique: "armbar", threat: "attempt", sure: false }),
      seen("o", 7, { kind: "call", to: "a", points: 2 }),
    ]).rows[0] ?? [];
  const line = { award: award(8), call: null, standing: "not_called", because: "Not given." } as unknown as AuditLine;
  it.each([
    ["all", [], 4],
    ["gains", [], 1],
    ["attacks", [], 1],
    ["officials", [], 1],
    ["officials", [line], 2],
    ["unsure", [], 1],
  ] as const)("%s", (filter, audit, left) => {
    expect(filtered(rows, filter, [...audit])).toHaveLength(left);
  });
  it("find an award's line of the audit by all of it", () => {
    expect(lineOf([line], award(8) as never)).toBe(line);
    expect(lineOf([line], award(9) as never)).toBeUndefined();
  });
});

describe("quiet exchanges", () => {
  const quiet = (index: number, entries: Shown["entries"] = []): Shown => ({ exchange: exchange(index), index, entries, quiet: 0 });
  const all = [0, 1, 2, 3, 4].map((index) => quiet(index));
  it("are one row from three of them on, but for the one the playhead is in", () => {
    expect(quietened(all, -1, new Set()).map((one) => one.quiet)).toEqual([5]);
    expect(quietened(all, 3, new Set()).map((one) => [one.index, one.quiet])).toEqual([
      [0, 3],
      [3, 0],
      [4, 0],
    ]);
    expect(quietened(all, -1, new Set([0])).map((one) => one.quiet)).toEqual([0, 0, 0, 0, 0]);
  });
  it("are not those in which something was tried, doubted or noted", () => {
    const loud = [
      { t: 2, rank: 0, seen: seen("x", 2, { kind: "submission" }) },
      { t: 2, rank: 0, seen: { ...seen("y", 2), sure: false } },
      { t: 2, rank: 0, seen: { ...seen("z", 2), note: "look" } },
    ] as Shown["entries"];
    for (const one of loud)
      expect(quietened([quiet(0), quiet(1), quiet(2, [one]), quiet(3)], -1, new Set()).map((row) => row.quiet)).toEqual([0, 0, 0, 0]);
  });
});

it("an exchange is summed up by where it began and ended", () => {
  expect(summary(exchange(0))).toBe("Standing to guard");
  const held = { ...exchange(0), first: { position: "mount", top: "b" }, last: { position: "mount", top: "b" } } as Exchange;
  expect(summary(held)).toBe("Mount, opponent on top");
});

it("says where a call disagrees with the awards", () => {
  const line = (standing: string) =>
    [{ call: { observations: ["o"] }, award: null, standing, because: "Differs." }] as unknown as AuditLine[];
  expect([disagreement(line("agreed"), "o"), disagreement(line("differently"), "o"), disagreement([], "o")]).toEqual([
    undefined,
    "Differs.",
    undefined,
  ]);
});
