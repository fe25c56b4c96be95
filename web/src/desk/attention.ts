import { useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useState } from "react";
import { api, ok } from "../api/client";

const LET_BE = "jurata-let-be";
const SETTLED_MS = 600;

/** What may want another look: prompts, the clock against the scoreboard, the officials' calls. */
export function useAttention(match: string, revision: number) {
  // What is being typed comes first: this waits for a breath between two keys.
  const [settled, setSettled] = useState(revision);
  useEffect(() => {
    const timer = window.setTimeout(() => setSettled(revision), SETTLED_MS);
    return () => window.clearTimeout(timer);
  }, [revision]);
  return useQuery({
    queryKey: ["attention", match, settled],
    queryFn: () => ok(api.GET("/api/matches/{match}/attention", { params: { path: { match } } })),
    placeholderData: (before) => before,
    staleTime: Infinity,
  }).data;
}

/** Prompts that a coach has let be stay away on this machine. */
export function useLetBe(match: string): { letBe: ReadonlySet<string>; dismiss: (key: string) => void } {
  const name = `${LET_BE}:${match}`;
  const [letBe, set] = useState<ReadonlySet<string>>(() => new Set(JSON.parse(localStorage.getItem(name) ?? "[]") as string[]));
  const dismiss = useCallback(
    (key: string) =>
      set((now) => {
        const next = new Set([...now, key]);
        localStorage.setItem(name, JSON.stringify([...next]));
        return next;
      }),
    [name],
  );
  return { letBe, dismiss };
}
