import { type QueryClient, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { api, type Changed, type Desk, type Observation, ok } from "../api/client";
import { changed } from "./changed";
import { keep, kept } from "./kept";
import { type Change, SaveQueue, useQueue } from "./saveQueue";

export type Keyed = Observation & { id: string };

/** A step of undo: the key, and what was there before and after it. */
interface Step {
  key: string;
  before: Observation | null;
  after: Observation | null;
  /** Whether it is a move along time that goes on. */
  sliding?: boolean;
}

/** What was logged, changed or deleted last. */
export interface Touched {
  seen: Observation;
  gone: boolean;
}

interface Steps {
  done: Step[];
  undone: Step[];
}

const STEPS = "steps";
const LOOK_EVERY_MS = 800;

function isKeyed(observation: Observation): observation is Keyed {
  return typeof observation.id === "string";
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
      new SaveQueue(match, {
        revision: () => queries.getQueryData<Desk>(["match", match])?.revision ?? 0,
        changed: (change) => take(queries, match, change),
        conflict: () => fetchAgain(queries, match),
      }),
    [match, queries],
  );
  const { waiting, save, refused } = useQueue(queue);
  useOtherHands(match, desk.revision, waiting.length === 0);

  const observations = useMemo(() => laid(desk.observations, waiting), [desk.observations, waiting]);
  /** The log at this very moment, also between a key and the drawing of what it did. */
  const live = useCallback(() => {
    const now = queries.getQueryData<Desk>(["match", match]);
    return { observations: laid(now?.observations ?? [], queue.read().waiting), revisions: now?.revisions ?? {} };
  }, [match, queries, queue]);

  const { steps, setSteps } = useSteps(match);
  const [touched, setTouched] = useState<Touched | null>(null);
  const send = useCallback(
    (key: string, body: Observation | null) => {
      const change: Change = { key, body, base: live().revisions[key] ?? 0 };
      queue.push(change);
    },
    [live, queue],
  );
  const change = useCallback(
    (key: string, after: Observation | null) => {
      const before = live().observations.find((one) => one.id === key) ?? null;
      send(key, after);
      setSteps(({ done }) => ({ done: [...done, { key, before, after }], undone: [] }));
      const seen = after ?? before;
      if (seen) setTouched({ seen, gone: after === null });
    },
    [live, send, setSteps],
  );
  const add = useCallback(
    (body: Observation) => {
      const key = crypto.randomUUID();
      change(key, { ...body, id: key });
      return key;
    },
    [change],
  );
  const put = useCallback((body: Keyed) => change(body.id, body), [change]);
  /** Put an observation that is being moved: many small moves in a row are one step of undo. */
  const slide = useCallback(
    (body: Keyed) => {
      const before = live().observations.find((one) => one.id === body.id) ?? null;
      send(body.id, body);
      setSteps(({ done }) => {
        const last = done.at(-1);
        const on = last && last.key === body.id && last.sliding === true;
        return { done: on ? [...done.slice(0, -1), { ...last, after: body }] : [...done, { key: body.id, before, after: body, sliding: true }], undone: [] };
      });
    },
    [live, send, setSteps],
  );
  const remove = useCallback((key: string) => change(key, null), [change]);
  const latest = useRef(steps);
  useEffect(() => {
    latest.current = steps;
  });
  const undo = useCallback(() => {
    const { done, undone } = latest.current;
    const step = done.at(-1);
    if (!step) return;
    send(step.key, step.before);
    setSteps({ done: done.slice(0, -1), undone: [...undone, step] });
  }, [send, setSteps]);
  const redo = useCallback(() => {
    const { done, undone } = latest.current;
    const step = undone.at(-1);
    if (!step) return;
    send(step.key, step.after);
    setSteps({ done: [...done, step], undone: undone.slice(0, -1) });
  }, [send, setSteps]);

  const pending = useMemo(() => new Set(waiting.map((one) => one.key)), [waiting]);
  const canUndo = steps.done.length > 0;
  const canRedo = steps.undone.length > 0;
  return useMemo(
    () => ({
      observations, live, pending, save, refused, touched, add, put, slide, remove, undo, redo, canUndo, canRedo,
      /** Put back a state of an observation: of the history, or one's own after a conflict. */
      restore: change,
      retry: queue.retry,
      dismiss: () => queue.dismiss(),
    }),
    [observations, live, pending, save, refused, touched, add, put, slide, remove, undo, redo, canUndo, canRedo, change, queue],
  );
}

export type Log = ReturnType<typeof useLog>;

/** The steps of undo, which outlive a reload of the page. */
function useSteps(match: string) {
  const [steps, set] = useState<Steps>({ done: [], undone: [] });
  const loaded = useRef(false);
  useEffect(() => {
    void kept<Steps>(STEPS, match).then((found) => {
      if (found) set((now) => ({ done: [...found.done, ...now.done], undone: now.done.length ? [] : found.undone }));
      loaded.current = true;
    });
  }, [match]);
  useEffect(() => {
    if (loaded.current) void keep(STEPS, match, steps);
  }, [match, steps]);
  return { steps, setSteps: set };
}

/** Fetches the log again when another tab or device has changed it. */
function useOtherHands(match: string, revision: number, idle: boolean): void {
  const queries = useQueryClient();
  const look = useQuery({
    queryKey: ["revision", match],
    queryFn: () => ok(api.GET("/api/matches/{match}/revision", { params: { path: { match } } })),
    refetchInterval: LOOK_EVERY_MS,
    retry: false,
    enabled: idle,
  });
  const known = look.data?.revision;
  useEffect(() => {
    if (idle && known !== undefined && known > revision) fetchAgain(queries, match);
  }, [idle, known, match, queries, revision]);
}

/** Lay a change over the log as it is known here. */
export function take(queries: QueryClient, match: string, change: Changed): void {
  const now = queries.getQueryData<Desk>(["match", match]);
  const next = now && changed(now, change);
  if (next) queries.setQueryData(["match", match], next);
  else fetchAgain(queries, match);
}

function fetchAgain(queries: QueryClient, match: string): void {
  void queries.invalidateQueries({ queryKey: ["match", match], exact: true });
}

/** Stored observations with waiting changes laid over them, in order of time. */
function laid(stored: Observation[], waiting: readonly Change[]): Keyed[] {
  const rows = new Map<string, Keyed>();
  for (const one of stored) rows.set(keyOf(one), isKeyed(one) ? one : { ...one, id: keyOf(one) });
  for (const { key, body } of waiting) {
    if (body === null) rows.delete(key);
    else rows.set(key, { ...body, id: key });
  }
  return [...rows.values()].sort((one, other) => one.t - other.t);
}
