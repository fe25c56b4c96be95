import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { api, ApiError, type Clip, csrfToken, ok, refusal, UNREACHABLE } from "../api/client";

export type Upload =
  | { state: "idle" }
  | { state: "sending"; name: string; share: number }
  | { state: "looking"; name: string }
  | { state: "failed"; error: Error };

/** Send a clip with progress; the clip is handed over when the server has looked into it. */
export function useUpload(done: (clip: Clip) => void) {
  const [upload, setUpload] = useState<Upload>({ state: "idle" });
  const request = useRef<XMLHttpRequest | null>(null);
  const stopped = useRef(false);
  const queries = useQueryClient();
  useEffect(() => () => request.current?.abort(), []);

  const send = useCallback(
    async (file: File) => {
      setUpload({ state: "sending", name: file.name, share: 0 });
      stopped.current = false;
      let started: string | null = null;
      try {
        const announced = await ok(api.POST("/api/clips", { body: { name: file.name, size: file.size } }));
        started = announced.id;
        if (stopped.current) throw new DOMException("cancelled", "AbortError");
        const clip = await put(announced.id, file, (xhr) => (request.current = xhr), (share) =>
          setUpload(share < 1 ? { state: "sending", name: file.name, share } : { state: "looking", name: file.name }),
        );
        void queries.invalidateQueries({ queryKey: ["clips"] });
        setUpload({ state: "idle" });
        done(clip);
      } catch (error) {
        if (error instanceof DOMException) {
          setUpload({ state: "idle" });
          if (started) void api.DELETE("/api/clips/{clip}", { params: { path: { clip: started } } });
        } else setUpload({ state: "failed", error: error instanceof Error ? error : new Error(String(error)) });
      } finally {
        request.current = null;
      }
    },
    [done, queries],
  );
  const cancel = useCallback(() => {
    stopped.current = true;
    request.current?.abort();
  }, []);
  return { upload, send, cancel };
}

function put(id: string, file: File, begun: (xhr: XMLHttpRequest) => void, told: (share: number) => void): Promise<Clip> {
  return new Promise((resolve, reject) => {
    const xhr = new XMLHttpRequest();
    begun(xhr);
    xhr.open("PUT", `/api/clips/${id}/content`);
    xhr.setRequestHeader("X-CSRFToken", csrfToken());
    xhr.setRequestHeader("Content-Type", "application/octet-stream");
    xhr.upload.onprogress = (event) => told(event.loaded / Math.max(1, event.total));
    xhr.onload = () => {
      const body: unknown = parsed(xhr.responseText);
      if (xhr.status === 200) resolve(body as Clip);
      else reject(refusal(xhr.status, body));
    };
    xhr.onerror = () => reject(new ApiError(0, "cut_off", `The upload was cut off. ${UNREACHABLE}`));
    xhr.onabort = () => reject(new DOMException("cancelled", "AbortError"));
    xhr.send(file);
  });
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}
