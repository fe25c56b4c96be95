import type { Changed, Desk, Verdict } from "../api/client";

interface Splice<T> {
  start: number;
  remove: number;
  add: T[];
}

/** The desk after a change of its log; null where the change builds on another state of it. */
export function changed(desk: Desk, change: Changed): Desk | null {
  const whole = change.base === null;
  if (!whole && change.base !== desk.revision) return null;
  return {
    ...desk,
    observations: spliced(whole ? [] : desk.observations, change.observations),
    revisions: whole ? change.revisions : { ...desk.revisions, ...change.revisions },
    revision: change.revision,
    verdict: told(whole ? {} : desk.verdict, change.verdict),
  };
}

function told(before: Partial<Verdict>, change: Changed["verdict"]): Verdict {
  const lists = before as Record<string, unknown[] | undefined>;
  const parts = Object.entries(change).map(([name, part]) => [name, isSplice(part) ? spliced(lists[name] ?? [], part) : part]);
  return Object.fromEntries(parts) as Verdict;
}

function isSplice(part: unknown): part is Splice<unknown> {
  return typeof part === "object" && part !== null && "add" in part;
}

/** Rows that stay are the same ones, and a list that stays is the same list. */
function spliced<T>(list: T[], { start, remove, add }: Splice<T>): T[] {
  if (remove === 0 && add.length === 0) return list;
  return [...list.slice(0, start), ...add, ...list.slice(start + remove)];
}
