import { useSyncExternalStore } from "react";

/** A way of so many seconds is a jump, that one may want to go back from. */
const FAR = 6;
const NO_CLIP_FPS = 25;
const TICK_MS = 40;
/** How fast the picture can be played. */
export const RATES = [0.1, 0.25, 0.5, 1, 1.5, 2];

export interface Loop {
  from: number;
  to: number;
}

/** A clip, or a part of it, in the footage of a match, in seconds. */
export interface Stretch {
  clip: string;
  /** Where in the footage the clip's first frame lies. */
  start: number;
  /** Where in the clip the match begins and ends. */
  opens: number;
  closes: number;
  /** Frames a second. */
  fps: number;
}

interface Part extends Stretch {
  /** When each frame is shown, in milliseconds of the clip; empty until known, then frames are taken as equally long. */
  frames: number[];
}

/**
 * Where the coach is in the footage: one clip or several in a row. Within a clip it
 * follows the frame that is on screen; in a gap, or without a clip, it runs by itself,
 * so that a match can be scored from memory.
 */
export class Playhead {
  t = 0;
  playing = false;
  rate = 1;
  muted = true;
  loop: Loop | null = null;
  /** The index of the clip the playhead is in, -1 in a gap or where there is none. */
  current: number;
  /** Where the picture stood before it was sent somewhere else. */
  before: number | null = null;
  private readonly parts: Part[];
  private video: HTMLVideoElement | null = null;
  private timer: number | null = null;
  /** Where to go in a clip that is still being loaded. */
  private wanted: number | null = null;
  /** The frame that a picture which stands was sent to; null while it plays. */
  private asked: number | null = null;
  private readonly listeners = new Set<() => void>();

  constructor(stretches: Stretch[] = []) {
    this.parts = stretches.map((one) => ({ ...one, frames: [] }));
    this.t = this.begin;
    this.current = this.partAt(this.t);
    this.wanted = this.current >= 0 ? this.t : null;
  }

  /** Where the footage begins: later than 0 where the match begins somewhere in its first clip. */
  get begin(): number {
    const first = this.parts[0];
    return first && first.opens > 0 ? beginOf(first) : 0;
  }

  /** Where in the footage the first frame of the current clip lies. */
  get clipStart(): number {
    return this.parts[this.current]?.start ?? 0;
  }

  /** Where the footage ends, null where there is no clip. */
  get end(): number | null {
    const last = this.parts.at(-1);
    return last ? endOf(last) : null;
  }

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  /** Phones record at rates that vary: with the real times, a step is exactly one frame. */
  setFrames(index: number, times: number[]): void {
    const part = this.parts[index];
    if (!part) return;
    part.frames = times;
    if (this.asked !== null && index === this.current) this.asked = frameAt(part, this.t - part.start);
    if (index === this.current && times.length && this.video) this.move(part.start + onFrame(part, this.t - part.start));
  }

  /** Follow the video element of the current clip; the function returned lets go of it. */
  follow(video: HTMLVideoElement): () => void {
    const part = this.parts[this.current];
    this.video = video;
    video.muted = this.muted;
    let request = 0;
    const shown = (_: number, frame: VideoFrameCallbackMetadata) => {
      // A frame of an earlier seek may still arrive while the next one is under way, and even after it.
      const earlier = video.seeking || (this.asked !== null && part && frameAt(part, frame.mediaTime) !== this.asked);
      if (!earlier && part && this.wanted === null) {
        this.move(part.start + onFrame(part, frame.mediaTime));
        if (this.playing && frame.mediaTime >= part.closes) ended();
        else if (this.loop && this.playing && this.t >= this.loop.to) this.seek(this.loop.from);
      }
      request = video.requestVideoFrameCallback(shown);
    };
    request = video.requestVideoFrameCallback(shown);
    const changed = () => {
      this.playing = !video.paused;
      if (this.playing) this.asked = null;
      this.notify();
    };
    const ended = () => {
      if (this.current < this.parts.length - 1 && part) this.goOn(endOf(part));
      else if (video.ended) changed();
      else this.pause();
    };
    const loaded = () => {
      video.playbackRate = this.rate;
      if (this.wanted !== null && part) this.show(frameAt(part, this.wanted - part.start));
      this.wanted = null;
      if (this.playing) void video.play().catch(() => this.pause());
    };
    const paused = () => {
      if (!video.ended) changed();
    };
    if (video.readyState > 0) loaded();
    const listens: [string, () => void][] = [
      ["loadedmetadata", loaded],
      ["play", changed],
      ["pause", paused],
      ["ended", ended],
    ];
    for (const [name, heard] of listens) video.addEventListener(name, heard);
    return () => {
      video.cancelVideoFrameCallback(request);
      for (const [name, heard] of listens) video.removeEventListener(name, heard);
      if (this.video === video) this.video = null;
    };
  }

  toggle = (): void => {
    if (this.playing) this.pause();
    else this.play();
  };

  play(): void {
    if (this.loop && (this.t < this.loop.from || this.t >= this.loop.to)) this.seek(this.loop.from);
    if (this.video && this.wanted === null) {
      void this.video.play().catch(() => this.pause());
      return;
    }
    this.goOn(this.t);
  }

  pause(): void {
    this.stopTimer();
    this.video?.pause();
    this.playing = false;
    this.notify();
  }

  /** Go to the frame at `t` seconds; the middle of the frame, so that rounding never lands on its neighbour. */
  seek(t: number): void {
    const to = Math.max(this.begin, this.end === null ? t : Math.min(t, this.end));
    if (!this.loop && Math.abs(to - this.t) > FAR) this.before = this.t;
    const index = this.partAt(to);
    const part = this.parts[index];
    if (index !== this.current || !part) {
      this.enter(index, to);
      return;
    }
    if (this.video && this.wanted === null) this.show(frameAt(part, to - part.start));
    else this.enter(index, to);
  }

  /** Go back to where the picture stood before the last jump; and again, to where it had jumped to. */
  back(): void {
    if (this.before === null) return;
    const to = this.before;
    this.before = this.t;
    this.seek(to);
  }

  step(frames: number): void {
    this.pause();
    const part = this.parts[this.current];
    if (!part || !this.video) {
      this.seek(this.t + frames / NO_CLIP_FPS);
      return;
    }
    const frame = frameAt(part, this.t - part.start) + frames;
    const beyond = frame < firstFrame(part) || frame > lastFrame(part);
    if (beyond && this.parts[this.current + Math.sign(frames)]) this.seek(frames > 0 ? endOf(part) + 0.001 : beginOf(part) - 0.001);
    else this.show(frame);
  }

  nudge(seconds: number): void {
    this.seek(this.t + seconds);
  }

  setRate(rate: number): void {
    this.rate = rate;
    if (this.video) this.video.playbackRate = rate;
    this.notify();
  }

  setMuted(muted: boolean): void {
    this.muted = muted;
    if (this.video) this.video.muted = muted;
    this.notify();
  }

  setLoop(loop: Loop | null): void {
    this.loop = loop && loop.to > loop.from ? loop : null;
    this.notify();
  }

  /** The time to log: whole milliseconds. */
  now(): number {
    return Math.round(this.t * 1000) / 1000;
  }

  /** Run on from `t` by the wall clock, until a clip begins. */
  private goOn(t: number): void {
    this.playing = true;
    this.stopTimer();
    const index = this.partAt(t);
    if (index >= 0) {
      this.enter(index, t);
      return;
    }
    if (this.current !== -1) this.enter(-1, t);
    let last = performance.now();
    this.timer = window.setInterval(() => {
      const now = performance.now();
      this.move(this.t + ((now - last) / 1000) * this.rate);
      last = now;
      if (this.loop && this.t >= this.loop.to) this.seek(this.loop.from);
      else if (this.partAt(this.t) >= 0) this.goOn(this.t);
    }, TICK_MS);
    this.notify();
  }

  private stopTimer(): void {
    if (this.timer !== null) window.clearInterval(this.timer);
    this.timer = null;
  }

  /** Go to another clip, which is loaded first, or to where there is none. */
  private enter(index: number, t: number): void {
    const clip = index >= 0;
    if (index !== this.current) this.video = null;
    this.asked = null;
    this.wanted = clip ? t : null;
    if (clip) this.stopTimer();
    this.current = index;
    this.move(t);
    if (!clip && this.playing && this.timer === null) this.goOn(t);
  }

  private show(frame: number): void {
    const part = this.parts[this.current];
    if (!this.video || !part) return;
    const kept = Math.min(lastFrame(part), Math.max(firstFrame(part), frame));
    this.asked = this.playing ? null : kept;
    const start = startOf(part, kept);
    this.video.currentTime = (start + (kept < lastFrame(part) ? startOf(part, kept + 1) : start + 1 / part.fps)) / 2;
    this.move(part.start + start);
  }

  /** The clip that holds `t`; the last one holds its own end. */
  private partAt(t: number): number {
    return this.parts.findIndex((part, index) => {
      const end = endOf(part);
      return t >= beginOf(part) - 1e-6 && (t < end - 1e-6 || (index === this.parts.length - 1 && t <= end + 1e-6));
    });
  }

  private move(t: number): void {
    this.t = t;
    this.notify();
  }

  private notify(): void {
    for (const listener of this.listeners) listener();
  }
}

function beginOf(part: Part): number {
  return part.start + part.opens;
}

function endOf(part: Part): number {
  return part.start + part.closes;
}

function firstFrame(part: Part): number {
  return frameAt(part, part.opens);
}

function lastFrame(part: Part): number {
  const last = part.frames.length ? part.frames.length - 1 : Math.floor(part.closes * part.fps) - 1;
  return Math.max(0, Math.min(last, frameAt(part, part.closes)));
}

/** When a frame is shown, in seconds of its clip. */
function startOf(part: Part, frame: number): number {
  return part.frames.length ? (part.frames[frame] ?? 0) / 1000 : frame / part.fps;
}

/** The frame that is nearest to a time of the clip. */
function frameAt({ frames, fps }: Part, t: number): number {
  if (!frames.length) return Math.round(t * fps);
  const millis = t * 1000;
  let low = 0;
  let high = frames.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if ((frames[middle] ?? 0) <= millis) low = middle;
    else high = middle - 1;
  }
  const after = frames[low + 1];
  return after !== undefined && after - millis < millis - (frames[low] ?? 0) ? low + 1 : low;
}

/** A time that the player gives, as the time of the frame it means. */
function onFrame(part: Part, t: number): number {
  return part.frames.length ? startOf(part, frameAt(part, t)) : t;
}

/** Something read off the playhead; the component is drawn again only when that changes. */
export function usePlayhead<T>(playhead: Playhead, read: (playhead: Playhead) => T): T {
  return useSyncExternalStore(playhead.subscribe, () => read(playhead));
}
