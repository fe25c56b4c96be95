// @vitest-environment jsdom
import { cleanup, renderHook } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Keyed } from "../api/client";
import { at, desk } from "./deskInTests";
import { NO_MARKS } from "./hands";
import { movedTo } from "./useCommands";
import { PLAIN } from "./view";
import { useDeskKeys } from "./useDeskKeys";

afterEach(cleanup);

describe("what is logged", () => {
  it("what was tried, guessed from the position, and then another move by a digit, very nearly by Shift and Enter", () => {
    const { run, log, state } = desk([
      at("p", 0, { kind: "position", position: "guard", top: "b" }),
      at("t", 0, { kind: "attempt", by: "a", move: "sweep" }),
    ]);
    run({ do: "attempt", by: "a" });
    expect(log.add).toHaveBeenLastCalledWith({ t: 0, kind: "attempt", by: "a", move: "sweep" });
    state.chosen = "t";
    run({ do: "digit", number: 8, side: "a" });
    expect(log.put).toHaveBeenLastCalledWith(expect.objectContaining({ id: "t", move: "stand_up" }));
    run({ do: "near" });
    expect(log.put).toHaveBeenLastCalledWith(expect.objectContaining({ id: "t", outcome: "near" }));
  });
  it("a mark, with its cause by a digit", () => {
    const { run, log, state } = desk([at("m", 0, { kind: "mark", on: "b" })]);
    run({ do: "eye", good: true, on: "b" });
    expect(log.add).toHaveBeenLastCalledWith({ t: 0, kind: "mark", on: "b", good: true });
    state.chosen = "m";
    run({ do: "digit", number: 1, side: "a" });
    expect(log.put).toHaveBeenLastCalledWith(expect.objectContaining({ id: "m", cause: "grips" }));
  });
  it("where the referee put the two while the clock stands, and what a stop was for", () => {
    const { run, log, state } = desk([at("s", 0, { kind: "clock", action: "stop" })]);
    run({ do: "position", position: "side", top: "a" });
    expect(log.add).toHaveBeenLastCalledWith({ t: 0, kind: "clock", action: "start", restart: "placed", position: "side", top: "a" });
    state.chosen = "s";
    run({ do: "digit", number: 1, side: "a" });
    expect(log.put).toHaveBeenLastCalledWith(expect.objectContaining({ id: "s", why: "edge" }));
  });
  it("that overtime begins", () => {
    const { run, log } = desk();
    run({ do: "period" });
    expect(log.add).toHaveBeenLastCalledWith({ t: 0, kind: "period" });
  });

  it("a position and a pull, at the playhead, and chosen", () => {
    const { run, playhead, log, state } = desk();
    playhead.seek(3.2);
    run(
      { do: "position", position: "mount", top: "b" },
      { do: "position", position: "standing", top: null },
      { do: "pull", by: "a", caught: true },
    );
    expect(log.add.mock.calls.map(([seen]) => seen)).toEqual([
      { t: 3.2, kind: "position", position: "mount", top: "b" },
      { t: 3.2, kind: "position", position: "standing" },
      { t: 3.2, kind: "pull", by: "a", caught: true },
    ]);
    expect(state.chosen).toBe("new");
  });

  it.each([
    ["starts first", [], { action: "start" }],
    ["stops while it runs", [at("1", 1, { kind: "clock", action: "start" })], { action: "stop" }],
    [
      "starts again from where they were",
      [at("1", 1, { kind: "clock", action: "start" }), at("2", 4, { kind: "clock", action: "stop" })],
      { action: "start", restart: "same" },
    ],
    ["knows nothing of what comes later", [at("1", 50, { kind: "clock", action: "start" })], { action: "start" }],
  ])("the clock %s", (_, log, expected) => {
    const one = desk(log);
    one.playhead.seek(10);
    one.run({ do: "clock", restart: "same" });
    expect(one.log.add.mock.calls[0]?.[0]).toEqual({ t: 10, kind: "clock", ...expected });
  });

  it("the end of the hold that was let go", () => {
    const hold = at("h", 5, { kind: "submission", by: "a", technique: "armbar", threat: "attempt" });
    const { run, playhead, log } = desk([at("g", 2, { kind: "grip", by: "b", grip: "collar" }), hold]);
    playhead.seek(8);
    run({ do: "let_go", broken: false });
    expect(log.put).toHaveBeenCalledWith({ ...hold, until: 8 });
  });
});

describe("the same letter again", () => {
  const guard = at("g", 4, { kind: "position", position: "guard", top: "a" });
  const again = { do: "position", position: "guard", top: "a" } as const;
  it("asks for the detail of the position just logged, and takes it", () => {
    const { run, playhead, log, state } = desk([guard]);
    state.chosen = "g";
    playhead.seek(4.5);
    run(again);
    expect(log.add).not.toHaveBeenCalled();
    expect(state.detailing).toBe("g");
    run({ do: "detail", of: "g", name: "half" });
    expect(log.put).toHaveBeenCalledWith({ ...guard, detail: "half" });
    expect(state.detailing).toBeNull();
  });
  it("logs the position again where the other is on top, or a while later", () => {
    const { run, playhead, log, state } = desk([guard]);
    state.chosen = "g";
    playhead.seek(4.5);
    run({ ...again, top: "b" });
    playhead.seek(9);
    state.chosen = "g";
    run(again);
    expect(log.add).toHaveBeenCalledTimes(2);
    expect(state.detailing).toBeNull();
  });
  it("opens the technique of an attempt and the text of a mark, and the picture goes on", () => {
    const { run, state } = desk([
      at("t", 0, { kind: "attempt", by: "a", move: "sweep" }),
      at("m", 0, { kind: "mark", on: "b", cause: "sleep" }),
    ]);
    state.chosen = "t";
    run({ do: "attempt", by: "a" });
    expect(state.draft).toMatchObject({ kind: "attempt", key: "t", focus: "technique" });
    state.chosen = "m";
    run({ do: "eye", good: false, on: "b" });
    expect(state.draft).toMatchObject({ kind: "mark", key: "m", focus: "text", values: { cause: "sleep" } });
  });
});

describe("doubt", () => {
  const guard = at("g", 4, { kind: "position", position: "guard", top: "a" });
  it("falls on what was seen last before the playhead, never on what officials showed", () => {
    const { run, playhead, log } = desk([
      guard,
      at("c", 5, { kind: "call", to: "a", points: 2 }),
      at("later", 20, { kind: "pull", by: "a" }),
    ]);
    playhead.seek(9);
    run({ do: "unsure" });
    expect(log.put).toHaveBeenCalledWith({ ...guard, sure: false });
    run({ do: "digit", number: 3, side: "a" });
    expect(log.put).toHaveBeenLastCalledWith({ ...guard, sure: false, doubt: "too_far" });
  });
  it("is taken back with its reason", () => {
    const { run, playhead, log } = desk([{ ...guard, sure: false, doubt: "cut" } as unknown as Keyed]);
    playhead.seek(9);
    run({ do: "unsure" });
    expect(log.put).toHaveBeenCalledWith({ ...guard, sure: true });
  });
});

describe("the chosen observation", () => {
  it("is moved with its span, and the picture with it", () => {
    const hold = at("h", 5, { kind: "submission", by: "a", technique: "armbar", threat: "attempt", until: 7.5 });
    const { run, state, log, playhead } = desk([hold]);
    run({ do: "move", seconds: 1 });
    expect(log.slide).not.toHaveBeenCalled();
    state.chosen = "h";
    run({ do: "move", seconds: -0.1 });
    expect(log.slide).toHaveBeenCalledWith({ ...hold, t: 4.9, until: 7.4 });
    expect(playhead.now()).toBeCloseTo(4.9);
    expect(movedTo(hold, -3)).toMatchObject({ t: 0, until: 2.5 });
  });
  it("is deleted", () => {
    const { run, state, log } = desk([at("x", 5, { kind: "pull", by: "a" })]);
    state.chosen = "x";
    run({ do: "delete" });
    expect(log.remove).toHaveBeenCalledWith("x");
    expect(state.chosen).toBeNull();
  });
});

describe("forms", () => {
  it("a span takes its ends from the marks of a paused picture, and uses them up", () => {
    const { run, playhead, state } = desk();
    playhead.seek(3);
    run({ do: "mark", which: "from" });
    playhead.seek(6);
    run({ do: "mark", which: "to" }, { do: "compose", kind: "submission", side: "b" });
    expect(state.draft).toMatchObject({ kind: "submission", t: 3, values: { by: "b", threat: "attempt", until: 6 } });
    expect(state.marks).toEqual(NO_MARKS);
  });
  it("the end begins with how the match probably ended", () => {
    const { run, playhead, state } = desk([at("h", 58, { kind: "submission", by: "b", technique: "armbar", threat: "close" })]);
    playhead.seek(60);
    run({ do: "compose", kind: "end", side: "a" });
    expect(state.draft?.values).toEqual({ how: "submission", by: "b", technique: "armbar" });
  });
});

describe("the picture", () => {
  it("plays, steps, slows and repeats", () => {
    const { run, playhead } = desk([at("g", 24, { kind: "position", position: "guard", top: "a" })]);
    playhead.seek(25);
    run({ do: "step", frames: 1 }, { do: "nudge", seconds: -1 });
    expect(playhead.now()).toBeCloseTo(24.04);
    run({ do: "rate", by: -1 });
    expect(playhead.rate).toBeLessThan(1);
    run({ do: "rate", by: 1 }, { do: "rate", by: 1 }, { do: "rate", by: 1 }, { do: "rate", by: 1 });
    expect(playhead.rate).toBeGreaterThanOrEqual(1);
    run({ do: "replay" });
    expect([playhead.now(), playhead.rate, playhead.playing]).toEqual([20, 0.5, true]);
    run({ do: "play" });
    expect(playhead.playing).toBe(false);
    run({ do: "loop" });
    expect(playhead.loop).toEqual({ from: 20, to: 30 });
    run({ do: "loop" });
    expect(playhead.loop).toBeNull();
  });
  it("repeats between the marks, until Escape", () => {
    const { run, playhead, state } = desk();
    state.marks = { from: 2, to: 5 };
    run({ do: "help" }, { do: "loop" });
    expect(playhead.loop).toEqual({ from: 2, to: 5 });
    run({ do: "escape" });
    expect([playhead.loop, state.marks, state.help]).toEqual([null, NO_MARKS, 1]);
  });
  it("is enlarged, turned, and plain again but for its turn", () => {
    const { run, state, playhead } = desk();
    run({ do: "zoom", by: 2 }, { do: "turn" });
    expect(state.view).toMatchObject({ zoom: 2, turns: 1 });
    run({ do: "zoom", by: 0 }, { do: "mute" });
    expect(state.view).toEqual({ ...PLAIN, turns: 1 });
    expect(playhead.muted).toBe(false);
  });
  it("hands undo and redo to the log", () => {
    const { run, log } = desk();
    run({ do: "undo" }, { do: "redo" });
    expect([log.undo.mock.calls.length, log.redo.mock.calls.length]).toEqual([1, 1]);
  });
});

describe("keys at the desk", () => {
  let one: ReturnType<typeof desk>;
  const run = vi.fn();
  const press = (type: "keydown" | "keyup", init: KeyboardEventInit, on: EventTarget = document.body, timeStamp = 0) => {
    const event = new KeyboardEvent(type, { bubbles: true, cancelable: true, ...init });
    Object.defineProperty(event, "timeStamp", { value: timeStamp });
    on.dispatchEvent(event);
    return event;
  };
  beforeEach(() => {
    run.mockClear();
    document.body.innerHTML = "<input><button>Save</button>";
    one = desk();
    renderHook(() => useDeskKeys(one.hands(), run, {}, false));
  });

  it("run commands, and are left alone in fields and on buttons", () => {
    expect(press("keydown", { key: "m" }).defaultPrevented).toBe(true);
    press("keydown", { key: "m" }, document.querySelector("input") ?? document.body);
    press("keydown", { key: " " }, document.querySelector("button") ?? document.body);
    press("keydown", { key: "F5" });
    expect(run.mock.calls).toEqual([[{ do: "position", position: "mount", top: "a" }]]);
  });

  it("repeat only where the picture is moved", () => {
    press("keydown", { key: "m", repeat: true });
    press("keydown", { key: "ArrowRight", repeat: true });
    expect(run.mock.calls).toEqual([[{ do: "step", frames: 1 }]]);
  });

  it("time a submission while the picture plays: held is a span, pressed a moment", () => {
    one.playhead.playing = true;
    one.playhead.t = 10;
    press("keydown", { key: "x", code: "KeyX" }, document.body, 0);
    one.playhead.t = 12;
    press("keyup", { key: "x", code: "KeyX" }, document.body, 2000);
    expect(one.state.draft).toMatchObject({ t: 10, values: { until: 12 } });
    one.playhead.playing = true;
    press("keydown", { key: "x", code: "KeyX" }, document.body, 5000);
    press("keyup", { key: "x", code: "KeyX" }, document.body, 5100);
    expect(one.state.draft?.values).not.toHaveProperty("until");
  });
});
