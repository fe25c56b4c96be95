import { createStore, del, get, keys, set } from "idb-keyval";

/**
 * What a tab keeps in the browser until the server has it. Every tab has a name of
 * its own that outlives a reload; what a closed tab left behind is taken over by the
 * next one in which the same account opens the match. On a laptop that several people
 * use nobody takes over what is another's.
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

/** The account that something was done as. */
export interface Owner {
  id: number;
  name: string;
}

interface Value<T> {
  by: string;
  value: T;
}

const writes = new Map<string, Promise<unknown>>();

/** Put a value under a name of this tab's; writes to one name keep their order. Whether the browser has taken it. */
export function keep(what: string, match: string, owner: Owner, value: unknown): Promise<boolean> {
  const name = `${what}:${match}:${TAB}:${owner.id}`;
  const next = (writes.get(name) ?? Promise.resolve())
    .then(() => set(name, structuredClone({ by: owner.name, value }), store))
    .then(
      () => true,
      () => false,
    );
  writes.set(name, next);
  return next;
}

export async function kept<T>(what: string, match: string, owner: Owner): Promise<T | undefined> {
  const found = await get<Value<T>>(`${what}:${match}:${TAB}:${owner.id}`, store).catch(() => undefined);
  return found?.value;
}

/** How many entries of lists others have kept for a match in this browser, by how they are called. */
export async function ofOthers(what: string, match: string, owner: Owner): Promise<Map<string, number>> {
  const found = new Map<string, number>();
  for (const name of await keys<string>(store).catch(() => [])) {
    const [kind, of, , account] = name.split(":");
    if (kind !== what || of !== match || account === undefined || account === String(owner.id)) continue;
    const theirs = await get<Value<unknown[]>>(name, store);
    if (theirs?.value.length) found.set(theirs.by, (found.get(theirs.by) ?? 0) + theirs.value.length);
  }
  return found;
}

/** What tabs of the same account that are gone left under a name, taken out of the store. */
export async function leftBehind<T>(what: string, match: string, owner: Owner): Promise<T[]> {
  const found: T[] = [];
  const all = await keys<string>(store).catch(() => []);
  const held = new Set((await navigator.locks?.query())?.held?.map((lock) => lock.name));
  for (const name of all) {
    const [kind, of, tab, account] = name.split(":");
    if (kind !== what || of !== match || (account ?? String(owner.id)) !== String(owner.id)) continue;
    if ((tab === TAB && account !== undefined) || (tab !== TAB && held.has(`jurata-tab-${tab ?? ""}`))) continue;
    if (account === undefined) {
      const before = await get<T>(name, store); // of a version that did not say whose it was
      if (before !== undefined) found.push(before);
    } else {
      const left = await get<Value<T>>(name, store);
      if (left !== undefined) found.push(left.value);
    }
    await del(name, store);
  }
  return found;
}
