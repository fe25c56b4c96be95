import { useState } from "react";
import type { Prospects, Remark, Review, ReviewError } from "../api/client";
import { Problem } from "../components/Problem";
import { clock, held } from "../components/words";
import { Causes } from "./Causes";
import { percent } from "../components/words";
import { Costs } from "./Costs";
import { ErrorForm } from "./ErrorForm";
import { useRemark } from "./useReview";

interface Props {
  error: ReviewError;
  review: Review;
  prospects: Prospects | undefined;
  show: (t: number, end?: number) => void;
  chosen: boolean;
  choose: (key: string | null) => void;
  /** Whether it stands as the root of its chain, above those that came from it. */
  root: boolean;
  clip: boolean;
}

/** One error: what happened and what it cost; chosen, also what to do with it. */
export function ErrorItem(props: Props) {
  const { error, prospects, show, chosen, choose, root, clip } = props;
  const swing = prospects?.swings[error.key];
  return (
    <article
      id={`error-${error.key}`}
      aria-label={error.title}
      className={chosen ? "border-l-4 border-amber-deep bg-sheet py-2 pr-3 pl-3" : "py-1.5 pl-4"}
    >
      <div className="grid grid-cols-[56px_1fr] gap-x-3">
        <span className={root ? "pt-0.5 text-xl font-semibold" : "text-lg text-slate"}>{clock(error.since_clock)}</span>
        <div className="min-w-0">
          <button
            type="button"
            aria-expanded={chosen}
            onClick={() => choose(chosen ? null : error.key)}
            className="flex w-full flex-wrap items-baseline justify-between gap-x-4 text-left"
          >
            <b className={root ? "font-serif text-[21px] leading-snug font-semibold" : "text-[17px]"}>{error.title}</b>
            <span className="text-amber-deep">
              {error.cost}
              {swing && swing.lost >= 0.01 ? `, ${percent(swing.lost)} of the chance` : ""}
            </span>
          </button>
          {(root || chosen) && <p>{error.because}</p>}
          {chosen && error.held !== null && error.needed !== null && <HeldBar held={error.held} needed={error.needed} />}
          {error.causes.length > 0 && !chosen && <p className="text-[15px] text-slate">Cause: {error.causes.join(", ")}</p>}
          <p className="flex flex-wrap items-baseline gap-x-5">
            {clip && (
              <button type="button" className="quiet" onClick={() => show(error.start, error.end)}>
                Show it<span className="sr-only">: {error.title}</span>
              </button>
            )}
            {!chosen && (
              <button type="button" className="quiet" onClick={() => choose(error.key)}>
                Look closer<span className="sr-only"> at: {error.title}</span>
              </button>
            )}
            {error.standing === "accepted" && <span className="text-[15px] font-semibold">✓ in the report</span>}
            {error.own && <span className="text-[15px] text-slate">added by you</span>}
            {error.edited && <span className="text-[15px] text-slate">in your words</span>}
          </p>
        </div>
      </div>
      {chosen && <Closer {...props} />}
    </article>
  );
}

function Closer({ error, review, prospects, choose }: Props) {
  const { match } = review;
  const remark = useRemark(match.id);
  const [wording, setWording] = useState(false);
  const say = (said: Remark | null) => remark.mutate({ key: error.key, said });
  return (
    <div className="pl-[68px]">
      <Costs sheet={error.cost} otherwise={error.otherwise} swing={prospects?.swings[error.key] ?? null} />
      {error.instead && (
        <p>
          <b>Instead:</b> {error.instead}
        </p>
      )}
      <Causes error={error} all={review.causes} set={(causes) => say({ causes })} />
      <Origin error={error} review={review} say={say} />
      <Deciding error={error} say={say} close={() => choose(null)} reword={() => setWording(!wording)} />
      {wording && <ErrorForm match={match.id} error={error} close={() => setWording(false)} />}
      <Problem error={remark.error} />
    </div>
  );
}

/** What an error came from, and what it perhaps came from. */
function Origin({ error, review, say }: Pick<Props, "error" | "review"> & { say: (said: Remark) => void }) {
  const standing = review.found.filter((one) => one.key !== error.key && one.standing !== "dismissed");
  const likely = new Set(error.suggested.map((link) => link.key));
  return (
    <>
      <label className="mt-2 flex flex-wrap items-baseline gap-x-3">
        <span>It came from</span>
        <select
          className="field w-auto! max-w-full py-0.5!"
          value={error.came_from ?? ""}
          onChange={(event) => say({ came_from: event.target.value })}
        >
          <option value="">nothing earlier: it is a root</option>
          {standing
            .filter((one) => one.since <= error.since)
            .map((one) => (
              <option key={one.key} value={one.key}>
                {clock(one.since_clock)} {one.title}
                {likely.has(one.key) ? " (likely)" : ""}
              </option>
            ))}
        </select>
      </label>
      {!error.came_from &&
        error.suggested.map((link) => {
          const one = standing.find((found) => found.key === link.key);
          return (
            one && (
              <p key={link.key} className="text-[15px]">
                <span className="text-slate">
                  Perhaps from {clock(one.since_clock)} {one.title}? {link.because}
                </span>{" "}
                <button type="button" className="quiet" onClick={() => say({ came_from: one.key })}>
                  Link it<span className="sr-only"> to {one.title}</span>
                </button>
              </p>
            )
          );
        })}
    </>
  );
}

/** What becomes of an error: into the report, away, or into other words. */
function Deciding({
  error,
  say,
  close,
  reword,
}: {
  error: ReviewError;
  say: (said: Remark | null) => void;
  close: () => void;
  reword: () => void;
}) {
  return (
    <p className="mt-2 flex flex-wrap gap-x-5 gap-y-1">
      {error.standing === "accepted" ? (
        <button type="button" className="quiet" onClick={() => say({ standing: "open" })}>
          Take out of the report
        </button>
      ) : (
        <button type="button" className="act py-1!" onClick={() => say({ standing: "accepted" })}>
          Accept
        </button>
      )}
      <button
        type="button"
        className="quiet"
        onClick={() => {
          close();
          say(error.own ? null : { standing: "dismissed" });
        }}
      >
        {error.own ? "Delete" : "Dismiss"}
      </button>
      <button type="button" className="quiet" onClick={reword}>
        Say it in your words
      </button>
      {error.edited && (
        <button type="button" className="quiet" onClick={() => say({ title: "", because: "", instead: "" })}>
          Back to the first wording
        </button>
      )}
    </p>
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
