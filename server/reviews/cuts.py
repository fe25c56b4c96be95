"""Cutting the clip of an error out of the footage with ffmpeg, to the frame."""

from __future__ import annotations

import tempfile
from collections.abc import Callable
from pathlib import Path

from footage.convert import run_with_progress
from jurata_core.times import Millis

LOOK = (
    "FontName=DejaVu Sans,FontSize=12,BorderStyle=3,Outline=4,Shadow=0,OutlineColour=&HB01B1812,BackColour=&HB01B1812"
)
"""How burnt-in captions look: light on a dark band."""


def cut(
    footage: Path, into: Path, start: Millis, end: Millis, style: str, captions: str, progress: Callable[[float], bool]
) -> None:
    """The stretch from ``start`` to ``end`` as a clip of its own that begins at zero.

    It is encoded anew: a copy of the stream could begin at a keyframe only. Raises NotMade or Stopped.
    """
    with tempfile.TemporaryDirectory() as folder:
        told = Path(folder) / "captions.vtt"
        told.write_text(captions, "utf-8")
        command = ["-ss", f"{start / 1000:.3f}", "-i", f"file:{footage}"]
        if style == "captions":
            command += ["-i", f"file:{told}", "-map", "1:s:0", "-c:s", "mov_text"]
        if style == "burnt":
            command += ["-vf", f"subtitles={told}:force_style='{LOOK}'"]
        command += [
            "-map", "0:v:0", "-map", "0:a:0?", "-t", f"{(end - start) / 1000:.3f}", "-c:v", "libx264",
            "-preset", "veryfast", "-crf", "21", "-pix_fmt", "yuv420p", "-c:a", "aac", "-ac", "2",
            "-movflags", "+faststart", "-f", "mp4", f"file:{into}",
        ]  # fmt: skip
        run_with_progress(command, end - start, progress)
