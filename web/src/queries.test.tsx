// @vitest-environment jsdom
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, cleanup, renderHook, waitFor } from "@testing-library/react";
import type { ReactNode } from "react";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { useAttention, useLetBe } from "./desk/attention";
import { useKeys } from "./desk/useKeys";
import { useRemark } from "./review/useReview";
import { rulesetOf, useRulesetChoices } from "./api/rulesets";
import { athletesChanged, useAthletes } from "./api/athletes";
import { useClub, useSession, useSignOut } from "./api/session";

/** Answers by method and address; what was asked is kept. */
const server = vi.hoisted(() => ({ answers: {} as Record<string, unknown>, asked: [] as [string, unknown][] }));

vi.mock("./api/client", async (original) => {
  const call =
    (method: string) =>
    (address: string, init: { body?: unknown } = {}) => {
      server.asked.push([`${method} ${address}`, init.body]);
      return Promise.resolve(server.answers[`${method} ${address}`]);
    };
  const api = Object.fromEntries(["GET", "POST", "PUT", "PATCH", "DELETE"].map((method) => [method, call(method)]));
  return { ...(await original<typeof import("./api/client")>()), api, ok: (answer: Promise<unknown>) => answer };
});

let queries: QueryClient;
function open<T>(hook: () => T) {
  const wrapper = ({ children }: { children: ReactNode }) => <QueryClientProvider client={queries}>{children}</QueryClientProvider>;
  return renderHook(hook, { wrapper });
}

beforeEach(() => {
  queries = new QueryClient({ defaultOptions: { queries: { retry: false } } });
  server.asked = [];
  localStorage.clear();
});
afterEach(cleanup);

it("offers presets, and the latest version of each house rules", async () => {
  server.answers = {
    "GET /api/rulesets": [{ id: "full-points", title: "Full points", about: "All of it." }],
    "GET /api/house-rules": [
      { family: "h", version: 1, title: "Harbour", note: "old", body: { extends: "full-points" } },
      { family: "h", version: 2, title: "Harbour", note: "new", body: { extends: "full-points", hold_seconds: 4 } },
    ],
  };
  const { result } = open(useRulesetChoices);
  await vi.waitFor(() => expect(result.current).toHaveLength(2));
  expect(result.current.map((one) => one.title)).toEqual(["Full points", "Harbour, version 2"]);
  expect(result.current.map((one) => rulesetOf(one.value))).toEqual(["full-points", { extends: "full-points", hold_seconds: 4 }]);
});

it("forgets what was fetched for one user when nobody is signed in any more", async () => {
  server.answers = { "GET /api/session": { name: "Ida", demo: null, clubs: [{ id: 1, name: "Dune", roles: ["coach"], chosen: true }] } };
  vi.stubGlobal("fetch", () => Promise.resolve(new Response("{}", { status: 401 })));
  const { result } = open(() => ({ session: useSession(), club: useClub(), signOut: useSignOut() }));
  await vi.waitFor(() => expect(result.current.club?.name).toBe("Dune"));
  queries.setQueryData(["matches"], ["Ida's"]);
  server.answers = { "GET /api/session": { name: null, demo: null, clubs: [] } };
  await act(() => result.current.signOut.mutateAsync());
  expect(queries.getQueryData(["matches"])).toBeUndefined();
  await vi.waitFor(() => expect(result.current.session.data?.name).toBeNull());
  vi.unstubAllGlobals();
});

it("keys that are changed hold at once", async () => {
  server.answers = { "GET /api/preferences": { keys: { mount: "g" }, muted: [] }, "PATCH /api/preferences": {} };
  const { result } = open(useKeys);
  expect(result.current.change).toBeNull(); // what is not known yet would be lost
  await vi.waitFor(() => expect(result.current.own).toEqual({ mount: "g" }));
  act(() => result.current.change?.({ guard: "m" }));
  await vi.waitFor(() => expect(result.current.own).toEqual({ guard: "m" }));
  expect(server.asked.at(-1)).toEqual(["PATCH /api/preferences", { keys: { guard: "m" } }]);
});

it("what may want another look waits for a breath between two keys", async () => {
  vi.useFakeTimers();
  server.answers = { "GET /api/matches/{match}/attention": { prompts: [] } };
  const { rerender } = renderHook(({ revision }) => useAttention("m", revision), {
    initialProps: { revision: 1 },
    wrapper: ({ children }: { children: ReactNode }) => <QueryClientProvider client={queries}>{children}</QueryClientProvider>,
  });
  for (const revision of [2, 3, 4]) {
    rerender({ revision });
    await act(() => vi.advanceTimersByTimeAsync(200));
  }
  expect(server.asked).toHaveLength(1);
  await act(() => vi.advanceTimersByTimeAsync(1000));
  expect(server.asked).toHaveLength(2);
  vi.useRealTimers();
});

it("a prompt that was let be stays away on this machine", () => {
  const first = open(() => useLetBe("m"));
  act(() => first.result.current.dismiss("leap-3"));
  expect(first.result.current.letBe.has("leap-3")).toBe(true);
  expect(open(() => useLetBe("m")).result.current.letBe.has("leap-3")).toBe(true);
  expect(open(() => useLetBe("other")).result.current.letBe.has("leap-3")).toBe(false);
});

it("what is said of an error is shown at once, and what hangs on it asked for again", async () => {
  server.answers = {
    "PUT /api/matches/{match}/errors/{key}": { found: ["new"] },
    "DELETE /api/matches/{match}/errors/{key}": { found: ["old"] },
  };
  queries.setQueryData(["review", "m"], { match: { id: "m" }, found: [] });
  queries.setQueryData(["prospects", "m"], {});
  const { result } = open(() => useRemark("m"));
  await act(() => result.current.mutateAsync({ key: "k", said: { standing: "dismissed" } }));
  expect(queries.getQueryData(["review", "m"])).toEqual({ match: { id: "m" }, found: ["new"] });
  expect(queries.getQueryState(["prospects", "m"])?.isInvalidated).toBe(true);
  await act(() => result.current.mutateAsync({ key: "k", said: null }));
  expect(server.asked.at(-1)?.[0]).toBe("DELETE /api/matches/{match}/errors/{key}");
});

it("shows an athlete who was added while the list was still on its way", async () => {
  let arrive: (rows: unknown) => void = () => undefined;
  server.answers = { "GET /api/athletes": new Promise((resolve) => (arrive = resolve)) };
  const { result } = open(() => useAthletes());
  server.answers = { "GET /api/athletes": [{ id: 1 }, { id: 2 }] };
  await act(() => athletesChanged(queries));
  arrive([{ id: 1 }]);
  await waitFor(() => expect(result.current.data).toEqual([{ id: 1 }, { id: 2 }]));
});
