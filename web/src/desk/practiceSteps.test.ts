import { expect, it } from "vitest";
import type { Observation } from "../api/client";
import { nextStep, STEPS } from "./practiceSteps";

const SEEN = [
  { t: 4, kind: "clock", action: "start" },
  { t: 14, kind: "position", position: "guard", top: "a" },
  { t: 30, kind: "position", position: "side", top: "a" },
  { t: 42, kind: "position", position: "guard", top: "a" },
  { t: 50, kind: "attempt", by: "b", move: "sweep" },
  { t: 60, kind: "position", position: "side", top: "a" },
  { t: 62.2, kind: "position", position: "guard", top: "a" },
  { t: 63, kind: "mark", on: "a" },
  { t: 84, kind: "end", how: "submission", by: "a" },
] as Observation[];

it("goes on with each thing that is logged, and waits for the count to be watched", () => {
  const reached = SEEN.map((one, index) => nextStep(0, SEEN.slice(0, index + 1), one.t));
  expect(reached).toEqual([1, 2, 4, 5, 6, 6, 7, 8, 9]);
  expect(nextStep(0, SEEN.slice(0, 2), 16.9)).toBe(2);
  expect(nextStep(0, SEEN.slice(0, 2), 17)).toBe(3);
  expect(STEPS.length).toBe(9);
});

it("does not take the opponent's position for the athlete's", () => {
  const other = [SEEN[0], { t: 14, kind: "position", position: "guard", top: "b" }] as Observation[];
  expect(nextStep(0, other, 20)).toBe(1);
});

it("never goes back", () => {
  expect(nextStep(5, [], 0)).toBe(5);
});
