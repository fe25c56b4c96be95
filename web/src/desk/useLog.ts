import { type QueryClient, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { api, type Changed, type Desk, type Keyed, type Observation, ok } from "../api/client";
import { changed } from "./changed";
import { keep, kept } from "./kept";
import type { Playhead } from "./playhead";
import { type Change, SaveQueue, type SetAside, useHeld, useQueue } from "./saveQueue";

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
  /** Where the playhead was. */
  from: number;
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
export function useLog(desk: Desk, playhead: Playhead) {
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
  const { waiting, save, aside, keeping } = useQueue(queue);
  useOtherHands(match, desk.revision, waiting.length === 0);

  const [lay] = useState(laying);
  const observations = useMemo(() => lay(desk.observations, waiting), [lay, desk.observations, waiting]);
  /** The log at this very moment, also between a key and the drawing of what it did. */
  const live = useCallback(
    () => lay(queries.getQueryData<Desk>(["match", match])?.observations ?? [], queue.now()),
    [lay, match, queries, queue],
  );

  const steps = useSteps(match, queue);
  const { set: setSteps } = steps;
  const touched = useHeld<Touched | null>(queue, null);
  const { set: touch } = touched;
  const send = useCallback(
    (key: string, body: Observation | null) => {
      const base = queries.getQueryData<Desk>(["match", match])?.revisions[key] ?? 0;
      queue.push({ key, body, base });
    },
    [match, queries, queue],
  );
  const change = useCallback(
    (key: string, after: Observation | null) => {
      const before = live().find((one) => one.id === key) ?? null;
      send(key, after);
      setSteps(({ done }) => ({ done: [...done, { key, before, after }], undone: [] }));
      const seen = after ?? before;
      if (seen) touch(() => ({ seen, gone: after === null, from: playhead.now() }));
    },
    [live, playhead, send, setSteps, touch],
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
      const before = live().find((one) => one.id === body.id) ?? null;
      send(body.id, body);
      setSteps(({ done }) => {
        const last = done.at(-1);
        const on = last && last.key === body.id && last.sliding === true;
        return {
          done: on ? [...done.slice(0, -1), { ...last, after: body }] : [...done, { key: body.id, before, after: body, sliding: true }],
          undone: [],
        };
      });
    },
    [live, send, setSteps],
  );
  const remove = useCallback((key: string) => change(key, null), [change]);
  const { now: stepsNow } = steps;
  const undo = useCallback(() => {
    const step = stepsNow().done.at(-1);
    if (!step) return;
    send(step.key, step.before);
    setSteps(({ done, undone }) => ({ done: done.slice(0, -1), undone: [...undone, step] }));
  }, [send, setSteps, stepsNow]);
  const redo = useCallback(() => {
    const step = stepsNow().undone.at(-1);
    if (!step) return;
    send(step.key, step.after);
    setSteps(({ done, undone }) => ({ done: [...done, step], undone: undone.slice(0, -1) }));
  }, [send, setSteps, stepsNow]);

  const pending = useMemo(() => new Set(waiting.map((one) => one.key)), [waiting]);
  const canUndo = steps.shown.done.length > 0;
  const canRedo = steps.shown.undone.length > 0;
  return useMemo(
    () => ({
      queue,
      observations,
      live,
      pending,
      save,
      aside,
      keeping,
      touched: touched.shown,
      add,
      put,
      slide,
      remove,
      undo,
      redo,
      canUndo,
      canRedo,
      /** Put back a state of an observation: of the history, or one's own after a conflict. */
      restore: change,
      retry: queue.retry,
      dismiss: (which: SetAside) => queue.dismiss(which),
      sendAgain: (which: SetAside) => queue.sendAgain(which),
    }),
    [
      observations,
      live,
      pending,
      save,
      aside,
      keeping,
      touched.shown,
      add,
      put,
      slide,
      remove,
      undo,
      redo,
      canUndo,
      canRedo,
      change,
      queue,
    ],
  );
}

export type Log = ReturnType<typeof useLog>;

/** The steps of undo, which outlive a reload of the page. */
function useSteps(match: string, queue: SaveQueue) {
  const steps = useHeld<Steps>(queue, { done: [], undone: [] });
  const { set, shown } = steps;
  const loaded = useRef(false);
  useEffect(() => {
    void kept<Steps>(STEPS, match).then((found) => {
      if (found) set((now) => ({ done: [...found.done, ...now.done], undone: now.done.length ? [] : found.undone }));
      loaded.current = true;
    });
  }, [match, set]);
  useEffect(() => {
    if (loaded.current) void keep(STEPS, match, shown);
  }, [match, shown]);
  return steps;
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

/** :func:`laid` for one desk: what was asked for last is at hand. */
function laying(): typeof laid {
  let last: { stored: Observation[]; waiting: readonly Change[]; rows: Keyed[] } | null = null;
  return (stored, waiting) => {
    if (last?.stored !== stored || last.waiting !== waiting) last = { stored, waiting, rows: laid(stored, waiting) };
    return last.rows;
  };
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
