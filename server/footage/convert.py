"""What ffmpeg makes of a clip: a copy that seeks well, a poster, and a strip of thumbnails.

Only picture and sound get into them: no place, device or owner that a phone or a camera wrote into the file.
"""

from __future__ import annotations

import os
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

from django.conf import settings

from .tools import MEBI, MOST_PIXELS_DECODED, Files, Limits, reading, run

WIDEST, WIDEST_AWAITED = 1920, 1280
"""Pixels: a copy keeps what is to be seen when it is enlarged; one that nobody can score without is there sooner."""
KEYFRAME_EVERY = 6
"""Frames: about a fifth of a second, so that every seek is near one."""
THUMBNAILS = 100
THUMBNAIL_WIDTH = 160
COLUMNS = 10
PICTURE_AND_SOUND = ["-map", "0:v:0", "-map", "0:a:0?"]
WITHOUT_TAGS = ["-map_metadata", "-1", "-map_metadata:s", "-1", "-map_chapters", "-1", "-fflags", "+bitexact"]
"""Tags of the file and of its streams, chapters, and the name of the program that wrote it are left out."""
SLOWEST, LEAST_S = 20, 30
"""Seconds of processor time that a second of footage may take to convert (the slowest clips seen take 3), and that any
clip may take."""

LEAST_MEMORY = 1024 * MEBI
"""Address space that ffmpeg needs for itself, its encoder and its threads, in bytes."""
PICTURES_HELD, BYTES_A_PIXEL = 64, 4
"""So many pictures are held at a time by decoder, filters and encoder at the most."""
ENCODER = ["-c:v", "libx264", "-threads:v", str(min(4, os.cpu_count() or 1))]

Progress = Callable[[float], bool]
"""Is given the share that is done, and says whether to go on."""


@dataclass(frozen=True, slots=True)
class Source:
    """A clip to be read: its file, the demuxer that opens it, its length in milliseconds, and pixels of a picture."""

    path: Path
    demuxer: str
    duration_ms: int
    pixels: int


def make_copy(source: Source, into: Path, content_type: str, progress: Progress) -> None:
    """The same pictures and sound in a new container, without anything else. Raises NotMade or Stopped."""
    form = ["-movflags", "+faststart", "-f", "mp4"] if content_type == "video/mp4" else ["-f", "webm"]
    read = reading(source.path, source.demuxer)
    command = [*read, *PICTURE_AND_SOUND, "-c", "copy", *WITHOUT_TAGS, *form, f"file:{into.name}"]
    convert(source, command, Files((source.path,), (into,)), source.duration_ms, progress)


def make_proxy(source: Source, into: Path, widest: int, progress: Progress) -> None:
    """A copy with a keyframe every fifth of a second and each frame at its own time, at most so many pixels wide.

    Raises NotMade or Stopped.
    """
    command = [
        *decoding(source), *PICTURE_AND_SOUND, "-fps_mode", "passthrough", "-enc_time_base", "-1",
        "-vf", f"scale='min({widest},iw)':-2", *ENCODER, "-preset", "veryfast", "-tune", "fastdecode",
        "-crf", "23", "-g", str(KEYFRAME_EVERY), "-bf", "0", "-pix_fmt", "yuv420p", "-c:a", "aac", "-ac", "2",
        "-video_track_timescale", "90000", *WITHOUT_TAGS, "-movflags", "+faststart", "-f", "mp4", f"file:{into.name}",
    ]  # fmt: skip
    convert(source, command, Files((source.path,), (into,)), source.duration_ms, progress)


def make_pictures(source: Source, poster: Path, strip: Path, go_on: Callable[[], bool]) -> None:
    """A poster from the middle, and up to a hundred thumbnails from begin to end, ten in a row.

    Raises NotMade or Stopped.
    """
    length = source.duration_ms
    one = ["-frames:v", "1", "-q:v", "4", *WITHOUT_TAGS, "-f", "mjpeg"]
    rows = -(-THUMBNAILS // COLUMNS)
    tiles = f"fps={THUMBNAILS * 1000 / max(1, length):.6f},scale={THUMBNAIL_WIDTH}:-2,tile={COLUMNS}x{rows}"
    for into, which, filters in (
        (poster, ["-ss", f"{length / 2000:.3f}"], "scale=480:-2"),
        (strip, ["-skip_frame", "noref"], tiles),
    ):
        command = [*which, *decoding(source), "-vf", filters, *one, f"file:{into.name}"]
        convert(source, command, Files((source.path,), (into,)), length, lambda _: go_on())


def decoding(source: Source) -> list[str]:
    """The options with which ffmpeg reads a clip whose pictures it decodes."""
    return ["-max_pixels", str(MOST_PIXELS_DECODED), "-threads", "2", *reading(source.path, source.demuxer)]


def convert(source: Source, arguments: list[str], files: Files, length_ms: int, progress: Progress) -> None:
    """Run ffmpeg on some files; what it makes of the source is so long. Raises NotMade or Stopped."""
    most = LEAST_S + SLOWEST * source.duration_ms // 1000
    memory = LEAST_MEMORY + PICTURES_HELD * BYTES_A_PIXEL * source.pixels
    limits = Limits(memory, cpu=most, wall=10 * most, output=settings.LARGEST_CLIP)
    done = [0.0]  # the latest share; progress is asked between two lines too, so that a cancelled run is killed
    command = ["-y", "-nostdin", "-progress", "pipe:1", *arguments]
    for line in run("ffmpeg", command, files, limits, lambda: progress(done[0])):
        name, _, value = line.strip().partition("=")
        if name == "out_time_us" and value.isdigit():
            done[0] = min(1.0, int(value) / 1000 / max(1, length_ms))
