import { useQueries } from "@tanstack/react-query";
import { useEffect } from "react";
import { api, type Clip, ok, type Part } from "../api/client";
import { lengthOf } from "../components/words";
import { underWay } from "../components/JobWork";
import { type Playhead, type Stretch, usePlayhead } from "./playhead";

const CLIP_EVERY_MS = 1000;
const NO_CLIP_FPS = 25;

export function stretchesOf(parts: Part[]): Stretch[] {
  return parts.map(({ clip, start, opens, closes }) => ({
    clip: clip.id,
    start,
    opens,
    closes: closes ?? lengthOf(clip),
    fps: clip.fps ?? NO_CLIP_FPS,
  }));
}

/** The clip under the playhead as it stands now, asked for again as long as the worker has it; and the frames of all. */
export function useParts(parts: Part[], playhead: Playhead): Clip | null {
  const clips = useQueries({
    queries: parts.map(({ clip }) => ({
      queryKey: ["clip", clip.id],
      queryFn: () => ok(api.GET("/api/clips/{clip}", { params: { path: { clip: clip.id } } })),
      initialData: clip,
      staleTime: Infinity,
      refetchInterval: (query: { state: { data: Clip | undefined } }) =>
        underWay(query.state.data?.job) ? CLIP_EVERY_MS : (false as const),
    })),
  });
  const frames = useQueries({
    queries: parts.map(({ clip }, index) => ({
      queryKey: ["frames", clip.id],
      queryFn: () => ok(api.GET("/api/clips/{clip}/frames", { params: { path: { clip: clip.id } } })),
      enabled: clips[index]?.data.state === "ready",
      staleTime: Infinity,
    })),
  });
  const known = frames.map((one) => one.data);
  useEffect(() => {
    known.forEach((found, index) => found && playhead.setFrames(index, found.times));
    // Only when the frames of another clip have become known.
    // oxlint-disable-next-line react/exhaustive-deps
  }, [playhead, known.filter(Boolean).length]);
  const current = usePlayhead(playhead, (one) => one.current);
  return clips[current]?.data ?? null;
}
