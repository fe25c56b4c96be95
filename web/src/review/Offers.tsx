import type { Review } from "../api/client";
import { Problem } from "../components/Problem";
import { useSetKind } from "./useReview";

/** Kinds of errors that were dismissed again and again, offered to be turned down. */
export function Offers({ offers }: { offers: Review["offers"] }) {
  const set = useSetKind();
  return (
    <>
      {offers.map(({ kind, name, dismissed, decided, least }) => (
        <p key={kind} className="mt-3 flex flex-wrap items-baseline gap-x-4 gap-y-1 border-l-4 border-sea-deep bg-sheet px-3 py-2">
          <span>
            You have dismissed <b>{name}</b> {dismissed} of {decided} times.
          </span>
          {least !== null && (
            <button type="button" className="quiet" onClick={() => set.mutate({ kind, setting: { limits: { least } } })}>
              Show it only from {least} s on
            </button>
          )}
          <button type="button" className="quiet" onClick={() => set.mutate({ kind, setting: { off: true } })}>
            Turn it off
          </button>
          <button type="button" className="quiet" onClick={() => set.mutate({ kind, setting: { decline: true } })}>
            Keep it as it is
          </button>
        </p>
      ))}
      <Problem error={set.error} />
    </>
  );
}
