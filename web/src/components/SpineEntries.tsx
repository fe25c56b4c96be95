import { memo, type ReactNode, type RefObject } from "react";
import type { AuditLine, Award, Exchange, Keyed, Side, UnpaidClaim, Verdict } from "../api/client";
import { describe, doubtOf, until } from "./describe";
import { Mark } from "./Mark";
import { disagreement, type Entry, type Filter, lineOf } from "./spineEntries";
import { DIM, INK, type Tone } from "./spineStyle";
import { clockAt } from "./timeline";
import { clock, footage, held, type Named, named } from "./words";

export interface Props {
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
  /** Whose match it is: their names stand in the sentences. */
  match: Named;
  /** What scrolls: with it, only the rows in sight are drawn. */
  scroller?: RefObject<HTMLElement | null>;
}

export const NOTHING: AuditLine[] = [];

/** What stands in an exchange, line by line. */
export function Entries({
  rows,
  tone,
  seek,
  match,
  verdict,
  pending,
  chosen,
  choose,
  actions,
  audit = NOTHING,
}: Props & { rows: Entry[] }) {
  const said = { tone, seek, match };
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
                at={tone === "paper" ? clock(clockAt(verdict, seen.t)?.clock ?? 0) : footage(seen.t)}
                because={seen.kind === "call" ? disagreement(audit, seen.id) : undefined}
              />
            );
          }
          case 1:
            return (
              <Awarded
                key={`award-${entry.t}-${entry.award.reason}-${entry.award.to}-${entry.award.observations.join()}`}
                award={entry.award}
                {...said}
                aside={lineOf(audit, entry.award)?.standing === "not_called" ? "not given by the officials" : undefined}
              />
            );
          case 2:
            return <Unpaid key={`miss-${entry.t}-${entry.miss.claim}`} unpaid={entry.miss} lost {...said} />;
          case 3:
            return <Unpaid key={`unpaid-${entry.t}-${entry.unpaid.claim}`} unpaid={entry.unpaid} {...said} />;
        }
      })}
    </ul>
  );
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
  at,
}: Pick<Props, "tone" | "seek" | "choose" | "actions"> & {
  /** Its time as it is shown: of the footage on the desk, on the match clock on paper. */
  at: string;
  seen: Keyed;
  isChosen: boolean;
  isPending: boolean;
  because: string | undefined;
}) {
  const { text, side } = describe(seen);
  const end = until(seen);
  const ground = isChosen ? "" : tone === "night" ? "bg-deck" : "bg-paper"; // over the line of the spine
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
        <span className={`text-[14px] ${DIM[tone]}`}>{at}</span>
        <span className={`${ground} ${side ? INK[tone][side] : "px-1"} font-semibold`}>{text}</span>
        {end !== null && <span className={`${ground} text-[14px] whitespace-nowrap ${DIM[tone]}`}>for {held(end - seen.t)}</span>}
        {seen.sure === false && <span className="border border-dotted px-1 text-[14px]">unsure{doubtOf(seen)}</span>}
        {isPending && <span className="text-[14px] italic">not saved yet</span>}
      </button>
      {because && (
        <p className={`px-2 text-[14px] ${tone === "night" ? "text-bone" : "text-ink"} ${side === "b" ? "text-right" : ""}`}>{because}</p>
      )}
      {seen.note && (
        <p className={`${ground} px-2 text-[14px] italic ${DIM[tone]} ${side === "b" ? "text-right" : side === null ? "text-center" : ""}`}>
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

type Written = Pick<Props, "tone" | "seek" | "match">;

const Awarded = memo(function Awarded({ award, aside, ...written }: Written & { award: Award; aside: string | undefined }) {
  return (
    <Told
      side={award.to}
      t={award.t}
      because={award.because}
      aside={aside}
      {...written}
      mark={<Mark kind={award.kind} n={award.n} side={award.to} on={written.tone} />}
    />
  );
});

/** A claim that paid nothing: how long it was held, where it was lost. */
const Unpaid = memo(function Unpaid({ unpaid, lost = false, ...written }: Written & { unpaid: UnpaidClaim; lost?: boolean }) {
  const ink = INK[written.tone][unpaid.to];
  return (
    <Told
      side={unpaid.to}
      t={unpaid.since}
      because={unpaid.because}
      {...written}
      mark={
        lost ? (
          <span className={`shrink-0 border border-dashed px-1 whitespace-nowrap text-[14px] leading-5 font-semibold ${ink}`}>
            {held(unpaid.held)}
          </span>
        ) : (
          <span className={`shrink-0 px-1 text-[15px] leading-5 ${ink}`} aria-label="scores nothing">
            –
          </span>
        )
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
  match,
  aside,
}: Written & { side: Side; t: number; because: string; mark: ReactNode; aside?: string | undefined }) {
  return (
    // On paper there is room for a half each, and the line of time stays whole.
    <li
      className={tone === "night" ? `bg-deck ${side === "a" ? "mr-16" : "ml-16"}` : `w-[calc(50%-10px)] ${side === "b" ? "ml-auto" : ""}`}
    >
      <button
        type="button"
        onClick={() => seek(t)}
        className={`flex w-full items-start gap-2 px-2 py-1 text-[15px] leading-snug ${side === "a" ? "border-l-4 border-amber text-left" : "flex-row-reverse border-r-4 border-sea text-right"}`}
      >
        {mark}
        <span>
          {named(because, match)}
          {aside && <i className="block">{aside}</i>}
        </span>
      </button>
    </li>
  );
}
