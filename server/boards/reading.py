"""Reading the board of a whole clip: what each part showed, from when until when."""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

import cv2
import numpy as np

from footage.convert import Source
from jobs.running import NotMade
from jurata_core.board import CLOCK, Seen
from jurata_core.board.readings import TICK
from jurata_core.times import Millis

from .frames import Cut, Picture, Region, picture_at, pictures
from .recognizing import Corners, Text, lightest, lines_in, read_text, straight
from .tracking import Move, Tracker

AROUND = 0.1
"""So much of the picture around the board is followed with it, in shares of the picture."""
HIGH_ENOUGH = 64
"""Pixels of the lowest part; a clip in which it is higher is made smaller."""
BLOCK = 9
CHANGED = 0.28
"""By which share of its contrast a block of so many pixels must change for the part to have changed."""
AGAIN: Millis = 500
"""A reading that was not sure is tried again so much later, although nothing changed."""
TIMES = 3
SURE = 0.8
SHORTEST_WAIT, LONGEST_WAIT = 200, 1_600
"""What changes all the time is somebody in front of the board: it is looked at less and less often."""
MOST_EVIDENCE = 2_000
"""Pictures, of some 8 kB each."""
EVIDENCE_WIDE = 360
EVIDENCE_QUALITY = 80


@dataclass(frozen=True, slots=True)
class Marks:
    """Where the parts of a board are, at one or several moments of a clip: corners as shares of the picture."""

    moments: Mapping[Millis, Mapping[str, Corners]]

    @property
    def parts(self) -> list[str]:
        return sorted({part for boxes in self.moments.values() for part in boxes})

    def region(self) -> Region:
        """What has to be seen of the picture."""
        corners = np.concatenate([box for boxes in self.moments.values() for box in boxes.values()])
        left, top = np.clip(corners.min(axis=0) - AROUND, 0, 1)
        right, bottom = np.clip(corners.max(axis=0) + AROUND, 0, 1)
        return Region(float(left), float(top), float(right - left), float(bottom - top))


@dataclass(slots=True)
class Found:
    """All readings by the part, and pictures of the board at the times at which a figure was read (JPEG)."""

    readings: dict[str, list[Seen]] = field(default_factory=dict)
    evidence: dict[Millis, bytes] = field(default_factory=dict)
    lost: float = 0
    """The share of the footage in which the board was not found in the picture."""


@dataclass(frozen=True, slots=True)
class _Look:
    """A part as it looked when it was read: how light each block of it is, and how much between dark and light."""

    blocks: Picture
    contrast: float

    def differs(self, blocks: Picture) -> bool:
        """Whether a block is lighter or darker by more than a hand's shake makes it."""
        if blocks.shape != self.blocks.shape:
            return True
        return float(cv2.absdiff(blocks, self.blocks).max()) > CHANGED * self.contrast


@dataclass(slots=True)
class _Part:
    """One part as it was read last."""

    readings: list[Seen] = field(default_factory=list)
    look: _Look | None = None
    tries: int = 0
    due: Millis = 0
    wait: Millis = SHORTEST_WAIT

    def see(self, t: Millis, picture: Picture) -> bool:
        """Take in the next picture of the part; whether it was read."""
        blocks = np.asarray(cv2.blur(lightest(picture), (BLOCK, BLOCK)), np.uint8)
        last = self.readings[-1] if self.readings else None
        if self.look is not None and last is not None and not self.look.differs(blocks):
            if last.until >= t - 2 * TICK:
                self.readings[-1] = Seen(last.t, t, last.text, last.sure)
                if last.sure >= SURE or self.tries >= TIMES or t < self.due:
                    return False
            self.tries, self.due = self.tries + 1, t + AGAIN
        elif t < self.due and not self._settled(t):
            self.look = None
            return False
        else:
            self.tries, self.due = 1, t + self.wait
        found = read_text(picture)
        self.wait = SHORTEST_WAIT if found.sure >= SURE else min(LONGEST_WAIT, self.wait * 2)
        light = np.percentile(blocks, [3, 97])
        self.look = _Look(blocks, max(40.0, float(light[1] - light[0])))
        self.readings.append(Seen(t, t, found.text, round(found.sure, 3)))
        return True

    def _settled(self, t: Millis) -> bool:
        """Whether it was read well until a moment ago: then a change is one of the board."""
        last = self.readings[-1] if self.readings else None
        return last is not None and last.sure >= SURE and last.until - last.t >= 5 * TICK and t - last.until <= 2 * TICK


def read_board(
    source: Source, marks: Marks, start: Millis, end: Millis, go_on: Callable[[float], bool] = lambda _: True
) -> Found:
    """Read a board from ``start`` to ``end`` of a clip; ``go_on`` is given the share done. Raises NotMade, Stopped."""
    region = marks.region()
    scale = _scale(source, marks)
    marked = {t: picture for t in marks.moments if (picture := picture_at(source, t, region, scale)) is not None}
    tracker = Tracker(marked)
    parts = {name: _Part() for name in marks.parts}
    found, share = Found(), [0.0]
    count = lost = 0
    for t, picture in pictures(source, Cut(region, start, end, scale), lambda: go_on(share[0])):
        share[0], count = min(1.0, (t - start) / max(1, end - start)), count + 1
        where = tracker.follow(t, picture)
        if where is None:
            lost += 1
            continue
        read = [
            name
            for name, corners in _corners(marks, where, region, picture)
            if parts[name].see(t, straight(picture, corners)) and name != CLOCK
        ]
        if read and len(found.evidence) < MOST_EVIDENCE:
            found.evidence[t] = _evidence(picture, marks, where, region)
    if not count:
        raise NotMade("it has no picture that can be read")
    found.readings = {name: part.readings for name, part in parts.items()}
    found.lost = lost / max(1, count)
    return found


def read_moment(source: Source, t: Millis, boxes: Mapping[str, Any]) -> dict[str, Text]:
    """What each box (four corners as shares of the picture) shows at a moment of a clip. Raises NotMade."""
    marks = marks_from([{"t": t / 1000, "boxes": boxes}])
    region = marks.region()
    picture = picture_at(source, t, region, _scale(source, marks))
    if picture is None:
        return {}
    return {
        name: read_text(straight(picture, _in_pixels(box, region, picture)))
        for boxes_then in marks.moments.values()
        for name, box in boxes_then.items()
    }


def find_lines(source: Source, t: Millis, box: Any) -> list[dict[str, Any]]:
    """The lines of digits within a box around a whole board, from the top down, each with a box of its own."""
    region = marks_from([{"t": t / 1000, "boxes": {CLOCK: box}}]).region()
    picture = picture_at(source, t, region)
    if picture is None:
        return []
    corners = _in_pixels(np.array(box, np.float64), region, picture)
    found = []
    for line in lines_in(picture, corners):
        pixels = line.corners / [picture.shape[1], picture.shape[0]]
        shares = pixels * [region.width, region.height] + [region.left, region.top]
        found.append({"text": line.text.text, "sure": line.text.sure, "box": shares.round(5).tolist()})
    return found


def _scale(source: Source, marks: Marks) -> float:
    """How large the pictures are to be: the lowest part still high enough."""
    # The picture's shape is not known here; its height is at most the larger side of a 16:9 picture.
    high = math.sqrt(source.pixels * 9 / 16)
    lowest = min(float(np.ptp(box[:, 1])) for boxes in marks.moments.values() for box in boxes.values()) * high
    return min(1.0, HIGH_ENOUGH / max(1.0, lowest))


def _corners(
    marks: Marks, where: tuple[Millis, Move], region: Region, picture: Picture
) -> Iterator[tuple[str, Corners]]:
    """The corners of each part in pixels of a picture."""
    at, move = where
    for name, box in marks.moments[at].items():
        pixels = _in_pixels(box, region, picture)
        yield name, cv2.transform(pixels[np.newaxis], move)[0]


def _in_pixels(box: Corners, region: Region, picture: Picture) -> Corners:
    shares = (box - [region.left, region.top]) / [region.width, region.height]
    return np.asarray(shares * [picture.shape[1], picture.shape[0]], np.float64)


def _evidence(picture: Picture, marks: Marks, where: tuple[Millis, Move], region: Region) -> bytes:
    """The board as a small picture of its own."""
    corners = np.concatenate([box for _, box in _corners(marks, where, region, picture)])
    margin = 6
    left, top = np.maximum(0, corners.min(axis=0).astype(int) - margin)
    right, bottom = corners.max(axis=0).astype(int) + margin
    board = picture[top:bottom, left:right]
    if board.size == 0:
        board = picture
    scale = min(2.0, EVIDENCE_WIDE / board.shape[1])
    how = cv2.INTER_AREA if scale < 1 else cv2.INTER_CUBIC
    sized = cv2.resize(board, None, fx=scale, fy=scale, interpolation=how)
    options: Sequence[int] = [cv2.IMWRITE_JPEG_QUALITY, EVIDENCE_QUALITY]
    done, data = cv2.imencode(".jpg", cv2.cvtColor(sized, cv2.COLOR_RGB2BGR), options)
    return bytes(data) if done else b""


def marks_from(raw: Sequence[Mapping[str, Any]]) -> Marks:
    """Marks as they are stored: a list of ``{"t": seconds, "boxes": {part: [[x, y], ...]}}``."""
    return Marks(
        {round(one["t"] * 1000): {name: np.array(box, np.float64) for name, box in one["boxes"].items()} for one in raw}
    )
