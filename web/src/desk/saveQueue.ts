import { useCallback, useMemo, useRef, useState, useSyncExternalStore } from "react";
import { api, ApiError, type Changed, type Observation, ok } from "../api/client";
import { keep, kept, leftBehind, ofOthers, type Owner } from "./kept";

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
  | { state: "signed_out"; waiting: number }
  /** Somebody else is signed in now; `by` is who made the changes. */
  | { state: "other_account"; waiting: number; by: string };

/** A change that the server did not take. It stays in this browser until somebody decides what becomes of it. */
export interface SetAside {
  change: Change;
  error: ApiError;
}

interface Snapshot {
  waiting: readonly Change[];
  save: SaveState;
  aside: readonly SetAside[];
  /** Whether the browser has room for what waits: otherwise it is lost with the page. */
  keeping: boolean;
  /** How many changes others made in this browser that wait until they sign in, by how they are called. */
  others: ReadonlyMap<string, number>;
}

const RETRY_MS = 1500;
/** So often a change is tried at which the server itself fails, before it is set aside for the others to go on. */
const MOST_TRIES = 3;
/** The server's answer is mostly there sooner, and then a change is drawn once, with its verdict. */
const DRAW_AFTER_MS = 100;
const KEPT = "waiting";
const ASIDE = "aside";

/** Answers that say nothing of the change: nobody is there, or too many are. */
const LATER = new Set([0, 408, 425, 429, 502, 503, 504]);

/** What a failed try means for a change. */
export function meaning(error: unknown): "later" | "signed_out" | "server_failed" | "refused" {
  if (!(error instanceof ApiError) || LATER.has(error.status)) return "later";
  if (error.status === 401 || error.status === 403) return "signed_out";
  return error.status >= 500 ? "server_failed" : "refused";
}

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
  private tries = 0;
  private snapshot: Snapshot = { waiting: [], save: { state: "saved" }, aside: [], keeping: true, others: new Map() };
  private readonly listeners = new Set<() => void>();

  constructor(
    private readonly match: string,
    private readonly owner: Owner,
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
    this.drawing ??= window.setTimeout(() => this.show(this.saving()), DRAW_AFTER_MS);
  }

  /** Draw something together with the change that was pushed last; at once where that is drawn already. */
  whenDrawn = (draw: () => void): void => {
    if (this.drawing === null) draw();
    else this.held.push(draw);
  };

  /** Let go of a change that was set aside. */
  dismiss(which: SetAside): void {
    this.setAside(this.snapshot.aside.filter((one) => one !== which));
  }

  /** Send a change that was set aside once more. */
  sendAgain(which: SetAside): void {
    this.dismiss(which);
    this.push(which.change);
  }

  private setAside(aside: readonly SetAside[]): void {
    this.snapshot = { ...this.snapshot, aside };
    const kept = aside.map(({ change, error }) => ({
      change,
      error: { status: error.status, code: error.code, message: error.message },
    }));
    void keep(ASIDE, this.match, this.owner, kept).then((done) => this.keeps(done));
    this.show(this.snapshot.save);
  }

  retry = (): void => {
    if (this.timer !== null) window.clearTimeout(this.timer);
    this.timer = null;
    void this.flush();
  };

  /** Changes of an earlier life of this tab, and of tabs that were closed, are sent first. */
  private async takeUp(): Promise<void> {
    // Asked for before anything is pushed: what this life of the tab keeps is not taken for an earlier one's.
    const own = kept<Change[]>(KEPT, this.match, this.owner);
    await this.takeUpAside();
    const left = await leftBehind<Change[]>(KEPT, this.match, this.owner);
    const others = await ofOthers(KEPT, this.match, this.owner);
    if (others.size > 0) {
      this.snapshot = { ...this.snapshot, others };
      this.notify();
    }
    const found = [...left.flat(), ...((await own) ?? [])];
    if (found.length === 0) return;
    const here = new Set(this.waiting);
    this.waiting = [...found, ...here];
    this.remember();
    this.show(this.saving());
    void this.flush();
  }

  private async takeUpAside(): Promise<void> {
    type Kept = { change: Change; error: { status: number; code: string; message: string } }[];
    const own = await kept<Kept>(ASIDE, this.match, this.owner);
    const found = [...(await leftBehind<Kept>(ASIDE, this.match, this.owner)).flat(), ...(own ?? [])];
    if (found.length === 0) return;
    const read = found.map(({ change, error }) => ({
      change,
      error: new ApiError(error.status, error.code, error.message),
    }));
    this.setAside([...read, ...this.snapshot.aside]);
  }

  private async flush(): Promise<void> {
    if (this.busy) return;
    this.busy = true;
    for (let change = this.waiting[0]; change; change = this.waiting[0]) {
      try {
        const answer = await this.send(change);
        this.tries = 0;
        this.done(change, answer.revisions[change.key]);
        this.desk.changed(answer);
        if (this.waiting.length) this.show(this.saving());
      } catch (error) {
        const means = meaning(error);
        this.tries = means === "server_failed" ? this.tries + 1 : 0;
        if (error instanceof ApiError && (means === "refused" || this.tries >= MOST_TRIES)) {
          this.tries = 0;
          this.giveUp(change, error);
          if (error.code === "conflict") this.desk.conflict();
          continue;
        }
        this.busy = false;
        const waiting = this.waiting.length;
        const other = error instanceof ApiError && error.code === "other_account";
        if (other) this.show({ state: "other_account", waiting, by: this.owner.name });
        else this.show({ state: means === "signed_out" ? "signed_out" : "away", waiting });
        if (other && this.listeners.size === 0) return; // its desk is closed: it is taken up where its account opens it
        this.timer = window.setTimeout(this.retry, RETRY_MS);
        return;
      }
    }
    this.busy = false;
    this.show({ state: "saved" });
  }

  /** Take a change off the queue; what waits for the same key was made on top of it. */
  private done(change: Change, revision?: number): void {
    this.waiting = this.waiting.filter((one) => one !== change);
    if (revision !== undefined) {
      this.waiting = this.waiting.map((one) => (one.key === change.key ? { ...one, base: revision } : one));
    }
    this.remember();
  }

  /** Set a change aside. Where the server fails at it, what was made on top of it would fail as well. */
  private giveUp(change: Change, error: ApiError): void {
    const latest = this.waiting.findLast((one) => one.key === change.key) ?? change;
    const failed = meaning(error) === "server_failed";
    this.done(change);
    if (failed) {
      this.waiting = this.waiting.filter((one) => one.key !== change.key);
      this.remember();
    }
    this.setAside([...this.snapshot.aside, { change: failed ? { ...latest, base: change.base } : change, error }]);
  }

  private remember(): void {
    void keep(KEPT, this.match, this.owner, this.waiting).then((done) => this.keeps(done));
  }

  private keeps(keeping: boolean): void {
    if (keeping === this.snapshot.keeping) return;
    this.snapshot = { ...this.snapshot, keeping };
    this.notify();
  }

  private send({ key, body, base }: Change): Promise<Changed> {
    const params = { path: { match: this.match, key }, query: { based_on: base, have: this.desk.revision(), made_by: this.owner.id } };
    const address = "/api/matches/{match}/observations/{key}";
    return body === null ? ok(api.DELETE(address, { params })) : ok(api.PUT(address, { params, body }));
  }

  private notify(): void {
    for (const listener of this.listeners) listener();
  }

  private saving(): SaveState {
    return { state: "saving", waiting: this.waiting.length };
  }

  private show(save: SaveState): void {
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
