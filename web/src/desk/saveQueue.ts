import { useSyncExternalStore } from "react";
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
  read = (): Snapshot => this.snapshot;

  push(change: Change): void {
    this.waiting.push(change);
    void this.flush(); // sent first, drawn while it is on its way
    this.remember();
    this.tell({ state: "saving", waiting: this.waiting.length });
  }

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
    this.tell({ state: "saving", waiting: this.waiting.length });
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

  private tell(save: SaveState): void {
    this.snapshot = { ...this.snapshot, waiting: [...this.waiting], save };
    for (const listener of this.listeners) listener();
  }
}

export function useQueue(queue: SaveQueue): Snapshot {
  return useSyncExternalStore(queue.subscribe, queue.read);
}
