import { useSyncExternalStore } from "react";
import { api, ApiError, type Observation, ok, type Scored } from "../api/client";

/** One change to the log: an observation put under its key, or taken back (`body` null). */
export interface Change {
  key: string;
  body: Observation | null;
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

/**
 * Sends changes one after another, in order, and keeps what could not be sent
 * until the server is back. Sending one twice does no harm: keys are made here.
 */
export class SaveQueue {
  private waiting: Change[] = [];
  private busy = false;
  private timer: number | null = null;
  private snapshot: Snapshot = { waiting: [], save: { state: "saved" }, refused: null };
  private readonly listeners = new Set<() => void>();

  constructor(
    private readonly match: string,
    private readonly scored: (scored: Scored) => void,
  ) {}

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  read = (): Snapshot => this.snapshot;

  push(change: Change): void {
    this.waiting.push(change);
    this.tell({ state: "saving", waiting: this.waiting.length });
    void this.flush();
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

  private async flush(): Promise<void> {
    if (this.busy) return;
    this.busy = true;
    for (let change = this.waiting[0]; change; change = this.waiting[0]) {
      try {
        const scored = await this.send(change);
        this.waiting.shift();
        this.scored(scored);
      } catch (error) {
        if (error instanceof ApiError && error.status >= 400 && error.status < 500 && error.status !== 403) {
          this.waiting.shift();
          this.snapshot = { ...this.snapshot, refused: { change, error } };
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

  private send({ key, body }: Change): Promise<Scored> {
    const params = { path: { match: this.match, key } };
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
