"""Pictures of a clip for the reader: cut to where the board is, a few a second, one after the other."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from footage.convert import LEAST_MEMORY, LEAST_S, PICTURES_HELD, SLOWEST, Source, decoding
from footage.tools import Files, Limits, TooMuch, output_of
from jurata_core.board.readings import TICK
from jurata_core.times import Millis

Picture = npt.NDArray[np.uint8]
"""Rows, columns, and red, green and blue."""
RATE = 1000 // TICK
"""Pictures a second: one for each step in which the clock is followed."""
MOST_WIDE = 1280
"""Pixels; a larger region is made smaller."""
_HEADER = 64
"""Bytes in which the head of a picture ends at the latest."""


class Region(NamedTuple):
    """A part of the picture, as shares of it."""

    left: float
    top: float
    width: float
    height: float


@dataclass(frozen=True, slots=True)
class Cut:
    """The pictures of a region from ``start`` to ``end`` of a clip, made ``scale`` as large (at most 1)."""

    region: Region
    start: Millis
    end: Millis
    scale: float = 1


def pictures(source: Source, cut: Cut, go_on: Callable[[], bool] = lambda: True) -> Iterator[tuple[Millis, Picture]]:
    """The pictures with their times in the clip. Raises NotMade or Stopped."""
    filters = [f"fps={RATE}:start_time=0", *_looks(cut)]
    wanted = ["-t", f"{max(TICK, cut.end - cut.start) / 1000:.3f}"]
    for number, picture in enumerate(_decoded(source, cut.start, filters, wanted, go_on)):
        yield cut.start + number * TICK, picture


def picture_at(source: Source, t: Millis, region: Region, scale: float = 1) -> Picture | None:
    """The picture that is shown at ``t`` of a clip; None after its end."""
    filters = _looks(Cut(region, t, t, scale))
    found = _decoded(source, t, filters, ["-frames:v", "1"], lambda: True)
    return next(found, None)


def _looks(cut: Cut) -> list[str]:
    left, top, width, height = cut.region
    crop = f"crop=w=iw*{width:.5f}:h=ih*{height:.5f}:x=iw*{left:.5f}:y=ih*{top:.5f}:exact=1"
    return [crop, f"scale=w='min({MOST_WIDE},iw*{cut.scale:.4f})':h=-1:flags=area"]


def _decoded(
    source: Source, start: Millis, filters: list[str], wanted: list[str], go_on: Callable[[], bool]
) -> Iterator[Picture]:
    """Whole pictures out of what ffmpeg prints: each has a head with its size."""
    most = LEAST_S + SLOWEST * source.duration_ms // 1000
    limits = Limits(LEAST_MEMORY + PICTURES_HELD * 4 * source.pixels, cpu=most, wall=10 * most)
    command = [
        "-nostdin", "-ss", f"{start / 1000:.3f}", *decoding(source), "-map", "0:v:0", *wanted,
        "-vf", ",".join(filters), "-f", "image2pipe", "-c:v", "ppm", "pipe:1",
    ]  # fmt: skip
    held = bytearray()
    for block in output_of("ffmpeg", command, Files((source.path,)), limits, go_on):
        held += block
        while (size := _size(held)) is not None:
            head, width, height = size
            end = head + width * height * 3
            if len(held) < end:
                break
            yield np.frombuffer(bytes(held[head:end]), np.uint8).reshape(height, width, 3)
            del held[:end]


def _size(held: bytearray) -> tuple[int, int, int] | None:
    """How long the head of the next picture is, and its width and height; None where it is not there yet."""
    words = bytes(held[:_HEADER]).split(b"\n", 3)
    if len(words) < 4:
        return None
    width, height = (int(number) for number in words[1].split())
    if words[0] != b"P6" or not 0 < width * height <= MOST_WIDE * MOST_WIDE * 4:
        raise TooMuch("a picture of it has no size that can be used")
    return sum(len(word) + 1 for word in words[:3]), width, height
