import type { ReviewError } from "../api/client";
import { Problem } from "../components/Problem";
import { clock } from "../components/words";
import type { Showing } from "./ErrorList";
import { ErrorDetails } from "./ErrorDetails";
import type { Going } from "./useGoingThrough";
import type { Chain } from "./useReview";

/** One thing that mattered: its root, what came of it, what it cost, and one thing to drill. */
export function ChainItem({ chain, number, going, ...showing }: Showing & { chain: Chain; number: number; going: Going }) {
  const { show, chosen, choose, clip } = showing;
  const { root, later } = chain;
  const at = going.at === root.key;
  return (
    <li
      id={`chain-${root.key}`}
      tabIndex={-1}
      onFocus={() => going.set(root.key)}
      className={`border-t-2 border-rule first:border-t-0 ${at ? "bg-sheet outline-none" : ""}`}
    >
      <article
        id={`error-${root.key}`}
        aria-label={root.title}
        className={`grid grid-cols-[40px_1fr] gap-x-3 border-l-4 py-3 pr-3 pl-2 ${at ? "border-amber-deep" : "border-transparent"}`}
      >
        <span className="text-right font-serif text-[26px] leading-tight font-semibold text-amber-deep">{number}</span>
        <div className="min-w-0">
          <h3 className="font-serif text-[21px] leading-snug font-semibold">
            <span className="font-sans">{clock(root.since_clock)}</span> {root.title}
          </h3>
          <p>{root.because}</p>
          <Cause error={root} />
          <Again {...showing} chain={chain} />
          {later.length > 0 && <LedTo {...showing} errors={later} />}
          {chain.cost && <p className="text-amber-deep">{chain.cost}</p>}
          {root.instead && (
            <p>
              <b>Instead:</b> {root.instead}
            </p>
          )}
          {root.drill && (
            <p>
              <b>Drill:</b> {root.drill}
            </p>
          )}
          <Does {...{ chain, going, clip, show, chosen, choose }} />
          {chosen === root.key && <ErrorDetails {...showing} error={root} root />}
          {at && <Problem error={going.error} />}
        </div>
      </article>
    </li>
  );
}

/** What the log shows to have brought it about. */
function Cause({ error }: { error: ReviewError }) {
  return error.cause && <p className="text-slate">{error.cause}</p>;
}

const MOST_AGAIN = 2;

/** What of it came back in the match, with the other moments. */
function Again({ chain, review, choose }: Showing & { chain: Chain }) {
  const own = new Set([chain.root, ...chain.later].map((error) => error.key));
  const back = review.patterns.filter((one) => one.members.some((key) => own.has(key))).slice(0, MOST_AGAIN);
  return (
    <>
      {back.map((one) => (
        <p key={one.said} className="text-slate">
          <b className="font-semibold text-ink">{one.times} times:</b> {one.said}
          {review.found
            .filter((error) => one.members.includes(error.key) && !own.has(error.key))
            .map((error) => (
              <button key={error.key} type="button" className="quiet ml-2" onClick={() => choose(error.key)}>
                {clock(error.since_clock)}
                <span className="sr-only">: {error.title}</span>
              </button>
            ))}
        </p>
      ))}
    </>
  );
}

/** What came of a root, each with why it is thought to have come from there. */
function LedTo({ errors, ...showing }: Showing & { errors: ReviewError[] }) {
  const { chosen, choose } = showing;
  return (
    <ol aria-label="What it led to" className="my-1.5 ml-1 border-l-[3px] border-amber pl-3">
      {errors.map((error) => (
        <li key={error.key} id={`error-${error.key}`} className="py-0.5">
          <button
            type="button"
            className="text-left"
            aria-expanded={chosen === error.key}
            onClick={() => choose(chosen === error.key ? null : error.key)}
          >
            <span className="text-slate">→ {clock(error.since_clock)}</span> <b className="font-semibold">{error.title}</b>
          </button>
          {error.came_from?.because && <span className="text-[15px] text-slate"> {error.came_from.because}</span>}
          {chosen === error.key && (
            <div className="py-1">
              <p>{error.because}</p>
              <Cause error={error} />
              <ErrorDetails {...showing} error={error} />
            </div>
          )}
        </li>
      ))}
    </ol>
  );
}

/** What can be done with it; each has its key. */
function Does({
  chain,
  going,
  clip,
  show,
  chosen,
  choose,
}: { chain: Chain; going: Going } & Pick<Showing, "clip" | "show" | "chosen" | "choose">) {
  const { root } = chain;
  const named = <span className="sr-only">: {root.title}</span>;
  return (
    <p className="flex flex-wrap items-baseline gap-x-5 gap-y-1 pt-1">
      {clip && (
        <button type="button" className="quiet" onClick={() => show(root.start, root.end)}>
          Play clip{named}
        </button>
      )}
      <button type="button" className="quiet" aria-pressed={chain.accepted} onClick={() => going.accept(chain)}>
        {chain.accepted ? "Take out of the report" : chain.later.length > 0 ? "Accept the chain" : "Accept"}
        {named}
      </button>
      <button type="button" className="quiet" onClick={() => going.dismiss(chain)}>
        {root.own ? "Delete" : "Dismiss"}
        {named}
      </button>
      <button
        type="button"
        className="quiet"
        aria-expanded={chosen === root.key}
        onClick={() => choose(chosen === root.key ? null : root.key)}
      >
        Details{named}
      </button>
      {chain.inReport.length > 0 && <span className="text-[15px] font-semibold">✓ in the report</span>}
      {chain.accepted && chain.inReport.length === 0 && (
        <span className="text-[15px] font-semibold" title="A report tells of the few things that mattered most.">
          ✓ only its drill in the report
        </span>
      )}
      {root.own && <span className="text-[15px] text-slate">added by you</span>}
      {root.edited && <span className="text-[15px] text-slate">reworded</span>}
    </p>
  );
}
