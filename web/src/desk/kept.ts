import { createStore, del, get, keys, set } from "idb-keyval";

/**
 * What a tab keeps in the browser until the server has it. Every tab has a name of
 * its own that outlives a reload; what a closed tab left behind is taken over by the
 * next one that opens the match.
 */
const store = createStore("jurata-desk", "kept");
const TAB = tabName();

function tabName(): string {
  const found = sessionStorage.getItem("jurata-tab");
  if (found) return found;
  const made = crypto.randomUUID();
  sessionStorage.setItem("jurata-tab", made);
  return made;
}

/** Held as long as the tab lives, so that others know its changes are on their way. */
void navigator.locks?.request(`jurata-tab-${TAB}`, () => new Promise(() => undefined));

const writes = new Map<string, Promise<unknown>>();

/** Put a value under a name of this tab's; writes to one name keep their order. Whether the browser has taken it. */
export function keep(what: string, match: string, value: unknown): Promise<boolean> {
  const name = `${what}:${match}:${TAB}`;
  const next = (writes.get(name) ?? Promise.resolve())
    .then(() => set(name, structuredClone(value), store))
    .then(
      () => true,
      () => false,
    );
  writes.set(name, next);
  return next;
}

export async function kept<T>(what: string, match: string): Promise<T | undefined> {
  return get<T>(`${what}:${match}:${TAB}`, store).catch(() => undefined);
}

/** What tabs that are gone left under a name, taken out of the store. */
export async function leftBehind<T>(what: string, match: string): Promise<T[]> {
  const found: T[] = [];
  const all = await keys<string>(store).catch(() => []);
  const held = new Set((await navigator.locks?.query())?.held?.map((lock) => lock.name));
  for (const name of all) {
    const [kind, of, tab] = name.split(":");
    if (kind !== what || of !== match || tab === TAB || held.has(`jurata-tab-${tab ?? ""}`)) continue;
    const value = await get<T>(name, store);
    if (value !== undefined) found.push(value);
    await del(name, store);
  }
  return found;
}
