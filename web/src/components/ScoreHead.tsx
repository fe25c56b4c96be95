import type { Side, Verdict } from "../api/client";
import type { Tone } from "./spineStyle";

type Score = Verdict["score"];

/** Both scores side by side: points large, advantages ringed, penalties notched, each named. */
export function ScoreHead({ score, athlete, opponent, tone }: { score: Score; athlete: string; opponent: string; tone: Tone }) {
  return (
    <div className="grid grid-cols-2">
      <Half score={score} side="a" name={athlete} tone={tone} />
      <Half score={score} side="b" name={opponent} tone={tone} />
    </div>
  );
}

function Half({ score, side, name, tone }: { score: Score; side: Side; name: string; tone: Tone }) {
  const tally = score[side];
  const colour = side === "a" ? "bg-amber text-night" : "bg-sea text-night";
  const small = tone === "night" ? "text-bone" : "text-ink";
  return (
    <div className={`flex items-stretch gap-3 ${side === "a" ? "flex-row-reverse text-right" : ""}`}>
      <span
        className={`grid w-16 place-items-center text-[40px] leading-[52px] font-bold ${colour}`}
        aria-label={`${tally.points} points`}
        role="img"
      >
        {tally.points < 0 ? `−${-tally.points}` : tally.points}
      </span>
      <span className={`flex min-w-0 flex-col justify-center ${small}`}>
        <span className="text-[17px] leading-tight font-semibold">{name}</span>
        <span className={`flex gap-3 text-[14px] ${side === "a" ? "justify-end" : ""}`}>
          <span>
            <b className="text-base">{tally.advantages}</b> adv
          </span>
          <span>
            <b className="text-base">{tally.penalties}</b> pen
          </span>
        </span>
      </span>
    </div>
  );
}
