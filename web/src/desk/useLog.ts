import { type QueryClient, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { api, type Changed, type Desk, type Keyed, type Observation, ok } from "../api/client";
import { changed } from "./changed";
import { keep, kept, type Owner } from "./kept";
import type { Playhead } from "./playhead";
import { type Change, SaveQueue, type SetAside, useHeld, useQueue } from "./saveQueue";

/** A step of undo: the key, and what was there before and after it. */
interface Step {
  key: string;
  before: Observation | null;
  after: Observation | null;
  /** Whether it is a move along time that goes on. */
  sliding?: boolean;
  /** Steps that follow one another with the same name were one action, and are undone as one. */
  together?: string;
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
/** How often it is asked whether somebody else wrote: while others are at the desk or wrote lately, and while we are alone. */
const LOOK_EVERY_MS = { together: 800, alone: 3000 };
const LATELY_MS = 60_000;

function isKeyed(observation: Observation): observation is Keyed {
  return typeof observation.id === "string";
}

function keyOf(observation: Observation): string {
  return String(observation.id ?? "");
}

/** What is on its way to the server, and how its answers are laid over the desk. */
function useServer(match: string, revision: number, owner: Owner) {
  const queries = useQueryClient();
  const queue = useMemo(
    () =>
      new SaveQueue(match, owner, {
        revision: () => queries.getQueryData<Desk>(["match", match])?.revision ?? 0,
        changed: (change) => take(queries, match, change),
        conflict: () => fetchAgain(queries, match),
      }),
    [match, owner, queries],
  );
  const { waiting, save, aside, keeping, others } = useQueue(queue);
  useOtherHands(match, revision, waiting.length === 0);
  const stored = useCallback(() => queries.getQueryData<Desk>(["match", match]), [match, queries]);
  const send = useCallback(
    (key: string, body: Observation | null) => queue.push({ key, body, base: stored()?.revisions[key] ?? 0 }),
    [queue, stored],
  );
  return { queue, waiting, save, aside, keeping, others, stored, send };
}

/** The log as the coach sees it: what is stored, with what is still on its way laid over it. */
export function useLog(desk: Desk, playhead: Playhead, owner: Owner) {
  const match = desk.match.id;
  const { queue, waiting, save, aside, keeping, others, stored, send } = useServer(match, desk.revision, owner);
  const [lay] = useState(laying);
  const observations = useMemo(() => lay(desk.observations, waiting), [lay, desk.observations, waiting]);
  /** The log at this very moment, also between a key and the drawing of what it did. */
  const live = useCallback(() => lay(stored()?.observations ?? [], queue.now()), [lay, queue, stored]);
  const { remember, undo, redo, canUndo, canRedo } = useUndo(match, owner, queue, send);
  const touched = useHeld<Touched | null>(queue, null);
  const { set: touch } = touched;
  const change = useCallback(
    (key: string, after: Observation | null, together?: string) => {
      const before = live().find((one) => one.id === key) ?? null;
      send(key, after);
      remember({ key, before, after, ...(together === undefined ? {} : { together }) });
      const seen = after ?? before;
      // What is taken together comes from elsewhere: where the playhead is says nothing about it.
      if (seen && together === undefined) touch(() => ({ seen, gone: after === null, from: playhead.now() }));
    },
    [live, playhead, remember, send, touch],
  );
  const edits = useEdits(change, live, send, remember);
  const pending = useMemo(() => new Set(waiting.map((one) => one.key)), [waiting]);
  const shown = touched.shown;
  return useMemo(
    () => ({
      ...{ queue, observations, live, pending, save, aside, keeping, others, touched: shown },
      ...{ ...edits, undo, redo, canUndo, canRedo },
      /** Put back a state of an observation: of the history, or one's own after a conflict. */
      restore: change,
      retry: queue.retry,
      dismiss: (which: SetAside) => queue.dismiss(which),
      sendAgain: (which: SetAside) => queue.sendAgain(which),
    }),
    [queue, observations, live, pending, save, aside, keeping, others, shown, edits, undo, redo, canUndo, canRedo, change],
  );
}

/** The ways to change the log. */
function useEdits(
  change: (key: string, after: Observation | null, together?: string) => void,
  live: () => Keyed[],
  send: (key: string, body: Observation | null) => void,
  remember: (step: Step) => void,
) {
  const add = useCallback(
    (body: Observation) => {
      const key = crypto.randomUUID();
      change(key, { ...body, id: key });
      return key;
    },
    [change],
  );
  const put = useCallback((body: Keyed) => change(body.id, body), [change]);
  const remove = useCallback((key: string) => change(key, null), [change]);
  /** Put an observation that is being moved: many small moves in a row are one step of undo. */
  const slide = useCallback(
    (body: Keyed) => {
      const before = live().find((one) => one.id === body.id) ?? null;
      send(body.id, body);
      remember({ key: body.id, before, after: body, sliding: true });
    },
    [live, remember, send],
  );
  /** Put several observations in one action. */
  const putAll = useCallback(
    (bodies: Keyed[]) => {
      const together = crypto.randomUUID();
      for (const body of bodies) change(body.id, body, together);
    },
    [change],
  );
  return useMemo(() => ({ add, put, putAll, remove, slide }), [add, put, putAll, remove, slide]);
}

/** Undo and redo of what was done here, one step at a time. */
function useUndo(match: string, owner: Owner, queue: SaveQueue, send: (key: string, body: Observation | null) => void) {
  const steps = useSteps(match, owner, queue);
  const { set, now, shown } = steps;
  const remember = useCallback(
    (step: Step) =>
      set(({ done }) => {
        const last = done.at(-1);
        const goesOn = step.sliding && last?.key === step.key && last.sliding === true;
        return { done: goesOn ? [...done.slice(0, -1), { ...last, after: step.after }] : [...done, step], undone: [] };
      }),
    [set],
  );
  const undo = useCallback(() => {
    const steps = lastOf(now().done);
    for (const step of steps) send(step.key, step.before);
    set(({ done, undone }) => ({ done: done.slice(0, done.length - steps.length), undone: [...undone, ...steps] }));
  }, [send, set, now]);
  const redo = useCallback(() => {
    const steps = lastOf(now().undone);
    for (const step of steps) send(step.key, step.after);
    set(({ done, undone }) => ({ done: [...done, ...steps], undone: undone.slice(0, undone.length - steps.length) }));
  }, [send, set, now]);
  return { remember, undo, redo, canUndo: shown.done.length > 0, canRedo: shown.undone.length > 0 };
}

/** The last step, with those that were one action with it; the last one first. */
function lastOf(steps: readonly Step[]): Step[] {
  const last = steps.at(-1);
  if (!last) return [];
  const others = last.together === undefined ? -1 : steps.findLastIndex((one) => one.together !== last.together);
  return (last.together === undefined ? [last] : steps.slice(others + 1)).toReversed();
}

export type Log = ReturnType<typeof useLog>;

/** The steps of undo, which outlive a reload of the page. */
function useSteps(match: string, owner: Owner, queue: SaveQueue) {
  const steps = useHeld<Steps>(queue, { done: [], undone: [] });
  const { set, shown } = steps;
  const loaded = useRef(false);
  useEffect(() => {
    void kept<Steps>(STEPS, match, owner).then((found) => {
      if (found) set((now) => ({ done: [...found.done, ...now.done], undone: now.done.length ? [] : found.undone }));
      loaded.current = true;
    });
  }, [match, owner, set]);
  useEffect(() => {
    if (loaded.current) void keep(STEPS, match, owner, shown);
  }, [match, owner, shown]);
  return steps;
}

/** Under which key it is kept who else is at the desk of a match. */
export function whoIsHere(match: string): string[] {
  return ["here", match];
}

/** Fetches the log again when another tab or device has changed it. */
function useOtherHands(match: string, revision: number, idle: boolean): void {
  const queries = useQueryClient();
  const wrote = useRef(0);
  const together = () => (queries.getQueryData<unknown[]>(whoIsHere(match))?.length ?? 0) > 0 || Date.now() - wrote.current < LATELY_MS;
  const look = useQuery({
    queryKey: ["revision", match],
    queryFn: () => ok(api.GET("/api/matches/{match}/revision", { params: { path: { match } } })),
    refetchInterval: () => (together() ? LOOK_EVERY_MS.together : LOOK_EVERY_MS.alone),
    retry: false,
    enabled: idle,
  });
  const known = look.data?.revision;
  useEffect(() => {
    if (!idle || known === undefined || known <= revision) return;
    wrote.current = Date.now();
    fetchAgain(queries, match);
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
