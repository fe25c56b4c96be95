import { useState } from "react";
import type { Prospects, Review } from "../api/client";
import { clock } from "../components/words";
import { Costs } from "./Costs";
import { ErrorForm } from "./ErrorForm";
import { ErrorItem } from "./ErrorItem";
import { type Chain, chainsOf, useRemark } from "./useReview";

/** What cost the match: chains from their roots, what would have changed most first. */
export function ErrorList({
  review,
  prospects,
  t,
  show,
  chosen,
  choose,
  clip,
}: {
  review: Review;
  prospects: Prospects | undefined;
  t: number;
  show: (t: number, end?: number) => void;
  chosen: string | null;
  choose: (key: string | null) => void;
  clip: boolean;
}) {
  const [adding, setAdding] = useState(false);
  const remark = useRemark(review.match.id);
  const chains = chainsOf(review, prospects);
  const dismissed = review.found.filter((error) => error.standing === "dismissed");
  const item = { review, prospects, show, choose, clip };
  return (
    <div>
      <p className="flex flex-wrap items-baseline justify-between gap-4 pb-2 text-slate">
        <span>
          {chains.length === 0
            ? "Nothing went against the athlete, as far as the log shows."
            : prospects
              ? "Sorted by what would have changed most at the root."
              : "Reckoning what would have changed most…"}
        </span>
        <button type="button" className="quiet text-ink" onClick={() => setAdding(!adding)}>
          Add an error you saw
        </button>
      </p>
      {adding && <ErrorForm match={review.match.id} t={Math.round(t * 10) / 10} close={() => setAdding(false)} />}
      <ol>
        {chains.map((chain) => (
          <li key={chain.root.key} className="border-t-2 border-rule py-2.5">
            <ErrorItem {...item} error={chain.root} chosen={chosen === chain.root.key} root />
            {chain.later.length > 0 && <Later chain={chain} item={item} chosen={chosen} />}
          </li>
        ))}
      </ol>
      {dismissed.length > 0 && <Dismissed errors={dismissed} takeBack={(key) => remark.mutate({ key, said: { standing: "open" } })} />}
      <p className="border-t-2 border-rule pt-3 text-slate">
        This is scored from footage. The event&rsquo;s own rulebook and its referees decide; a technique marked illegal is one to leave
        alone in training too, and an injury belongs before the event&rsquo;s medical staff.
      </p>
    </div>
  );
}

function Dismissed({ errors, takeBack }: { errors: Review["found"]; takeBack: (key: string) => void }) {
  return (
    <details className="border-t-2 border-rule py-3">
      <summary className="text-slate">{errors.length} dismissed</summary>
      <ul>
        {errors.map((error) => (
          <li key={error.key} className="flex flex-wrap items-baseline gap-x-4 py-1 pl-4">
            <span className="text-slate">{clock(error.since_clock)}</span> {error.title}
            <button type="button" className="quiet" onClick={() => takeBack(error.key)}>
              Take it back in
            </button>
          </li>
        ))}
      </ul>
    </details>
  );
}

/** What came from a root, and what all of it cost together. */
function Later({
  chain,
  item,
  chosen,
}: {
  chain: Chain;
  item: Omit<Parameters<typeof ErrorItem>[0], "error" | "chosen" | "root">;
  chosen: string | null;
}) {
  return (
    <div className="ml-[26px] border-l-[3px] border-amber pl-3">
      <p className="pl-4 text-[15px] text-slate">which led to</p>
      {chain.later.map((error) => (
        <ErrorItem key={error.key} {...item} error={error} chosen={chosen === error.key} root={false} />
      ))}
      <div className="pl-4">
        <Costs sheet={`${chain.cost} in all`} otherwise={chain.otherwise} swing={chain.lost === null ? null : { lost: chain.lost }} />
      </div>
    </div>
  );
}
