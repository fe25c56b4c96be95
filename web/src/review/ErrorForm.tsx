import { type FormEvent, useState } from "react";
import type { ReviewError } from "../api/client";
import { Problem } from "../components/Problem";
import { useRemark } from "./useReview";

/** An error in the coach's words; without one, an error that no rule has found, from the moment that is shown. */
export function ErrorForm({ match, error, t, close }: { match: string; error?: ReviewError; t?: number; close: () => void }) {
  const remark = useRemark(match);
  const [title, setTitle] = useState(error?.title ?? "");
  const [because, setBecause] = useState(error?.because ?? "");
  const [instead, setInstead] = useState(error?.instead ?? "");
  const own = !error || error.own;
  const [since, setSince] = useState(String(error?.since ?? t ?? 0));
  const [until, setUntil] = useState(String(error?.t ?? t ?? 0));
  const [points, setPoints] = useState(String(error?.loss.points ?? 0));
  const [advantages, setAdvantages] = useState(String(error?.loss.advantages ?? 0));
  const save = (event: FormEvent) => {
    event.preventDefault();
    const times = own ? { since: Number(since), t: Number(until), points: Number(points), advantages: Number(advantages) } : {};
    const key = error?.key ?? `own-${crypto.randomUUID()}`;
    remark.mutate({ key, said: { title, because, instead, ...times } }, { onSuccess: close });
  };
  return (
    <form onSubmit={save} className="my-3 grid gap-3 border-l-4 border-rule pl-4">
      <label>
        <span className="mb-1 block font-semibold">What happened, in a few words</span>
        <input className="field" maxLength={120} value={title} onChange={(event) => setTitle(event.target.value)} />
      </label>
      <label>
        <span className="mb-1 block font-semibold">How</span>
        <textarea className="field" rows={2} maxLength={600} value={because} onChange={(event) => setBecause(event.target.value)} />
      </label>
      <label>
        <span className="mb-1 block font-semibold">What to do instead, and what to drill</span>
        <textarea className="field" rows={2} maxLength={600} value={instead} onChange={(event) => setInstead(event.target.value)} />
      </label>
      {own && (
        <div className="flex flex-wrap gap-4">
          <Short name="Started at (seconds of footage)" value={since} set={setSince} step="0.1" />
          <Short name="Decided at" value={until} set={setUntil} step="0.1" />
          <Short name="Points lost" value={points} set={setPoints} step="1" />
          <Short name="Advantages lost" value={advantages} set={setAdvantages} step="1" />
        </div>
      )}
      <span className="flex gap-5">
        <button type="submit" className="act py-1!" disabled={remark.isPending}>
          Save
        </button>
        <button type="button" className="quiet" onClick={close}>
          Cancel
        </button>
      </span>
      <Problem error={remark.error} />
    </form>
  );
}

function Short({ name, value, set, step }: { name: string; value: string; set: (value: string) => void; step: string }) {
  return (
    <label className="w-40">
      <span className="mb-1 block text-[15px]">{name}</span>
      <input type="number" min={0} step={step} className="field" value={value} onChange={(event) => set(event.target.value)} />
    </label>
  );
}
