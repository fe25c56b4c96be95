import { useSyncExternalStore } from "react";

const NO_CLIP_FPS = 25;

/**
 * Where the coach is in the footage. With a clip it follows the frame that is on
 * screen; without one it runs by itself, so that a match can be scored from memory.
 */
export class Playhead {
  t = 0;
  playing = false;
  rate = 1;
  private video: HTMLVideoElement | null = null;
  private timer: number | null = null;
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

  /** Follow a video element; the function returned lets go of it. */
  follow(video: HTMLVideoElement): () => void {
    this.video = video;
    let request = 0;
    const shown = (_: number, frame: VideoFrameCallbackMetadata) => {
      // A frame of an earlier seek may still arrive while the next one is under way.
      if (!video.seeking) this.move(frame.mediaTime);
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
    if (this.video) {
      void this.video.play().catch(() => this.pause());
      return;
    }
    this.playing = true;
    let last = performance.now();
    this.timer = window.setInterval(() => {
      const now = performance.now();
      this.move(this.t + ((now - last) / 1000) * this.rate);
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
    const last = this.length === null ? Infinity : Math.max(0, Math.floor(this.length * this.fps) - 1);
    const frame = Math.min(last, Math.max(0, Math.round(t * this.fps)));
    if (this.video) this.video.currentTime = (frame + 0.5) / this.fps;
    this.move(this.video ? frame / this.fps : Math.max(0, t));
  }

  step(frames: number): void {
    this.pause();
    this.seek(this.t + frames / this.fps);
  }

  nudge(seconds: number): void {
    this.seek(this.t + seconds);
  }

  setRate(rate: number): void {
    this.rate = rate;
    if (this.video) this.video.playbackRate = rate;
    this.tell();
  }

  /** The time to log: whole milliseconds. */
  now(): number {
    return Math.round(this.t * 1000) / 1000;
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
