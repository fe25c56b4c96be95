import { useCallback, useEffect, useRef } from "react";
import type { Desk, Observation, Side } from "../api/client";
import { exchangeAt } from "../components/timeline";
import type { Draft } from "./Composer";
import { clockAt } from "../components/timeline";
import { answersOf, detailsOf, endOf, startOf, triedFrom, valuesOf } from "./forms";
import { type ChangeCommand, type Command, type LogCommand, type PictureCommand } from "./keys";
import { placeAt } from "./place";
import { type Playhead, RATES } from "./playhead";
import type { Keyed } from "../api/client";
import type { Log } from "./useLog";
import { PLAIN, turned, type View, zoomed } from "./view";

const REPLAY_BEFORE = 4;
const REPLAY_RATE = 0.5;
/** The same letter again within this is about what was just logged. In seconds of footage. */
const AGAIN = 1.5;

export interface Marks {
  from: number | null;
  to: number | null;
}
export const NO_MARKS: Marks = { from: null, to: null };

export interface Hands {
  playhead: Playhead;
  log: Log;
  desk: Desk;
  /** The key of the observation that is chosen at this very moment. */
  chosenNow: () => string | null;
  marks: Marks;
  choose: (key: string | null) => void;
  /** The coach's own list of causes. */
  causes: string[];
  /** The position whose detail is asked at this very moment. */
  detailingNow: () => string | null;
  askDetail: (of: string | null) => void;
  setDraft: (draft: Draft) => void;
  setMarks: (marks: Marks) => void;
  setView: (change: (view: View) => View) => void;
  help: () => void;
}

export function millis(t: number): number {
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
  const place = placeNow(hands, from ?? 0, side);
  const begun =
    kind === "end" ? endOf(observations, from ?? 0, clockAt(hands.desk.verdict, from ?? 0)?.left ?? null) : startOf(kind, side, place);
  hands.setDraft({
    kind,
    t: from ?? 0,
    values: { ...begun, ...(end ? { until: millis(end) } : {}) },
    key: null,
    place,
  });
  if (marked) hands.setMarks(NO_MARKS);
}

/** Where somebody is at a time. */
function placeNow({ desk, log }: Hands, t: number, side: Side): string {
  return placeAt(desk, log.queue.now(), t, side);
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
    case "detail":
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

/** What was logged a moment ago, where the same letter is pressed again: it is about that one then. */
function pressedAgain(command: LogCommand, hands: Hands): Keyed | undefined {
  const { t, picked } = seenBy(hands);
  if (!picked || Math.abs(t - picked.t) > AGAIN) return undefined;
  const same =
    (command.do === "position" && picked.kind === "position" && picked.position === command.position && picked.top == command.top) ||
    (command.do === "attempt" && picked.kind === "attempt" && picked.by === command.by) ||
    (command.do === "eye" && picked.kind === "mark" && picked.on === command.on && (picked.good ?? false) === command.good);
  return same ? picked : undefined;
}

/** The form that changes an observation; `focus` is the field that has the keyboard first. */
export function draftOf(seen: Keyed, focus?: string): Draft {
  return { kind: seen.kind, t: seen.t, values: valuesOf(seen), key: seen.id, ...(focus ? { focus } : {}) };
}

/** Ask more of what was just logged: a position's detail, an attempt's technique, a mark's text. The picture goes on. */
function askMore(seen: Keyed, hands: Hands): void {
  if (seen.kind === "attempt") hands.setDraft(draftOf(seen, "technique"));
  else if (seen.kind === "mark") hands.setDraft(draftOf(seen, "text"));
  else if (seen.kind === "position" && detailsOf(seen.position).length > 0) hands.askDetail(seen.id);
}

/** Log what is seen at the playhead. */
function logSeen(command: LogCommand, hands: Hands): void {
  const again = pressedAgain(command, hands);
  if (again) askMore(again, hands);
  else logNew(command, hands);
}

function logNew(command: LogCommand, hands: Hands): void {
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
      add({ t, kind: "attempt", by: command.by, move: triedFrom(placeNow(hands, t, command.by)) });
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
    case "digit": {
      const answer = one && answersOf(one, hands.causes)[command.number - 1];
      if (answer) hands.log.put({ ...one, ...answer.says } as Keyed);
      break;
    }
    case "detail": {
      const of = hands.log.live().find((seen) => seen.id === command.of);
      if (of?.kind === "position") hands.log.put({ ...of, detail: command.name });
      hands.askDetail(null);
      break;
    }
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
  return { from: exchange.start, to: last ? (playhead.end ?? Math.max(exchange.end, t)) : exchange.end };
}
