import { describe, expect, it } from "vitest";
import type { Observation } from "../api/client";
import { fieldsOf, TITLES } from "./fields";
import { endOf, observationOf, startOf, unanswered, valuesOf } from "./forms";

const position = (t: number, name: string, top?: "a" | "b") =>
  ({ t, kind: "position", position: name, ...(top ? { top } : {}) }) as Observation;
const hold = (t: number, until?: number) =>
  ({ t, kind: "submission", by: "b", technique: "armbar", threat: "close", ...(until ? { until } : {}) }) as Observation;

describe("how a match that ends now probably ended", () => {
  it.each([
    ["by time", [position(1, "mount", "a")], 0, { how: "time" }],
    ["by the submission that is on", [hold(50)], 90, { how: "submission", by: "b", technique: "armbar" }],
    ["by one let go just then", [hold(50, 59.5)], 90, { how: "submission", by: "b", technique: "armbar" }],
    ["by time, when it was let go long ago", [hold(50, 52)], 1.9, { how: "time" }],
    ["by time, when something came after it", [hold(50), position(55, "guard", "a")], 2, { how: "time" }],
    ["nobody knows how, with time left", [position(1, "mount", "a")], 10, { by: "a" }],
    ["nobody knows how, where it has no length", [position(1, "mount", "a")], null, { by: "a" }],
  ] as const)("%s", (_, log, left, expected) => {
    const found = endOf([...log], 60, left);
    expect(found).toMatchObject(expected);
    expect(unanswered("end", found)?.name).toBe("how" in expected ? undefined : "how");
  });
  it("invents no technique: what was not named is logged as not named", () => {
    expect(observationOf("end", { how: "submission", by: "a" }, 9)).toMatchObject({ technique: "not named" });
    expect(observationOf("submission", { by: "a", threat: "attempt", technique: "" }, 9)).toMatchObject({ technique: "not named" });
    expect(observationOf("end", { how: "time", by: "a" }, 9)).not.toHaveProperty("technique");
  });
});

describe("forms", () => {
  it("have a title for every kind, and fields that are named once", () => {
    for (const kind of Object.keys(TITLES) as Observation["kind"][]) {
      const names = fieldsOf(kind, {}).map((field) => field.name);
      expect(new Set(names).size).toBe(names.length);
    }
  });
  it("ask what was fled from only where somebody fled, and for a technique only where one finished it", () => {
    const asks = (kind: Observation["kind"], values: Record<string, unknown>, name: string) =>
      fieldsOf(kind, values).some((field) => field.name === name);
    expect(asks("foul", { foul: "fleeing" }, "avoiding")).toBe(true);
    expect(asks("foul", { foul: "stalling" }, "avoiding")).toBe(false);
    expect(asks("end", { how: "submission" }, "technique")).toBe(true);
    expect(asks("end", { how: "time" }, "technique")).toBe(false);
    expect(asks("clock", { action: "start" }, "restart")).toBe(true);
  });
  it("begin with what is likely from a place", () => {
    expect(startOf("attempt", "a", "guard bottom")).toEqual({ by: "a", move: "sweep", outcome: "failed" });
    expect(startOf("attempt", "b", "standing")).toEqual({ by: "b", move: "takedown", outcome: "failed" });
    expect(startOf("attempt", "b", "mount bottom")).toEqual({ by: "b", move: "escape", outcome: "failed" });
    expect(startOf("ruling", "b")).toEqual({ to: "b" });
  });
  it("make an observation out of what is filled in", () => {
    expect(observationOf("foul", { by: "a", foul: "stalling", avoiding: "sweep" }, 7)).toEqual({
      t: 7,
      kind: "foul",
      by: "a",
      foul: "stalling",
    });
    expect(observationOf("position", { position: "guard", top: "b", detail: "half", note: "" }, 2)).toEqual({
      t: 2,
      kind: "position",
      position: "guard",
      top: "b",
      detail: "half",
    });
    expect(observationOf("end", { how: "decision", votes_a: 2, votes_b: 1 }, 9)).toEqual({ t: 9, kind: "decision", votes: { a: 2, b: 1 } });
  });
  it("give back what they were filled from", () => {
    const decision = { t: 9, kind: "decision", votes: { a: 2, b: 1 } } as Observation;
    expect(observationOf("decision", valuesOf(decision), 9)).toEqual(decision);
    const submission = hold(5, 8);
    expect(observationOf("submission", valuesOf(submission), 5)).toEqual(submission);
  });
});
