// @vitest-environment jsdom
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
const { keep, kept, leftBehind, ofOthers } = await import("./kept");

const ORDE = { id: 1, name: "Orde" };
const INES = { id: 2, name: "Ines" };
const own = (what: string, match: string) => [...database.rows.keys()].find((name) => name.startsWith(`${what}:${match}:`));

beforeEach(() => {
  database.rows.clear();
  database.full = false;
});

it("keeps a value under a name of this tab's own", async () => {
  const value = [{ key: "k" }];
  expect(await keep("waiting", "m", ORDE, value)).toBe(true);
  value.push({ key: "later" }); // what is kept does not change any more
  expect(await kept("waiting", "m", ORDE)).toEqual([{ key: "k" }]);
  expect(await kept("waiting", "other", ORDE)).toBeUndefined();
});

it("keeps the order of writes to one name", async () => {
  await Promise.all([1, 2, 3].map((value) => keep("steps", "m", ORDE, value)));
  expect(await kept("steps", "m", ORDE)).toBe(3);
});

it("says where the browser has no room", async () => {
  database.full = true;
  expect(await keep("waiting", "m", ORDE, [1])).toBe(false);
  database.full = false;
  expect(await keep("waiting", "m", ORDE, [1])).toBe(true);
});

it("takes over what closed tabs left of a match, once, and nothing of tabs that live", async () => {
  await keep("waiting", "m", ORDE, ["own"]);
  database.rows.set("waiting:m:closed:1", { by: "Orde", value: ["closed"] });
  database.rows.set("waiting:m:alive:1", { by: "Orde", value: ["alive"] });
  database.rows.set("waiting:other:closed:1", { by: "Orde", value: ["of another match"] });
  const query = () => Promise.resolve({ held: [{ name: "jurata-tab-alive" }] });
  vi.stubGlobal("navigator", { ...navigator, locks: { query, request: () => Promise.resolve() } });
  expect(await leftBehind("waiting", "m", ORDE)).toEqual([["closed"]]);
  expect(await leftBehind("waiting", "m", ORDE)).toEqual([]);
  expect([...database.rows.keys()].sort()).toEqual(["waiting:m:alive:1", "waiting:other:closed:1", own("waiting", "m")].sort());
  vi.unstubAllGlobals();
});

it("gives nobody what another account has kept in the same browser, and says whose it is", async () => {
  await keep("waiting", "m", ORDE, ["a", "b"]);
  database.rows.set("waiting:m:closed:1", { by: "Orde", value: ["c"] });
  database.rows.set("waiting:m:closed:2", { by: "Ines", value: [] });
  expect(await kept("waiting", "m", INES)).toBeUndefined();
  const query = () => Promise.resolve({ held: [] });
  vi.stubGlobal("navigator", { ...navigator, locks: { query, request: () => Promise.resolve() } });
  expect((await leftBehind("waiting", "m", INES)).flat()).toEqual([]);
  vi.unstubAllGlobals();
  expect([...(await ofOthers("waiting", "m", INES))]).toEqual([["Orde", 3]]);
  expect([...(await ofOthers("waiting", "m", ORDE))]).toEqual([]);
  expect(await kept("waiting", "m", ORDE)).toEqual(["a", "b"]);
});

it("takes over what an earlier version kept, which did not say whose it was", async () => {
  database.rows.set("waiting:m:closed", ["from before"]);
  expect(await leftBehind("waiting", "m", ORDE)).toEqual([["from before"]]);
});
