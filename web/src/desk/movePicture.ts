import { exchangeAt } from "../components/timeline";
import type { PictureCommand } from "./keys";
import { RATES } from "./playhead";
import { type Hands, NO_MARKS, seenBy } from "./hands";
import { turned, whole, zoomed } from "./view";

const REPLAY_BEFORE = 4;
const REPLAY_RATE = 0.5;

/** Move the picture, or the view of it. */
export function movePicture(command: PictureCommand, hands: Hands): void {
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
    case "back":
      playhead.back();
      break;
    case "mark":
      hands.setMarks({ ...marks, [command.which]: t });
      break;
    case "loop":
      playhead.setLoop(playhead.loop ? null : repeated(hands, t));
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
      hands.setView((view) => (command.by === 0 ? whole(view) : zoomed(view, command.by)));
      break;
  }
}

/** What to repeat: what lies between the marks, or the exchange the playhead is in. */
function repeated({ marks, desk, playhead }: Hands, t: number): { from: number; to: number } | null {
  if (marks.from !== null && marks.to !== null) return { from: marks.from, to: marks.to };
  const at = exchangeAt(desk.verdict, t);
  const exchange = desk.verdict.exchanges[at];
  if (!exchange) return null;
  const last = at === desk.verdict.exchanges.length - 1;
  return { from: exchange.start, to: last ? (playhead.end ?? Math.max(exchange.end, t)) : exchange.end };
}
