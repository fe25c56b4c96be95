import { useVirtualizer } from "@tanstack/react-virtual";
import { memo, type ReactNode, type RefObject, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { type AuditLine, type Award, type Exchange, type Side, TALLIES, type Tally, type UnpaidClaim, type Verdict } from "../api/client";
import type { Keyed } from "../api/client";
import { exchangeAt, SAME } from "./timeline";
import { describe, doubtOf, until } from "./describe";
import { Mark } from "./Mark";
import { claimWords, clock, footage, held, POSITION_WORDS, SIDE_WORDS } from "./words";

export type Tone = "night" | "paper";

interface Props {
  verdict: Verdict;
  observations: Keyed[];
  current: number;
  tone: Tone;
  seek: (t: number) => void;
  pending?: ReadonlySet<string>;
  chosen?: string | null;
  choose?: (key: string) => void;
  actions?: (observation: Keyed) => ReactNode;
  /** What can be done with the exchange that is open. */
  exchangeActions?: (exchange: Exchange) => ReactNode;
  /** What else is to be seen of an exchange. */
  exchangeExtra?: (exchange: Exchange, index: number) => ReactNode;
  /** The officials' calls against the awards, where any are logged. */
  audit?: AuditLine[];
  filter?: Filter;
  openAll?: boolean;
  /** What scrolls: with it, only the rows in sight are drawn. */
  scroller?: RefObject<HTMLElement | null>;
}

export type Filter = "all" | "gains" | "attacks" | "officials" | "unsure";
export const FILTERS: Record<Filter, string> = {
  all: "everything",
  gains: "awards and misses",
  attacks: "attacks",
  officials: "officials",
  unsure: "unsure",
};
const NOTHING: AuditLine[] = [];

/** The line of time is the background of what lies on it: no row has to be lifted above it. */
const LINE: Record<Tone, string> = {
  night: "relative time-line [--line:var(--color-seam)]",
  paper: "relative time-line [--line:var(--color-rule)]",
};
const DIM: Record<Tone, string> = { night: "text-fog", paper: "text-slate" };
const INK: Record<Tone, Record<Side, string>> = {
  night: { a: "text-amber", b: "text-sea" },
  paper: { a: "text-amber-deep", b: "text-sea-deep" },
};
const BAR: Record<Side, string> = { a: "bg-amber", b: "bg-sea" };

/** The match down one line of time: the athlete's gains to the left of it, the opponent's to the right. */
export function Spine(props: Props) {
  const { verdict, observations, current, tone, scroller, filter = "all", audit = NOTHING, openAll = false } = props;
  const [unfolded, setUnfolded] = useState<ReadonlySet<number>>(new Set());
  const groups = useMemo(() => grouped(verdict, observations), [verdict, observations]);
  const shown = useMemo(() => {
    const all: Shown[] = verdict.exchanges.map((exchange, index) => ({
      exchange,
      index,
      entries: filtered(groups.rows[index] ?? [], filter, audit),
      quiet: 0,
    }));
    if (filter !== "all") return all.filter((one) => one.entries.length > 0);
    return openAll ? all : quietened(all, current, unfolded);
  }, [audit, current, filter, groups, openAll, unfolded, verdict]);
  const row = ({ exchange, index, entries, quiet }: Shown) =>
    quiet > 0 ? (
      <Quiet from={exchange.clock_start} count={quiet} tone={tone} unfold={() => setUnfolded(new Set([...unfolded, exchange.start]))} />
    ) : (
      <Row
        {...props}
        exchange={exchange}
        index={index}
        entries={entries}
        open={openAll || filter !== "all" || index === current}
        isCurrent={index === current}
      />
    );
  return (
    <div>
      {groups.before.length > 0 && filter === "all" && (
        <div className={`pb-1 ${LINE[tone]}`}>
          <Entries {...props} rows={groups.before} />
        </div>
      )}
      {filter !== "all" && shown.length === 0 && <p className={`px-3 py-2 ${DIM[tone]}`}>Nothing of that kind is logged.</p>}
      {scroller ? (
        <InSight shown={shown} row={row} tone={tone} scroller={scroller} current={current} />
      ) : (
        <ol className={LINE[tone]} aria-label="Exchanges">
          {shown.map((one) => (
            <li key={one.index}>{row(one)}</li>
          ))}
        </ol>
      )}
    </div>
  );
}

interface Shown {
  exchange: Exchange;
  index: number;
  entries: Entry[];
  /** So many exchanges from this one on are drawn as one row, because nothing came of them. */
  quiet: number;
}

const LEAST_QUIET = 3;

/** Runs of exchanges in which nothing was won, missed or tried, as one row each, but for the one the playhead is in. */
function quietened(all: Shown[], current: number, unfolded: ReadonlySet<number>): Shown[] {
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

function Quiet({ from, count, tone, unfold }: { from: number; count: number; tone: Tone; unfold: () => void }) {
  return (
    <button type="button" onClick={unfold} className={`block w-full py-1 text-center text-[15px] ${DIM[tone]}`}>
      <span className={`px-2 ${tone === "night" ? "bg-deck" : "bg-paper"}`}>
        from {clock(from)}: {count} exchanges without a score <span className="underline">show</span>
      </span>
    </button>
  );
}

const ROW_PX = 36;
const rowPx = () => ROW_PX;

/** Draws the rows in sight only, and brings the current exchange into sight. */
function InSight({
  shown,
  row,
  tone,
  scroller,
  current,
}: {
  shown: Shown[];
  row: (one: Shown) => ReactNode;
  tone: Tone;
  scroller: RefObject<HTMLElement | null>;
  current: number;
}) {
  const keyAt = useCallback((at: number) => shown[at]?.index ?? at, [shown]);
  const rows = useVirtualizer({
    count: shown.length,
    getScrollElement: () => scroller.current,
    estimateSize: rowPx,
    getItemKey: keyAt,
    overscan: 6,
  });
  const items = rows.getVirtualItems();
  const at = shown.findIndex((one) => one.index === current);
  useEffect(() => {
    if (at >= 0) rows.scrollToIndex(at, { align: "auto" });
    // Only when another exchange becomes the current one.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [at]);
  return (
    <ol
      className={LINE[tone]}
      aria-label="Exchanges"
      style={{ paddingTop: items[0]?.start ?? 0, paddingBottom: rows.getTotalSize() - (items.at(-1)?.end ?? 0) }}
    >
      {items.map((item) => {
        const one = shown[item.index];
        return (
          one && (
            <li key={item.key} ref={rows.measureElement} data-index={item.index}>
              {row(one)}
            </li>
          )
        );
      })}
    </ol>
  );
}

type Entry =
  | { t: number; rank: 0; seen: Keyed }
  | { t: number; rank: 1; award: Award }
  | { t: number; rank: 2; miss: UnpaidClaim }
  | { t: number; rank: 3; unpaid: UnpaidClaim };

function grouped(verdict: Verdict, observations: Keyed[]): { before: Entry[]; rows: Entry[][] } {
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

/** What of an exchange a filter leaves. */
function filtered(entries: Entry[], filter: Filter, audit: AuditLine[]): Entry[] {
  switch (filter) {
    case "all":
      return entries;
    case "gains":
      return entries.filter((one) => one.rank === 1 || one.rank === 2);
    case "attacks":
      return entries.filter(
        (one) => one.rank === 0 && (one.seen.kind === "submission" || one.seen.kind === "technique" || one.seen.kind === "near"),
      );
    case "officials":
      return entries.filter(
        (one) => (one.rank === 0 && one.seen.kind === "call") || (one.rank === 1 && lineOf(audit, one.award)?.standing === "not_called"),
      );
    case "unsure":
      return entries.filter((one) => one.rank === 0 && one.seen.sure === false);
  }
}

/** The line of the audit that an award is in. */
function lineOf(audit: AuditLine[], award: Award): AuditLine | undefined {
  return audit.find(
    (line) =>
      line.award !== null &&
      line.award.t === award.t &&
      line.award.to === award.to &&
      line.award.kind === award.kind &&
      line.award.because === award.because,
  );
}

function Row(props: Props & { exchange: Exchange; index: number; entries: Entry[]; open: boolean; isCurrent: boolean }) {
  const { exchange, entries, open, isCurrent, tone, seek, exchangeActions } = props;
  const item = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (!isCurrent) return undefined;
    // With the next frame, which lays the page out anyway.
    const frame = requestAnimationFrame(() => item.current?.scrollIntoView({ block: "nearest" }));
    return () => cancelAnimationFrame(frame);
  }, [isCurrent, entries.length]);
  const name = exchange.title ?? summary(exchange);
  return (
    <div ref={item}>
      <Head
        start={exchange.start}
        at={exchange.clock_start}
        awarded={exchange.awarded}
        missed={exchange.missed}
        name={name}
        isCurrent={isCurrent}
        tone={tone}
        seek={seek}
      />
      {open && (
        <div className="pb-2">
          <p className={`flex items-baseline justify-center gap-2 pb-1 text-[15px] ${DIM[tone]}`}>
            <span className={`px-2 ${tone === "night" ? "bg-deck" : "bg-paper"}`}>{name}</span>
            {isCurrent && exchangeActions?.(exchange)}
          </p>
          {props.exchangeExtra?.(exchange, props.index)}
          <Entries {...props} rows={entries} />
        </div>
      )}
    </div>
  );
}

/** The line of an exchange: when, and what each side got. It stays as it is when only the numbers of its rows change. */
const Head = memo(function Head({
  start,
  at,
  awarded,
  missed,
  name,
  isCurrent,
  tone,
  seek,
}: {
  start: number;
  at: number;
  awarded: Exchange["awarded"];
  missed: Exchange["missed"];
  name: string;
  isCurrent: boolean;
  tone: Tone;
  seek: (t: number) => void;
}) {
  return (
    <button
      type="button"
      onClick={() => seek(start)}
      aria-current={isCurrent ? "step" : undefined}
      className={`grid w-full grid-cols-[minmax(0,1fr)_64px_minmax(0,1fr)] items-center py-1 ${isCurrent && tone === "night" ? "bg-rail/70" : ""}`}
    >
      <Gain tally={awarded.a} missed={missed.a} side="a" tone={tone} />
      <span
        className={`justify-self-center border-2 px-1.5 text-[15px] leading-6 font-semibold ${tone === "night" ? "border-seam bg-night text-bone" : "border-rule bg-paper text-ink"} ${isCurrent ? "border-amber!" : ""}`}
      >
        {clock(at)}
      </span>
      <Gain tally={awarded.b} missed={missed.b} side="b" tone={tone} />
      <span className="sr-only">
        {name}, go to {footage(start)} of the footage
      </span>
    </button>
  );
});

function summary(exchange: Exchange): string {
  const first = POSITION_WORDS[exchange.first.position];
  const last = POSITION_WORDS[exchange.last.position];
  const who = exchange.first.top ? `, ${SIDE_WORDS[exchange.first.top]} on top` : "";
  return first === last ? `${first}${who}` : `${first} to ${last.toLowerCase()}${who}`;
}

/** What one side got out of an exchange; the bar is as long as its points. */
function Gain({ tally, missed, side, tone }: { tally: Exchange["awarded"]["a"]; missed: string[]; side: Side; tone: Tone }) {
  const marks = TALLIES.filter((kind: Tally) => tally[kind] !== 0);
  return (
    <span className={`flex min-h-7 min-w-0 items-center gap-1 ${side === "a" ? "flex-row-reverse" : ""}`}>
      {tally.points > 0 && (
        <span aria-hidden className={`h-2 min-w-1 max-xl:hidden ${BAR[side]}`} style={{ width: `${Math.min(6, tally.points) * 9}px` }} />
      )}
      {marks.map((kind) => (
        <Mark key={kind} kind={kind} n={tally[kind]} side={side} on={tone} />
      ))}
      {missed.length > 0 && (
        <span
          className={`shrink-0 border border-dashed px-1 text-[14px] leading-5 max-xl:px-0.5 max-xl:text-[13px] ${INK[tone][side]}`}
          title={`Missed: ${missed.map(claimWords).join(", ")}`}
        >
          missed{missed.length > 1 ? ` ${missed.length}` : ""}
        </span>
      )}
    </span>
  );
}

function Entries({ rows, tone, seek, pending, chosen, choose, actions, audit = NOTHING }: Props & { rows: Entry[] }) {
  return (
    <ul className="flex flex-col gap-0.5">
      {rows.map((entry) => {
        switch (entry.rank) {
          case 0: {
            const { seen } = entry;
            const isChosen = chosen === seen.id;
            return (
              <Seen
                key={seen.id}
                seen={seen}
                tone={tone}
                seek={seek}
                choose={choose}
                isChosen={isChosen}
                actions={isChosen ? actions : undefined}
                isPending={pending?.has(seen.id) ?? false}
                because={seen.kind === "call" ? disagreement(audit, seen.id) : undefined}
              />
            );
          }
          case 1:
            return (
              <Awarded
                key={`award-${entry.t}-${entry.award.reason}-${entry.award.to}-${entry.award.observations.join()}`}
                award={entry.award}
                tone={tone}
                seek={seek}
                aside={lineOf(audit, entry.award)?.standing === "not_called" ? "not given by the officials" : undefined}
              />
            );
          case 2:
            return <Missed key={`miss-${entry.t}-${entry.miss.claim}`} miss={entry.miss} tone={tone} seek={seek} />;
          case 3:
            return <Unpaid key={`unpaid-${entry.t}-${entry.unpaid.claim}`} unpaid={entry.unpaid} tone={tone} seek={seek} />;
        }
      })}
    </ul>
  );
}

/** Why a call of the officials is not in agreement with the awards. */
function disagreement(audit: AuditLine[], call: string): string | undefined {
  const line = audit.find((one) => one.call?.observations.includes(call));
  return line && line.standing !== "agreed" ? line.because : undefined;
}

// What stands in an exchange is drawn again only where it has become something else.

const Seen = memo(function Seen({
  seen,
  tone,
  seek,
  choose,
  isChosen,
  isPending,
  actions,
  because,
}: Pick<Props, "tone" | "seek" | "choose" | "actions"> & {
  seen: Keyed;
  isChosen: boolean;
  isPending: boolean;
  because: string | undefined;
}) {
  const { text, side } = describe(seen);
  const end = until(seen);
  return (
    <li className={isChosen ? (tone === "night" ? "bg-rail" : "bg-amber-pale/50") : ""}>
      <button
        type="button"
        aria-pressed={isChosen}
        onClick={() => {
          choose?.(seen.id);
          seek(seen.t);
        }}
        className={`flex w-full items-baseline gap-2 px-2 py-0.5 ${side === null ? "justify-center" : side === "b" ? "flex-row-reverse text-right" : "text-left"}`}
      >
        <span className={`text-[14px] ${DIM[tone]}`}>{footage(seen.t)}</span>
        <span className={`${side ? INK[tone][side] : tone === "night" ? "bg-deck px-1" : "bg-paper px-1"} font-semibold`}>{text}</span>
        {end !== null && <span className={`text-[14px] ${DIM[tone]}`}>for {held(end - seen.t)}</span>}
        {seen.sure === false && <span className="border border-dotted px-1 text-[14px]">unsure{doubtOf(seen)}</span>}
        {isPending && <span className="text-[14px] italic">not saved yet</span>}
      </button>
      {because && (
        <p className={`px-2 text-[14px] ${tone === "night" ? "text-bone" : "text-ink"} ${side === "b" ? "text-right" : ""}`}>{because}</p>
      )}
      {seen.note && (
        <p className={`px-2 text-[14px] italic ${DIM[tone]} ${side === "b" ? "text-right" : side === null ? "text-center" : ""}`}>
          {seen.note}
        </p>
      )}
      {isChosen && actions && (
        <div className={`flex flex-wrap gap-x-4 px-2 pb-1 ${side === "b" ? "justify-end" : side === null ? "justify-center" : ""}`}>
          {actions(seen)}
        </div>
      )}
    </li>
  );
});

type Written = Pick<Props, "tone" | "seek">;

const Awarded = memo(function Awarded({ award, aside, tone, seek }: Written & { award: Award; aside: string | undefined }) {
  return (
    <Told
      side={award.to}
      t={award.t}
      because={award.because}
      aside={aside}
      tone={tone}
      seek={seek}
      mark={<Mark kind={award.kind} n={award.n} side={award.to} on={tone} />}
    />
  );
});

const Missed = memo(function Missed({ miss, tone, seek }: Written & { miss: UnpaidClaim }) {
  return (
    <Told
      side={miss.to}
      t={miss.since}
      because={miss.because}
      tone={tone}
      seek={seek}
      mark={
        <span className={`shrink-0 border border-dashed px-1 whitespace-nowrap text-[14px] leading-5 font-semibold ${INK[tone][miss.to]}`}>
          {held(miss.held)}
        </span>
      }
    />
  );
});

const Unpaid = memo(function Unpaid({ unpaid, tone, seek }: Written & { unpaid: UnpaidClaim }) {
  return (
    <Told
      side={unpaid.to}
      t={unpaid.since}
      because={unpaid.because}
      tone={tone}
      seek={seek}
      mark={
        <span className={`shrink-0 px-1 text-[15px] leading-5 ${INK[tone][unpaid.to]}`} aria-label="pays nothing">
          –
        </span>
      }
    />
  );
});

function Told({
  side,
  t,
  because,
  mark,
  tone,
  seek,
  aside,
}: Written & { side: Side; t: number; because: string; mark: ReactNode; aside?: string | undefined }) {
  return (
    <li className={`${tone === "night" ? "bg-deck" : "bg-paper"} ${side === "a" ? "mr-16" : "ml-16"}`}>
      <button
        type="button"
        onClick={() => seek(t)}
        className={`flex w-full items-start gap-2 px-2 py-1 text-[15px] leading-snug ${side === "a" ? "border-l-4 border-amber text-left" : "flex-row-reverse border-r-4 border-sea text-right"}`}
      >
        {mark}
        <span>
          {because}
          {aside && <i className="block">{aside}</i>}
        </span>
      </button>
    </li>
  );
}
