import { memo, type ReactNode, useState } from "react";
import type { Match, Move, Outlook, PositionName, Side } from "../api/client";
import { firstOf, looksOf, POSITION_WORDS } from "../components/words";
import { LEG_ANSWERS } from "./answers";
import { type Command, keyOf, type OwnKeys, TOPLESS, TOPPED } from "./keys";

const PLACE_SHORT: Partial<Record<PositionName, string>> = {
  side: "Side",
  knee_on_belly: "Knee",
  back_one_hook: "1 hook",
  back: "Back",
  entangled: "Leg tangle",
};
/** A longer name takes two lines of small print, so that its worth fits below. */
const LONG_NAME = 8;
const CLAIM_SHORT: Record<string, string> = {
  takedown: "takedown",
  double_pull_top: "top",
  sweep: "sweep",
  guard_pass: "pass",
  knee_on_belly: "knee",
  mount: "mount",
  back: "back",
};
const TALLY_SHORT = { points: "", advantages: " adv", penalties: " pen" };

interface PadProps extends Props {
  match: Match;
  /** Asked which of the two is which. */
  who: () => void;
}

interface Props {
  outlook: Outlook | undefined;
  run: (command: Command) => void;
  own: OwnKeys;
}

function moveTo(outlook: Props["outlook"], position: PositionName, top: Side | null): Move | undefined {
  return outlook?.over ? undefined : outlook?.moves.find((move) => move.position === position && (move.top ?? null) === top);
}

function isHere(outlook: Props["outlook"], position: PositionName, top: Side | null): boolean {
  return outlook?.position === position && (outlook.top ?? null) === top;
}

/** What can follow from here: every position for either side, with its key and its worth in this ruleset. */
export const Pad = memo(function Pad({ outlook, run, own, match, who }: PadProps) {
  const key = (name: string) => keyOf(name, own);
  return (
    <div className="grid gap-1 p-1.5">
      <Legs outlook={outlook} run={run} at="pad" />
      {(["a", "b"] as const).map((side) => (
        <div
          key={side}
          className="grid grid-cols-[92px_repeat(8,minmax(0,1fr))] gap-1 stacked:grid-cols-4"
          role="group"
          aria-label={side === "a" ? "Athlete on top" : "Opponent on top"}
        >
          <button
            type="button"
            onClick={who}
            title="Say what the two look like in this clip"
            className={`flex h-[45px] flex-col justify-center overflow-hidden text-left text-[13px] leading-[14px] hover:underline stacked:col-span-4 stacked:h-6 stacked:flex-row stacked:justify-start stacked:gap-1.5 stacked:text-[15px] stacked:leading-6 stacked:[&>b]:w-auto stacked:[&>span]:w-auto ${side === "a" ? "text-amber" : "text-sea"}`}
          >
            <b className="w-full truncate">{firstOf(side === "a" ? match.athlete_name : match.opponent)}</b>
            {looksOf(match, side) && <span className="w-full truncate">{looksOf(match, side)}</span>}
            <span>on top</span>
          </button>
          {TOPPED.map((position) => (
            <Place
              key={position}
              position={position}
              side={side}
              letter={side === "a" ? key(position) : `⇧${key(position)}`}
              move={moveTo(outlook, position, side)}
              here={isHere(outlook, position, side)}
              press={() => run({ do: "position", position, top: side })}
            />
          ))}
        </div>
      ))}
      <Actions outlook={outlook} run={run} own={own} />
    </div>
  );
});

/**
 * While legs are tied up: who has caught what, for either side. It lies on the picture, so that the pad below never moves
 * under a hand, and on a small screen above the pad.
 */
export function Legs({ outlook, run, at }: Pick<Props, "outlook" | "run"> & { at: "picture" | "pad" }) {
  if (outlook?.position !== "entangled" || outlook.over) return null;
  return (
    <div
      className={
        at === "picture"
          ? "absolute right-2 bottom-2 flex max-w-full flex-wrap items-center gap-1 bg-night/80 p-1 stacked:hidden"
          : "hidden gap-1 stacked:grid stacked:grid-cols-[repeat(auto-fill,minmax(11rem,1fr))]"
      }
      role="group"
      aria-label="What the attacker has of the legs"
    >
      {LEG_ANSWERS.map(({ text }, index) => (
        <Both
          key={text}
          letter={String(index + 1)}
          word={text.charAt(0).toUpperCase() + text.slice(1)}
          press={(by) => run({ do: "legs", by, number: index + 1 })}
        />
      ))}
      <span className="px-1 text-[15px] text-fog touch:hidden">&lt; &gt; left or right leg</span>
    </div>
  );
}

/** Everything that is not a position with a side on top: the clock, submissions, fouls, the end. */
function Actions({ outlook, run, own }: Props) {
  const key = (name: string) => keyOf(name, own);
  return (
    <div className="flex flex-wrap gap-1 max-2xl:gap-x-[2px] max-2xl:[&_.key]:min-w-4 max-2xl:[&_.key]:px-0.5 stacked:mt-1 stacked:grid stacked:grid-cols-[repeat(auto-fill,minmax(11rem,1fr))]">
      {TOPLESS.map((position) => (
        <Small
          key={position}
          letter={key(position)}
          title={moveTo(outlook, position, null)?.because}
          lit={isHere(outlook, position, null)}
          press={() => run({ do: "position", position, top: null })}
        >
          {position === "double_pull" ? "Seated" : POSITION_WORDS[position]}
        </Small>
      ))}
      <Small
        letter={`⇧${key("scramble")}`}
        title="Legs tied up and no one up: the usual case"
        lit={isHere(outlook, "entangled", null)}
        press={() => run({ do: "position", position: "entangled", top: null })}
      >
        Leg tangle
      </Small>
      <Both letter={key("pull")} word="Pull" full="Guard pull" press={(by) => run({ do: "pull", by, caught: false })} />
      <Both letter={key("submission")} word="Submission" press={(side) => run({ do: "compose", kind: "submission", side })} />
      <Small letter={key("let_go")} press={() => run({ do: "let_go", broken: false })}>
        Let go
      </Small>
      <Both letter={key("attempt")} word="Tried" press={(by) => run({ do: "attempt", by })} />
      <Both letter={key("grip")} word="Grip" press={(by) => run({ do: "grip", by })} />
      <Small letter={key("unsure")} press={() => run({ do: "unsure" })}>
        Unsure
      </Small>
      <Both letter={key("contest")} word="Contest" full="Contest won" press={(won) => run({ do: "contest", won })} />
      <Both letter=";" word="Wrong" press={(on) => run({ do: "eye", good: false, on })} />
      <Both letter="'" word="Well" press={(on) => run({ do: "eye", good: true, on })} />
      <Both letter={key("foul")} word="Foul" press={(side) => run({ do: "compose", kind: "foul", side })} />
      <Rare run={run} own={own} />
      <Small letter="⏎" press={() => run({ do: "compose", kind: "end", side: "a" })}>
        End
      </Small>
      <ClockKeys outlook={outlook} run={run} own={own} />
    </div>
  );
}

/** What is logged least: shown when it is asked for, where there is room for two rows alone. */
function Rare({ run, own }: Pick<Props, "run" | "own">) {
  const [all, setAll] = useState(false);
  const key = (name: string) => keyOf(name, own);
  return (
    <>
      <span className={`contents ${all ? "" : "lg:max-xl:hidden"}`}>
        <Both letter={key("technique")} word="Illegal" press={(side) => run({ do: "compose", kind: "technique", side })} />
        <Both letter={key("call")} word="Call" full="Officials' call" press={(side) => run({ do: "compose", kind: "call", side })} />
        <Small
          letter={`⇧${key("double_pull")}`}
          title="What the event's scoreboard shows"
          press={() => run({ do: "compose", kind: "board", side: "a" })}
        >
          Board?
        </Small>
        <Small
          letter={`⇧${key("unsure")}`}
          title="Nobody watched since the last entry, or between the marks"
          press={() => run({ do: "unwatched" })}
        >
          Unseen
        </Small>
      </span>
      <button type="button" aria-expanded={all} className="hidden bg-rail px-1 text-[14px] lg:max-xl:block" onClick={() => setAll(!all)}>
        {all ? "Less" : "More"}
      </button>
    </>
  );
}

/** What the clock can do now: stop, start from the same place or standing, or, once time is up, begin overtime. */
function ClockKeys({ outlook, run, own }: Props) {
  if (outlook?.overtime)
    return (
      <Small letter={`⇧${keyOf("exchange", own)}`} first press={() => run({ do: "period" })}>
        Begin overtime
      </Small>
    );
  const letter = keyOf("clock", own);
  const stopped = outlook?.started === true && !outlook.running && !outlook.over;
  return (
    <>
      <Small letter={letter} first hidden={outlook?.over} press={() => run({ do: "clock", restart: "same" })}>
        {outlook?.running ? "Stop clock" : stopped ? "Restart" : "Start clock"}
      </Small>
      {stopped && (
        <Small letter="⇧" first title="Restart standing" press={() => run({ do: "clock", restart: "standing" })}>
          <span className="stacked:hidden">feet</span>
          <span className="hidden stacked:inline">Restart standing</span>
        </Small>
      )}
    </>
  );
}

function Place({
  position,
  side,
  letter,
  move,
  here,
  press,
}: {
  position: PositionName;
  side: Side;
  letter: string;
  move: Move | undefined;
  here: boolean;
  press: () => void;
}) {
  const name = PLACE_SHORT[position] ?? POSITION_WORDS[position];
  const worth = move?.opens.filter((one) => one.n > 0) ?? [];
  const loses = move?.loses.filter((one) => one.side === side) ?? [];
  const edge = side === "a" ? "border-amber" : "border-sea";
  const tint = side === "a" ? "text-amber" : "text-sea";
  return (
    <button
      type="button"
      onClick={press}
      title={move?.because}
      aria-label={`${POSITION_WORDS[position]}, ${side === "a" ? "athlete" : "opponent"} on top. ${move?.because ?? ""}`}
      className={`flex h-[45px] min-w-0 flex-col justify-between border-t-[3px] bg-rail px-1.5 pt-0.5 pb-[3px] text-left hover:bg-seam ${edge} ${here ? "outline-2 -outline-offset-2 outline-bone" : ""}`}
    >
      <span className="flex items-start justify-between gap-1 leading-tight">
        <span className={`text-bone ${name.length > LONG_NAME ? "text-[13px] leading-[13px]" : "text-[15px]"}`}>{name}</span>
        <span className={`key uppercase ${tint}`}>{letter}</span>
      </span>
      <span className={`truncate text-[14px] leading-tight font-semibold stacked:text-[13px] ${tint}`}>
        {here
          ? "now"
          : worth.map((one) => `${nameIn(position, one.claim)}${one.n}${TALLY_SHORT[one.tally]}`).join(" + ") ||
            (loses.length ? "count lost" : "")}
      </span>
    </button>
  );
}

/** A claim in short; the one a button is named after is not named again. */
function nameIn(position: PositionName, claim: string): string {
  return claim === position ? "" : `${CLAIM_SHORT[claim] ?? claim} `;
}

/** Hidden, it keeps its room: the rows of buttons never move under a hand. */
function Small({
  letter,
  title,
  lit = false,
  hidden = false,
  first = false,
  press,
  children,
}: {
  letter: string;
  title?: string | undefined;
  lit?: boolean;
  /** Whether it comes first on a small screen. */
  first?: boolean;
  hidden?: boolean | undefined;
  press: () => void;
  children: ReactNode;
}) {
  return (
    <button
      type="button"
      title={title}
      onClick={press}
      className={`${hidden ? "invisible " : ""}flex items-center gap-1.5 bg-rail px-2 py-[3px] text-[15px] leading-5 text-bone hover:bg-seam max-2xl:gap-1 max-2xl:px-1 max-2xl:text-[14px] stacked:px-2 stacked:text-base touch:min-h-11 ${first ? "stacked:order-first" : ""} ${lit ? "outline-2 -outline-offset-2 outline-bone" : ""}`}
    >
      <span className="key uppercase">{letter}</span>
      {children}
    </button>
  );
}

/** One action for either side: the letter for the athlete, with Shift for the opponent. */
function Both({ letter, word, full = word, press }: { letter: string; word: string; full?: string; press: (side: Side) => void }) {
  return (
    <span className="flex bg-rail stacked:grid stacked:grid-cols-2" role="group" aria-label={full}>
      <button
        type="button"
        onClick={() => press("a")}
        aria-label={`${full}: athlete`}
        className="flex items-center gap-1.5 border-l-[3px] border-amber px-1.5 py-[3px] text-left text-[15px] leading-5 text-bone hover:bg-seam max-2xl:gap-1 max-2xl:px-1 max-2xl:text-[14px] stacked:text-base touch:min-h-11 touch:px-2"
      >
        <span className="key text-amber uppercase">{letter}</span>
        {word}
      </button>
      <button
        type="button"
        onClick={() => press("b")}
        aria-label={`${full}: opponent`}
        title={`${full}: opponent (Shift ${letter.toUpperCase()})`}
        className="border-r-[3px] border-sea px-1.5 py-[3px] text-[15px] leading-5 text-bone hover:bg-seam max-2xl:px-1 stacked:text-right stacked:text-base touch:min-h-11 touch:px-2"
      >
        <span className="key text-sea">⇧</span>
        <span className="hidden touch:inline">{word}</span>
      </button>
    </span>
  );
}
