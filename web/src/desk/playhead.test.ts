// @vitest-environment jsdom
import { beforeEach, describe, expect, it, vi } from "vitest";
import { Playhead } from "./playhead";

/** A video element that goes where it is sent at once, and shows the frame there. */
class FakeVideo extends EventTarget {
  currentTime = 0;
  playbackRate = 1;
  muted = true;
  paused = true;
  ended = false;
  seeking = false;
  readyState = 4;
  private shown: ((now: number, frame: { mediaTime: number }) => void) | null = null;
  requestVideoFrameCallback(shown: (now: number, frame: { mediaTime: number }) => void) {
    this.shown = shown;
    return 1;
  }
  cancelVideoFrameCallback() {
    this.shown = null;
  }
  async play() {
    this.paused = false;
    this.dispatchEvent(new Event("play"));
  }
  pause() {
    if (this.paused) return;
    this.paused = true;
    this.dispatchEvent(new Event("pause"));
  }
  frame(mediaTime: number) {
    this.shown?.(0, { mediaTime });
  }
}

function follow(playhead: Playhead): FakeVideo {
  const video = new FakeVideo();
  playhead.follow(video as unknown as HTMLVideoElement);
  return video;
}

const CLIP = { clip: "one", start: 0, opens: 0, closes: 10, fps: 25 };

describe("in one clip", () => {
  let playhead: Playhead;
  let video: FakeVideo;
  beforeEach(() => {
    playhead = new Playhead([CLIP]);
    video = follow(playhead);
  });

  it("follows the frame that is shown", () => {
    playhead.play();
    video.frame(1.24);
    expect(playhead.now()).toBe(1.24);
    playhead.pause();
    video.frame(1.28); // the last one that was on its way
    expect(playhead.now()).toBe(1.28);
  });

  it("goes back to where it stood before a jump, and there again", () => {
    playhead.seek(1);
    expect(playhead.before).toBeNull(); // so near is no jump
    playhead.seek(9);
    playhead.back();
    expect(playhead.now()).toBe(1);
    playhead.back();
    expect(playhead.now()).toBe(9);
  });

  it("aims at the middle of a frame, so that rounding never lands on its neighbour", () => {
    playhead.seek(2);
    expect(video.currentTime).toBeCloseTo(2.02, 6);
    expect(playhead.now()).toBe(2);
  });

  it("steps by whole frames and stops at both ends", () => {
    playhead.seek(0.04);
    playhead.step(-1);
    playhead.step(-1);
    expect(playhead.now()).toBe(0);
    playhead.seek(9.96);
    playhead.step(1);
    expect(playhead.now()).toBe(9.96);
  });

  it("steps by the real times of the frames where they are known", () => {
    playhead.setFrames(0, [0, 33, 100, 133]);
    playhead.seek(0.03);
    expect(playhead.now()).toBe(0.033);
    playhead.step(1);
    expect(playhead.now()).toBe(0.1);
    playhead.play();
    video.frame(0.131);
    expect(playhead.now()).toBe(0.133);
  });

  it("does not take a frame of an earlier seek, neither while the next one is under way nor after it", () => {
    video.seeking = true;
    video.frame(5);
    expect(playhead.now()).toBe(0);
    video.seeking = false;
    playhead.nudge(1);
    playhead.nudge(1);
    video.frame(1);
    playhead.step(1);
    video.frame(2);
    expect(playhead.now()).toBe(2.04);
    playhead.setFrames(0, [0, 1000, 2033, 2066]);
    video.frame(1);
    expect(playhead.now()).toBe(2.033);
    playhead.play();
    video.frame(2.066);
    expect(playhead.now()).toBe(2.066);
  });

  it("stays within the footage", () => {
    playhead.seek(99);
    expect(playhead.now()).toBeLessThanOrEqual(10);
    playhead.nudge(-99);
    expect(playhead.now()).toBe(0);
  });

  it("repeats between two marks while it plays", () => {
    playhead.setLoop({ from: 2, to: 4 });
    playhead.toggle();
    expect(playhead.now()).toBe(2); // it begins within the marks
    expect(playhead.playing).toBe(true);
    video.frame(4.04);
    expect(playhead.now()).toBe(2);
    playhead.setLoop({ from: 4, to: 4 });
    expect(playhead.loop).toBeNull();
  });

  it("hands rate and sound on to the video", () => {
    playhead.setRate(0.5);
    playhead.setMuted(false);
    expect([video.playbackRate, video.muted]).toEqual([0.5, false]);
  });

  it("tells who listens, until they leave", () => {
    const heard = vi.fn();
    const leave = playhead.subscribe(heard);
    playhead.seek(1);
    expect(heard).toHaveBeenCalled();
    heard.mockClear();
    leave();
    playhead.seek(2);
    expect(heard).not.toHaveBeenCalled();
  });
});

describe("over clips with a gap between them", () => {
  const parts = [CLIP, { clip: "two", start: 20, opens: 0, closes: 10, fps: 50 }];

  it("knows the clip it is in, and the end of the footage", () => {
    const playhead = new Playhead(parts);
    expect(playhead.end).toBe(30);
    for (const [t, index] of [
      [0, 0],
      [9.99, 0],
      [10, -1],
      [19.9, -1],
      [20, 1],
      [30, 1],
    ] as const) {
      playhead.seek(t);
      expect([t, playhead.current]).toEqual([t, index]);
    }
  });

  it("waits for the clip that it enters, then shows the frame that was asked for", () => {
    const playhead = new Playhead(parts);
    follow(playhead);
    playhead.seek(25);
    expect(playhead.now()).toBe(25);
    const second = follow(playhead);
    expect(second.currentTime).toBeCloseTo(5.01, 6);
  });

  it("steps over the gap from the last frame of a clip", () => {
    const playhead = new Playhead(parts);
    follow(playhead);
    playhead.seek(9.96);
    playhead.step(1);
    expect(playhead.current).toBe(-1);
  });

  it("runs through a gap by itself, into the next clip", () => {
    vi.useFakeTimers({ toFake: ["setInterval", "clearInterval", "performance"] });
    const playhead = new Playhead(parts);
    follow(playhead);
    playhead.seek(19);
    playhead.play();
    vi.advanceTimersByTime(500);
    expect(playhead.now()).toBeGreaterThan(19.3);
    vi.advanceTimersByTime(1000);
    expect(playhead.current).toBe(1);
    vi.useRealTimers();
  });
});

describe("without any clip", () => {
  it("runs by itself, so that a match can be scored from memory", () => {
    vi.useFakeTimers({ toFake: ["setInterval", "clearInterval", "performance"] });
    const playhead = new Playhead();
    expect(playhead.end).toBeNull();
    playhead.setRate(2);
    playhead.play();
    vi.advanceTimersByTime(1000);
    playhead.pause();
    const stopped = playhead.now();
    expect(stopped).toBeCloseTo(2, 1);
    vi.advanceTimersByTime(1000);
    expect(playhead.now()).toBe(stopped);
    vi.useRealTimers();
    playhead.step(1);
    expect(playhead.now()).toBeCloseTo(stopped + 0.04, 3);
  });
});

describe("in a part of a clip that holds several matches", () => {
  const part = { clip: "one", start: 0, opens: 4, closes: 8, fps: 25 };

  it("begins where the match does, and goes no further than its end", () => {
    const playhead = new Playhead([part]);
    follow(playhead);
    expect([playhead.begin, playhead.now(), playhead.end]).toEqual([4, 4, 8]);
    playhead.nudge(-99);
    expect(playhead.now()).toBe(4);
    playhead.step(-1);
    expect(playhead.now()).toBe(4);
    playhead.seek(99);
    expect(playhead.now()).toBe(7.96); // its last frame
    playhead.step(1);
    expect(playhead.now()).toBe(7.96);
  });

  it("shows the beginning of the match, however late the clip is loaded", () => {
    const playhead = new Playhead([part]);
    const video = new FakeVideo();
    video.readyState = 0;
    playhead.follow(video as unknown as HTMLVideoElement);
    video.frame(0);
    playhead.seek(5);
    video.frame(0);
    expect(playhead.now()).toBe(5);
    video.dispatchEvent(new Event("loadedmetadata"));
    expect([playhead.now(), video.currentTime]).toEqual([5, 5.02]);
  });

  it("stops where the next match begins, while the clip would play on", () => {
    const playhead = new Playhead([part]);
    const video = follow(playhead);
    playhead.play();
    video.frame(7.96);
    expect(playhead.playing).toBe(true);
    video.frame(8);
    expect([playhead.playing, video.paused]).toEqual([false, true]);
  });

  it("goes on with the next part, and its times are those of the footage", () => {
    const playhead = new Playhead([part, { clip: "two", start: -2, opens: 10, closes: 12, fps: 25 }]);
    expect(playhead.end).toBe(10);
    playhead.seek(9);
    expect([playhead.current, playhead.clipStart]).toEqual([1, -2]);
  });
});
