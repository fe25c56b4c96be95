import { memo, type ReactNode, useState } from "react";
import type { Clip, Exchange, Verdict } from "../api/client";
import { clockAt } from "../components/timeline";
import { clock, footage, footageOf, lengthOf } from "../components/words";
import type { Command } from "./keys";
import { OtherPlayheads } from "./Present";
import { Ghosts } from "./board/FromBoard";
import type { BoardDesk } from "./board/useBoardDesk";
import { type Loop, type Playhead, usePlayhead, RATES } from "./playhead";

/** Play, step, speed, loop, and where we are: footage time, match clock, time left. */
export function Transport({
  match,
  playhead,
  verdict,
  length,
  logEnd,
  marks,
  clip,
  run,
  board,
  children,
}: {
  match: string;
  playhead: Playhead;
  verdict: Verdict;
  length: number;
  logEnd: number;
  marks: { from: number | null; to: number | null };
  clip: Clip | null;
  run: (command: Command) => void;
  board: BoardDesk;
  children?: ReactNode;
}) {
  const [more, setMore] = useState(false);
  return (
    <div className="bg-deck px-3 pt-1.5 pb-1">
      <TimeLine {...{ match, playhead, verdict, marks, clip }} least={Math.max(length * 1.5, logEnd + 30)}>
        {playhead.end !== null && <Ghosts match={match} board={board.board} begin={playhead.begin} end={playhead.end} />}
        {children}
      </TimeLine>
      <div className={`flex items-center gap-1 pt-1 stacked:flex-wrap ${more ? "flex-wrap" : ""}`}>
        <Playing playhead={playhead} />
        <button type="button" aria-expanded={more} className="hidden px-2 py-1 max-xl:block" onClick={() => setMore(!more)}>
          {more ? "Less" : "More"}
        </button>
        <span className={`contents ${more ? "" : "max-xl:hidden"}`}>
          <Picture {...{ playhead, clip, run }} board={board.mark} />
        </span>
        <Times playhead={playhead} verdict={verdict} />
      </div>
    </div>
  );
}

/** The whole footage in a line, to go to any place of it. */
function TimeLine({
  match,
  playhead,
  verdict,
  least,
  marks,
  clip,
  children,
}: {
  match: string;
  playhead: Playhead;
  verdict: Verdict;
  /** How long the line is at least, where there is no footage. */
  least: number;
  marks: { from: number | null; to: number | null };
  clip: Clip | null;
  children: ReactNode;
}) {
  const t = usePlayhead(playhead, (one) => one.t);
  const loop = usePlayhead(playhead, (one) => one.loop);
  const { begin } = playhead;
  const end = playhead.end ?? Math.max(least, t + 30);
  const [over, setOver] = useState<number | null>(null);
  const share = (moment: number) => `${((moment - begin) / (end - begin)) * 100}%`;
  const width = (loop: Loop) => `${((loop.to - loop.from) / (end - begin)) * 100}%`;
  return (
    <div
      className="relative h-4"
      onPointerLeave={() => setOver(null)}
      onPointerMove={(event) => {
        const box = event.currentTarget.getBoundingClientRect();
        setOver(Math.max(0, Math.min(1, (event.clientX - box.left) / box.width)));
      }}
    >
      {clip?.job?.state === "done" && over !== null && (
        <Thumbnail clip={clip} at={over} moment={begin + over * (end - begin)} start={playhead.clipStart} />
      )}
      <OtherPlayheads match={match} share={share} />
      <Ticks exchanges={verdict.exchanges} begin={begin} end={end} />
      {loop && <span aria-hidden className="absolute bottom-0 h-1 bg-bone" style={{ left: share(loop.from), width: width(loop) }} />}
      {[marks.from, marks.to].map(
        (mark, index) =>
          mark !== null && <span key={index} aria-hidden className="absolute inset-y-0 w-0.5 bg-bone" style={{ left: share(mark) }} />,
      )}
      <input
        type="range"
        aria-label="Time in the footage"
        aria-valuetext={footage(t)}
        min={begin}
        max={end}
        step={0.04}
        value={Math.min(t, end)}
        className="absolute inset-0 w-full accent-amber"
        onKeyDown={(event) => event.key === "Tab" || event.preventDefault()}
        onChange={(event) => playhead.seek(Number(event.target.value))}
      />
      {children}
    </div>
  );
}

/** Play, step and speed. */
function Playing({ playhead }: { playhead: Playhead }) {
  const playing = usePlayhead(playhead, (one) => one.playing);
  const rate = usePlayhead(playhead, (one) => one.rate);
  return (
    <>
      <Act name="One second back" press={() => playhead.nudge(-1)}>
        −1 s
      </Act>
      <Act name="One frame back" press={() => playhead.step(-1)}>
        −1 f
      </Act>
      <button type="button" onClick={playhead.toggle} className="w-16 bg-amber py-1 font-bold text-night">
        {playing ? "Pause" : "Play"}
      </button>
      <Act name="One frame forward" press={() => playhead.step(1)}>
        +1 f
      </Act>
      <Act name="One second forward" press={() => playhead.nudge(1)}>
        +1 s
      </Act>
      <select aria-label="Speed" className="desk-field" value={rate} onChange={(event) => playhead.setRate(Number(event.target.value))}>
        {RATES.map((one) => (
          <option key={one} value={one}>
            {one}×
          </option>
        ))}
      </select>
    </>
  );
}

/** What is done with the picture: repeated, turned, heard. */
function Picture({
  playhead,
  clip,
  run,
  board,
}: {
  playhead: Playhead;
  clip: Clip | null;
  run: (command: Command) => void;
  /** Marks the scoreboard in the picture; null where there is none to mark. */
  board: (() => void) | null;
}) {
  const muted = usePlayhead(playhead, (one) => one.muted);
  const loop = usePlayhead(playhead, (one) => one.loop);
  return (
    <>
      <Act
        name={loop ? "Stop repeating" : "Repeat this exchange, or what lies between the marks"}
        lit={loop !== null}
        press={() => run({ do: "loop" })}
      >
        Repeat
      </Act>
      {clip && (
        <Act name="Rotate picture 90°" press={() => run({ do: "turn" })}>
          Turn
        </Act>
      )}
      {clip && (
        <Act name={muted ? "Sound on" : "Sound off"} lit={!muted} press={() => run({ do: "mute" })}>
          Sound
        </Act>
      )}
      {board && (
        <Act name="Read the scoreboard in the picture" press={board}>
          Board
        </Act>
      )}
      <Act name="Help and all keys" press={() => run({ do: "help" })}>
        Help <span className="key">?</span>
      </Act>
    </>
  );
}

/** Footage time, match clock, and what is left of it. */
function Times({ playhead, verdict }: { playhead: Playhead; verdict: Verdict }) {
  const t = usePlayhead(playhead, (one) => one.t);
  const now = clockAt(verdict, t);
  return (
    <span className="ml-auto flex items-baseline gap-3 whitespace-nowrap">
      <GoTo playhead={playhead} t={t} />
      <span className="text-fog">
        <span className={now ? "max-xl:sr-only" : ""}>{now ? (now.running ? "clock" : "stopped") : "not started"}</span>{" "}
        {now && (
          <b className={`text-xl ${now.running ? "text-bone" : "text-fog"}`} data-testid="match-clock">
            {clock(now.clock)}
          </b>
        )}
      </span>
      {now && now.left !== null && (
        <span className="text-fog">
          left <b className="text-bone">{clock(now.left)}</b>
        </span>
      )}
    </span>
  );
}

/** Where we are in the footage: pressed, a time can be typed to go to; after a jump there is a way back. */
function GoTo({ playhead, t }: { playhead: Playhead; t: number }) {
  const [typing, setTyping] = useState(false);
  const before = usePlayhead(playhead, (one) => one.before);
  if (typing) {
    return (
      <form
        onSubmit={(event) => {
          event.preventDefault();
          const to = footageOf(String(new FormData(event.currentTarget).get("to")));
          if (to === null) return;
          playhead.seek(to);
          setTyping(false);
        }}
      >
        <input
          name="to"
          aria-label="Go to a time of the footage"
          pattern="(\d{1,3}:)?\d{1,5}(\.\d{1,3})?"
          title="Minutes and seconds, such as 1:02.5"
          className="desk-field w-24 py-0!"
          defaultValue={footage(t)}
          autoFocus
          onFocus={(event) => event.target.select()}
          onKeyDown={(event) => event.key === "Escape" && setTyping(false)}
          onBlur={() => setTyping(false)}
        />
      </form>
    );
  }
  return (
    <span className="flex items-baseline gap-2 text-fog">
      {before !== null && (
        <button type="button" className="quiet text-[15px]" title={`Back to ${footage(before)} (Alt ↑)`} onClick={() => playhead.back()}>
          Back<span className="sr-only"> to {footage(before)} of the footage</span>
        </button>
      )}
      <button type="button" title="Type a time to go to" onClick={() => setTyping(true)}>
        <span className="max-2xl:sr-only">footage</span>{" "}
        <b className="text-bone" data-testid="footage-time">
          {footage(t)}
        </b>
      </button>
    </span>
  );
}

const TICK_INK = { a: "stroke-amber", b: "stroke-sea", nobody: "stroke-fog" };

/** Where exchanges begin, in the colour of who is on top at their end. */
const Ticks = memo(function Ticks({ exchanges, begin, end }: { exchanges: Exchange[]; begin: number; end: number }) {
  const paths: Record<keyof typeof TICK_INK, string> = { a: "", b: "", nobody: "" };
  for (const { start, last } of exchanges) paths[last.top ?? "nobody"] += `M${start} 0V1`;
  return (
    <svg
      aria-hidden
      viewBox={`${begin} 0 ${end - begin} 1`}
      preserveAspectRatio="none"
      className="absolute inset-x-0 top-0 h-1.5 w-full overflow-visible"
    >
      {(["nobody", "a", "b"] as const).map((top) => (
        <path key={top} d={paths[top]} className={TICK_INK[top]} strokeWidth={2} vectorEffect="non-scaling-stroke" />
      ))}
    </svg>
  );
});

const THUMBNAILS = 100;
const COLUMNS = 10;

/** The picture of a moment of the current clip, out of the strip that the worker made. */
function Thumbnail({
  clip,
  at,
  moment,
  start,
}: {
  clip: Clip;
  /** Where on the line, as a share of it. */
  at: number;
  /** Of the footage, in seconds. */
  moment: number;
  /** Where in the footage the clip's first frame lies. */
  start: number;
}) {
  const number = Math.min(THUMBNAILS - 1, Math.floor(((moment - start) / lengthOf(clip)) * THUMBNAILS));
  if (!(number >= 0)) return null;
  const width = 160;
  const height = Math.round((width * (clip.height ?? 9)) / (clip.width ?? 16));
  return (
    <span
      aria-hidden
      className="pointer-events-none absolute bottom-5 z-10 border-2 border-bone bg-night"
      style={{
        left: `clamp(0px, calc(${at * 100}% - ${width / 2}px), calc(100% - ${width}px))`,
        width,
        height: height + 22,
      }}
    >
      <span
        className="block"
        style={{
          height,
          backgroundImage: `url(/api/clips/${clip.id}/pictures/strip)`,
          backgroundSize: `${width * COLUMNS}px auto`,
          backgroundPosition: `-${(number % COLUMNS) * width}px -${Math.floor(number / COLUMNS) * height}px`,
        }}
      />
      <span className="block text-center text-[14px] leading-[20px] text-bone">{clock(moment)}</span>
    </span>
  );
}

function Act({ name, press, lit = false, children }: { name: string; press: () => void; lit?: boolean; children: ReactNode }) {
  return (
    <button
      type="button"
      aria-label={name}
      title={name}
      onClick={press}
      className={`border px-1.5 py-1 whitespace-nowrap hover:bg-rail ${lit ? "border-bone bg-bone text-night hover:text-bone" : "border-seam text-bone"}`}
    >
      {children}
    </button>
  );
}
