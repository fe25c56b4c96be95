import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, type KindOfError, ok } from "../api/client";
import { PaperPage } from "../components/PaperPage";
import { Problem } from "../components/Problem";
import { useSetKind } from "./useReview";

/** What each limit of a kind means, by its name. */
const LIMITS: Record<string, string> = {
  least: "only from",
  within: "within",
  last: "in the last",
  after: "and nothing better in the next",
  attack: "naming an attack of the last",
};

/** What the review looks for, for all matches: each kind on or off, with its limits. */
export function KindsPage() {
  const kinds = useQuery({ queryKey: ["kinds"], queryFn: () => ok(api.GET("/api/kinds")) });
  return (
    <PaperPage title="What the review looks for">
      <p className="max-w-prose pb-4 text-slate">
        These settings are yours and hold for all your matches. What you turn off is no longer shown in a review; what you have accepted
        already stays. The counts say what you have made of each kind so far.
      </p>
      {kinds.isPending && <p className="text-slate">Loading…</p>}
      <Problem error={kinds.error} />
      <ul>
        {kinds.data?.map((kind) => (
          <KindRow key={kind.kind} kind={kind} />
        ))}
      </ul>
    </PaperPage>
  );
}

function KindRow({ kind }: { kind: KindOfError }) {
  const set = useSetKind();
  const off = (set.isPending ? set.variables.setting.off : undefined) ?? kind.off;
  const change = (name: string, seconds: number) => {
    const limits = Object.fromEntries(kind.limits.map((limit) => [limit.name, limit.name === name ? seconds : limit.seconds]));
    set.mutate({ kind: kind.kind, setting: { limits } });
  };
  return (
    <li className={`grid items-baseline gap-x-6 border-b border-rule py-2 sm:grid-cols-[20rem_1fr_auto] ${off ? "text-slate" : ""}`}>
      <label className="flex items-baseline gap-3">
        <input
          type="checkbox"
          className="h-4 w-4 translate-y-0.5 accent-amber-deep"
          checked={!off}
          onChange={(event) => set.mutate({ kind: kind.kind, setting: { off: !event.target.checked } })}
        />
        <b className="font-semibold">{kind.name}</b>
      </label>
      <span className="flex flex-wrap gap-x-5 gap-y-1">
        {kind.limits.map((limit) => (
          <Limit key={`${limit.name} ${limit.seconds}`} limit={limit} disabled={off} change={(seconds) => change(limit.name, seconds)} />
        ))}
      </span>
      <span className="text-[15px] text-slate">
        {kind.accepted + kind.dismissed > 0 && `accepted ${kind.accepted}, dismissed ${kind.dismissed}`}
      </span>
      <div className="sm:col-span-3">
        <Problem error={set.error} />
      </div>
    </li>
  );
}

/** One limit in seconds; it is saved when the field is left. */
function Limit({
  limit,
  disabled,
  change,
}: {
  limit: KindOfError["limits"][number];
  disabled: boolean;
  change: (seconds: number) => void;
}) {
  const [seconds, setSeconds] = useState(String(limit.seconds));
  const save = () => {
    if (seconds !== "" && Number(seconds) !== limit.seconds) change(Number(seconds));
  };
  return (
    <label className="flex items-baseline gap-2">
      <span>{LIMITS[limit.name] ?? limit.name}</span>
      <input
        type="number"
        min={1}
        max={600}
        step={1}
        disabled={disabled}
        className="field w-20! py-0!"
        value={seconds}
        onChange={(event) => setSeconds(event.target.value)}
        onBlur={save}
        onKeyDown={(event) => event.key === "Enter" && save()}
      />
      <span>s</span>
      {limit.seconds !== limit.usual && <span className="text-[15px] text-slate">usually {limit.usual} s</span>}
    </label>
  );
}
