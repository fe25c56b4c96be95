import { useQuery } from "@tanstack/react-query";
import { Progress } from "radix-ui";
import { useId } from "react";
import { api, type Clip, ok } from "../api/client";
import { Problem } from "../components/Problem";
import { clock } from "../components/words";
import { useUpload } from "./upload";

/** Choose one of the coach's clips, or upload one. */
export function ClipPicker({ clip, choose, dark = false }: { clip: string | null; choose: (clip: Clip | null) => void; dark?: boolean }) {
  const clips = useQuery({ queryKey: ["clips"], queryFn: () => ok(api.GET("/api/clips")) });
  const { upload, send, cancel } = useUpload(choose);
  const input = useId();
  const busy = upload.state === "sending" || upload.state === "looking";
  return (
    <div className="flex flex-col gap-3">
      <div className="flex flex-wrap items-center gap-4">
        <label htmlFor={input} className={`act ${busy ? "pointer-events-none opacity-50" : ""}`}>Upload a clip</label>
        <input id={input} type="file" className="sr-only" accept="video/mp4,video/quicktime,video/webm,.mp4,.m4v,.mov,.webm" disabled={busy}
          onChange={(event) => {
            const file = event.target.files?.[0];
            event.target.value = "";
            if (file) void send(file);
          }} />
        <span className={dark ? "text-fog" : "text-slate"}>MP4, MOV or WebM, up to 4 GB. Only you can see it.</span>
      </div>
      {busy && (
        <div className="flex items-center gap-3">
          <Progress.Root value={upload.state === "sending" ? Math.round(upload.share * 100) : 100} aria-label={`Uploading ${upload.name}`}
            className={`h-2.5 flex-1 overflow-hidden ${dark ? "bg-rail" : "bg-rule"}`}>
            <Progress.Indicator className="h-full bg-amber" style={{ width: `${upload.state === "sending" ? upload.share * 100 : 100}%` }} />
          </Progress.Root>
          <span className="w-44">{upload.state === "sending" ? `${Math.floor(upload.share * 100)} % of ${upload.name}` : "Looking into the clip…"}</span>
          <button type="button" className="quiet" onClick={cancel}>Cancel</button>
        </div>
      )}
      {upload.state === "failed" && <Problem error={upload.error} dark={dark} />}
      {clips.data && clips.data.length > 0 && (
        <label className="flex flex-wrap items-center gap-3">
          <span>or take one that is here</span>
          <select className={dark ? "desk-field" : "field w-auto!"} value={clip ?? ""}
            onChange={(event) => choose(clips.data.find((one) => one.id === event.target.value) ?? null)}>
            <option value="">no clip</option>
            {clips.data.map((one) => <option key={one.id} value={one.id}>{one.name} ({clock((one.duration_ms ?? 0) / 1000)})</option>)}
          </select>
        </label>
      )}
    </div>
  );
}
