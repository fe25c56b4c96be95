"""What is in a clip, asked of ffprobe: whether a browser can play it, and how well it seeks."""

from __future__ import annotations

import json
import subprocess
from dataclasses import dataclass
from itertools import pairwise
from pathlib import Path
from typing import Any

from config.errors import Refused

PLAYABLE = {
    "mp4": {"h264", "av1", "vp9"},
    "webm": {"vp8", "vp9", "av1"},
}
PLAIN_PIXELS = {"yuv420p", "yuvj420p"}
"""Browsers play H.264 only with eight bits and 4:2:0 colour."""
STILL = {"image2", "png_pipe", "jpeg_pipe", "gif", "mp3", "tty", "srt", "webvtt"}
LONGEST_GAP = 2_500
"""Milliseconds between keyframes up to which a clip seeks well: a seek decodes from the one before."""
MOST_PIXELS = 1920 * 1088
MOST_DECODED = 8 * MOST_PIXELS
"""Pixels that a seek may have to decode, the frames since the keyframe before: two slow cores take 5 to 10 ms for a
frame of 1080p as phones record it, and a step to the next frame should be there within 80."""


@dataclass(frozen=True, slots=True)
class Footage:
    """A clip. Duration in milliseconds of footage; ``playable`` by the browsers of today."""

    content_type: str
    playable: bool
    duration_ms: int
    width: int
    height: int
    fps: float


@dataclass(frozen=True, slots=True)
class Frames:
    """When each frame is shown, in milliseconds, in order, and which frames are keyframes."""

    times: list[int]
    keys: list[int]

    @property
    def longest_gap(self) -> int:
        """The longest time between two keyframes, or from the last one to the end."""
        return max((later - t for t, later in pairwise([*self.keys, *self.times[-1:]])), default=0)

    @property
    def longest_run(self) -> int:
        """The most frames from a keyframe up to the next one."""
        keys, run, longest = set(self.keys), 0, 0
        for t in self.times:
            run = 1 if t in keys else run + 1
            longest = max(longest, run)
        return longest


def probe(path: Path) -> Footage:
    """Look into a file. Raises Refused where it is no video, or does not say how long it is."""
    found = _ask(path)
    streams = [stream for stream in found.get("streams", []) if stream.get("codec_type") == "video"]
    names = set(found.get("format", {}).get("format_name", "").split(","))
    if not streams or names & STILL:
        raise Refused("no_video", "There is no video in this file. Choose the clip your phone or camera recorded.", 422)
    stream = streams[0]
    family = "mp4" if names & {"mp4", "mov"} else "webm" if "webm" in names else None
    codec = str(stream.get("codec_name", "unknown"))
    plain = codec != "h264" or stream.get("pix_fmt") in PLAIN_PIXELS
    duration = _seconds(found["format"].get("duration")) or _seconds(stream.get("duration"))
    if not duration:
        raise Refused("no_length", "This clip does not say how long it is; it may be cut off. Upload it again.", 422)
    return Footage(
        content_type=f"video/{family}" if family else "application/octet-stream",
        playable=family is not None and codec in PLAYABLE[family] and plain,
        duration_ms=round(duration * 1000),
        width=int(stream.get("width") or 0),
        height=int(stream.get("height") or 0),
        fps=_rate(stream.get("avg_frame_rate")) or _rate(stream.get("r_frame_rate")) or 25.0,
    )


def frames_in(path: Path) -> Frames:
    """The frames of a clip: phones record at rates that vary.

    Players count from the first frame where a file begins before zero.
    """
    command = [
        "ffprobe", "-v", "error", "-select_streams", "v:0", "-show_entries", "packet=pts_time,flags", "-of", "csv=p=0",
        f"file:{path}",
    ]  # fmt: skip
    answer = subprocess.run(command, capture_output=True, text=True, timeout=600, check=False)
    found: dict[int, bool] = {}
    for line in answer.stdout.split():
        text, _, flags = line.partition(",")
        if text not in ("", "N/A") and "D" not in flags:
            found[round(float(text) * 1000)] = "K" in flags
    first = min(0, min(found, default=0))
    times = sorted(found)
    return Frames([t - first for t in times], [t - first for t in times if found[t]])


def _ask(path: Path) -> dict[str, Any]:
    command = ["ffprobe", "-v", "error", "-show_format", "-show_streams", "-of", "json", f"file:{path}"]
    try:
        answer = subprocess.run(command, capture_output=True, timeout=60, check=False)
    except subprocess.TimeoutExpired:
        raise Refused("not_readable", "This file could not be read in a minute. Is it a video?", 422) from None
    found: dict[str, Any] = json.loads(answer.stdout or b"{}")
    if answer.returncode or not found.get("format"):
        raise Refused("no_video", "This file is no video, or it is damaged. Choose a clip of a phone or camera.", 422)
    return found


def _seconds(text: Any) -> float:
    try:
        return max(0.0, float(text))
    except (TypeError, ValueError):
        return 0.0


def _rate(text: Any) -> float:
    """Frames a second from ffprobe's ``30000/1001``."""
    over, _, under = str(text or "").partition("/")
    frames, seconds = _seconds(over), _seconds(under or "1")
    return round(frames / seconds, 4) if seconds else 0.0
