"""What ffmpeg makes of a clip: a copy that seeks well, a poster, and a strip of thumbnails."""

from __future__ import annotations

import subprocess
import tempfile
from collections.abc import Callable
from pathlib import Path

WIDEST, WIDEST_AWAITED = 1920, 1280
"""Pixels: a copy keeps what is to be seen when it is enlarged; one that nobody can score without is there sooner."""
KEYFRAME_EVERY = 6
"""Frames: about a fifth of a second, so that every seek is near one."""
THUMBNAILS = 100
THUMBNAIL_WIDTH = 160
COLUMNS = 10


class NotMade(Exception):
    """ffmpeg could not make it; the message is its last word."""


class Stopped(Exception):
    """The work was cancelled."""


def make_proxy(path: Path, into: Path, duration_ms: int, widest: int, progress: Callable[[float], bool]) -> None:
    """A copy with a keyframe every fifth of a second and each frame at its own time, at most so many pixels wide.

    ``progress`` is told the share done and says whether to go on. Raises NotMade or Stopped.
    """
    command = [
        "-i", f"file:{path}",
        "-map", "0:v:0", "-map", "0:a:0?", "-fps_mode", "passthrough", "-enc_time_base", "-1",
        "-vf", f"scale='min({widest},iw)':-2", "-c:v", "libx264", "-preset", "veryfast", "-tune", "fastdecode",
        "-crf", "23", "-g", str(KEYFRAME_EVERY), "-bf", "0", "-pix_fmt", "yuv420p", "-c:a", "aac", "-ac", "2",
        "-video_track_timescale", "90000", "-movflags", "+faststart", "-f", "mp4", f"file:{into}",
    ]  # fmt: skip
    run_with_progress(command, duration_ms, progress)


def run_with_progress(arguments: list[str], duration_ms: int, progress: Callable[[float], bool]) -> None:
    """Run ffmpeg on something that comes out so long.

    ``progress`` is told the share done and says whether to go on. Raises NotMade or Stopped.
    """
    command = ["ffmpeg", "-v", "error", "-y", "-nostdin", "-progress", "pipe:1", *arguments]
    with (
        tempfile.TemporaryFile("w+") as trouble,
        subprocess.Popen(command, stdout=subprocess.PIPE, stderr=trouble, text=True) as process,
    ):
        assert process.stdout is not None  # it is a pipe
        for line in process.stdout:
            name, _, value = line.strip().partition("=")
            if name != "out_time_us" or not value.isdigit():
                continue
            if not progress(min(1.0, int(value) / 1000 / max(1, duration_ms))):
                process.kill()
                raise Stopped
        if process.wait():
            trouble.seek(0)
            raise NotMade(_last_word(trouble.read()))


def make_pictures(path: Path, poster: Path, strip: Path, duration_ms: int) -> None:
    """A poster from the middle, and up to a hundred thumbnails from begin to end, ten in a row. Raises NotMade."""
    middle = f"{duration_ms / 2000:.3f}"
    one = ["-frames:v", "1", "-q:v", "4", "-f", "mjpeg"]
    _run(["-ss", middle, "-i", f"file:{path}", "-vf", "scale=480:-2", *one, f"file:{poster}"])
    rows = -(-THUMBNAILS // COLUMNS)
    tiles = f"fps={THUMBNAILS * 1000 / max(1, duration_ms):.6f},scale={THUMBNAIL_WIDTH}:-2,tile={COLUMNS}x{rows}"
    _run(["-skip_frame", "noref", "-i", f"file:{path}", "-vf", tiles, *one, f"file:{strip}"])


def _run(arguments: list[str]) -> None:
    command = ["ffmpeg", "-v", "error", "-y", "-nostdin", *arguments]
    done = subprocess.run(command, capture_output=True, text=True, timeout=3600, check=False)
    if done.returncode:
        raise NotMade(_last_word(done.stderr))


def _last_word(text: str) -> str:
    lines = [line for line in text.splitlines() if line.strip()]
    return lines[-1][:300] if lines else "ffmpeg stopped without a word"
