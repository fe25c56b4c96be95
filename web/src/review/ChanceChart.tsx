import { useMemo } from "react";
import { Area, ComposedChart, Line, ReferenceLine, ResponsiveContainer, XAxis, YAxis } from "recharts";
import type { Prospects, ReviewError, Spread } from "../api/client";
import { clock, matchesWords } from "../components/words";

/** The match clock from where the footage starts to its end. */
type Range = [number, number];

const HEIGHT = 132;
const MINUTE = 60;
const TICK = { fill: "#566164", fontSize: 13 };
const CLOCK_AXIS = { tick: TICK, tickLine: false, axisLine: { stroke: "#d8cfbb", strokeWidth: 2 }, height: 20 };
const CHANCE_AXIS = { tick: TICK, tickLine: false, axisLine: false, width: 44 };

/** The chance to win over the match clock, with how sure it is, and where errors began. */
export function ChanceChart({
  prospects,
  spread,
  errors,
  roots,
  danger,
  now,
  seek,
  choose,
}: {
  prospects: Prospects;
  spread: Spread | undefined;
  errors: ReviewError[];
  roots: ReadonlySet<string>;
  /** Whether nothing scores, so that the chance to win is the chance to finish. */
  danger: boolean;
  /** The match clock under the playhead. */
  now: number;
  seek: (t: number) => void;
  choose: (key: string) => void;
}) {
  const { moments } = prospects;
  const [first, last] = [moments[0], moments.at(-1)];
  if (!first || !last) return null;
  const range: Range = [first.clock, last.clock];
  return (
    <figure aria-label={danger ? "Chance to finish over the match" : "Chance to win over the match"} className="relative m-0">
      <div className="relative">
        <Chart prospects={prospects} spread={spread} now={now} range={range} seek={seek} />
        <Marks errors={errors} roots={roots} range={range} choose={choose} />
      </div>
      <figcaption className="text-[14px] leading-snug text-slate">
        <span aria-hidden className="mr-1 inline-block h-3 w-2.5 bg-alarm" />
        root cause <span aria-hidden className="mr-1 ml-2 inline-block h-3 w-1.5 bg-slate" />
        what followed. {danger ? "The chance to finish, estimated" : "Estimated"} from{" "}
        {prospects.matches === 1 ? "your one scored match" : `your ${prospects.matches} scored matches`} ({prospects.minutes} min,{" "}
        {prospects.submissions === 1 ? "1 submission" : `${prospects.submissions} submissions`}) and general starting rates.
        {nearestWords(prospects)}
        {spread ? " The pale band is the 80% range." : " Working out how certain this is…"}
      </figcaption>
    </figure>
  );
}

/** From how many matches like this one the estimate comes. */
function nearestWords({ layers }: Prospects): string {
  const nearest = layers.at(-1);
  if (!nearest) return "";
  return nearest.matches
    ? ` Most like this one: ${matchesWords(nearest.matches)} of ${nearest.name}.`
    : ` None of them is of ${nearest.name}.`;
}

/** The line itself, a step a second; a click goes to that moment. */
function Chart({
  prospects,
  spread,
  now,
  range,
  seek,
}: {
  prospects: Prospects;
  spread: Spread | undefined;
  now: number;
  range: Range;
  seek: (t: number) => void;
}) {
  const { moments } = prospects;
  const rows = useMemo(
    () =>
      moments.map((one, index) => ({
        clock: one.clock,
        win: one.win * 100,
        sure: spread?.low[index] === undefined ? undefined : [spread.low[index] * 100, (spread.high[index] ?? 0) * 100],
      })),
    [moments, spread],
  );
  const minutes = Array.from({ length: Math.floor(range[1] / MINUTE) + 1 }, (_, minute) => minute * MINUTE).filter(
    (minute) => minute >= range[0],
  );
  return (
    <ResponsiveContainer width="100%" height={HEIGHT}>
      <ComposedChart
        data={rows}
        margin={{ top: 14, right: 6, bottom: 0, left: 0 }}
        accessibilityLayer={false}
        onClick={(state) => {
          const at = moments[Number(state.activeIndex ?? state.activeTooltipIndex)];
          if (at) seek(at.t);
        }}
      >
        <XAxis dataKey="clock" type="number" domain={range} ticks={minutes} tickFormatter={clock} {...CLOCK_AXIS} />
        <YAxis domain={[0, 100]} ticks={[0, 50, 100]} tickFormatter={(value) => `${value}%`} {...CHANCE_AXIS} />
        <ReferenceLine y={50} stroke="#d8cfbb" strokeWidth={2} />
        {spread && <Area dataKey="sure" type="stepAfter" stroke="none" fill="#f3dcae" isAnimationActive={false} activeDot={false} />}
        <Line dataKey="win" type="stepAfter" stroke="#8a4f0b" strokeWidth={2.5} dot={false} activeDot={false} isAnimationActive={false} />
        <ReferenceLine x={now} stroke="#22292b" strokeWidth={2} />
      </ComposedChart>
    </ResponsiveContainer>
  );
}

/** Where errors began; roots of chains stand out. */
function Marks({
  errors,
  roots,
  range: [first, last],
  choose,
}: {
  errors: ReviewError[];
  roots: ReadonlySet<string>;
  range: Range;
  choose: (key: string) => void;
}) {
  return (
    <div className="absolute top-0 right-[6px] left-[44px] h-3.5">
      {errors.map((error) => (
        <button
          key={error.key}
          type="button"
          onClick={() => choose(error.key)}
          title={`${clock(error.since_clock)} ${error.title}`}
          aria-label={`${clock(error.since_clock)} ${error.title}`}
          className={`absolute top-0 h-3.5 -translate-x-1/2 ${roots.has(error.key) ? "w-2.5 bg-alarm" : "w-1.5 bg-slate"}`}
          style={{ left: `${((error.since_clock - first) / Math.max(1, last - first)) * 100}%` }}
        />
      ))}
    </div>
  );
}
