import { type AuditLine, type Award, type Exchange, type Keyed, type Side, type UnpaidClaim, type Verdict } from "../api/client";
import { exchangeAt, SAME } from "./timeline";
import { POSITION_WORDS, SIDE_WORDS } from "./words";

export type Filter = "all" | "gains" | "attacks" | "officials" | "unsure";
export const FILTERS: Record<Filter, string> = {
  all: "everything",
  gains: "awards and misses",
  attacks: "attacks",
  officials: "officials",
  unsure: "unsure",
};
/** Something that stands in an exchange: what was seen, or what it gave; in order of rank where times are equal. */
export type Entry =
  | { t: number; rank: 0; seen: Keyed }
  | { t: number; rank: 1; award: Award }
  | { t: number; rank: 2; miss: UnpaidClaim }
  | { t: number; rank: 3; unpaid: UnpaidClaim };

/** The entries of each exchange, and those from before the first. */
export function grouped(verdict: Verdict, observations: Keyed[]): { before: Entry[]; rows: Entry[][] } {
  const rows: Entry[][] = verdict.exchanges.map(() => []);
  const before: Entry[] = [];
  const consoled: Record<Side, Set<number>> = { a: new Set(), b: new Set() };
  for (const award of verdict.ledger) if (award.reason === "lost") consoled[award.to].add(award.t);
  let at = -1;
  for (const seen of observations) {
    while ((verdict.exchanges[at + 1]?.start ?? Infinity) <= seen.t + SAME) at += 1;
    (rows[at] ?? before).push({ t: seen.t, rank: 0, seen });
  }
  verdict.exchanges.forEach((exchange, index) => {
    const into = rows[index];
    for (const row of exchange.ledger_rows) {
      const award = verdict.ledger[row];
      if (award) into?.push({ t: award.t, rank: 1, award });
    }
    for (const row of exchange.missed_rows) {
      const miss = verdict.missed[row];
      // The advantage for a lost claim tells the same story; one of the two is enough.
      if (miss && !consoled[miss.to].has(miss.t)) into?.push({ t: miss.t, rank: 2, miss });
    }
  });
  for (const unpaid of verdict.unpaid) rows[exchangeAt(verdict, unpaid.t)]?.push({ t: unpaid.t, rank: 3, unpaid });
  for (const list of rows) if (list.some((one) => one.rank > 0)) list.sort((one, other) => one.t - other.t || one.rank - other.rank);
  return { before, rows };
}

const ATTACKS = ["submission", "technique", "attempt"];

/** What of an exchange a filter leaves. */
export function filtered(entries: Entry[], filter: Filter, audit: AuditLine[]): Entry[] {
  switch (filter) {
    case "all":
      return entries;
    case "gains":
      return entries.filter((one) => one.rank === 1 || one.rank === 2);
    case "attacks":
      return entries.filter((one) => one.rank === 0 && ATTACKS.includes(one.seen.kind));
    case "officials":
      return entries.filter(
        (one) => (one.rank === 0 && one.seen.kind === "call") || (one.rank === 1 && lineOf(audit, one.award)?.standing === "not_called"),
      );
    case "unsure":
      return entries.filter((one) => one.rank === 0 && one.seen.sure === false);
  }
}

/** The line of the audit that an award is in. */
export function lineOf(audit: AuditLine[], award: Award): AuditLine | undefined {
  return audit.find(
    (line) =>
      line.award !== null &&
      line.award.t === award.t &&
      line.award.to === award.to &&
      line.award.kind === award.kind &&
      line.award.because === award.because,
  );
}

export interface Shown {
  exchange: Exchange;
  index: number;
  entries: Entry[];
  /** So many exchanges from this one on are drawn as one row, because nothing came of them. */
  quiet: number;
}

const LEAST_QUIET = 3;

/** Runs of exchanges in which nothing was won, missed or tried, as one row each, but for the one the playhead is in. */
export function quietened(all: Shown[], current: number, unfolded: ReadonlySet<number>): Shown[] {
  const found: Shown[] = [];
  let run: Shown[] = [];
  const close = () => {
    const first = run[0];
    if (first && run.length >= LEAST_QUIET && !unfolded.has(first.exchange.start)) found.push({ ...first, quiet: run.length });
    else found.push(...run);
    run = [];
  };
  for (const one of all) {
    if (one.index !== current && isQuiet(one)) run.push(one);
    else {
      close();
      found.push(one);
    }
  }
  close();
  return found;
}

function isQuiet({ exchange, entries }: Shown): boolean {
  return (
    exchange.title === null &&
    entries.every(
      (one) => one.rank === 0 && (one.seen.kind === "position" || one.seen.kind === "clock") && one.seen.sure !== false && !one.seen.note,
    )
  );
}

export function summary(exchange: Exchange): string {
  const first = POSITION_WORDS[exchange.first.position];
  const last = POSITION_WORDS[exchange.last.position];
  const who = exchange.first.top ? `, ${SIDE_WORDS[exchange.first.top]} on top` : "";
  return first === last ? `${first}${who}` : `${first} to ${last.toLowerCase()}${who}`;
}

/** Why a call of the officials is not in agreement with the awards. */
export function disagreement(audit: AuditLine[], call: string): string | undefined {
  const line = audit.find((one) => one.call?.observations.includes(call));
  return line && line.standing !== "agreed" ? line.because : undefined;
}
