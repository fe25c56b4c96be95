import { type ReactNode, useState } from "react";
import type { Board, Clip, Match, Tally } from "../../api/client";
import { Problem } from "../../components/Problem";
import { firstOf, footage } from "../../components/words";
import type { Playhead } from "../playhead";
import { usePlayhead } from "../playhead";
import { isAt, type PartName, PARTS, sideOf } from "./marks";
import { type Marking, useReading } from "./useBoard";

const TALLY_WORDS: Record<Tally, string> = { points: "points", advantages: "advantages", penalties: "penalties" };
const DOUBTFUL = 0.6;
const INK = { a: "text-amber", b: "text-sea" };

/** What a part is called, with the names of the two. */
export function partWords(part: PartName, match: Match): string {
  const side = sideOf(part);
  if (side === null) return "Clock";
  const name = firstOf(side === "a" ? match.athlete_name : match.opponent);
  return `${name} ${TALLY_WORDS[part.slice(2) as Tally]}`;
}

/** Under the picture while a board is marked: which box is drawn next, what each shows, and the reading of the clip. */
export function BoardPanel({
  match,
  clip,
  board,
  marking,
  playhead,
  close,
}: {
  match: Match;
  clip: Clip;
  board: Board | undefined;
  marking: Marking;
  playhead: Playhead;
  close: () => void;
}) {
  const t = usePlayhead(playhead, (one) => one.t - one.clipStart);
  const { read, forget } = useReading(match.id, clip.id);
  const [ways, setWays] = useState<Ways>({ counts: board?.counts ?? "either", last_second: board?.last_second ?? "one" });
  const marked = new Set(marking.moments.flatMap((one) => Object.keys(one.boxes)));
  const start = () => read.mutate({ marks: marking.moments, ...ways }, { onSuccess: close });
  return (
    <div className="flex flex-col gap-2 px-3 py-2 text-[15px]" data-testid="board-panel">
      <div className="flex items-baseline gap-4">
        <h2 className="text-base font-semibold">Scoreboard</h2>
        <p className="min-w-0 flex-1 text-fog">{hint(marking, board)}</p>
        <button
          type="button"
          className="bg-amber px-3 py-0.5 font-bold text-night disabled:opacity-50"
          disabled={marked.size === 0 || read.isPending}
          onClick={start}
        >
          Read the clip
        </button>
        <button type="button" className="quiet" onClick={close}>
          Close
        </button>
      </div>
      <Parts {...{ match, marking, marked }} />
      <Further {...{ marking, t, playhead, ways, setWays }}>
        {board?.marked && (
          <button type="button" className="quiet" onClick={() => forget.mutate(undefined, { onSuccess: close })}>
            Forget this scoreboard
          </button>
        )}
      </Further>
      <Problem dark error={marking.look.error ?? read.error ?? forget.error} />
    </div>
  );
}

type Ways = Pick<Board, "counts" | "last_second">;

/** The moments that are marked, how the clock counts, and what else can be done. */
function Further({
  marking,
  t,
  playhead,
  ways,
  setWays,
  children,
}: {
  marking: Marking;
  t: number;
  playhead: Playhead;
  ways: Ways;
  setWays: (ways: Ways) => void;
  children: ReactNode;
}) {
  return (
    <div className="flex flex-wrap items-baseline gap-x-5 gap-y-1">
      <Moments {...{ marking, t, playhead }} />
      <Way label="The clock counts" value={ways.counts} set={(value) => setWays({ ...ways, counts: value as Ways["counts"] })}>
        <option value="either">down or up</option>
        <option value="down">down</option>
        <option value="up">up</option>
      </Way>
      <Way
        label="Its last second shows"
        value={ways.last_second}
        set={(value) => setWays({ ...ways, last_second: value as Ways["last_second"] })}
      >
        <option value="one">0:01</option>
        <option value="zero">0:00</option>
      </Way>
      <button type="button" className="quiet" onClick={() => marking.swap(t)}>
        Swap sides
      </button>
      {children}
    </div>
  );
}

function hint(marking: Marking, board: Board | undefined): string {
  if (marking.part === "board") return "Drag a box around the whole scoreboard: its figures are looked for.";
  if (marking.moments.length === 0) return "Pause where the scoreboard is seen well, then drag a box around the clock.";
  if (board && !board.marked && board.marks.length > 0)
    return "From another clip of this event. Check that the boxes fit here; drag the board or its corners.";
  return "Drag a corner or the board; arrow keys move the chosen corner. If the camera moved, pause there and drag the board again.";
}

/** The parts to be marked, each with what its box shows now. */
function Parts({ match, marking, marked }: { match: Match; marking: Marking; marked: ReadonlySet<string> }) {
  const chosen = (part: PartName | "board") => marking.part === part;
  const look = (on: boolean) => `border px-2 py-0.5 ${on ? "border-bone bg-bone text-night" : "border-seam hover:bg-rail"}`;
  return (
    <div className="flex flex-wrap gap-1.5" role="group" aria-label="What the next box is around">
      <button type="button" aria-pressed={chosen("board")} className={look(chosen("board"))} onClick={() => marking.setPart("board")}>
        Whole scoreboard
      </button>
      {PARTS.map((part) => {
        const side = sideOf(part);
        return (
          <span key={part} className="flex">
            <button type="button" aria-pressed={chosen(part)} className={look(chosen(part))} onClick={() => marking.setPart(part)}>
              <span className={side && !chosen(part) ? INK[side] : ""}>{partWords(part, match)}</span>
              {marked.has(part) && <Shows text={marking.texts[part]} busy={marking.look.isPending} />}
            </button>
            {marked.has(part) && (
              <button
                type="button"
                className="border border-l-0 border-seam px-1.5 hover:bg-rail"
                aria-label={`Remove the box: ${partWords(part, match)}`}
                onClick={() => marking.remove(part)}
              >
                ×
              </button>
            )}
          </span>
        );
      })}
    </div>
  );
}

/** What a box shows, as it was read just now. */
function Shows({ text, busy }: { text: { text: string; sure: number } | undefined; busy: boolean }) {
  if (!text) return <span className="pl-2 text-fog">{busy ? "…" : ""}</span>;
  const doubtful = text.sure < DOUBTFUL;
  return (
    <b className="pl-2 font-mono" data-testid="shows">
      {text.text || "nothing"}
      {doubtful && "?"}
    </b>
  );
}

/** The moments at which the board is marked. */
function Moments({ marking, t, playhead }: { marking: Marking; t: number; playhead: Playhead }) {
  return (
    <span className="flex flex-wrap items-baseline gap-x-2">
      <span className="text-fog">Marked at</span>
      {marking.moments.length === 0 && <span>no moment yet</span>}
      {marking.moments.map((one) => (
        <span key={one.t} className="flex gap-1">
          <button
            type="button"
            className={isAt(one, t) ? "font-bold" : "quiet"}
            onClick={() => {
              playhead.seek(playhead.clipStart + one.t);
              marking.settle(one.t);
            }}
          >
            {footage(one.t + playhead.clipStart)}
          </button>
          {marking.moments.length > 1 && (
            <button
              type="button"
              aria-label={`Forget the boxes at ${footage(one.t + playhead.clipStart)}`}
              onClick={() => marking.forgetMoment(one.t)}
            >
              ×
            </button>
          )}
        </span>
      ))}
    </span>
  );
}

function Way({ label, value, set, children }: { label: string; value: string; set: (value: string) => void; children: ReactNode }) {
  return (
    <label className="flex items-baseline gap-2">
      <span className="text-fog">{label}</span>
      <select className="desk-field py-0! text-[15px]!" value={value} onChange={(event) => set(event.target.value)}>
        {children}
      </select>
    </label>
  );
}
