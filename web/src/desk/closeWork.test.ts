// @vitest-environment jsdom
import { cleanup } from "@testing-library/react";
import { afterEach, describe, expect, it } from "vitest";
import { at, desk } from "./deskInTests";
import { boardOf, boardText } from "./shownBoard";

afterEach(cleanup);

describe("grips and contests", () => {
  it("are logged at once and named by a digit", () => {
    const { run, log, state } = desk([at("g", 0, { kind: "grip", by: "a", grip: "not named" })]);
    run({ do: "grip", by: "b" });
    expect(log.add).toHaveBeenLastCalledWith({ t: 0, kind: "grip", by: "b", grip: "not named" });
    state.chosen = "g";
    run({ do: "digit", number: 4, side: "a" });
    expect(log.put).toHaveBeenLastCalledWith(expect.objectContaining({ id: "g", grip: "cross collar" }));
    run({ do: "near" });
    expect(log.put).toHaveBeenLastCalledWith(expect.objectContaining({ id: "g", outcome: "failed" }));
    run({ do: "grip", by: "a" });
    expect(state.draft).toMatchObject({ kind: "grip", key: "g", focus: "grip", values: { grip: "" } });
  });
  it("lie between the marks while the picture stands still, which are used up by it", () => {
    const { run, log, state, playhead } = desk();
    playhead.seek(2);
    run({ do: "mark", which: "from" });
    playhead.seek(5);
    run({ do: "mark", which: "to" }, { do: "grip", by: "a" });
    expect(log.add).toHaveBeenLastCalledWith({ t: 2, until: 5, kind: "grip", by: "a", grip: "not named" });
    expect(state.marks).toEqual({ from: null, to: null });
  });
  it("end where they are let go, or were broken", () => {
    const held = at("g", 0, { kind: "grip", by: "a", grip: "sleeve" });
    const { run, log, playhead } = desk([held]);
    playhead.seek(4);
    run({ do: "let_go", broken: true });
    expect(log.put).toHaveBeenLastCalledWith({ ...held, until: 4, broken: true });
  });
  it("are for what is usual from there, and a digit says for what", () => {
    const { run, log, state } = desk([
      at("p", 0, { kind: "position", position: "guard", top: "a" }),
      at("c", 0, { kind: "contest", for: "posture", won: "b" }),
    ]);
    run({ do: "contest", won: "a" });
    expect(log.add).toHaveBeenLastCalledWith({ t: 0, kind: "contest", for: "posture", won: "a" });
    state.chosen = "c";
    run({ do: "digit", number: 3, side: "a" });
    expect(log.put).toHaveBeenLastCalledWith(expect.objectContaining({ id: "c", for: "underhook" }));
  });
});

describe("legs", () => {
  const tied = at("e", 0, { kind: "position", position: "entangled" });
  it("are said by digits of either side while they are tied up", () => {
    const { run, log, state } = desk([tied]);
    state.chosen = "e";
    run({ do: "digit", number: 1, side: "a" }, { do: "digit", number: 4, side: "b" });
    expect(log.add.mock.calls.map(([seen]) => seen)).toEqual([
      { t: 0, kind: "legs", by: "a", knee: "caught" },
      { t: 0, kind: "legs", by: "b", heel: "hidden" },
    ]);
  });
  it("of one side at one moment are one entry", () => {
    const { run, log, state } = desk([tied, at("l", 0.2, { kind: "legs", by: "a", knee: "caught" })]);
    state.chosen = "l";
    run({ do: "digit", number: 3, side: "a" });
    expect(log.put).toHaveBeenLastCalledWith({ id: "l", t: 0.2, kind: "legs", by: "a", knee: "caught", heel: "exposed" });
    run({ do: "lateral", to: "right" });
    expect(log.put).toHaveBeenLastCalledWith(expect.objectContaining({ id: "l", leg: "right" }));
  });
  it("leave a digit to an entry that asks something", () => {
    const { run, log, state } = desk([tied, at("n", 0, { kind: "attempt", by: "a", move: "sweep" })]);
    state.chosen = "n";
    run({ do: "digit", number: 1, side: "a" });
    expect(log.add).not.toHaveBeenCalled();
    expect(log.put).toHaveBeenLastCalledWith(expect.objectContaining({ id: "n", move: "takedown" }));
  });
});

describe("left and right", () => {
  it("are of the one who acts first, then of the other, and then begin again", () => {
    const seen = { kind: "submission", by: "a", technique: "armbar", threat: "close" };
    for (const [before, after] of [
      [{}, { own: "left" }],
      [{ own: "right" }, { own: "right", target: "left" }],
      [{ own: "right", target: "right" }, { own: "left" }],
    ]) {
      const { run, log, state } = desk([at("x", 0, { ...seen, ...before })]);
      state.chosen = "x";
      run({ do: "lateral", to: "left" });
      expect(log.put).toHaveBeenLastCalledWith({ id: "x", t: 0, ...seen, ...after });
      cleanup();
    }
  });
  it("say nothing of a position", () => {
    const { run, log, state } = desk([at("p", 0, { kind: "position", position: "mount", top: "a" })]);
    state.chosen = "p";
    run({ do: "lateral", to: "left" });
    expect(log.put).not.toHaveBeenCalled();
  });
});

describe("what no one watched", () => {
  it("is the time since the last entry", () => {
    const { run, log, playhead } = desk([at("p", 3, { kind: "position", position: "standing" })]);
    run({ do: "unwatched" });
    expect(log.add).not.toHaveBeenCalled();
    playhead.seek(9);
    run({ do: "unwatched" });
    expect(log.add).toHaveBeenLastCalledWith({ kind: "unwatched", t: 3, until: 9 });
  });
});

describe("the entry before and after", () => {
  it("is chosen by a key, from the playhead or from the chosen one", () => {
    const { run, state, playhead } = desk([
      at("1", 1, { kind: "clock", action: "start" }),
      at("2", 4, { kind: "position", position: "standing" }),
      at("3", 8, { kind: "position", position: "mount", top: "a" }),
    ]);
    playhead.seek(5);
    run({ do: "pick", by: -1 });
    expect([state.chosen, playhead.t]).toEqual(["2", 4]);
    run({ do: "pick", by: 1 });
    expect([state.chosen, playhead.t]).toEqual(["3", 8]);
    run({ do: "pick", by: 1 });
    expect(state.chosen).toBe("3");
  });
});

describe("the figures of a scoreboard", () => {
  it("are typed as points, then advantages and penalties", () => {
    expect(boardOf("4-2")).toEqual({ a: { points: 4 }, b: { points: 2 } });
    expect(boardOf(" 12:0  1-0 0-3 ")).toMatchObject({ a: { points: 12, advantages: 1 }, b: { penalties: 3 } });
  });
  it.each(["4-2", "0-0", "3-3 0-0", "0-0 0-0 2-1"])("are shown as they were typed: %s", (text) => {
    expect(boardText(boardOf(text))).toBe(text);
  });
});
