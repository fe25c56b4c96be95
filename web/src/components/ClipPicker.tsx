import { useQuery } from "@tanstack/react-query";
import { useId } from "react";
import { api, type Clip, type Job, ok } from "../api/client";
import { Bar, JobWork, underWay } from "./JobWork";
import { Problem } from "./Problem";
import { clock, lengthOf } from "./words";
import { type Upload, useUpload } from "./upload";

const LOOK_EVERY_MS = 1000;

/** Choose one of the coach's clips, or upload one. */
export function ClipPicker({ clip, choose, dark = false }: { clip: string | null; choose: (clip: Clip | null) => void; dark?: boolean }) {
  const clips = useQuery({
    queryKey: ["clips"],
    queryFn: () => ok(api.GET("/api/clips")),
    refetchInterval: (query) => (query.state.data?.some((one) => underWay(one.job)) ? LOOK_EVERY_MS : false),
  });
  const { upload, send, cancel } = useUpload(choose);
  const input = useId();
  const busy = upload.state === "sending" || upload.state === "looking";
  return (
    <div className="flex flex-col gap-3">
      <div className="flex flex-wrap items-center gap-4">
        <label htmlFor={input} className={`act ${busy ? "pointer-events-none opacity-50" : ""}`}>
          Upload a clip
        </label>
        <input
          id={input}
          type="file"
          className="sr-only"
          accept="video/*,.mkv,.mts,.m2ts"
          disabled={busy}
          onChange={(event) => {
            const file = event.target.files?.[0];
            event.target.value = "";
            if (file) void send(file);
          }}
        />
        <span className={dark ? "text-fog" : "text-slate"}>
          Any phone or camera video up to 4 GB. Who can see it is shown at the desk, under “People”.
        </span>
      </div>
      {busy && <Uploading upload={upload} cancel={cancel} dark={dark} />}
      {upload.state === "failed" && <Problem error={upload.error} dark={dark} />}
      {clips.data && clips.data.length > 0 && <StoredClips clips={clips.data} clip={clip} choose={choose} dark={dark} />}
      {clips.data
        ?.filter((one) => one.id === clip || (!isFilmed(one) && (underWay(one.job) || one.job?.state === "failed")))
        .map((one) => (
          <ClipWork key={one.id} clip={one} dark={dark} />
        ))}
    </div>
  );
}

/** How far an upload is, with a way to stop it. */
function Uploading({ upload, cancel, dark }: { upload: Extract<Upload, { name: string }>; cancel: () => void; dark: boolean }) {
  return (
    <div className="flex items-center gap-3">
      <Bar share={upload.state === "sending" ? upload.share : 1} name={`Uploading ${upload.name}`} dark={dark} />
      <span className="w-56">
        {upload.state === "looking"
          ? "Checking the clip…"
          : upload.waiting
            ? "Connection lost; resuming where it stopped"
            : `${Math.floor(upload.share * 100)}% of ${upload.name}`}
      </span>
      <button type="button" className="quiet" onClick={cancel}>
        Cancel
      </button>
    </div>
  );
}

/** The coach's clips, to take one of them. */
function StoredClips({
  clips,
  clip,
  choose,
  dark,
}: {
  clips: Clip[];
  clip: string | null;
  choose: (clip: Clip | null) => void;
  dark: boolean;
}) {
  return (
    <label className="flex flex-wrap items-center gap-3">
      <span>or use one already uploaded</span>
      <select
        className={dark ? "desk-field" : "field w-auto!"}
        value={clip ?? ""}
        onChange={(event) => choose(clips.find((one) => one.id === event.target.value) ?? null)}
      >
        <option value="">no clip</option>
        {clips.map((one) => (
          <option key={one.id} value={one.id}>
            {one.name} ({clock(lengthOf(one))})
          </option>
        ))}
      </select>
    </label>
  );
}

/** What the worker does with a clip: how far it is, with cancel and another try. */
export function ClipWork({ clip, dark = false }: { clip: Clip; dark?: boolean }) {
  const { job, name } = clip;
  if (!job || job.state === "done") return null;
  return (
    <div className="flex flex-wrap items-center gap-3" data-testid="clip-work">
      <JobWork
        job={job}
        doing={`${isFilmed(clip) ? "Filming" : "Preparing"} ${name}`}
        said={standing(clip, job)}
        shown={[["clips"], ["clip", clip.id]]}
        dark={dark}
      />
    </div>
  );
}

/** The kind of job that the simulated camera does. */
export const FILMING = "film a clip";

/** Whether the simulated camera is to film the clip. */
export function isFilmed(clip: Clip): boolean {
  return clip.job?.kind === FILMING;
}

function standing(clip: Clip, job: Job): string {
  const { name, state } = clip;
  const doing = isFilmed(clip) ? "Filming" : "Preparing";
  const usable = state === "ready" ? " You can play it already; seeking is slower for now." : "";
  switch (job.state) {
    case "waiting":
      return `${name} is queued.${usable}`;
    case "working":
      return `${doing} ${name}: ${Math.floor(job.progress * 100)}%.${usable}`;
    case "cancelled":
      return `${doing} ${name} was cancelled.`;
    case "failed":
      return `${name} could not be made: ${job.trouble}.`;
    case "done":
      return "";
  }
}
