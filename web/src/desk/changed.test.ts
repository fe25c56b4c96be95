import { describe, expect, it } from "vitest";
import type { Changed, Desk } from "../api/client";
import { changed, latest } from "./changed";

const splice = <T>(start = 0, remove = 0, add: T[] = []) => ({ start, remove, add });
const seen = (t: number) => ({ t, kind: "position", position: "guard", top: "a", id: String(t) });
const exchange = (awards: number, misses = 0) => ({
  ledger_rows: Array.from({ length: awards }, (_, index) => index),
  missed_rows: Array.from({ length: misses }, (_, index) => index),
});

function desk(more: Record<string, unknown> = {}): Desk {
  return {
    match: { id: "m" },
    parts: [],
    revision: 4,
    revisions: { 1: 3, 2: 4 },
    observations: [seen(1), seen(2)],
    verdict: { because: "No end.", ledger: ["one", "two"], exchanges: [] },
    ...more,
  } as unknown as Desk;
}

function change(more: Record<string, unknown> = {}): Changed {
  return {
    base: 4,
    revision: 5,
    observations: splice(),
    revisions: {},
    verdict: { because: "Still none.", ledger: splice(), exchanges: splice() },
    ...more,
  } as unknown as Changed;
}

describe("a change of the log", () => {
  it("is spliced in, and what stays is the same object", () => {
    const before = desk();
    const after = changed(before, change({ observations: splice(1, 1, [seen(1.5), seen(3)]), revisions: { 3: 5 } }));
    expect(after?.observations.map((one) => one.t)).toEqual([1, 1.5, 3]);
    expect(after?.observations[0]).toBe(before.observations[0]);
    expect(after?.verdict.ledger).toBe(before.verdict.ledger);
    expect(after?.verdict.because).toBe("Still none.");
    expect(after?.revisions).toEqual({ 1: 3, 2: 4, 3: 5 });
    expect(after?.revision).toBe(5);
  });

  it("is not taken where it builds on another state of the log", () => {
    expect(changed(desk({ revision: 3 }), change())).toBeNull();
    expect(changed(desk({ revision: 5 }), change())).toBeNull();
  });

  it("without a base replaces all that was known", () => {
    const after = changed(
      desk({ revision: 1 }),
      change({
        base: null,
        observations: splice(0, 0, [seen(9)]),
        revisions: { 9: 5 },
        verdict: { ledger: splice(0, 0, ["x"]), exchanges: splice() },
      }),
    );
    expect(after?.observations.map((one) => one.t)).toEqual([9]);
    expect(after?.verdict.ledger).toEqual(["x"]);
    expect(after?.revisions).toEqual({ 9: 5 });
  });

  it("numbers the rows of exchanges through the match", () => {
    const after = changed(
      desk(),
      change({ verdict: { ledger: splice(), exchanges: splice(0, 0, [exchange(2, 1), exchange(1), exchange(0, 2)]) } }),
    );
    expect(after?.verdict.exchanges.map((one) => [one.ledger_rows, one.missed_rows])).toEqual([
      [[0, 1], [0]],
      [[2], []],
      [[], [1, 2]],
    ]);
  });
});

describe("an answer that was overtaken", () => {
  it("shows no older log than is shown already", () => {
    const before = desk({ revision: 7, observations: [seen(7)] });
    const shown = latest(before, desk({ revision: 5, match: { id: "m", opponent: "Bo" } }));
    expect([shown.revision, shown.observations[0]?.t, shown.match.opponent]).toEqual([7, 7, "Bo"]);
  });
  it("is shown where it is newer, or of another match", () => {
    const now = desk({ revision: 9 });
    expect(latest(desk({ revision: 8 }), now)).toBe(now);
    expect(latest(desk({ revision: 10, match: { id: "other" } }), now)).toBe(now);
    expect(latest(undefined, now)).toBe(now);
  });
});
