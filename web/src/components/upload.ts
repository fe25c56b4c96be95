import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { DetailedError, Upload as TusUpload } from "tus-js-client";
import { api, ApiError, type Clip, csrfToken, ok, refusal, UNREACHABLE } from "../api/client";

export type Upload =
  | { state: "idle" }
  | { state: "sending"; name: string; share: number; waiting: boolean }
  | { state: "looking"; name: string }
  | { state: "failed"; error: Error };

/** Seconds between tries after a cut, in milliseconds; the upload goes on where it stopped. */
const TRY_AGAIN = [500, 1_000, 2_000, 4_000, 8_000, 16_000, 30_000, 60_000];

const NO_ROOM = 507,
  TOO_MANY = 429;

/** Bytes sent in one request: what is in front of the server holds that much until it is whole. */
const PIECE = 16 * 1024 * 1024;

/** An upload that is under way: what stops it, and whether it was stopped. */
export interface Running {
  tus: TusUpload | null;
  clip: string | null;
  stopped: boolean;
}

/** The day a file was written, as a phone or camera keeps it: YYYY-MM-DD. */
function dayWritten(file: File): string {
  return new Date(file.lastModified - new Date().getTimezoneOffset() * 60_000).toISOString().slice(0, 10);
}

/**
 * Announce a clip and send it; the clip as the server found it, or null where it was stopped.
 * `report` gets the share that is sent, or null where it was cut off and is tried again.
 */
export async function sendClip(file: File, now: Running, report: (share: number | null) => void): Promise<Clip | null> {
  const announced = await ok(api.POST("/api/clips", { body: { name: file.name, size: file.size, filmed: dayWritten(file) } }));
  now.clip = announced.id;
  if (now.stopped) {
    void api.DELETE("/api/clips/{clip}", { params: { path: { clip: announced.id } } });
    return null;
  }
  await sent(announced.id, file, now, report);
  return ok(api.GET("/api/clips/{clip}", { params: { path: { clip: announced.id } } }));
}

/** Stop an upload and forget what has arrived of it. */
export function stopUpload(now: Running): void {
  now.stopped = true;
  void now.tus?.abort();
  if (now.clip) void api.DELETE("/api/clips/{clip}", { params: { path: { clip: now.clip } } });
}

/** Send a clip with progress, going on after a cut; the clip is handed over when the server has looked into it. */
export function useUpload(done: (clip: Clip) => void) {
  const [upload, setUpload] = useState<Upload>({ state: "idle" });
  const running = useRef<Running>({ tus: null, clip: null, stopped: false });
  const queries = useQueryClient();
  useEffect(() => () => void running.current.tus?.abort(), []);

  const send = useCallback(
    async (file: File) => {
      const now: Running = { tus: null, clip: null, stopped: false };
      running.current = now;
      setUpload({ state: "sending", name: file.name, share: 0, waiting: false });
      try {
        const clip = await sendClip(file, now, (share) =>
          setUpload((last) => {
            if (share === null) return last.state === "sending" ? { ...last, waiting: true } : last;
            return share < 1 ? { state: "sending", name: file.name, share, waiting: false } : { state: "looking", name: file.name };
          }),
        );
        if (!clip) return;
        void queries.invalidateQueries({ queryKey: ["clips"] });
        setUpload({ state: "idle" });
        done(clip);
      } catch (error) {
        if (!now.stopped) setUpload({ state: "failed", error: error instanceof Error ? error : new Error(String(error)) });
      }
    },
    [done, queries],
  );
  const cancel = useCallback(() => {
    stopUpload(running.current);
    setUpload({ state: "idle" });
  }, []);
  return { upload, send, cancel };
}

/** `report` gets the share that is sent, or null where it was cut off and is tried again. */
function sent(id: string, file: File, now: { tus: TusUpload | null }, report: (share: number | null) => void): Promise<void> {
  return new Promise((resolve, reject) => {
    const tus = new TusUpload(file, {
      uploadUrl: `/api/clips/${id}/upload`,
      chunkSize: PIECE,
      retryDelays: TRY_AGAIN,
      storeFingerprintForResuming: false,
      onBeforeRequest: (request) => request.setHeader("X-CSRFToken", csrfToken()),
      onProgress: (bytes, all) => report(bytes / Math.max(1, all)),
      onShouldRetry: (error) => {
        const status = error.originalResponse?.getStatus() ?? 0;
        const again = status === 0 || status === 409 || status === 423 || status === TOO_MANY || (status >= 500 && status !== NO_ROOM);
        if (again) report(null);
        return again;
      },
      onSuccess: () => resolve(),
      onError: (error) => reject(refused(error)),
    });
    now.tus = tus;
    tus.start();
  });
}

/** What the server said, out of what the upload's library reports. */
function refused(error: Error): Error {
  if (!(error instanceof DetailedError) || !error.originalResponse)
    return new ApiError(0, "cut_off", `The upload was cut off. ${UNREACHABLE}`);
  try {
    return refusal(error.originalResponse.getStatus(), JSON.parse(error.originalResponse.getBody()));
  } catch {
    return refusal(error.originalResponse.getStatus(), null);
  }
}
