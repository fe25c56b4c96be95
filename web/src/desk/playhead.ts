import { useSyncExternalStore } from "react";

const NO_CLIP_FPS = 25;

export interface Loop {
  from: number;
  to: number;
}

/**
 * Where the coach is in the footage. With a clip it follows the frame that is on
 * screen; without one it runs by itself, so that a match can be scored from memory.
 */
export class Playhead {
  t = 0;
  playing = false;
  rate = 1;
  muted = true;
  loop: Loop | null = null;
  private video: HTMLVideoElement | null = null;
  private timer: number | null = null;
  /** When each frame is shown, in milliseconds; empty until known, then frames are taken as equally long. */
  private frames: number[] = [];
  private readonly listeners = new Set<() => void>();

  constructor(
    private fps: number = NO_CLIP_FPS,
    private length: number | null = null,
  ) {}

  /** The length of the footage in seconds, null where there is no clip. */
  get duration(): number | null {
    return this.length;
  }

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  /** Phones record at rates that vary: with the real times, a step is exactly one frame. */
  setFrames(times: number[]): void {
    this.frames = times;
    if (times.length) this.move(this.video ? this.onFrame(this.t) : this.t);
  }

  /** Follow a video element; the function returned lets go of it. */
  follow(video: HTMLVideoElement): () => void {
    this.video = video;
    video.muted = this.muted;
    let request = 0;
    const shown = (_: number, frame: VideoFrameCallbackMetadata) => {
      // A frame of an earlier seek may still arrive while the next one is under way.
      if (!video.seeking) {
        this.move(this.onFrame(frame.mediaTime));
        if (this.loop && this.playing && this.t >= this.loop.to) this.seek(this.loop.from);
      }
      request = video.requestVideoFrameCallback(shown);
    };
    request = video.requestVideoFrameCallback(shown);
    const changed = () => {
      this.playing = !video.paused;
      this.tell();
    };
    video.addEventListener("play", changed);
    video.addEventListener("pause", changed);
    video.addEventListener("ended", changed);
    return () => {
      video.cancelVideoFrameCallback(request);
      video.removeEventListener("play", changed);
      video.removeEventListener("pause", changed);
      video.removeEventListener("ended", changed);
      this.video = null;
    };
  }

  toggle = (): void => {
    if (this.playing) this.pause();
    else this.play();
  };

  play(): void {
    if (this.loop && (this.t < this.loop.from || this.t >= this.loop.to)) this.seek(this.loop.from);
    if (this.video) {
      void this.video.play().catch(() => this.pause());
      return;
    }
    this.playing = true;
    let last = performance.now();
    this.timer = window.setInterval(() => {
      const now = performance.now();
      this.move(this.t + ((now - last) / 1000) * this.rate);
      if (this.loop && this.t >= this.loop.to) this.seek(this.loop.from);
      last = now;
    }, 40);
    this.tell();
  }

  pause(): void {
    if (this.timer !== null) window.clearInterval(this.timer);
    this.timer = null;
    this.video?.pause();
    this.playing = false;
    this.tell();
  }

  /** Go to the frame at `t` seconds; the middle of the frame, so that rounding never lands on its neighbour. */
  seek(t: number): void {
    if (!this.video) {
      this.move(Math.max(0, t));
      return;
    }
    this.show(this.frameAt(t));
  }

  step(frames: number): void {
    this.pause();
    if (this.video) this.show(this.frameAt(this.t) + frames);
    else this.seek(this.t + frames / this.fps);
  }

  nudge(seconds: number): void {
    this.seek(this.t + seconds);
  }

  setRate(rate: number): void {
    this.rate = rate;
    if (this.video) this.video.playbackRate = rate;
    this.tell();
  }

  setMuted(muted: boolean): void {
    this.muted = muted;
    if (this.video) this.video.muted = muted;
    this.tell();
  }

  setLoop(loop: Loop | null): void {
    this.loop = loop && loop.to > loop.from ? loop : null;
    this.tell();
  }

  /** The time to log: whole milliseconds. */
  now(): number {
    return Math.round(this.t * 1000) / 1000;
  }

  private show(frame: number): void {
    if (!this.video) return;
    const kept = Math.min(this.lastFrame(), Math.max(0, frame));
    const start = this.startOf(kept);
    const middle = (start + (kept < this.lastFrame() ? this.startOf(kept + 1) : start + 1 / this.fps)) / 2;
    this.video.currentTime = middle;
    this.move(start);
  }

  private lastFrame(): number {
    if (this.frames.length) return this.frames.length - 1;
    return this.length === null ? Infinity : Math.max(0, Math.floor(this.length * this.fps) - 1);
  }

  private startOf(frame: number): number {
    return this.frames.length ? (this.frames[frame] ?? 0) / 1000 : frame / this.fps;
  }

  /** The frame that is nearest to a time. */
  private frameAt(t: number): number {
    if (!this.frames.length) return Math.round(t * this.fps);
    const millis = t * 1000;
    let low = 0;
    let high = this.frames.length - 1;
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if ((this.frames[middle] ?? 0) <= millis) low = middle;
      else high = middle - 1;
    }
    const after = this.frames[low + 1];
    return after !== undefined && after - millis < millis - (this.frames[low] ?? 0) ? low + 1 : low;
  }

  /** A time that the player gives, as the time of the frame it means. */
  private onFrame(t: number): number {
    return this.frames.length ? this.startOf(this.frameAt(t)) : t;
  }

  private move(t: number): void {
    this.t = t;
    this.tell();
  }

  private tell(): void {
    for (const listener of this.listeners) listener();
  }
}

/** Something read off the playhead; the component is drawn again only when that changes. */
export function usePlayhead<T>(playhead: Playhead, read: (playhead: Playhead) => T): T {
  return useSyncExternalStore(playhead.subscribe, () => read(playhead));
}
