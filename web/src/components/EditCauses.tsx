import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ok } from "../api/client";
import { Problem } from "./Problem";

/** The coach's own list of causes, one a line; the order is theirs too. */
export function EditCauses({ all, close }: { all: string[]; close: () => void }) {
  const queries = useQueryClient();
  const [text, setText] = useState(all.join("\n"));
  const save = useMutation({
    mutationFn: () => ok(api.PUT("/api/causes", { body: { causes: text.split("\n") } })),
    onSuccess: (kept) => {
      queries.setQueryData(["causes"], kept);
      void queries.invalidateQueries({ queryKey: ["review"] });
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
        <span className="mb-1 block font-semibold">Causes to choose from, one per line</span>
        <span className="mb-1 block text-slate">This list is used for all your matches. On the desk the first nine have a digit.</span>
        <textarea className="field" rows={9} value={text} onChange={(event) => setText(event.target.value)} />
      </label>
      <span className="flex gap-5">
        <button type="submit" className="act py-1!">
          Save the list
        </button>
        <button type="button" className="quiet" onClick={close}>
          Cancel
        </button>
      </span>
      <Problem error={save.error} />
    </form>
  );
}
