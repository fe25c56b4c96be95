import { Link } from "react-router";
import { CartesianGrid, ReferenceLine, ResponsiveContainer, Scatter, ScatterChart, XAxis, YAxis } from "recharts";
import type { Season, SeasonFigures } from "../api/client";
import { dayOf } from "../components/words";
import { Title } from "./parts";

const TICK = { fill: "#566164", fontSize: 13 };
const HEIGHT = 150;
/** Shape and place say how a match came out; colour only repeats it. */
const RESULTS = {
  won: { shape: "triangle", fill: "#8a4f0b", said: "won" },
  lost: { shape: "cross", fill: "#17566d", said: "lost" },
  drawn: { shape: "diamond", fill: "#566164", said: "drawn" },
  "": { shape: "circle", fill: "#d8cfbb", said: "not over" },
} as const;
const FEWEST = 3;

/** All matches: on one line of time, and as a list. */
export function Played({
  played,
  found,
  pageOf,
}: {
  played: Season["played"];
  found: SeasonFigures;
  pageOf: ((match: string) => string) | undefined;
}) {
  const counts = found.record.map(({ ruleset, counts }) => {
    const said = ["won", "lost", "drawn"].filter((one) => counts[one]).map((one) => `${counts[one]} ${one}${methods(counts, one)}`);
    return `${ruleset}: ${said.join(", ") || "none decided"}`;
  });
  return (
    <section>
      <Title>Matches</Title>
      <p className="pb-2">
        {counts.map((one) => `${one}. `)}
        {found.unscored > 0 && `${found.unscored} not scored yet: they count nowhere below.`}
      </p>
      <TimeLine played={played} />
      <ol className="max-h-72 overflow-auto">
        {played.map((one) => (
          <li
            key={one.id}
            className="grid grid-cols-[1fr_auto] items-baseline gap-x-4 border-b border-rule py-1 sm:grid-cols-[7rem_1fr_auto]"
          >
            <span className="text-slate max-sm:col-span-2">{dayOf(one.date)}</span>
            <span>
              {pageOf ? (
                <Link className="quiet" to={pageOf(one.id)}>
                  against {one.opponent}
                </Link>
              ) : (
                `against ${one.opponent}`
              )}{" "}
              <span className="text-slate">{[one.event, one.ruleset, `${one.belt} belt`].filter(Boolean).join(", ")}</span>
            </span>
            <span className="text-right">
              {one.score && `${one.score.a.points}–${one.score.b.points} `}
              <b>{one.result || "not over"}</b>
            </span>
          </li>
        ))}
      </ol>
    </section>
  );
}

/** By which methods, where there are several. */
function methods(counts: Record<string, number>, result: string): string {
  const by = Object.entries(counts).filter(([name]) => name.startsWith(`${result} `));
  return by.length ? ` (${by.map(([name, n]) => `${n} by ${name.slice(result.length + 1).replaceAll("_", " ")}`).join(", ")})` : "";
}

/** The lead on points of each match over time; the list below says the same in words. */
function TimeLine({ played }: { played: Season["played"] }) {
  const rows = played
    .filter((one) => one.date && one.score)
    .map((one) => ({
      day: new Date(one.date ?? "").getTime(),
      lead: (one.score?.a.points ?? 0) - (one.score?.b.points ?? 0),
      belt: one.belt,
      result: one.result as keyof typeof RESULTS,
    }))
    .sort((one, other) => one.day - other.day);
  const [first, last] = [rows[0], rows.at(-1)];
  if (rows.length < FEWEST || !first || !last || first.day === last.day) return null;
  const belts = rows.filter((one, number) => number > 0 && rows[number - 1]?.belt !== one.belt);
  const most = Math.max(4, ...rows.map((one) => Math.abs(one.lead)));
  return (
    <figure className="m-0 pb-3" aria-label="The lead on points of each match over time; the list below has the same">
      <ResponsiveContainer width="100%" height={HEIGHT}>
        <ScatterChart margin={{ top: 16, right: 16, bottom: 0, left: 0 }} accessibilityLayer={false}>
          <CartesianGrid vertical={false} stroke="#d8cfbb" />
          <XAxis
            dataKey="day"
            type="number"
            domain={[first.day, last.day]}
            tickFormatter={(value: number) => new Date(value).toLocaleDateString(undefined, { month: "short", year: "numeric" })}
            tick={TICK}
            tickLine={false}
            axisLine={false}
          />
          <YAxis
            dataKey="lead"
            type="number"
            domain={[-most, most]}
            ticks={[-most, 0, most]}
            tick={TICK}
            tickLine={false}
            axisLine={false}
            width={36}
          />
          <ReferenceLine y={0} stroke="#22292b" />
          {belts.map((one) => (
            <ReferenceLine
              key={one.day}
              x={one.day}
              stroke="#566164"
              strokeDasharray="4 4"
              label={{ value: `${one.belt} belt`, position: "insideTopLeft", fill: "#566164", fontSize: 13 }}
            />
          ))}
          {Object.entries(RESULTS).map(([result, { shape, fill }]) => (
            <Scatter key={result} data={rows.filter((one) => one.result === result)} shape={shape} fill={fill} isAnimationActive={false} />
          ))}
        </ScatterChart>
      </ResponsiveContainer>
      <figcaption className="text-slate">
        Lead on points: ▲ won, + lost, ◆ drawn, ● not over. A mark above the line is a match led on points.
      </figcaption>
    </figure>
  );
}
