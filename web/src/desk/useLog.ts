import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import type { Desk, Observation } from "../api/client";
import { type Change, SaveQueue, useQueue } from "./saveQueue";

export type Keyed = Observation & { id: string };

interface Step {
  back: Change;
  again: Change;
}

function keyOf(observation: Observation): string {
  return String(observation.id ?? "");
}

/** The log as the coach sees it: what is stored, with what is still on its way laid over it. */
export function useLog(desk: Desk) {
  const queries = useQueryClient();
  const match = desk.match.id;
  const queue = useMemo(
    () =>
      new SaveQueue(match, (scored) => {
        queries.setQueryData<Desk>(["match", match], (now) => now && { ...now, ...scored });
      }),
    [match, queries],
  );
  const { waiting, save, refused } = useQueue(queue);
  const [steps, setSteps] = useState<{ done: Step[]; undone: Step[] }>({ done: [], undone: [] });

  const observations = useMemo(() => laid(desk.observations, waiting), [desk.observations, waiting]);
  const latest = useRef(observations);
  useEffect(() => {
    latest.current = observations;
  }, [observations]);

  useEffect(() => {
    if (waiting.length === 0) return undefined;
    const warn = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener("beforeunload", warn);
    return () => window.removeEventListener("beforeunload", warn);
  }, [waiting.length]);

  const change = useCallback(
    (again: Change) => {
      const before = latest.current.find((one) => one.id === again.key) ?? null;
      queue.push(again);
      setSteps(({ done }) => ({ done: [...done, { again, back: { key: again.key, body: before } }], undone: [] }));
    },
    [queue],
  );
  const add = useCallback(
    (body: Observation) => {
      const key = crypto.randomUUID();
      change({ key, body: { ...body, id: key } });
      return key;
    },
    [change],
  );
  const put = useCallback((body: Keyed) => change({ key: body.id, body }), [change]);
  const remove = useCallback((key: string) => change({ key, body: null }), [change]);
  const undo = useCallback(() => {
    const step = steps.done.at(-1);
    if (!step) return;
    queue.push(step.back);
    setSteps({ done: steps.done.slice(0, -1), undone: [...steps.undone, step] });
  }, [queue, steps]);
  const redo = useCallback(() => {
    const step = steps.undone.at(-1);
    if (!step) return;
    queue.push(step.again);
    setSteps({ done: [...steps.done, step], undone: steps.undone.slice(0, -1) });
  }, [queue, steps]);

  const pending = useMemo(() => new Set(waiting.map((one) => one.key)), [waiting]);
  return {
    observations, pending, save, refused, add, put, remove, undo, redo,
    canUndo: steps.done.length > 0,
    canRedo: steps.undone.length > 0,
    retry: queue.retry,
    dismiss: () => queue.dismiss(),
  };
}

export type Log = ReturnType<typeof useLog>;

/** Stored observations with waiting changes laid over them, in order of time. */
function laid(stored: Observation[], waiting: readonly Change[]): Keyed[] {
  const rows = new Map<string, Keyed>();
  for (const one of stored) rows.set(keyOf(one), { ...one, id: keyOf(one) });
  for (const { key, body } of waiting) {
    if (body === null) rows.delete(key);
    else rows.set(key, { ...body, id: key });
  }
  return [...rows.values()].sort((one, other) => one.t - other.t);
}
