// @vitest-environment jsdom
import { beforeEach, describe, expect, it, vi } from "vitest";
import { ApiError, type Changed, type Observation } from "../api/client";
import { type Change, meaning, SaveQueue } from "./saveQueue";

const server = vi.hoisted(() => ({
  /** What each request is answered with, in order; a function of the request, or an error that is thrown. */
  answers: [] as unknown[],
  sent: [] as { method: string; key: string; body: unknown; base: number; by: number }[],
}));
const browser = vi.hoisted(() => ({
  store: new Map<string, unknown>(),
  left: new Map<string, unknown[]>(),
  others: new Map<string, number>(),
  full: false,
}));

vi.mock("../api/client", async (original) => {
  const real = await original<typeof import("../api/client")>();
  const call =
    (method: string) =>
    (_: string, { params, body }: { params: { path: { key: string }; query: { based_on: number; made_by: number } }; body?: unknown }) => {
      server.sent.push({ method, key: params.path.key, body: body ?? null, base: params.query.based_on, by: params.query.made_by });
      return Promise.resolve({ key: params.path.key });
    };
  const ok = async (request: Promise<{ key: string }>) => {
    const { key } = await request;
    const answer = server.answers.shift();
    if (answer instanceof Error) throw answer;
    return answer ?? { revision: server.sent.length, revisions: { [key]: server.sent.length } };
  };
  return { ...real, api: { PUT: call("PUT"), DELETE: call("DELETE") }, ok };
});
vi.mock("./kept", () => ({
  keep: (what: string, _: string, __: unknown, value: unknown) => {
    if (!browser.full) browser.store.set(what, structuredClone(value));
    return Promise.resolve(!browser.full);
  },
  kept: (what: string) => Promise.resolve(browser.store.get(what)),
  leftBehind: (what: string) => Promise.resolve(browser.left.get(what) ?? []),
  ofOthers: () => Promise.resolve(browser.others),
}));

const seen = (t: number) => ({ t, kind: "position", position: "mount", top: "a" }) as Observation;
const change = (key: string, t = 1, base = 0): Change => ({ key, body: seen(t), base });

function made() {
  const desk = { revision: () => 0, changed: vi.fn<(change: Changed) => void>(), conflict: vi.fn() };
  return { queue: new SaveQueue("match", { id: 1, name: "Orde" }, desk), desk };
}

/** Nothing waits any more. */
const sent = (queue: SaveQueue) =>
  vi.waitFor(() => expect([queue.now().length, queue.read().waiting.length, queue.read().save.state]).toEqual([0, 0, "saved"]));

beforeEach(() => {
  server.answers = [];
  server.sent = [];
  browser.store.clear();
  browser.left.clear();
  browser.others.clear();
  browser.full = false;
});

describe("what a failed try means", () => {
  it.each([
    [0, "later"],
    [429, "later"],
    [503, "later"],
    [401, "signed_out"],
    [403, "signed_out"],
    [500, "server_failed"],
    [409, "refused"],
    [400, "refused"],
  ])("%s", (status, expected) => {
    expect(meaning(new ApiError(status, "", ""))).toBe(expected);
  });
  it("anything else may be tried later", () => expect(meaning(new TypeError("fetch failed"))).toBe("later"));
});

describe("a browser that several people use", () => {
  it("says with each change who made it, and keeps it where somebody else is signed in", async () => {
    server.answers = [new ApiError(403, "other_account", "Somebody else made this change.")];
    const { queue } = made();
    queue.subscribe(() => undefined);
    queue.push(change("k"));
    await vi.waitFor(() => expect(queue.read().save).toEqual({ state: "other_account", waiting: 1, by: "Orde" }));
    expect(browser.store.get("waiting")).toEqual([change("k")]);
    queue.retry();
    await sent(queue);
    expect(server.sent.map(({ by }) => by)).toEqual([1, 1]);
  });

  it("says whose changes wait", async () => {
    browser.others.set("Ines", 2);
    const { queue } = made();
    await vi.waitFor(() => expect([...queue.read().others]).toEqual([["Ines", 2]]));
  });
});

describe("the queue", () => {
  it("sends changes one after another, and a later one of the same key on top of the one before", async () => {
    const { queue, desk } = made();
    queue.push(change("k", 1));
    queue.push(change("k", 2));
    queue.push({ key: "gone", body: null, base: 3 });
    await sent(queue);
    expect(server.sent.map(({ method, key, base }) => [method, key, base])).toEqual([
      ["PUT", "k", 0],
      ["PUT", "k", 1],
      ["DELETE", "gone", 3],
    ]);
    expect(desk.changed).toHaveBeenCalledTimes(3);
    expect(queue.now()).toEqual([]);
    expect(browser.store.get("waiting")).toEqual([]);
  });

  it("keeps what can't be sent, and goes on from there", async () => {
    server.answers = [new ApiError(0, "unreachable", "away")];
    const { queue } = made();
    queue.push(change("k"));
    await vi.waitFor(() => expect(queue.read().save).toEqual({ state: "away", waiting: 1 }));
    expect(browser.store.get("waiting")).toHaveLength(1);
    queue.retry();
    await sent(queue);
    expect(server.sent).toHaveLength(2);
  });

  it("says that nobody is signed in any more, and loses nothing", async () => {
    server.answers = [new ApiError(401, "not_signed_in", "")];
    const { queue } = made();
    queue.push(change("k"));
    await vi.waitFor(() => expect(queue.read().save).toEqual({ state: "signed_out", waiting: 1 }));
  });

  it("sets aside what the server refuses, and sends the others", async () => {
    server.answers = [new ApiError(400, "faulty", "t: is missing")];
    const { queue } = made();
    queue.push(change("bad"));
    queue.push(change("good"));
    await sent(queue);
    expect(queue.read().aside.map(({ change: one, error }) => [one.key, error.message])).toEqual([["bad", "t: is missing"]]);
    expect(server.sent.map((one) => one.key)).toEqual(["bad", "good"]);
  });

  it("asks for the log again after a conflict, and sends one's own once more when asked to", async () => {
    server.answers = [new ApiError(409, "conflict", "changed")];
    const { queue, desk } = made();
    queue.push(change("k"));
    await vi.waitFor(() => expect(desk.conflict).toHaveBeenCalled());
    const [aside] = queue.read().aside;
    if (aside) queue.sendAgain(aside);
    await vi.waitFor(() => expect(server.sent).toHaveLength(2));
    expect(queue.read().aside).toEqual([]);
  });

  it("tries three times where the server itself fails, then lets the others by", async () => {
    vi.useFakeTimers();
    server.answers = [1, 2, 3].map(() => new ApiError(500, "server", "failed"));
    const { queue } = made();
    queue.push(change("poison", 1));
    queue.push(change("poison", 2));
    queue.push(change("good"));
    await vi.advanceTimersByTimeAsync(10_000);
    vi.useRealTimers();
    expect(server.sent.map((one) => one.key)).toEqual(["poison", "poison", "poison", "good"]);
    const [aside] = queue.read().aside;
    expect(aside?.change).toMatchObject({ key: "poison", base: 0, body: { t: 2 } }); // the latest state of it
  });

  it("takes up what an earlier life of this tab, and closed tabs, left", async () => {
    browser.store.set("waiting", [change("own")]);
    browser.left.set("waiting", [[change("closed")]]);
    const { queue } = made();
    await vi.waitFor(() => expect(server.sent.map((one) => one.key)).toEqual(["closed", "own"]));
    await sent(queue);
  });

  it("says where the browser has no room to keep what waits", async () => {
    browser.full = true;
    const { queue } = made();
    queue.push(change("k"));
    await vi.waitFor(() => expect(queue.read().keeping).toBe(false));
  });

  it("draws what hangs on a change together with it", async () => {
    const { queue } = made();
    const drawn = vi.fn();
    queue.push(change("k"));
    queue.whenDrawn(drawn);
    expect(drawn).not.toHaveBeenCalled();
    await vi.waitFor(() => expect(drawn).toHaveBeenCalledOnce());
    queue.whenDrawn(drawn);
    expect(drawn).toHaveBeenCalledTimes(2);
  });
});
