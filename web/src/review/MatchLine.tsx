import type { AuditLine, Exchange, Prospects, Review, ReviewError } from "../api/client";
import { exchangeAt } from "../components/timeline";
import { Spine } from "../components/Spine";
import { clock } from "../components/words";
import type { Keyed } from "../api/client";

/** The match on the spine: errors where they began and what they came from, calls against awards, and ways that close. */
export function MatchLine({
  review,
  prospects,
  audit,
  calls,
  t,
  show,
  choose,
}: {
  review: Review;
  prospects: Prospects | undefined;
  audit: AuditLine[];
  /** The officials' calls that were logged. */
  calls: Keyed[];
  t: number;
  show: (t: number, end?: number) => void;
  choose: (key: string) => void;
}) {
  const { verdict, match } = review;
  const errors = review.found.filter((error) => error.standing !== "dismissed");
  const closings = prospects?.closings ?? [];
  const extra = (exchange: Exchange, index: number) => {
    const last = index === verdict.exchanges.length - 1;
    const closing = closings.filter((one) => one.closes >= exchange.clock_start && (last || one.closes < exchange.clock_end));
    return (
      <>
        <BeganHere errors={errors.filter((error) => exchangeAt(verdict, error.since) === index)} all={errors} choose={choose} />
        <ClosedHere closings={closing} />
      </>
    );
  };
  return (
    <div>
      <p className="pb-3 text-slate">
        {match.athlete_name} to the left, {match.opponent} to the right; all times are the match clock. A red edge marks where an error
        began, with the error it came from.
      </p>
      <div>
        <Spine
          verdict={verdict}
          observations={calls}
          match={match}
          current={exchangeAt(verdict, t)}
          tone="paper"
          seek={show}
          openAll
          audit={audit}
          exchangeExtra={extra}
        />
      </div>
    </div>
  );
}

/** The errors that began in an exchange. */
function BeganHere({ errors, all, choose }: { errors: ReviewError[]; all: ReviewError[]; choose: (key: string) => void }) {
  if (errors.length === 0) return null;
  return (
    <ul className="relative mb-1 flex w-1/2 flex-col items-end pr-10">
      {errors.map((error) => (
        <li key={error.key} className="w-full">
          <button
            type="button"
            data-error={error.key}
            onClick={() => choose(error.key)}
            className="block w-full border-r-4 border-alarm bg-sheet px-2 py-0.5 text-right text-[15px] leading-snug hover:bg-amber-pale/40"
          >
            <span className="text-slate">{clock(error.since_clock)}</span> {error.title}
            {error.came_from && <CameFrom error={error} all={all} />}
          </button>
        </li>
      ))}
    </ul>
  );
}

/** The earlier error that one came from. */
function CameFrom({ error, all }: { error: ReviewError; all: ReviewError[] }) {
  const from = all.find((one) => one.key === error.came_from?.key);
  if (!from) return null;
  return (
    <span className="block text-[14px] text-slate">
      {error.came_from?.accepted ? "from" : "perhaps from"} {clock(from.since_clock)} {from.title}
    </span>
  );
}

/** What could still have won the match up to a moment of the exchange. */
function ClosedHere({ closings }: { closings: Prospects["closings"] }) {
  return closings.map((one) => (
    <p key={one.said} className="mb-1 ml-auto w-1/2 border-b border-dashed border-sea-deep pl-10 text-right text-[14px] text-sea-deep">
      <b>{clock(one.closes)}</b> last chance for: {one.said}
    </p>
  ));
}
