import { useState } from "react";
import { Link } from "react-router";
import type { Review, Spread } from "../api/client";
import { clock } from "../components/words";
import { ChainItem } from "./ChainItem";
import { ErrorForm } from "./ErrorForm";
import { Offers } from "./Offers";
import { useGoingThrough } from "./useGoingThrough";
import { chainsOf, useRemark } from "./useReview";

const NOTHING = "The log shows no errors by your athlete.";

export interface Showing {
  review: Review;
  spread: Spread | undefined;
  /** Go to a time of the footage; with an end, play up to there. */
  show: (t: number, end?: number) => void;
  /** The key of the error whose details are open. */
  chosen: string | null;
  choose: (key: string | null) => void;
  /** Whether there is footage to play. */
  clip: boolean;
}

/** What cost the match: first the few chains that mattered most, and the others on request. */
export function ErrorList({ t, ...showing }: Showing & { t: number }) {
  const { review, chosen, choose } = showing;
  const [adding, setAdding] = useState(false);
  const [asked, setAsked] = useState(false);
  const chains = chainsOf(review);
  const later = chains.slice(review.first);
  // Whatever is chosen elsewhere, on the chart say, is shown.
  const all = asked || later.some((chain) => [chain.root, ...chain.later].some((error) => error.key === chosen));
  const shown = all ? chains : chains.slice(0, review.first);
  const going = useGoingThrough({ ...showing, chains: shown, toggleAll: () => setAsked(!all) });
  return (
    <div>
      <h2 className="flex flex-wrap items-baseline justify-between gap-x-4 border-b-2 border-rule pb-1 font-serif text-xl font-semibold">
        What mattered
        {chains.length > 0 && <Keys />}
      </h2>
      {chains.length === 0 && <p className="py-3 text-slate">{NOTHING}</p>}
      <ol>
        {shown.map((chain, index) => (
          <ChainItem key={chain.root.key} {...showing} chain={chain} number={index + 1} going={going} />
        ))}
      </ol>
      <p aria-live="polite" className="flex min-h-7 flex-wrap items-baseline gap-x-5 border-t-2 border-rule pt-2">
        {going.said && <b>{going.said}</b>}
        {going.canUndo && (
          <button type="button" className="quiet" onClick={going.undo}>
            Undo <span className="key">z</span>
          </button>
        )}
        {later.length > 0 && (
          <button type="button" className="quiet" onClick={() => setAsked(!all)} aria-expanded={all}>
            {all ? "Show only what mattered most" : `Show ${later.length} more`} <span className="key">m</span>
          </button>
        )}
        <button type="button" className="quiet" onClick={() => setAdding(!adding)}>
          Add an error you saw
        </button>
        <Link className="quiet" to="/review-settings">
          What the review looks for
        </Link>
      </p>
      {adding && <ErrorForm match={review.match.id} t={Math.round(t * 10) / 10} close={() => setAdding(false)} />}
      <Offers offers={review.offers} />
      <Dismissed review={review} choose={choose} />
    </div>
  );
}

const KEYS = [
  ["j k", "down, up"],
  ["p", "play"],
  ["e", "details"],
  ["a", "accept"],
  ["x", "dismiss"],
] as const;

/** The keys of the list, in one line. */
function Keys() {
  return (
    <span aria-hidden className="hidden gap-x-3 font-sans text-[14px] font-normal text-slate sm:flex">
      {KEYS.map(([key, does]) => (
        <span key={key}>
          <span className="key">{key}</span> {does}
        </span>
      ))}
    </span>
  );
}

function Dismissed({ review, choose }: { review: Review; choose: (key: string | null) => void }) {
  const remark = useRemark(review.match.id);
  const errors = review.found.filter((error) => error.standing === "dismissed");
  if (errors.length === 0) return null;
  const restore = (key: string) => remark.mutate({ key, said: { standing: "open" } }, { onSuccess: () => choose(key) });
  return (
    <details className="border-t-2 border-rule py-3">
      <summary className="text-slate">{errors.length} dismissed</summary>
      <ul>
        {errors.map((error) => (
          <li key={error.key} className="flex flex-wrap items-baseline gap-x-4 py-1 pl-4">
            <span className="text-slate">{clock(error.since_clock)}</span> {error.title}
            <button type="button" className="quiet" onClick={() => restore(error.key)}>
              Restore
            </button>
          </li>
        ))}
      </ul>
    </details>
  );
}
