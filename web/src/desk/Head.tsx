import { Link } from "react-router";
import type { Attention, Desk, Outlook, Verdict } from "../api/client";
import { rulebookOf } from "../components/asked";
import { ScoreHead } from "../components/ScoreHead";
import { named } from "../components/words";
import { Range } from "./Range";
import { Weighing } from "./Weighing";

/** The score, whose match it is, how it stands, and its range. */
export function Head({
  desk,
  score,
  range,
  unsure,
  decision,
}: {
  desk: Desk;
  score: Verdict["score"];
  decision: Outlook["decision"] | undefined;
  range: Attention["range"] | undefined;
  unsure: number;
}) {
  const { match, verdict } = desk;
  return (
    <div className="px-3 pt-2">
      <ScoreHead score={score} athlete={match.athlete_name} opponent={match.opponent} tone="night" />
      <p className="truncate pt-1 text-center text-[15px]">
        <Link to={rulebookOf(match, match.athlete_name)} className="text-fog hover:underline" title="The rules of this division">
          {match.ruleset_title}, {match.belt} belt, {match.age}
        </Link>
      </p>
      <p className="pb-1.5 text-center text-[17px] leading-snug text-bone" aria-live="polite" data-testid="because">
        {named(verdict.because, match)}
      </p>
      {match.plan && (
        <p className="pb-1.5 text-center text-[15px] leading-snug text-fog" data-testid="plan">
          Plan: {match.plan}
        </p>
      )}
      {decision && <Weighing decision={decision} match={match} />}
      <Range unsure={unsure} range={range} ended={verdict.ended !== null} match={match} />
    </div>
  );
}
