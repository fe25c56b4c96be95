import type { Observation } from "../api/client";

/** One thing to do in the practice. Times are of its clip, in seconds. */
export interface Step {
  title: string;
  /** What to do; `key` gives the letter of a command as the coach has it. Letters in « » are drawn as keys. */
  text: (key: (command: string) => string) => string;
  /** Where in the clip it is to be seen. */
  at: number;
  /** Whether it was done: by what is logged, and by where the playhead is. */
  done: (seen: Observation[], t: number) => boolean;
}

function tops(seen: Observation[], position: string): Observation[] {
  return seen.filter((one) => one.kind === "position" && one.position === position && one.top === "a");
}

/** How long control must last before it scores, under the ruleset of the practice. */
const HELD_S = 3;
/** Where the second pass begins: what is logged before it belongs to the first. */
const SECOND_PASS = 55;

export const STEPS: Step[] = [
  {
    title: "Start the clock",
    text: (key) => `Play the clip with «Space». When the referee starts the match, press «${key("clock")}».`,
    at: 2,
    done: (seen) => seen.some((one) => one.kind === "clock" && one.action === "start"),
  },
  {
    title: "Who is on top",
    text: (key) =>
      `Amber is your athlete. Amber takes the opponent down and lands on top, in the guard. Pause there and press «${key("guard")}». One letter is one position; with «Shift» it is the opponent on top.`,
    at: 10,
    done: (seen) => tops(seen, "guard").length > 0,
  },
  {
    title: "The three seconds",
    text: () =>
      "Play on and watch the count at the bottom left fill. After three seconds on top the takedown scores 2, and the score says why.",
    at: 13,
    done: (seen, t) => tops(seen, "guard").some((one) => t >= one.t + HELD_S) || tops(seen, "side").length > 0,
  },
  {
    title: "A guard pass",
    text: (key) => `Amber passes the guard to side control. Pause when the pass is complete and press «${key("side")}».`,
    at: 27,
    done: (seen) => tops(seen, "side").length > 0,
  },
  {
    title: "Half guard again",
    text: (key) => `The opponent gets half guard back. Press «${key("guard")}» there. Held twelve seconds: the pass scored 3.`,
    at: 39,
    done: (seen) => {
      const [first] = tops(seen, "side");
      return first !== undefined && tops(seen, "guard").some((one) => one.t > first.t);
    },
  },
  {
    title: "An attempt",
    text: (key) => `The opponent tries a sweep and fails. Press «Shift» and «${key("attempt")}»: an attempt, by the opponent.`,
    at: 48,
    done: (seen) => seen.some((one) => one.kind === "attempt" && one.by === "b"),
  },
  {
    title: "Not held",
    text: (key) =>
      `Side control again, but only for a moment. Press «${key("side")}» where it begins and «${key("guard")}» where half guard is back. Step with «→» and «←». Less than three seconds: an advantage, not points.`,
    at: 57,
    done: (seen) =>
      tops(seen, "side").some((one) => one.t > SECOND_PASS && tops(seen, "guard").some((other) => other.t > one.t && other.t < one.t + 6)),
  },
  {
    title: "Your judgement",
    text: () =>
      "Why was it lost? Press «;» and a digit for the cause. A mark is yours alone: it changes no score, and the review shows it.",
    at: 61,
    done: (seen) => seen.some((one) => one.kind === "mark"),
  },
  {
    title: "The end",
    text: (key) =>
      `Amber passes once more (press «${key("side")}»), locks the arm, and the opponent taps. Press «Enter» there, «2» for submission, type the name of the technique, and press «Enter» once more.`,
    at: 68,
    done: (seen) => seen.some((one) => one.kind === "end"),
  },
];

/** The first step from `from` on that is not done yet; the number of steps where all are. */
export function nextStep(from: number, seen: Observation[], t: number): number {
  let step = from;
  while (step < STEPS.length && STEPS[step]?.done(seen, t)) step++;
  return step;
}
