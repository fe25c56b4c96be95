import { useCallback, useEffect, useRef } from "react";
import type { Desk, Observation } from "../api/client";
import { exchangeAt } from "../components/timeline";
import type { Draft } from "./Composer";
import words from "../api/words.json";
import { endOf, placeOf, startOf, triedFrom } from "./forms";
import { type ChangeCommand, type Command, commandOf, DOUBT_KEYS, type LogCommand, type OwnKeys, type PictureCommand } from "./keys";
import { type Playhead, RATES } from "./playhead";
import type { Keyed } from "../api/client";
import type { Log } from "./useLog";
import { PLAIN, turned, type View, zoomed } from "./view";

const REPLAY_BEFORE = 4;
const REPLAY_RATE = 0.5;
/** A key held longer than this is a span; shorter, a press. */
const HOLD_MS = 300;

export interface Marks {
  from: number | null;
  to: number | null;
}
export const NO_MARKS: Marks = { from: null, to: null };

interface Hands {
  playhead: Playhead;
  log: Log;
  desk: Desk;
  /** The key of the observation that is chosen at this very moment. */
  chosenNow: () => string | null;
  marks: Marks;
  choose: (key: string | null) => void;
  setDraft: (draft: Draft) => void;
  setMarks: (marks: Marks) => void;
  setView: (change: (view: View) => View) => void;
  help: () => void;
}

function millis(t: number): number {
  return Math.round(t * 1000) / 1000;
}

/** An observation somewhere else in time; a span keeps its length. */
export function movedTo(seen: Keyed, t: number): Keyed {
  const at = millis(Math.max(0, t));
  const span = "until" in seen && typeof seen.until === "number" ? { until: millis(seen.until + at - seen.t) } : {};
  return { ...seen, ...span, t: at };
}

/** What the desk does on a command, from a key, a button or the pad. */
export function useCommands(hands: Hands): (command: Command) => void {
  const latest = useRef(hands);
  useEffect(() => {
    latest.current = hands;
  });
  return useCallback((command: Command) => carryOut(command, latest.current), []);
}

/** Open the form of an observation; paused between marks, a span has its ends already. */
export function compose(hands: Hands, kind: Observation["kind"], side: "a" | "b", t?: number, until?: number): void {
  const { playhead, marks } = hands;
  const span = kind === "submission" || kind === "grip";
  const marked = span && until === undefined && !playhead.playing && marks.from !== null && marks.to !== null && marks.to > marks.from;
  playhead.pause();
  const from = marked ? marks.from : (t ?? playhead.now());
  const end = marked ? marks.to : until;
  const observations = hands.log.live();
  const place = placeOf(observations, from ?? 0, side);
  const begun = kind === "end" ? endOf(observations, from ?? 0) : startOf(kind, side, place);
  hands.setDraft({
    kind,
    t: from ?? 0,
    values: { ...begun, ...(end ? { until: millis(end) } : {}) },
    key: null,
    place,
  });
  if (marked) hands.setMarks(NO_MARKS);
}

/** The observations as they are now, the chosen one, and the last one before the playhead. */
function seenBy({ log, playhead, chosenNow }: Hands) {
  const all = log.live();
  const t = playhead.now();
  const upTo = (kinds: (one: Keyed) => boolean) => all.filter((one) => one.t <= t + 0.001 && kinds(one)).at(-1);
  return {
    t,
    upTo,
    picked: all.find((one) => one.id === chosenNow()),
    // What officials showed and names of exchanges are not seen on the mat.
    before: upTo((one) => one.kind !== "call" && one.kind !== "exchange"),
    clock: upTo((one) => one.kind === "clock"),
  };
}

function carryOut(command: Command, hands: Hands): void {
  switch (command.do) {
    case "position":
    case "pull":
    case "clock":
    case "compose":
    case "let_go":
    case "attempt":
    case "eye":
    case "period":
      logSeen(command, hands);
      break;
    case "unsure":
    case "near":
    case "digit":
    case "doubt":
    case "move":
    case "delete":
      changeLogged(command, hands);
      break;
    case "undo":
      hands.log.undo();
      break;
    case "redo":
      hands.log.redo();
      break;
    case "help":
      hands.help();
      break;
    case "play":
    case "step":
    case "nudge":
    case "rate":
    case "replay":
    case "mark":
    case "loop":
    case "escape":
    case "mute":
    case "turn":
    case "zoom":
      movePicture(command, hands);
  }
}

/** Log what is seen at the playhead. */
function logSeen(command: LogCommand, hands: Hands): void {
  const { t, upTo, clock: last } = seenBy(hands);
  const add = (body: Observation) => hands.choose(hands.log.add(body));
  switch (command.do) {
    case "position": {
      const place = { position: command.position, ...(command.top ? { top: command.top } : {}) };
      // While the clock stands a position is where the referee put the two.
      const placed = last?.kind === "clock" && last.action === "stop" && command.position !== "scramble";
      add(placed ? { t, kind: "clock", action: "start", restart: "placed", ...place } : { t, kind: "position", ...place });
      break;
    }
    case "attempt":
      add({ t, kind: "attempt", by: command.by, move: triedFrom(placeOf(hands.log.live(), t, command.by)) });
      break;
    case "eye":
      add({ t, kind: "mark", on: command.on, ...(command.good ? { good: true } : {}) });
      break;
    case "period":
      add({ t, kind: "period" });
      break;
    case "pull":
      add({ t, kind: "pull", by: command.by, ...(command.caught ? { caught: true } : {}) });
      break;
    case "clock": {
      // From the log at this moment: what the server says of it may be a key behind.
      if (last?.kind === "clock" && last.action === "start") add({ t, kind: "clock", action: "stop" });
      else add({ t, kind: "clock", action: "start", ...(last ? { restart: command.restart } : {}) });
      break;
    }
    case "compose":
      compose(hands, command.kind, command.side);
      break;
    case "let_go": {
      const on = upTo((one) => one.kind === "submission" || one.kind === "grip");
      if (on) hands.log.put({ ...on, until: t } as Keyed);
      break;
    }
  }
}

/** Change what was logged: the chosen observation, or the last one before the playhead. */
function changeLogged(command: ChangeCommand, hands: Hands): void {
  const { picked, before } = seenBy(hands);
  const one = picked ?? before;
  switch (command.do) {
    case "unsure": {
      if (!one) break;
      const next: Keyed & { doubt?: string } = { ...one, sure: one.sure === false };
      delete next.doubt;
      hands.log.put(next);
      hands.choose(one.id);
      break;
    }
    case "near":
      if (one?.kind === "attempt") hands.log.put({ ...one, outcome: one.outcome === "near" ? "failed" : "near" });
      break;
    case "digit":
      if (one) answer(hands, one, command.number);
      break;
    case "doubt":
      // The reason travels with the observation; the format keeps fields it does not know.
      if (one) hands.log.put({ ...one, sure: false, ...{ doubt: command.why } });
      break;
    case "move":
      if (!picked) break;
      hands.log.slide(movedTo(picked, picked.t + command.seconds));
      hands.playhead.seek(picked.t + command.seconds);
      break;
    case "delete":
      if (picked) hands.log.remove(picked.id);
      hands.choose(null);
      break;
  }
}

const MOVES = Object.keys(words.moves) as (keyof typeof words.moves)[];
const STOPS = Object.keys(words.stops) as (keyof typeof words.stops)[];

/** What an observation asks, answered by a digit; one that asks nothing is unsure for that reason. */
function answer(hands: Hands, one: Keyed, number: number): void {
  const at = number - 1;
  if (one.kind === "mark") {
    const cause = words.causes[at];
    if (cause) hands.log.put({ ...one, cause });
  } else if (one.kind === "attempt") {
    const move = MOVES[at];
    if (move) hands.log.put({ ...one, move });
  } else if (one.kind === "clock" && one.action === "stop") {
    const why = STOPS[at];
    if (why) hands.log.put({ ...one, why });
  } else {
    const why = DOUBT_KEYS[at];
    if (why) changeLogged({ do: "doubt", why }, hands);
  }
}

/** Move the picture, or the view of it. */
function movePicture(command: PictureCommand, hands: Hands): void {
  const { playhead, marks } = hands;
  const t = playhead.now();
  switch (command.do) {
    case "play":
      playhead.toggle();
      break;
    case "step":
      playhead.step(command.frames);
      break;
    case "nudge":
      playhead.nudge(command.seconds);
      break;
    case "rate": {
      const at = RATES.indexOf(playhead.rate);
      playhead.setRate(RATES[Math.max(0, Math.min(RATES.length - 1, at + command.by))] ?? 1);
      break;
    }
    case "replay":
      playhead.setRate(REPLAY_RATE);
      playhead.seek(Math.max(0, (seenBy(hands).before?.t ?? t) - REPLAY_BEFORE));
      playhead.play();
      break;
    case "mark":
      hands.setMarks({ ...marks, [command.which]: t });
      break;
    case "loop":
      playhead.setLoop(playhead.loop ? null : between(hands, t));
      break;
    case "escape":
      hands.setMarks(NO_MARKS);
      playhead.setLoop(null);
      break;
    case "mute":
      playhead.setMuted(!playhead.muted);
      break;
    case "turn":
      hands.setView(turned);
      break;
    case "zoom":
      hands.setView((view) => (command.by === 0 ? { ...PLAIN, turns: view.turns } : zoomed(view, command.by)));
      break;
  }
}

/** What to repeat: what lies between the marks, or the exchange the playhead is in. */
function between({ marks, desk, playhead }: Hands, t: number): { from: number; to: number } | null {
  if (marks.from !== null && marks.to !== null) return { from: marks.from, to: marks.to };
  const at = exchangeAt(desk.verdict, t);
  const exchange = desk.verdict.exchanges[at];
  if (!exchange) return null;
  const last = at === desk.verdict.exchanges.length - 1;
  return { from: exchange.start, to: last ? (playhead.duration ?? Math.max(exchange.end, t)) : exchange.end };
}

/**
 * Turns key presses into commands. While the clip plays, the key of a submission or a
 * grip is timed: held down it is a span from press to release, else a moment.
 */
export function useDeskKeys(hands: Hands, run: (command: Command) => void, own: OwnKeys, away: boolean): void {
  const latest = useRef({ hands, away, own });
  useEffect(() => {
    latest.current = { hands, away, own };
  });
  useEffect(() => {
    let holding: { kind: "submission" | "grip"; side: "a" | "b"; code: string; t: number; at: number } | null = null;
    /** The attempt whose key is down: logged already, and given its end when the key comes up late. */
    let trying: { code: string; key: string; at: number } | null = null;
    const pressed = (event: KeyboardEvent) => {
      const now = latest.current;
      const target = event.target as HTMLElement;
      if (now.away || target.closest("input:not([type=range]), select, textarea, [role=dialog]")) return;
      // A focused button keeps Enter and Space for itself.
      if (target.closest("button, a") && (event.key === "Enter" || event.key === " ")) return;
      const command = commandOf(event, now.own);
      if (!command) return;
      event.preventDefault();
      if (event.repeat && command.do !== "step" && command.do !== "nudge" && command.do !== "move") return;
      const { playhead } = now.hands;
      if (command.do === "compose" && (command.kind === "submission" || command.kind === "grip") && playhead.playing) {
        holding = { kind: command.kind, side: command.side, code: event.code, t: playhead.now(), at: event.timeStamp };
        return;
      }
      run(command);
      const key = command.do === "attempt" && playhead.playing ? now.hands.chosenNow() : null;
      if (key) trying = { code: event.code, key, at: event.timeStamp };
    };
    const tried = (event: KeyboardEvent) => {
      if (!trying || event.code !== trying.code) return;
      const { log, playhead } = latest.current.hands;
      const one = log.live().find((seen) => seen.id === trying?.key);
      const now = millis(playhead.now());
      if (one?.kind === "attempt" && event.timeStamp - trying.at >= HOLD_MS && now > one.t) log.put({ ...one, until: now });
      trying = null;
    };
    const released = (event: KeyboardEvent) => {
      tried(event);
      if (!holding || event.code !== holding.code) return;
      const { hands: now } = latest.current;
      const long = event.timeStamp - holding.at >= HOLD_MS;
      compose(now, holding.kind, holding.side, holding.t, long ? now.playhead.now() : undefined);
      holding = null;
    };
    window.addEventListener("keydown", pressed);
    window.addEventListener("keyup", released);
    return () => {
      window.removeEventListener("keydown", pressed);
      window.removeEventListener("keyup", released);
    };
  }, [run]);
}
