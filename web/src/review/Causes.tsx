import { useState } from "react";
import type { ReviewError } from "../api/client";
import { EditCauses } from "../components/EditCauses";

/** Why it happened: causes of the coach's own list, the likely ones first. */
export function Causes({ error, all, set }: { error: ReviewError; all: string[]; set: (causes: string[]) => void }) {
  const [editing, setEditing] = useState(false);
  const likely = error.likely_causes.filter((cause) => all.includes(cause));
  const offered = [...new Set([...likely, ...error.causes, ...all])];
  const toggle = (cause: string) =>
    set(error.causes.includes(cause) ? error.causes.filter((one) => one !== cause) : [...error.causes, cause]);
  return (
    <div className="mt-2">
      <p className="flex flex-wrap items-baseline gap-x-1.5 gap-y-1.5">
        <span className="pr-1">Cause</span>
        {offered.map((cause) => {
          const on = error.causes.includes(cause);
          return (
            <button
              key={cause}
              type="button"
              aria-pressed={on}
              onClick={() => toggle(cause)}
              className={`border px-1.5 text-[15px] leading-6 ${on ? "border-amber-deep bg-amber-pale font-semibold" : likely.includes(cause) ? "border-amber-deep border-dashed" : "border-rule text-slate"}`}
            >
              {cause}
            </button>
          );
        })}
        <button type="button" className="quiet text-[15px]" onClick={() => setEditing(!editing)}>
          Change the list
        </button>
      </p>
      {editing && <EditCauses all={all} close={() => setEditing(false)} />}
    </div>
  );
}
