"""Cutting the clip of an error out of the footage with ffmpeg, to the frame."""

from __future__ import annotations

from pathlib import Path

from footage.convert import ENCODER, PICTURE_AND_SOUND, WITHOUT_TAGS, Progress, Source, convert, decoding
from footage.files import open_private
from footage.tools import Files
from jurata_core.times import Millis

LOOK = (
    "FontName=DejaVu Sans,FontSize=12,BorderStyle=3,Outline=4,Shadow=0,OutlineColour=&HB01B1812,BackColour=&HB01B1812"
)
"""How burnt-in captions look: light on a dark band."""


def cut(source: Source, into: Path, start: Millis, end: Millis, style: str, captions: str, progress: Progress) -> None:
    """The stretch from ``start`` to ``end`` as a clip of its own that begins at zero.

    It is encoded again: a copy of the stream could begin at a keyframe only. Raises NotMade or Stopped.
    """
    subtitles = into.with_suffix(".vtt")
    with open_private(subtitles, "wb") as file:
        file.write(captions.encode())
    try:
        command = ["-ss", f"{start / 1000:.3f}", *decoding(source)]
        if style == "captions":
            command += ["-protocol_whitelist", "file", "-f", "webvtt", "-i", f"file:{subtitles.name}"]
            command += ["-map", "1:s:0", "-c:s", "mov_text"]
        if style == "burnt":
            command += ["-vf", f"subtitles={subtitles.name}:force_style='{LOOK}'"]
        command += [
            *PICTURE_AND_SOUND, "-t", f"{(end - start) / 1000:.3f}", *ENCODER,
            "-preset", "veryfast", "-crf", "21", "-pix_fmt", "yuv420p", "-c:a", "aac", "-ac", "2",
            *WITHOUT_TAGS, "-movflags", "+faststart", "-f", "mp4", f"file:{into.name}",
        ]  # fmt: skip
        convert(source, command, Files((source.path, subtitles), (into,)), end - start, progress)
    finally:
        subtitles.unlink(missing_ok=True)
