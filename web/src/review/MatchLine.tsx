import { type RefObject, useEffect, useRef, useState } from "react";
import type { AuditLine, Exchange, Prospects, Review, ReviewError } from "../api/client";
import { exchangeAt } from "../components/timeline";
import { Spine } from "../components/Spine";
import { clock } from "../components/words";
import type { Keyed } from "../api/client";

/** The match on the spine: errors where they began, chains from their roots, calls against awards, and ways that close. */
export function MatchLine({
  review,
  prospects,
  audit,
  calls,
  t,
  show,
  choose,
}: {
  review: Review;
  prospects: Prospects | undefined;
  audit: AuditLine[];
  /** The officials' calls that were logged. */
  calls: Keyed[];
  t: number;
  show: (t: number, end?: number) => void;
  choose: (key: string) => void;
}) {
  const { verdict, match } = review;
  const box = useRef<HTMLDivElement>(null);
  const errors = review.found.filter((error) => error.standing !== "dismissed");
  const lanes = prospects?.closings ?? [];
  const extra = (_: Exchange, index: number) => {
    const here = errors.filter((error) => exchangeAt(verdict, error.since) === index);
    return here.length > 0 && <BeganHere errors={here} choose={choose} />;
  };
  return (
    <div>
      <p className="pb-3 text-slate">
        {match.athlete_name} to the left, {match.opponent} to the right. A red edge marks where an error began; arcs lead from a root cause
        to what followed, dashed where they are only suggested.
        {lanes.length > 0 && " On the right: what could still have won the match, and until when."}
      </p>
      <div ref={box} className="relative pl-7 pr-32">
        <Spine
          verdict={verdict}
          observations={calls}
          current={exchangeAt(verdict, t)}
          tone="paper"
          seek={show}
          openAll
          audit={audit}
          exchangeExtra={extra}
        />
        <Arcs box={box} errors={errors} stamp={review} />
        <Lanes box={box} lanes={lanes} exchanges={verdict.exchanges} stamp={review} />
      </div>
    </div>
  );
}

/** The errors that began in an exchange. */
function BeganHere({ errors, choose }: { errors: ReviewError[]; choose: (key: string) => void }) {
  return (
    <ul className="relative mb-1 flex w-1/2 flex-col items-end pr-10">
      {errors.map((error) => (
        <li key={error.key} className="w-full">
          <button
            type="button"
            data-error={error.key}
            onClick={() => choose(error.key)}
            className="block w-full border-r-4 border-alarm bg-sheet px-2 py-0.5 text-right text-[15px] leading-snug hover:bg-amber-pale/40"
          >
            <span className="text-slate">{clock(error.since_clock)}</span> {error.title}
          </button>
        </li>
      ))}
    </ul>
  );
}

interface Arc {
  /** Whether the coach says so. */
  accepted: boolean;
  key: string;
  from: number;
  to: number;
}

/** Arcs along the left edge, from the error that came first to the one it led to. */
function Arcs({ box, errors, stamp }: { box: RefObject<HTMLDivElement | null>; errors: ReviewError[]; stamp: unknown }) {
  const [arcs, setArcs] = useState<Arc[]>([]);
  const height = useMeasured(box, stamp, (frame) => {
    const middle = (key: string) => {
      const found = frame.querySelector(`[data-error="${CSS.escape(key)}"]`)?.getBoundingClientRect();
      return found ? found.top + found.height / 2 - frame.getBoundingClientRect().top : null;
    };
    setArcs(
      errors.flatMap((error) => {
        const from = error.came_from ? middle(error.came_from.key) : null;
        const to = middle(error.key);
        return from === null || to === null ? [] : [{ key: error.key, from, to, accepted: error.came_from?.accepted ?? false }];
      }),
    );
  });
  return (
    <svg aria-hidden className="pointer-events-none absolute top-0 left-0" width={28} height={height}>
      {arcs.map(({ key, from, to, accepted }) => (
        <g key={key} stroke="#8c2f1b" fill="none" strokeWidth={2.5}>
          <path d={`M 27 ${from} C 2 ${from}, 2 ${to}, 22 ${to}`} strokeDasharray={accepted ? undefined : "5 4"} />
          <path d={`M 16 ${to - 5} L 25 ${to} L 16 ${to + 5}`} />
        </g>
      ))}
    </svg>
  );
}

type Lane = Prospects["closings"][number];

/** How far apart the words of two lanes are at least. */
const LABEL_PX = 58;

function Lanes({
  box,
  lanes,
  exchanges,
  stamp,
}: {
  box: RefObject<HTMLDivElement | null>;
  lanes: Lane[];
  exchanges: Exchange[];
  stamp: unknown;
}) {
  const [tops, setTops] = useState<number[]>([]);
  const height = useMeasured(box, stamp, (frame) => {
    const top = frame.getBoundingClientRect().top;
    setTops([...frame.querySelectorAll("ol[aria-label=Exchanges] > li")].map((row) => row.getBoundingClientRect().top - top));
  });
  const y = (at: number) => {
    const index = Math.max(
      0,
      exchanges.findLastIndex((one) => one.clock_start <= at),
    );
    const exchange = exchanges[index];
    const from = tops[index] ?? 0;
    const to = tops[index + 1] ?? height;
    const share =
      exchange && exchange.clock_end > exchange.clock_start ? (at - exchange.clock_start) / (exchange.clock_end - exchange.clock_start) : 0;
    return from + Math.min(1, Math.max(0, share)) * (to - from);
  };
  if (tops.length === 0) return null;
  const labels = lanes.reduce<number[]>(
    (placed, lane) => [...placed, Math.max(y(lane.closes), (placed.at(-1) ?? -LABEL_PX) + LABEL_PX)],
    [],
  );
  return (
    <div aria-label="What could still have won, and until when" role="list" className="absolute top-0 right-0 w-[124px]" style={{ height }}>
      {lanes.map((lane, index) => {
        const [from, closes] = [y(lane.from), y(lane.closes)];
        const label = labels[index] ?? closes;
        const x = index * 7;
        return (
          <div key={lane.said} role="listitem">
            <span
              aria-hidden
              className="absolute w-[3px] bg-sea-deep/60"
              style={{ left: x, top: from, height: Math.max(2, closes - from) }}
            />
            <span aria-hidden className="absolute h-[3px] bg-sea-deep" style={{ left: x - 4, top: closes, width: 36 - x }} />
            <span className="absolute left-[34px] w-[92px] text-[13px] leading-tight text-sea-deep" style={{ top: label - 6 }}>
              <b>{clock(lane.closes)}</b> last chance for: {lane.said}
            </span>
          </div>
        );
      })}
    </div>
  );
}

/** Measure what the browser has laid out, again whenever it is laid out again. Returns the height of the box. */
function useMeasured(box: RefObject<HTMLDivElement | null>, stamp: unknown, measure: (frame: HTMLDivElement) => void): number {
  const [height, setHeight] = useState(0);
  useEffect(() => {
    const frame = box.current;
    if (!frame) return undefined;
    const look = () => {
      setHeight(frame.clientHeight);
      measure(frame);
    };
    look();
    const watch = new ResizeObserver(look);
    watch.observe(frame);
    return () => watch.disconnect();
    // The measuring function is made again with every drawing; what it measures changes with the stamp.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [box, stamp]);
  return height;
}
