import type { Match, Outlook } from "../api/client";
import { clock, firstOf } from "../components/words";

type Decision = NonNullable<Outlook["decision"]>;

/** In the last minute of a level match: what referees would be asked to weigh, for both sides next to each other. */
export function Weighing({ decision, match }: { decision: Decision; match: Match }) {
  const rows = [
    ["near", decision.near.a, decision.near.b],
    ["attacking", clock(decision.attacking.a), clock(decision.attacking.b)],
    ["on top", clock(decision.on_top.a), clock(decision.on_top.b)],
  ] as const;
  return (
    <section aria-label="If it goes to the referees" className="border-t-2 border-seam pb-1.5 text-[15px] text-bone">
      <p className="text-center leading-snug">{decision.said}</p>
      <table className="mx-auto">
        <tbody>
          {rows.map(([name, a, b]) => (
            <tr key={name}>
              <td className="w-20 text-right text-amber">{a}</td>
              <th className="px-3 font-normal text-fog">{name}</th>
              <td className="w-20 text-sea">{b}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="sr-only">
        {firstOf(match.athlete_name)} left, {firstOf(match.opponent)} right.
      </p>
    </section>
  );
}
