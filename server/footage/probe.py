"""What is in a clip, asked of ffprobe, and whether a browser can play it."""

from __future__ import annotations

import json
import subprocess
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from config.errors import Refused

PLAYABLE = {
    "mp4": {"h264", "av1", "vp9"},
    "webm": {"vp8", "vp9", "av1"},
}
PLAIN_PIXELS = {"yuv420p", "yuvj420p"}
"""Browsers play H.264 only with eight bits and 4:2:0 colour."""


@dataclass(frozen=True, slots=True)
class Footage:
    """A clip that browsers can play. Duration in milliseconds of footage."""

    content_type: str
    duration_ms: int
    width: int
    height: int
    fps: float


def probe(path: Path) -> Footage:
    """Look into a file. Raises Refused with what the coach can do where it will not play."""
    found = _ask(path)
    streams = [stream for stream in found.get("streams", []) if stream.get("codec_type") == "video"]
    names = set(found.get("format", {}).get("format_name", "").split(","))
    if not streams or names & {"image2", "png_pipe", "jpeg_pipe", "gif", "mp3"}:
        raise Refused("no_video", "There is no video in this file. Choose the clip your phone or camera recorded.", 422)
    family = "mp4" if names & {"mp4", "mov"} else "webm" if "webm" in names else None
    codec = str(streams[0].get("codec_name", "unknown"))
    pixels = streams[0].get("pix_fmt")
    if family is None or codec not in PLAYABLE[family] or (codec == "h264" and pixels not in PLAIN_PIXELS):
        what = f"{codec} video" if family else f"{codec} video in a {sorted(names)[0]} file"
        hint = " On the phone, switch the camera to its most compatible format." if codec == "hevc" else ""
        raise Refused(
            "not_playable",
            f"Browsers can't play this clip ({what}). Save it as MP4 with H.264 video and upload that.{hint}",
            422,
        )
    duration = _seconds(found["format"].get("duration")) or _seconds(streams[0].get("duration"))
    if not duration:
        raise Refused("no_length", "This clip does not say how long it is; it may be cut off. Upload it again.", 422)
    stream = streams[0]
    return Footage(
        content_type=f"video/{family}",
        duration_ms=round(duration * 1000),
        width=int(stream.get("width") or 0),
        height=int(stream.get("height") or 0),
        fps=_rate(stream.get("avg_frame_rate")) or _rate(stream.get("r_frame_rate")) or 25.0,
    )


def frame_times(path: Path) -> list[int]:
    """When each frame of a clip is shown, in milliseconds, in order: phones record at rates that vary.

    Players count from the first frame where a file begins before zero.
    """
    command = [
        "ffprobe", "-v", "error", "-select_streams", "v:0", "-show_entries", "packet=pts_time", "-of", "csv=p=0",
        f"file:{path}",
    ]  # fmt: skip
    answer = subprocess.run(command, capture_output=True, text=True, timeout=600, check=False)
    times = {
        round(float(text) * 1000) for line in answer.stdout.split() if (text := line.split(",")[0]) not in ("", "N/A")
    }
    first = min(0, min(times, default=0))
    return sorted(t - first for t in times)


def _ask(path: Path) -> dict[str, Any]:
    command = ["ffprobe", "-v", "error", "-show_format", "-show_streams", "-of", "json", f"file:{path}"]
    try:
        answer = subprocess.run(command, capture_output=True, timeout=60, check=False)
    except subprocess.TimeoutExpired:
        raise Refused("not_readable", "This file could not be read in a minute. Is it a video?", 422) from None
    found: dict[str, Any] = json.loads(answer.stdout or b"{}")
    if answer.returncode or not found.get("format"):
        raise Refused("no_video", "This file is no video, or it is damaged. Choose an MP4, MOV or WebM clip.", 422)
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
