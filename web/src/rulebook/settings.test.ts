import { expect, it } from "vitest";
import type { Ruleset } from "../api/client";
import { changesOf, FIELDS, POINTS, type Settings, withHeld } from "./settings";

const base = {
  ...Object.fromEntries(FIELDS.map(({ name }) => [name, 0])),
  points: Object.fromEntries(POINTS.map(([key]) => [key, 2])),
  repeat: "after_recovery",
  points_from_seconds: null,
  overtime: null,
  advantages: true,
  ladder: ["none", "disqualify"],
  tiebreak: ["points"],
  barred: [],
  also_legal: { techniques: [], from_age: 18, from_belt: "blue" },
} as unknown as Settings;
const preset = { id: "p", title: "P", about: "", settings: base } as Ruleset;

it("says nothing of a ruleset that is its preset", () => expect(changesOf(structuredClone(base), preset)).toEqual([]));

it.each([
  [{ points: { ...base.points, mount: 3 } }, "Mount 3 instead of 2"],
  [{ hold_seconds: 4 }, "Control time (seconds): 4 instead of 0"],
  [{ hold_seconds: { mount: 2, other: 3 } }, "Control time (seconds): 3, Mount 2 instead of 0"],
  [{ points_from_seconds: 60 }, "or at (seconds): 60 instead of by the fraction"],
  [{ overtime: { seconds: 120, golden: "points" } }, "Overtime: 120 s, won by the first points instead of none"],
  [{ advantages: false }, "Advantages are given: no instead of yes"],
  [{ repeat: "every_time" }, "Knee on belly, mount and back score again: every time instead of only after the opponent escapes"],
  [{ ladder: ["minus_point"] }, "Penalties, one after another: minus one point instead of noted only, disqualified"],
  [{ tiebreak: [] }, "Tiebreakers, in order: nothing instead of points"],
  [{ barred: ["slam"] }, "Barred for everyone: slam instead of none"],
  [
    { also_legal: { techniques: ["kneebar"], from_age: 18, from_belt: "blue" } },
    "Also legal: kneebar from blue belt and age 18 instead of none",
  ],
])("%j", (change, said) => {
  expect(changesOf({ ...structuredClone(base), ...change }, preset)).toEqual([said]);
});

it("keeps one holding time where all are alike", () => {
  expect(withHeld(3, "mount", 2)).toEqual({ mount: 2, other: 3 });
  expect(withHeld({ mount: 2, other: 3 }, "other", 4)).toEqual({ mount: 2, other: 4 });
  expect(withHeld({ mount: 2, other: 4 }, "mount", null)).toBe(4);
});
