// @vitest-environment jsdom
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, cleanup, renderHook } from "@testing-library/react";
import type { ReactNode } from "react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import type { Desk, Observation } from "../api/client";
import { Playhead } from "./playhead";
import { useLog } from "./useLog";

/** A server that stores what it is sent and answers with the change of its log. */
const server = vi.hoisted(() => ({ revision: 0, sent: [] as { key: string; body: unknown }[], away: false }));

vi.mock("../api/client", async (original) => {
  const real = await original<typeof import("../api/client")>();
  const record = (body: boolean) => (_: string, asked: { params: { path: { key: string } }; body?: unknown }) =>
    Promise.resolve({ key: asked.params.path.key, body: body ? asked.body : null });
  const ok = async (request: Promise<{ key?: string; body?: unknown }>) => {
    const { key, body } = await request;
    if (key === undefined) return { revision: server.revision };
    if (server.away) throw new real.ApiError(0, "unreachable", "away");
    server.sent.push({ key, body });
    server.revision += 1;
    const same = { start: 0, remove: 0, add: [] };
    return {
      base: server.revision - 1,
      revision: server.revision,
      observations: same,
      revisions: { [key]: server.revision },
      verdict: { exchanges: same },
    };
  };
  return { ...real, ok, api: { PUT: record(true), DELETE: record(false), GET: () => Promise.resolve({}) } };
});
vi.mock("./kept", () => ({
  keep: () => Promise.resolve(true),
  kept: () => Promise.resolve(undefined),
  leftBehind: () => Promise.resolve([]),
  ofOthers: () => Promise.resolve(new Map()),
}));

const OWNER = { id: 1, name: "Orde" };
const mount = { t: 3, kind: "position", position: "mount", top: "a" } as Observation;

function open(observations: Observation[] = []) {
  const queries = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  const desk = { match: { id: "m" }, parts: [], revision: 0, revisions: {}, observations, verdict: { exchanges: [] } } as unknown as Desk;
  queries.setQueryData(["match", "m"], desk);
  const wrapper = ({ children }: { children: ReactNode }) => <QueryClientProvider client={queries}>{children}</QueryClientProvider>;
  return renderHook(() => useLog(desk, new Playhead(), OWNER), { wrapper });
}

beforeEach(() => Object.assign(server, { revision: 0, sent: [], away: false }));
afterEach(cleanup);

/** So many changes have reached the server, and what they did is drawn. */
const arrived = (log: { current: ReturnType<typeof useLog> }, number: number) =>
  act(() => vi.waitFor(() => expect([server.sent.length, log.current.pending.size]).toEqual([number, 0])));

describe("the log of a desk", () => {
  it("shows what waits laid over what is stored, in order of time", () => {
    server.away = true;
    const { result } = open([{ ...mount, t: 9, id: "stored" }]);
    let key = "";
    act(() => {
      key = result.current.add(mount);
    });
    expect(result.current.live().map((one) => one.id)).toEqual([key, "stored"]);
    act(() => result.current.remove("stored"));
    expect(result.current.live().map((one) => one.id)).toEqual([key]);
  });

  it("sends what is added under a key of its own, and undoes and redoes it", async () => {
    const { result } = open();
    act(() => void result.current.add(mount));
    await arrived(result, 1);
    const key = server.sent[0]?.key;
    expect(server.sent).toEqual([{ key, body: { ...mount, id: key } }]);
    expect([result.current.canUndo, result.current.canRedo, result.current.touched?.gone]).toEqual([true, false, false]);
    act(() => result.current.undo());
    await arrived(result, 2);
    expect(server.sent.at(-1)).toEqual({ key, body: null });
    expect([result.current.canUndo, result.current.canRedo]).toEqual([false, true]);
    act(() => result.current.redo());
    await arrived(result, 3);
    expect(server.sent.at(-1)).toEqual({ key, body: { ...mount, id: key } });
    act(() => result.current.undo());
    act(() => result.current.undo());
    await arrived(result, 4);
    expect(result.current.canUndo).toBe(false);
  });

  it("takes many small moves in a row as one step", async () => {
    const stored = { ...mount, id: "k" };
    const { result } = open([stored]);
    for (const t of [3.1, 3.2, 3.3]) act(() => result.current.slide({ ...stored, t }));
    await arrived(result, 3);
    act(() => result.current.undo());
    await arrived(result, 4);
    expect(server.sent.at(-1)).toEqual({ key: "k", body: stored });
    expect(result.current.canUndo).toBe(false);
  });

  it("undoes the moves of two entries one after the other", async () => {
    const [one, other] = [
      { ...mount, id: "k" },
      { ...mount, t: 9, id: "j" },
    ];
    const { result } = open([one, other]);
    act(() => result.current.slide({ ...one, t: 3.1 }));
    act(() => result.current.slide({ ...other, t: 9.1 }));
    act(() => result.current.slide({ ...one, t: 3.2 }));
    await arrived(result, 3);
    for (const [step, body] of [
      [4, { ...one, t: 3.1 }],
      [5, other],
      [6, one],
    ] as const) {
      act(() => result.current.undo());
      await arrived(result, step);
      expect(server.sent.at(-1)).toEqual({ key: body.id, body });
    }
    expect(result.current.canUndo).toBe(false);
  });

  it("something new after an undo ends what could be redone", async () => {
    const { result } = open();
    act(() => void result.current.add(mount));
    act(() => result.current.undo());
    act(() => void result.current.add({ ...mount, t: 8 }));
    await arrived(result, 3);
    expect([result.current.canUndo, result.current.canRedo]).toEqual([true, false]);
    act(() => result.current.redo());
    expect(result.current.observations.map((one) => one.t)).not.toContain(3);
  });
});
