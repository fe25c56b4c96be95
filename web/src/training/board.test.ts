import { describe, expect, it } from "vitest";
import { weeksOf } from "./Board";

describe("the weeks of a plan", () => {
  it("begin on Monday, and leave out what is before the start and from the last day on", () => {
    const weeks = weeksOf({ start: "2026-11-04", until: "2026-11-11" }); // a Wednesday to a Wednesday
    expect(weeks).toHaveLength(2);
    expect(weeks[0]).toEqual([null, null, "2026-11-04", "2026-11-05", "2026-11-06", "2026-11-07", "2026-11-08"]);
    expect(weeks[1]).toEqual(["2026-11-09", "2026-11-10", null, null, null, null, null]);
  });

  it("have each day once where the clocks change", () => {
    const days = weeksOf({ start: "2026-03-16", until: "2026-04-06" })
      .flat()
      .filter((day) => day !== null);
    expect(new Set(days).size).toBe(21);
    expect(days).toHaveLength(21);
  });
});
