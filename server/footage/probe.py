"""What is in a clip, asked of ffprobe: whether a browser can play it, and how well it seeks."""

from __future__ import annotations

import json
from collections.abc import Callable
from dataclasses import dataclass
from itertools import pairwise
from pathlib import Path
from typing import Any

from config.refusals import Refused
from jobs.running import NotMade
from jurata_core.times import minutes

from .tools import DEMUXERS, MEBI, MOST_PIXELS_DECODED, Files, Limits, TookTooLong, TooMuch, reading, run

PLAYABLE = {
    "mp4": {"h264", "av1", "vp9"},
    "webm": {"vp8", "vp9", "av1"},
}
PLAIN_PIXELS = {"yuv420p", "yuvj420p"}
"""Browsers play H.264 only with eight bits and 4:2:0 colour."""
LONGEST_GAP = 2_500
"""Milliseconds between keyframes up to which a clip seeks well: a seek decodes from the one before."""
MOST_PIXELS = 1920 * 1088
MOST_DECODED = 8 * MOST_PIXELS
"""Pixels that a seek may have to decode, the frames since the keyframe before: two slow cores take 5 to 10 ms for a
frame of 1080p as phones record it, and a step to the next frame should be there within 80."""
LONGEST_MS = 12 * 3_600_000
MOST_FRAMES = 1_200_000
"""Frames of a clip at the most: more than five hours at 60 a second."""
TO_PROBE = Limits(memory=768 * MEBI, cpu=20, wall=120)
TO_LIST = Limits(memory=768 * MEBI, cpu=300, wall=900)
NO_VIDEO = "There is no video in this file. Choose the clip your phone or camera recorded."
DAMAGED = "This file is not a video, or it is damaged. Choose a clip from a phone or camera."


@dataclass(frozen=True, slots=True)
class Footage:
    """A clip. Duration in milliseconds of footage; ``playable`` by the browsers of today."""

    demuxer: str
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
    """Look into a file. Raises Refused where it is no clip, and TookTooLong where that could not be found out."""
    found = _ask(path)
    streams = [
        stream
        for stream in found.get("streams", [])
        if stream.get("codec_type") == "video" and not stream.get("disposition", {}).get("attached_pic")
    ]
    container = found["format"].get("format_name", "")
    demuxer = DEMUXERS.get(container)
    if not streams or demuxer is None:
        raise Refused("no_video", NO_VIDEO)
    stream = streams[0]
    names = set(container.split(","))
    family = "mp4" if "mp4" in names else "webm" if "webm" in names else None
    codec = str(stream.get("codec_name", "unknown"))
    plain = codec != "h264" or stream.get("pix_fmt") in PLAIN_PIXELS
    duration = _seconds(found["format"].get("duration")) or _seconds(stream.get("duration"))
    if not duration:
        raise Refused(
            "no_length", "The length of this clip can't be read; the file may be incomplete. Upload it again."
        )
    if duration * 1000 > LONGEST_MS:
        message = f"This clip says that it is longer than {minutes(LONGEST_MS)}. Cut it to the match and upload that."
        raise Refused("too_long", message)
    width, height = int(stream.get("width") or 0), int(stream.get("height") or 0)
    if not 0 < width * height <= MOST_PIXELS_DECODED:
        raise Refused("too_large_picture", f"A picture of {width} by {height} pixels can't be used here.")
    return Footage(
        demuxer=demuxer,
        content_type=f"video/{family}" if family else "application/octet-stream",
        playable=family is not None and codec in PLAYABLE[family] and plain,
        duration_ms=round(duration * 1000),
        width=width,
        height=height,
        fps=_rate(stream.get("avg_frame_rate")) or _rate(stream.get("r_frame_rate")) or 25.0,
    )


def frames_in(path: Path, demuxer: str, go_on: Callable[[], bool] = lambda: True) -> Frames:
    """The frames of a clip: phones record at rates that vary. Raises NotMade, or Stopped where ``go_on`` says no.

    Players count from the first frame where a file begins before zero.
    """
    asked = ["-select_streams", "v:0", "-show_entries", "packet=pts_time,flags", "-of", "csv=p=0"]
    found: dict[int, bool] = {}
    for line in run("ffprobe", [*asked, *reading(path, demuxer)], Files((path,)), TO_LIST, go_on):
        text, _, flags = line.strip().partition(",")
        if text not in ("", "N/A") and "D" not in flags:
            found[round(float(text) * 1000)] = "K" in flags
        if len(found) > MOST_FRAMES:
            raise TooMuch(f"it has more than {MOST_FRAMES} frames; cut it to the match")
    first = min(0, min(found, default=0))
    times = sorted(found)
    return Frames([t - first for t in times], [t - first for t in times if found[t]])


def _ask(path: Path) -> dict[str, Any]:
    asked = ["-show_format", "-show_streams", "-of", "json", *reading(path)]
    lines, size = [], 0
    try:
        for line in run("ffprobe", asked, Files((path,)), TO_PROBE):
            size += len(line)
            if size > MEBI:
                raise Refused("no_video", DAMAGED)
            lines.append(line)
    except TookTooLong:
        raise
    except NotMade:
        raise Refused("no_video", DAMAGED) from None
    found: dict[str, Any] = json.loads("\n".join(lines) or "{}")
    if not found.get("format"):
        raise Refused("no_video", DAMAGED)
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
