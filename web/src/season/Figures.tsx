import type { Season, SeasonFigures } from "../api/client";
import { Behind } from "../components/Moments";
import { CLAIM_LABELS, clock, FOUL_WORDS, percent } from "../components/words";
import { Numbers, NumbersRow, Title } from "./parts";

const THIRDS = ["First third", "Middle third", "Last third"];
const STATES = { ahead: "While ahead", level: "While level", behind: "While behind" };

interface Shown {
  found: SeasonFigures;
  played: Season["played"];
}

/** Numbers of a row, each of which opens the moments behind it. */
function cellsOf(title: string, given: SeasonFigures["scored"][number]["points_a"][], played: Season["played"]) {
  return given.map((one, number) => <Behind key={number} words={String(one.n)} title={title} moments={one.moments} played={played} />);
}

/** What points and advantages were given for, either way. */
export function Scored({ found, played }: Shown) {
  if (!found.scored.length) return null;
  return (
    <section>
      <Title>Points and advantages</Title>
      <Numbers head={["For", "Points for", "Points against", "Advantages for", "Advantages against"]}>
        {found.scored.map((row) => {
          const name = labelOf(row.what);
          const given = [row.points_a, row.points_b, row.advantages_a, row.advantages_b];
          return <NumbersRow key={row.what} cells={[name, ...cellsOf(name, given, played)]} />;
        })}
      </Numbers>
    </section>
  );
}

function labelOf(what: string): string {
  const label = CLAIM_LABELS[what] ?? what.replaceAll("_", " ");
  return label.slice(0, 1).toUpperCase() + label.slice(1);
}

/** Where the time goes, and the points in each part of a match. */
export function Times({ found, played }: Shown) {
  const share = (part: number) => (found.length ? percent(part / found.length) : "–");
  const parts = [
    ...found.thirds.map((part, number) => ({ ...part, name: THIRDS[number] ?? "" })),
    ...found.states.map((part) => ({ ...part, name: STATES[part.state] })),
  ];
  return (
    <section>
      <Title>Where the time goes</Title>
      <p className="pb-3">
        {clock(found.length)} of match time: {share(found.top)} on top, {share(found.below)} below, {share(found.feet)} on the feet or with
        no one on top.
      </p>
      <Numbers head={["Part", "Time", "Points for", "Points against"]}>
        {parts.map((part) => (
          <NumbersRow
            key={part.name}
            cells={[part.name, clock(part.lasted), ...cellsOf(part.name, [part.points_a, part.points_b], played)]}
          />
        ))}
      </Numbers>
    </section>
  );
}

/** Penalties by foul, and illegal techniques by the division in which they were used. */
export function Fouls({ found, played }: Shown) {
  if (!found.penalties.length && !found.illegal.length) return null;
  const divisions = new Map(played.map((one) => [one.id, `${one.belt} belt, ${one.ruleset}`]));
  return (
    <section>
      <Title>Penalties and illegal techniques</Title>
      {found.penalties.length > 0 && (
        <Numbers head={["Foul", "Against the athlete", "Against opponents"]}>
          {found.penalties.map((row) => {
            const name = (FOUL_WORDS as Record<string, string>)[row.foul] ?? row.foul;
            return <NumbersRow key={row.foul} cells={[name, ...cellsOf(name, [row.penalties_a, row.penalties_b], played)]} />;
          })}
        </Numbers>
      )}
      <ul className="pt-3">
        {found.illegal.map((one, number) => (
          <li key={number} className="border-b border-rule py-1">
            <Behind words={one.technique} title={`Illegal: ${one.technique}`} moments={[one.moment]} played={played} />{" "}
            {one.by === "a" ? "by the athlete" : "by the opponent"} <span className="text-slate">({divisions.get(one.moment.match)})</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
