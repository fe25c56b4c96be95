import { useVirtualizer } from "@tanstack/react-virtual";
import { memo, type ReactNode, type RefObject, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { type Exchange, TALLIES, type Tally, type Side } from "../api/client";
import { Entries, NOTHING, type Props } from "./SpineEntries";
import { type Entry, filtered, grouped, quietened, type Shown, summary } from "./spineEntries";
import { BAR, DIM, INK, LINE, type Tone } from "./spineStyle";
import { Mark } from "./Mark";
import { claimWords, clock, footage } from "./words";

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
      {tone === "night" && <WhichTimes />}
      {groups.before.length > 0 && filter === "all" && (
        <div className={`pb-1 ${LINE[tone]}`}>
          <Entries {...props} rows={groups.before} />
        </div>
      )}
      {filter !== "all" && shown.length === 0 && <p className={`px-3 py-2 ${DIM[tone]}`}>Nothing of this kind has been logged.</p>}
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

/** Which clock the times below are of; on paper they are all of the match clock. */
function WhichTimes() {
  return (
    <p aria-hidden className={`flex justify-between px-2 text-[13px] ${DIM.night}`}>
      <span>footage</span>
      <span>match clock</span>
      <span>footage</span>
    </p>
  );
}

function Quiet({ from, count, tone, unfold }: { from: number; count: number; tone: Tone; unfold: () => void }) {
  return (
    <button type="button" onClick={unfold} className={`block w-full py-1 text-center text-[15px] ${DIM[tone]}`}>
      <span className={`px-2 ${tone === "night" ? "bg-deck" : "bg-paper"}`}>
        {count} exchanges without a score from {clock(from)} <span className="underline">show</span>
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
    // oxlint-disable-next-line react/exhaustive-deps
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
