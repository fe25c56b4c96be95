import { renderHook } from "@testing-library/react";
import { vi } from "vitest";
import type { Desk, Keyed, Observation } from "../api/client";
import type { Draft } from "./Composer";
import { type Marks, NO_MARKS } from "./hands";
import { Playhead } from "./playhead";
import { useCommands } from "./useCommands";
import type { Log } from "./useLog";
import { PLAIN, type View } from "./view";

/** An observation with its key. */
export const at = (id: string, t: number, more: Record<string, unknown>) => ({ id, t, ...more }) as unknown as Keyed;

/** A desk with a log that only remembers what was asked of it. */
export function desk(observations: Keyed[] = []) {
  const playhead = new Playhead();
  const state = {
    chosen: null as string | null,
    draft: null as Draft | null,
    detailing: null as string | null,
    marks: NO_MARKS as Marks,
    view: PLAIN as View,
    help: 0,
  };
  const log = {
    live: () => observations,
    queue: { now: () => [] },
    add: vi.fn<(seen: Observation) => string>(() => "new"),
    put: vi.fn<(seen: Keyed) => void>(),
    slide: vi.fn<(seen: Keyed) => void>(),
    remove: vi.fn(),
    undo: vi.fn(),
    redo: vi.fn(),
  };
  const exchanges = [
    { start: 0, end: 20 },
    { start: 20, end: 30 },
  ];
  const hands = () => ({
    playhead,
    log: log as unknown as Log,
    desk: {
      observations,
      verdict: { exchanges, clock: [], positions: observations.filter((one) => one.kind === "position") },
    } as unknown as Desk,
    chosenNow: () => state.chosen,
    marks: state.marks,
    choose: (key: string | null) => void (state.chosen = key),
    choices: { causes: ["grips", "sleep"], attire: "gi" as const },
    detailingNow: () => state.detailing,
    askDetail: (of: string | null) => void (state.detailing = of),
    setDraft: (draft: Draft) => void (state.draft = draft),
    setMarks: (marks: Marks) => void (state.marks = marks),
    setView: (change: (view: View) => View) => void (state.view = change(state.view)),
    help: () => void (state.help += 1),
  });
  const { result, rerender } = renderHook(() => useCommands(hands()));
  const run = (...commands: Parameters<typeof result.current>[0][]) => {
    for (const command of commands) {
      result.current(command);
      rerender();
    }
  };
  return { playhead, state, log, hands, run };
}
