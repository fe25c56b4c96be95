import { beforeEach, expect, it, vi } from "vitest";

/** The browser's own database, as a map. */
const database = vi.hoisted(() => ({ rows: new Map<string, unknown>(), full: false }));
vi.mock("idb-keyval", () => ({
  createStore: () => "store",
  get: (name: string) => Promise.resolve(database.rows.get(name)),
  keys: () => Promise.resolve([...database.rows.keys()]),
  set: (name: string, value: unknown) => {
    if (database.full) return Promise.reject(new Error("QuotaExceededError"));
    database.rows.set(name, value);
    return Promise.resolve();
  },
  del: (name: string) => Promise.resolve(database.rows.delete(name)),
}));
const { keep, kept, leftBehind } = await import("./kept");

const own = (what: string, match: string) => [...database.rows.keys()].find((name) => name.startsWith(`${what}:${match}:`));

beforeEach(() => {
  database.rows.clear();
  database.full = false;
});

it("keeps a value under a name of this tab's own", async () => {
  const value = [{ key: "k" }];
  expect(await keep("waiting", "m", value)).toBe(true);
  value.push({ key: "later" }); // what is kept does not change any more
  expect(await kept("waiting", "m")).toEqual([{ key: "k" }]);
  expect(await kept("waiting", "other")).toBeUndefined();
});

it("keeps the order of writes to one name", async () => {
  await Promise.all([1, 2, 3].map((value) => keep("steps", "m", value)));
  expect(await kept("steps", "m")).toBe(3);
});

it("says where the browser has no room", async () => {
  database.full = true;
  expect(await keep("waiting", "m", [1])).toBe(false);
  database.full = false;
  expect(await keep("waiting", "m", [1])).toBe(true);
});

it("takes over what closed tabs left of a match, once, and nothing of tabs that live", async () => {
  await keep("waiting", "m", ["own"]);
  database.rows.set("waiting:m:closed", ["closed"]);
  database.rows.set("waiting:m:alive", ["alive"]);
  database.rows.set("waiting:other:closed", ["of another match"]);
  const query = () => Promise.resolve({ held: [{ name: "jurata-tab-alive" }] });
  vi.stubGlobal("navigator", { ...navigator, locks: { query, request: () => Promise.resolve() } });
  expect(await leftBehind("waiting", "m")).toEqual([["closed"]]);
  expect(await leftBehind("waiting", "m")).toEqual([]);
  expect([...database.rows.keys()].sort()).toEqual(["waiting:m:alive", "waiting:other:closed", own("waiting", "m")].sort());
  vi.unstubAllGlobals();
});
