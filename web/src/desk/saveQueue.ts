import { useCallback, useMemo, useRef, useState, useSyncExternalStore } from "react";
import { api, ApiError, type Changed, type Observation, ok } from "../api/client";
import { keep, kept, leftBehind } from "./kept";

/**
 * One change to the log: an observation put under its key, or taken back (`body` null).
 * `base` is the revision of the key that the change was made on, 0 where there was none.
 */
export interface Change {
  key: string;
  body: Observation | null;
  base: number;
}

export type SaveState =
  | { state: "saved" }
  | { state: "saving"; waiting: number }
  | { state: "away"; waiting: number }
  | { state: "signed_out"; waiting: number };

interface Snapshot {
  waiting: readonly Change[];
  save: SaveState;
  refused: { change: Change; error: ApiError } | null;
}

const RETRY_MS = 1500;
/** The server's answer is mostly there sooner, and then a change is drawn once, with its verdict. */
const DRAW_AFTER_MS = 100;
const KEPT = "waiting";

/**
 * Sends changes one after another, in order, and keeps what could not be sent, in the
 * browser's own database, until the server has it. Sending one twice does no harm: keys
 * are made here.
 */
export class SaveQueue {
  private waiting: Change[] = [];
  private busy = false;
  private timer: number | null = null;
  private drawing: number | null = null;
  private held: (() => void)[] = [];
  private snapshot: Snapshot = { waiting: [], save: { state: "saved" }, refused: null };
  private readonly listeners = new Set<() => void>();

  constructor(
    private readonly match: string,
    private readonly desk: {
      /** The revision of the log that an answer may build on. */
      revision: () => number;
      changed: (change: Changed) => void;
      conflict: () => void;
    },
  ) {
    void this.takeUp();
  }

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  /** What was drawn last. */
  read = (): Snapshot => this.snapshot;
  /** What waits at this very moment. */
  now = (): readonly Change[] => this.waiting;

  push(change: Change): void {
    this.waiting = [...this.waiting, change];
    void this.flush();
    this.remember();
    this.notify();
    this.drawing ??= window.setTimeout(() => this.tell(this.saving()), DRAW_AFTER_MS);
  }

  /** Draw something together with the change that was pushed last; at once where that is drawn already. */
  whenDrawn = (draw: () => void): void => {
    if (this.drawing === null) draw();
    else this.held.push(draw);
  };

  dismiss(): void {
    this.snapshot = { ...this.snapshot, refused: null };
    this.tell(this.snapshot.save);
  }

  retry = (): void => {
    if (this.timer !== null) window.clearTimeout(this.timer);
    this.timer = null;
    void this.flush();
  };

  /** Changes of an earlier life of this tab, and of tabs that were closed, are sent first. */
  private async takeUp(): Promise<void> {
    const own = (await kept<Change[]>(KEPT, this.match)) ?? [];
    const others = await leftBehind<Change[]>(KEPT, this.match);
    const found = [...others.flat(), ...own];
    if (found.length === 0) return;
    const here = new Set(this.waiting);
    this.waiting = [...found, ...here];
    this.remember();
    this.tell(this.saving());
    void this.flush();
  }

  private async flush(): Promise<void> {
    if (this.busy) return;
    this.busy = true;
    for (let change = this.waiting[0]; change; change = this.waiting[0]) {
      try {
        const answer = await this.send(change);
        this.done(change, answer.revisions[change.key]);
        this.desk.changed(answer);
        if (this.waiting.length) this.tell(this.saving());
      } catch (error) {
        if (error instanceof ApiError && error.status >= 400 && error.status < 500 && error.status !== 403) {
          this.done(change);
          this.snapshot = { ...this.snapshot, refused: { change, error } };
          if (error.code === "conflict") this.desk.conflict();
          continue;
        }
        const away = error instanceof ApiError && error.status === 403 ? "signed_out" : "away";
        this.busy = false;
        this.tell({ state: away, waiting: this.waiting.length });
        this.timer = window.setTimeout(this.retry, RETRY_MS);
        return;
      }
    }
    this.busy = false;
    this.tell({ state: "saved" });
  }

  /** Take a change off the queue; what waits for the same key was made on top of it. */
  private done(change: Change, revision?: number): void {
    this.waiting = this.waiting.filter((one) => one !== change);
    if (revision !== undefined) {
      this.waiting = this.waiting.map((one) => (one.key === change.key ? { ...one, base: revision } : one));
    }
    this.remember();
  }

  private remember(): void {
    void keep(KEPT, this.match, this.waiting);
  }

  private send({ key, body, base }: Change): Promise<Changed> {
    const params = { path: { match: this.match, key }, query: { based_on: base, have: this.desk.revision() } };
    const address = "/api/matches/{match}/observations/{key}";
    return body === null ? ok(api.DELETE(address, { params })) : ok(api.PUT(address, { params, body }));
  }

  private notify(): void {
    for (const listener of this.listeners) listener();
  }

  private saving(): SaveState {
    return { state: "saving", waiting: this.waiting.length };
  }

  private tell(save: SaveState): void {
    if (this.drawing !== null) window.clearTimeout(this.drawing);
    this.drawing = null;
    this.snapshot = { ...this.snapshot, waiting: this.waiting, save };
    for (const draw of this.held.splice(0)) draw();
    this.notify();
  }
}

/**
 * Something of the desk that goes with the changes of its log: to be read at this very
 * moment, and drawn together with the change that was made last.
 */
export function useHeld<T>(queue: SaveQueue, initial: T): { shown: T; now: () => T; set: (next: (now: T) => T) => void } {
  const [shown, show] = useState(initial);
  const current = useRef(initial);
  const now = useCallback(() => current.current, []);
  const set = useCallback(
    (next: (now: T) => T) => {
      current.current = next(current.current);
      queue.whenDrawn(() => show(current.current));
    },
    [queue],
  );
  return useMemo(() => ({ shown, now, set }), [shown, now, set]);
}

/** Whether something is on its way at this very moment, drawn or not. */
export function useBusy(queue: SaveQueue): boolean {
  return useSyncExternalStore(queue.subscribe, () => queue.now().length > 0);
}

export function useQueue(queue: SaveQueue): Snapshot {
  return useSyncExternalStore(queue.subscribe, queue.read);
}
