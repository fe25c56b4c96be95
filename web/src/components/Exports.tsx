import type { Deletion, Export } from "../api/client";
import { JobWork, underWay } from "./JobWork";
import { dayOf, percent, sizeOf } from "./words";

/** How often an export that is being written is looked at. */
const LOOK_EVERY_MS = 1000;

/** Looks again as long as the worker is at something of what is shown. */
export function whileUnderWay(works: { job: Export["job"] }[] | undefined): number | false {
  return works?.some((one) => underWay(one.job)) ? LOOK_EVERY_MS : false;
}

/** The exports that were asked for: how far each is, and where to download it. */
export function Exports({ exports, shown }: { exports: Export[]; shown: string[][] }) {
  return (
    <ul>
      {exports.map((one) => (
        <li key={one.id} className="flex flex-wrap items-center gap-x-4 border-b border-rule py-2">
          {one.size === null ? (
            one.job && <JobWork job={one.job} doing="Export" said={said(one.job)} shown={shown} />
          ) : (
            <>
              <a className="quiet" href={`/api/exports/${one.id}/file`} download>
                Download
              </a>
              <span className="text-slate">
                {sizeOf(one.size)}, until {dayOf(one.until)}
              </span>
            </>
          )}
        </li>
      ))}
    </ul>
  );
}

function said(job: NonNullable<Export["job"]>): string {
  if (job.state === "failed") return job.trouble;
  if (job.state === "cancelled") return "cancelled";
  return job.state === "waiting" ? "waiting for the worker" : `being written, ${percent(job.progress)}`;
}

/** That something will be deleted, by whom and when; with a way to stop it. */
export function WillBeDeleted({ what, deletion, stop, busy }: { what: string; deletion: Deletion; stop: () => void; busy: boolean }) {
  return (
    <p className="border-l-4 border-alarm pl-3">
      {what} will be deleted on {dayOf(deletion.due)}, as {deletion.asked_by} asked on {dayOf(deletion.asked)}.{" "}
      <button type="button" className="quiet" disabled={busy} onClick={stop}>
        Stop the deletion
      </button>
    </p>
  );
}
