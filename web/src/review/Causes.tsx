import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ok, type Review, type ReviewError } from "../api/client";
import { Problem } from "../components/Problem";

/** Why it happened: causes of the coach's own list, the likely ones first. */
export function Causes({ error, all, set, match }: { error: ReviewError; all: string[]; set: (causes: string[]) => void; match: string }) {
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
      {editing && <EditList all={all} match={match} close={() => setEditing(false)} />}
    </div>
  );
}

function EditList({ all, match, close }: { all: string[]; match: string; close: () => void }) {
  const queries = useQueryClient();
  const [text, setText] = useState(all.join("\n"));
  const save = useMutation({
    mutationFn: () => ok(api.PUT("/api/causes", { body: { causes: text.split("\n") } })),
    onSuccess: ({ causes }) => {
      queries.setQueryData<Review>(["review", match], (before) => before && { ...before, causes });
      close();
    },
  });
  return (
    <form
      className="mt-2 flex flex-col items-start gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate();
      }}
    >
      <label className="w-full max-w-sm">
        <span className="mb-1 block font-semibold">Causes to choose from, one a line; the list is yours for all matches</span>
        <textarea className="field" rows={6} value={text} onChange={(event) => setText(event.target.value)} />
      </label>
      <span className="flex gap-5">
        <button type="submit" className="act py-1!">
          Keep the list
        </button>
        <button type="button" className="quiet" onClick={close}>
          Leave it
        </button>
      </span>
      <Problem error={save.error} />
    </form>
  );
}
