import { useState } from "react";
import type { Remark, Review, ReviewError } from "../api/client";
import { Problem } from "../components/Problem";
import { clock, held } from "../components/words";
import { Causes } from "./Causes";
import { Costs } from "./Costs";
import { ErrorForm } from "./ErrorForm";
import type { Showing } from "./ErrorList";
import { useRemark } from "./useReview";

type Say = (said: Remark | null) => void;

/** One error in full: its figures, what to do instead, its causes, where it came from, and what becomes of it. */
export function ErrorDetails({ error, review, spread, show, choose, clip, root }: Showing & { error: ReviewError; root?: boolean }) {
  const remark = useRemark(review.match.id);
  const [wording, setWording] = useState(false);
  const say: Say = (said) => remark.mutate({ key: error.key, said });
  return (
    <div className="pt-1">
      {error.held !== null && error.needed !== null && <HeldBar held={error.held} needed={error.needed} />}
      <Costs error={error} danger={review.danger} range={spread?.lost[error.key]} />
      {error.instead && !root && (
        <p>
          <b>Instead:</b> {error.instead}
        </p>
      )}
      <Causes error={error} all={review.causes} set={(causes) => say({ causes })} />
      <Origin error={error} review={review} say={say} />
      <p className="mt-2 flex flex-wrap gap-x-5 gap-y-1">
        {clip && (
          <button type="button" className="quiet" onClick={() => show(error.start, error.end)}>
            Play just this
          </button>
        )}
        <Standing error={error} say={say} close={() => choose(null)} />
        <button type="button" className="quiet" onClick={() => setWording(!wording)}>
          Reword
        </button>
        {error.edited && (
          <button type="button" className="quiet" onClick={() => say({ title: "", because: "", instead: "" })}>
            Restore original wording
          </button>
        )}
      </p>
      {wording && <ErrorForm match={review.match.id} error={error} close={() => setWording(false)} />}
      <Problem error={remark.error} />
    </div>
  );
}

/** Whether this one error goes into the report, or away. */
function Standing({ error, say, close }: { error: ReviewError; say: Say; close: () => void }) {
  const dismiss = () => {
    close();
    say(error.own ? null : { standing: "dismissed" });
  };
  return (
    <>
      <button type="button" className="quiet" onClick={() => say({ standing: error.standing === "accepted" ? "open" : "accepted" })}>
        {error.standing === "accepted" ? "Take this one out of the report" : "Accept just this"}
      </button>
      <button type="button" className="quiet" onClick={dismiss}>
        {error.own ? "Delete this one" : "Dismiss just this"}
      </button>
    </>
  );
}

/** What an error came from: as the coach says, or as it is suggested, with the reason. */
function Origin({ error, review, say }: { error: ReviewError; review: Review; say: Say }) {
  const earlier = review.found.filter((one) => one.key !== error.key && one.standing !== "dismissed" && one.since <= error.since);
  const came = error.came_from;
  return (
    <>
      <label className="mt-2 flex flex-wrap items-baseline gap-x-3">
        <span>Caused by</span>
        <select
          className="field w-auto! max-w-full py-0.5!"
          value={came?.key ?? ""}
          onChange={(event) => say({ came_from: event.target.value, root: event.target.value === "" })}
        >
          <option value="">nothing earlier (root cause)</option>
          {earlier.map((one) => (
            <option key={one.key} value={one.key}>
              {clock(one.since_clock)} {one.title}
            </option>
          ))}
        </select>
      </label>
      {came && !came.accepted && (
        <p className="text-[15px]">
          <span className="text-slate">Suggested: {came.because}</span>{" "}
          <button type="button" className="quiet" onClick={() => say({ came_from: came.key, root: false })}>
            Yes, caused by it
          </button>{" "}
          <button type="button" className="quiet" onClick={() => say({ came_from: "", root: true })}>
            No, a root cause
          </button>
        </p>
      )}
    </>
  );
}

/** How long it was held of how long it had to be. */
function HeldBar({ held: long, needed }: { held: number; needed: number }) {
  return (
    <span className="mt-1.5 flex items-center gap-3" role="img" aria-label={`held ${held(long)} of ${held(needed)}`}>
      <span className="relative h-3 w-48 bg-rule">
        <span className="absolute inset-y-0 left-0 bg-amber" style={{ width: `${(long / needed) * 100}%` }} />
        {[1, 2].map((third) => (
          <span key={third} className="absolute inset-y-0 w-0.5 bg-paper" style={{ left: `${(third / 3) * 100}%` }} />
        ))}
      </span>
      <span>
        {held(long)} of {held(needed)}
      </span>
    </span>
  );
}
