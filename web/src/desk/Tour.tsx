import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { usePractice } from "../api/practice";
import { api, type Keyed, type Match, ok } from "../api/client";
import { keyOf, type OwnKeys } from "./keys";
import { type Playhead, usePlayhead } from "./playhead";
import { Sheet } from "../components/Sheet";
import { Problem } from "../components/Problem";
import { clock } from "../components/words";
import { nextStep, STEPS } from "./practiceSteps";

/** Leads through the practice on the desk, one thing at a time; each step is done by doing it. */
export function Tour({ match, observations, playhead, own }: { match: Match; observations: Keyed[]; playhead: Playhead; own: OwnKeys }) {
  const [passed, setPassed] = useState(() => nextStep(0, observations, 0));
  const [looking, setLooking] = useState(false);
  const t = usePlayhead(playhead, (one) => Math.floor(one.t * 10) / 10);
  const now = nextStep(passed, observations, t);
  if (now > passed) setPassed(now);
  const step = STEPS[now];
  const logged = observations.length;
  return (
    <section
      aria-label="Practice"
      className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b-2 border-amber bg-deck px-3 py-1.5 text-[15px]"
    >
      <div className="min-w-0 flex-1 basis-96" role="status">
        <b className="text-amber">{step ? `Practice ${now + 1} of ${STEPS.length}: ${step.title}` : "Practice: all done"}</b>{" "}
        {step ? <Keys text={step.text((command) => keyOf(command, own).toUpperCase())} /> : "Now see how close you came."}
      </div>
      <span className="flex items-center gap-4 whitespace-nowrap">
        {step && (
          <button
            type="button"
            className="quiet"
            onClick={() => {
              playhead.pause();
              playhead.seek(step.at);
            }}
          >
            Go to {clock(step.at)}
          </button>
        )}
        <button
          type="button"
          className={step ? "quiet" : "bg-amber px-3 py-1 font-bold text-night"}
          disabled={!logged}
          onClick={() => setLooking(true)}
        >
          See how close you came
        </button>
        <Link to="/" className="quiet">
          Leave
        </Link>
      </span>
      <LookBack match={match} logged={logged} open={looking} setOpen={setLooking} />
    </section>
  );
}

/** A text with keys in it, each between « and ». */
function Keys({ text }: { text: string }) {
  return text.split(/[«»]/).map((part, index) =>
    index % 2 ? (
      <span key={index} className="key">
        {part}
      </span>
    ) : (
      part
    ),
  );
}

/** The practice as it was scored, set against what its clip shows. */
function LookBack({ match, logged, open, setOpen }: { match: Match; logged: number; open: boolean; setOpen: (open: boolean) => void }) {
  const found = useQuery({
    queryKey: ["practice", match.id, logged, open],
    queryFn: () => ok(api.GET("/api/matches/{match}/practice", { params: { path: { match: match.id } } })),
    enabled: open,
    staleTime: 0,
  });
  const again = usePractice();
  const points = (score: { a: { points: number; advantages: number }; b: { points: number; advantages: number } }) =>
    `${score.a.points} to ${score.b.points} on points, ${score.a.advantages} to ${score.b.advantages} on advantages`;
  return (
    <Sheet title="How close you came" width="middle" open={open} setOpen={setOpen}>
      <Problem error={found.error ?? again.error} />
      {found.data && (
        <>
          <p className="pb-3 text-lg">{found.data.because}</p>
          <table className="w-full text-left">
            <thead>
              <tr className="border-b-2 border-rule">
                <th scope="col" className="w-20 font-semibold">
                  In the clip
                </th>
                <th scope="col" className="font-semibold">
                  What happened
                </th>
                <th scope="col" className="font-semibold">
                  Your log
                </th>
              </tr>
            </thead>
            <tbody>
              {found.data.moments.map((one) => (
                <tr key={one.t} className="border-b border-rule align-top">
                  <td className="py-1">{clock(one.t)}</td>
                  <td className="py-1 pr-4">{one.what}</td>
                  <td className={`py-1 ${one.logged === null ? "font-semibold" : ""}`}>{one.because}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <p className="py-3">
            The clip comes to {points(found.data.score)}. Your log comes to {points(found.data.own)}.
          </p>
          <p className="flex flex-wrap gap-5">
            <Link className="act" to="/matches/new">
              Score a match of your own
            </Link>
            <button type="button" className="quiet" onClick={() => again.mutate(true)}>
              Practise again from the start
            </button>
          </p>
        </>
      )}
    </Sheet>
  );
}
