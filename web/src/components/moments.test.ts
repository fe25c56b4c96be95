import { describe, expect, it } from "vitest";
import type { Season } from "../api/client";
import { shownOf } from "./moments";

const clip = (id: string, seconds: number, state = "ready") => ({ id, duration_ms: seconds * 1000, state });
const match = (id: string, parts: object[]) => ({ id, opponent: `Opponent of ${id}`, parts });
const moment = (match: string, t: number) => ({ match, t, start: t - 4, end: t + 4 });

describe("the moments behind a figure", () => {
  const played = [
    match("one", [{ clip: clip("a", 60), start: 0, opens: 10, closes: null }]),
    match("two", [
      { clip: clip("b", 30), start: 0, opens: 0, closes: null },
      { clip: clip("c", 30), start: 40, opens: 0, closes: null },
    ]),
    match("three", [{ clip: clip("d", 60, "converting"), start: 0, opens: 0, closes: null }]),
    match("four", []),
  ] as unknown as Season["played"];

  it("are stretches of the clip that shows them, in its own seconds", () => {
    const found = shownOf([moment("one", 12), moment("two", 45), moment("two", 28)], played);
    expect(found.map(({ play }) => [play?.clip, play?.from, play?.to])).toEqual([
      ["a", 10, 16], // no earlier than the match begins
      ["c", 1, 9],
      ["b", 24, 30], // no later than the clip ends
    ]);
    expect(found[0]?.title).toBe("against Opponent of one, 0:12");
  });

  it("are listed without one where no clip shows them, and left out of a match that is not there", () => {
    const found = shownOf([moment("two", 35), moment("three", 9), moment("four", 9), moment("gone", 9)], played);
    expect(found.map(({ match, play }) => [match, play])).toEqual([
      ["two", null],
      ["three", null],
      ["four", null],
    ]);
  });
});
