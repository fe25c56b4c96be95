import { describe as suite, expect, it } from "vitest";
import type { Observation } from "../api/client";
import { describe, doubtOf, until } from "./describe";
import { plain, searcher } from "./search";
import { amount, claimWords, clock, footage, footageOf, held, lengthOf, named, percent } from "./words";

suite("numbers", () => {
  it.each([
    [0, "0:00"],
    [59.9999999, "1:00"],
    [65.4, "1:05"],
    [-3, "0:00"],
    [3600, "60:00"],
  ])("a clock of %s", (seconds, words) => expect(clock(seconds)).toBe(words));
  it("footage shows the millisecond", () => expect([footage(65.432), footage(59.9996)]).toEqual(["1:05.432", "1:00.000"]));
  it("a typed time of the footage", () =>
    expect(["1:02.5", "62.5", " 0:07 ", "90", "1:75", "soon", ""].map(footageOf)).toEqual([62.5, 62.5, 7, 90, null, null, null]));
  it("what was held is rounded down", () => expect([held(2.99), held(3)]).toEqual(["2.9 s", "3.0 s"]));
  it("amounts agree with their number", () =>
    expect([amount(1, "points"), amount(-1, "points"), amount(2, "penalties")]).toEqual(["1 point", "-1 point", "2 penalties"]));
  it("others", () =>
    expect([
      percent(0.126),
      lengthOf({ duration_ms: null }),
      lengthOf({ duration_ms: 1500 }),
      claimWords("sweep"),
      claimWords("x"),
    ]).toEqual(["13%", 0, 1.5, "Sweep", "x"]));
});

it("names stand in sentences as they are written, whatever they hold", () => {
  expect(named("The athlete swept; the opponent did not.", { athlete_name: "$& Ada", opponent: "Bo" })).toBe("$& Ada swept; Bo did not.");
});

it.each([
  ["The athlete’s sweep: the opponent fell.", "Ada’s sweep: Bo fell."],
  ["The athletes bow to the opponents.", "The athletes bow to the opponents."],
  ["THE ATHLETE bathe athlete", "THE ATHLETE bathe athlete"],
])("only where a sentence speaks of the two: %s", (text, said) => {
  expect(named(text, { athlete_name: "Ada", opponent: "Bo" })).toBe(said);
});

suite("what was seen", () => {
  it.each<[object, string, "a" | "b" | null]>([
    [{ kind: "clock", action: "stop" }, "Clock stopped", null],
    [{ kind: "clock", action: "start", restart: "same" }, "Clock started, same position", null],
    [{ kind: "position", position: "guard", top: "b", detail: "half" }, "Guard (half)", "b"],
    [{ kind: "pull", by: "both" }, "Both pulled guard", null],
    [{ kind: "pull", by: "a", caught: true }, "Pulled guard, leg already caught", "a"],
    [{ kind: "submission", by: "a", technique: "straight-foot-lock", threat: "close" }, "Straight foot lock, close", "a"],
    [{ kind: "technique", by: "b", technique: "slam" }, "Slam", "b"],
    [{ kind: "attempt", by: "a", move: "guard_pass", outcome: "near" }, "Nearly: guard pass", "a"],
    [{ kind: "attempt", by: "b", move: "sweep", technique: "scissor-sweep" }, "Tried: sweep (scissor sweep)", "b"],
    [{ kind: "mark", on: "b", good: true, cause: "grips" }, "Well done: grips", "b"],
    [{ kind: "mark", on: "a", chance: "guard_pass", text: "hips open" }, "Wrong: guard pass missed. hips open", "a"],
    [{ kind: "begin", clock: 125 }, "Footage starts at 2:05 of the match", null],
    [{ kind: "period" }, "Overtime", null],
    [{ kind: "clock", action: "stop", why: "edge" }, "Clock stopped: edge of the mat", null],
    [{ kind: "clock", action: "start", restart: "placed", position: "side", top: "a" }, "Clock started from side control", null],
    [{ kind: "foul", by: "both", foul: "stalling", verbal: true }, "Stalling, both, a caution only", null],
    [{ kind: "end", how: "stoppage", by: "a" }, "Stopped by the referee or medical staff", "a"],
    [{ kind: "foul", by: "b", foul: "fleeing", avoiding: "sweep" }, "Fleeing a sweep", "b"],
    [{ kind: "grip", by: "a", grip: "collar" }, "Grip: collar", "a"],
    [{ kind: "call", to: "a", points: 2, penalties: 1 }, "Officials: 2 pts, 1 pen", "a"],
    [{ kind: "ruling", to: "b", advantages: 0 }, "Ruling: nothing", "b"],
    [{ kind: "exchange", title: "The scramble" }, "Exchange: The scramble", null],
    [{ kind: "exchange" }, "New exchange", null],
    [{ kind: "decision", votes: { a: 2, b: 1 } }, "Decision: 2 to 1", null],
    [{ kind: "end", how: "time" }, "Time", null],
    [{ kind: "end", how: "submission", by: "a", technique: "rear-choke" }, "Finish: Rear choke", "a"],
    [{ kind: "end", how: "withdrawal", by: "b" }, "Withdrew", "b"],
    [{ kind: "end", how: "disqualification", by: "b" }, "Disqualified", "b"],
  ])("%j", (seen, text, side) => {
    expect(describe({ t: 0, ...seen } as Observation)).toEqual({ text, side });
  });
  it("lasts only where it has an end after its beginning", () => {
    const hold = { t: 3, kind: "submission", by: "a", technique: "armbar", threat: "close" };
    expect([{ ...hold, until: 5 }, { ...hold, until: 3 }, hold].map((one) => until(one as Observation))).toEqual([5, null, null]);
  });
  it("says why one was not sure", () => {
    expect([
      doubtOf({ t: 0, kind: "exchange", doubt: "too_far" } as Observation),
      doubtOf({ t: 0, kind: "exchange" } as Observation),
    ]).toEqual([": too far away", ""]);
  });
});

suite("searching by name", () => {
  const all = [
    { id: "armbar", name: "Armbar", aliases: ["juji gatame"] },
    { id: "kneebar", name: "Kneebar", aliases: [] },
    { id: "straight-armlock", name: "Straight armlock", aliases: ["waki gatame"] },
    { id: "flying-armbar", name: "Flying armbar", aliases: ["jumping armlock"] },
  ];
  const search = searcher(all);
  const found = (typed: string, most = 3) => search(typed, most).map((one) => one.id);
  it("finds what is called so, then what begins so, then what has it inside", () => {
    expect(found("armbar")[0]).toBe("armbar");
    expect(found("arm")).toEqual(["armbar", "flying-armbar", "straight-armlock"]);
    expect(found("Juji-Gatamé")[0]).toBe("armbar");
  });
  it("finds what is misspelled", () => expect(found("kneebr")[0]).toBe("kneebar"));
  it("keeps the order of what is equally near", () => {
    expect(search("gatame", 2, (one, other) => other.id.localeCompare(one.id)).map((one) => one.id)).toEqual([
      "straight-armlock",
      "armbar",
    ]);
  });
  it("compares without case, accents or marks", () => expect(plain("Mão de-Vaca!")).toBe("maodevaca"));
});
