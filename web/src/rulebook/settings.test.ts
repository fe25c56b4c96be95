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
  [{ hold_seconds: 4 }, "Held for (s): 4 instead of 0"],
  [{ hold_seconds: { mount: 2, other: 3 } }, "Held for (s): 3, Mount 2 instead of 0"],
  [{ points_from_seconds: 60 }, "or from (s): 60 instead of by the share"],
  [{ overtime: { seconds: 120, golden: "points" } }, "Overtime: 120 s, won by the first points instead of none"],
  [{ advantages: false }, "Advantages are given: no instead of yes"],
  [{ repeat: "every_time" }, "Knee, mount and back score again: every time instead of only after the opponent got out"],
  [{ ladder: ["minus_point"] }, "Penalties, one after another: a point off instead of noted only, disqualified"],
  [{ tiebreak: [] }, "A tie is won by, in this order: nothing instead of points"],
  [{ barred: ["slam"] }, "Barred for everybody: slam instead of none"],
  [
    { also_legal: { techniques: ["kneebar"], from_age: 18, from_belt: "blue" } },
    "Also legal: kneebar from 18 years and blue belt instead of none",
  ],
])("%j", (change, said) => {
  expect(changesOf({ ...structuredClone(base), ...change }, preset)).toEqual([said]);
});

it("keeps one holding time where all are alike", () => {
  expect(withHeld(3, "mount", 2)).toEqual({ mount: 2, other: 3 });
  expect(withHeld({ mount: 2, other: 3 }, "other", 4)).toEqual({ mount: 2, other: 4 });
  expect(withHeld({ mount: 2, other: 4 }, "mount", null)).toBe(4);
});
