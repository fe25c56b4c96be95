import { useMutation, useQueryClient } from "@tanstack/react-query";
import { Progress } from "radix-ui";
import type { ReactNode } from "react";
import { api, type Job, ok } from "../api/client";
import { Problem } from "./Problem";

/** Whether the worker still has a job. */
export function underWay(job: Job | null | undefined): boolean {
  return job?.state === "waiting" || job?.state === "working";
}

/** Cancel a job or ask for it again; `shown` are the queries that show it. */
function useJob(job: Job, shown: string[][]) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (what: "cancel" | "retry") => ok(api.POST("/api/jobs/{job}", { params: { path: { job: job.id } }, body: { do: what } })),
    onSettled: () => Promise.all(shown.map((queryKey) => queries.invalidateQueries({ queryKey }))),
  });
}

/** How far the worker is with something, with cancel and another try; nothing once it is done. */
export function JobWork({
  job,
  doing,
  said,
  shown,
  again = "Try again",
  dark = false,
}: {
  job: Job;
  /** What is done, as the name of the bar. */
  doing: string;
  /** How it stands, in words. */
  said: ReactNode;
  shown: string[][];
  /** What asks for it again; null where something else does. */
  again?: string | null;
  dark?: boolean;
}) {
  const act = useJob(job, shown);
  if (job.state === "done") return null;
  const busy = underWay(job);
  return (
    <>
      {busy && <Bar share={job.progress} name={doing} dark={dark} />}
      <span>{said}</span>
      {(busy || again) && (
        <button type="button" className="quiet" onClick={() => act.mutate(busy ? "cancel" : "retry")}>
          {busy ? "Cancel" : again}
        </button>
      )}
      <Problem error={act.error} dark={dark} />
    </>
  );
}

/** How much of something is done. */
export function Bar({ share, name, dark = false }: { share: number; name: string; dark?: boolean }) {
  return (
    <Progress.Root
      value={Math.round(share * 100)}
      aria-label={name}
      className={`h-2.5 min-w-20 flex-1 overflow-hidden ${dark ? "bg-rail" : "bg-rule"}`}
    >
      <Progress.Indicator className="h-full bg-amber" style={{ width: `${share * 100}%` }} />
    </Progress.Root>
  );
}
