import { useEffect, useRef } from "react";
import { detailsOf } from "./answers";
import { type Command, commandOf, type OwnKeys } from "./keys";
import { type Hands, millis } from "./hands";
import { compose } from "./useCommands";

/** What a key logs at once that lasts as long as the key is down. */
const LASTING: Command["do"][] = ["attempt", "grip", "contest"];
/** A key held longer than this is a span; shorter, a press. */
const HOLD_MS = 300;

/** The detail that a letter chooses while one is asked; any other key asks no longer. */
function detailOf(event: KeyboardEvent, { detailingNow, askDetail, log }: Hands): Command | null {
  const of = log.live().find((one) => one.id === detailingNow());
  if (of?.kind !== "position" || event.key === "Shift") return null;
  const detail = detailsOf(of.position).find((one) => one.key === event.key.toLowerCase());
  if (detail && !event.ctrlKey && !event.metaKey && !event.altKey) return { do: "detail", of: of.id, name: detail.name };
  askDetail(null);
  return null;
}

/**
 * Turns key presses into commands. While the clip plays, the key of a submission, an attempt, a
 * grip or a contest is timed: held down it is a span from press to release, else a moment.
 */
export function useDeskKeys(hands: Hands, run: (command: Command) => void, own: OwnKeys, away: boolean): void {
  const latest = useRef({ hands, away, own });
  useEffect(() => {
    latest.current = { hands, away, own };
  });
  useEffect(() => {
    let holding: { kind: "submission"; side: "a" | "b"; code: string; t: number; at: number } | null = null;
    /** What was logged by the key that is down, and is given its end when the key comes up late. */
    let lasting: { code: string; key: string; at: number } | null = null;
    const pressed = (event: KeyboardEvent) => {
      const now = latest.current;
      const target = event.target as HTMLElement;
      if (now.away || target.closest("input:not([type=range]), select, textarea, [role=dialog]")) return;
      // A focused button keeps Enter and Space for itself.
      if (target.closest("button, a") && (event.key === "Enter" || event.key === " ")) return;
      const command = detailOf(event, now.hands) ?? commandOf(event, now.own);
      if (!command) return;
      event.preventDefault();
      if (event.repeat && command.do !== "step" && command.do !== "nudge" && command.do !== "move" && command.do !== "pick") return;
      const { playhead } = now.hands;
      if (command.do === "compose" && command.kind === "submission" && playhead.playing) {
        holding = { kind: command.kind, side: command.side, code: event.code, t: playhead.now(), at: event.timeStamp };
        return;
      }
      run(command);
      const key = LASTING.includes(command.do) && playhead.playing ? now.hands.chosenNow() : null;
      if (key) lasting = { code: event.code, key, at: event.timeStamp };
    };
    const ended = (event: KeyboardEvent) => {
      if (!lasting || event.code !== lasting.code) return;
      const { log, playhead } = latest.current.hands;
      const one = log.live().find((seen) => seen.id === lasting?.key);
      const now = millis(playhead.now());
      const spans = one?.kind === "attempt" || one?.kind === "grip" || one?.kind === "contest";
      if (spans && event.timeStamp - lasting.at >= HOLD_MS && now > one.t) log.put({ ...one, until: now });
      lasting = null;
    };
    const released = (event: KeyboardEvent) => {
      ended(event);
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
