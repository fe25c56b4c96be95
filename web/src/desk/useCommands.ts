import { useCallback, useEffect, useRef } from "react";
import type { Keyed, Observation, Side } from "../api/client";
import type { Draft } from "./Composer";
import { clockAt } from "../components/timeline";
import { answersOf, asks, contestFrom, detailsOf, isSided, LEG_ANSWERS, triedFrom } from "./answers";
import { NOT_NAMED } from "./fields";
import { endOf, startOf, valuesOf } from "./forms";
import type { ChangeCommand, Command, LogCommand } from "./keys";
import { placeAt } from "./place";
import { type Hands, millis, NO_MARKS, seenBy } from "./hands";
import { movePicture } from "./movePicture";

/** The same letter again within this is about what was just logged. In seconds of footage. */
const AGAIN = 1.5;
/** So close together facts about the legs are of one moment. In seconds of footage. */
const AT_ONCE = 0.5;

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
  const { playhead } = hands;
  const marked = kind === "submission" && until === undefined ? between(hands) : null;
  const resume = playhead.playing;
  playhead.pause();
  const from = marked?.t ?? t ?? playhead.now();
  const end = marked?.until ?? until;
  const observations = hands.log.live();
  const place = placeNow(hands, from, side);
  const begun = kind === "end" ? endOf(observations, from, clockAt(hands.desk.verdict, from)?.left ?? null) : startOf(kind, side, place);
  hands.setDraft({
    kind,
    t: from,
    values: { ...begun, ...(end ? { until: millis(end) } : {}) },
    key: null,
    place,
    resume,
  });
}

/** Where somebody is at a time. */
function placeNow({ desk, log }: Hands, t: number, side: Side): string {
  return placeAt(desk, log.queue.now(), t, side);
}

function carryOut(command: Command, hands: Hands): void {
  switch (command.do) {
    case "position":
    case "pull":
    case "clock":
    case "compose":
    case "let_go":
    case "attempt":
    case "grip":
    case "contest":
    case "legs":
    case "unwatched":
    case "eye":
    case "period":
      logSeen(command, hands);
      break;
    case "unsure":
    case "near":
    case "digit":
    case "detail":
    case "lateral":
    case "pick":
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
    case "back":
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
    (command.do === "grip" && picked.kind === "grip" && picked.by === command.by) ||
    (command.do === "contest" && picked.kind === "contest" && picked.won === command.won) ||
    (command.do === "eye" && picked.kind === "mark" && picked.on === command.on && (picked.good ?? false) === command.good);
  return same ? picked : undefined;
}

/** The form that changes an observation; `focus` is the field that has the keyboard first. */
export function draftOf(seen: Keyed, focus?: string): Draft {
  return { kind: seen.kind, t: seen.t, values: valuesOf(seen), key: seen.id, ...(focus ? { focus } : {}) };
}

/** Ask more of what was just logged: a position's detail, an attempt's technique, a mark's text, a grip's name. The picture
 * goes on. */
function askMore(seen: Keyed, hands: Hands): void {
  if (seen.kind === "grip") hands.setDraft(draftOf(seen.grip === NOT_NAMED ? { ...seen, grip: "" } : seen, "grip"));
  else if (seen.kind === "contest") hands.setDraft(draftOf(seen, "won"));
  else if (seen.kind === "attempt") hands.setDraft(draftOf(seen, "technique"));
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
    case "grip":
      add({ t, kind: "grip", by: command.by, grip: NOT_NAMED, ...between(hands) });
      break;
    case "contest":
      add({ t, kind: "contest", for: contestFrom(placeNow(hands, t, command.won)), won: command.won, ...between(hands) });
      break;
    case "legs":
      logLegs(command, hands);
      break;
    case "unwatched": {
      const from = upTo(() => true)?.t ?? 0;
      const stretch = between(hands) ?? { t: from, until: t };
      if (stretch.until > stretch.t) add({ kind: "unwatched", ...stretch });
      break;
    }
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
      if (on) hands.log.put({ ...on, until: t, ...(command.broken && on.kind === "grip" ? { broken: true } : {}) } as Keyed);
      break;
    }
  }
}

/** What lies between the marks while the picture stands still; the marks are used up by it. */
function between({ marks, playhead, setMarks }: Hands): { t: number; until: number } | null {
  if (playhead.playing || marks.from === null || marks.to === null || marks.to <= marks.from) return null;
  setMarks(NO_MARKS);
  return { t: millis(marks.from), until: millis(marks.to) };
}

/** A fact about legs that are tied up; several of one side at one moment are one entry. */
function logLegs({ by, number }: { by: Side; number: number }, hands: Hands): void {
  const says = LEG_ANSWERS[number - 1]?.says;
  if (!says) return;
  const { t, picked } = seenBy(hands);
  const same = picked?.kind === "legs" && picked.by === by && Math.abs(t - picked.t) < AT_ONCE;
  if (same) hands.log.put({ ...picked, ...says });
  else hands.choose(hands.log.add({ t, kind: "legs", by, ...says } as Observation));
}

/** Choose the entry before or after the chosen one; where none is, the nearest to the playhead on that side. */
function pick(by: -1 | 1, hands: Hands): void {
  const { t, picked } = seenBy(hands);
  const all = hands.log.live();
  const at = picked ? all.findIndex((one) => one.id === picked.id) : -1;
  const next = picked ? all[at + by] : by < 0 ? all.filter((one) => one.t <= t + 0.001).at(-1) : all.find((one) => one.t > t + 0.001);
  if (!next) return;
  hands.choose(next.id);
  hands.playhead.seek(next.t);
}

/** Whether legs are tied up at the playhead. */
function legsTied(hands: Hands, t: number): boolean {
  return placeNow(hands, t, "a").startsWith("entangled");
}

type Sided = Extract<Keyed, { own?: unknown }>;
/** Left or right: the first press is of the one who acts, the second of the other, a third begins again. */
function laterally(one: Keyed, to: "left" | "right"): Keyed | null {
  if (one.kind === "legs") return { ...one, leg: to };
  if (!isSided(one)) return null;
  const { own, target, ...rest } = one as Sided;
  return (own && !target ? { ...rest, own, target: to } : { ...rest, own: to }) as Keyed;
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
      if (one?.kind === "grip") hands.log.put({ ...one, outcome: one.outcome === "failed" ? "held" : "failed" });
      break;
    case "lateral": {
      const next = one && laterally(one, command.to);
      if (next) hands.log.put(next);
      break;
    }
    case "digit": {
      if (!(picked && asks(picked)) && legsTied(hands, hands.playhead.now())) {
        logLegs({ by: command.side, number: command.number }, hands);
        break;
      }
      const answer = one && answersOf(one, hands.choices)[command.number - 1];
      if (answer) hands.log.put({ ...one, ...answer.says } as Keyed);
      break;
    }
    case "detail": {
      const of = hands.log.live().find((seen) => seen.id === command.of);
      if (of?.kind === "position") hands.log.put({ ...of, detail: command.name });
      hands.askDetail(null);
      break;
    }
    case "pick":
      pick(command.by, hands);
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
