import type { Changed, Desk, Exchange, Verdict } from "../api/client";

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
    // In place: nothing is drawn by them, and to copy a thousand keys takes longer than all the rest.
    revisions: whole ? change.revisions : Object.assign(desk.revisions, change.revisions),
    revision: change.revision,
    verdict: verdictAfter(whole ? {} : desk.verdict, change.verdict),
  };
}

/** What to show of an answer that may have been overtaken: never an older log than is shown already. */
export function latest(before: Desk | undefined, now: Desk): Desk {
  if (!before || before.match.id !== now.match.id || before.revision <= now.revision) return now;
  const { observations, revisions, revision, verdict } = before;
  return { ...now, observations, revisions, revision, verdict };
}

function verdictAfter(before: Partial<Verdict>, change: Changed["verdict"]): Verdict {
  const lists = before as Record<string, unknown[] | undefined>;
  const parts = Object.entries(change).map(([name, part]) => [name, isSplice(part) ? spliced(lists[name] ?? [], part) : part]);
  const now = Object.fromEntries(parts) as Verdict;
  return { ...now, exchanges: numbered(now.exchanges) };
}

/** Exchanges with their rows numbered as in the match: those that come in a change are numbered from their own first row. */
function numbered(exchanges: Exchange[]): Exchange[] {
  let award = 0;
  let miss = 0;
  return exchanges.map((one) => {
    const [awards, misses] = [one.ledger_rows.length, one.missed_rows.length];
    const [firstAward, firstMiss] = [award, miss];
    award += awards;
    miss += misses;
    if ((awards === 0 || one.ledger_rows[0] === firstAward) && (misses === 0 || one.missed_rows[0] === firstMiss)) return one;
    return {
      ...one,
      ledger_rows: one.ledger_rows.map((_, index) => firstAward + index),
      missed_rows: one.missed_rows.map((_, index) => firstMiss + index),
    };
  });
}

function isSplice(part: unknown): part is Splice<unknown> {
  return typeof part === "object" && part !== null && "add" in part;
}

/** Rows that stay are the same ones, and a list that stays is the same list. */
function spliced<T>(list: T[], { start, remove, add }: Splice<T>): T[] {
  if (remove === 0 && add.length === 0) return list;
  return [...list.slice(0, start), ...add, ...list.slice(start + remove)];
}
