"""Where the board is in each picture of a clip that was filmed by hand.

Points of the picture at a marked moment are followed by optical flow (Lucas and Kanade, as OpenCV has it), and moved,
turned and enlarged together: what does not move with the rest is somebody who walks past. Every picture is held
against a marked one, so that small errors don't add up.
"""

from __future__ import annotations

from dataclasses import dataclass

import cv2
import numpy as np
import numpy.typing as npt

from jurata_core.times import Millis

from .frames import Picture

Move = npt.NDArray[np.float64]
"""Two rows of three: how points of the marked picture lie in another one."""
Points = npt.NDArray[np.float32]
UNMOVED: Move = np.array([[1.0, 0, 0], [0, 1, 0]])
MOST_POINTS = 160
FEWEST, LEAST_SHARE = 10, 0.35
"""So many points must move together, and such a share of those that were found again."""
WITHIN = 1.5
"""Pixels that a point may be off."""
LARGEST_CHANGE = 0.35
"""A hand does not turn or enlarge a picture by more than that between two marked moments."""
STILL = 1.2
"""Mean difference of brightness, of 255, up to which the picture has not moved."""


@dataclass(frozen=True)
class _Marked:
    t: Millis
    grey: Picture
    points: Points


class Tracker:
    """Follows the board from picture to picture. ``marked``: the pictures at the marked moments, by their time."""

    def __init__(self, marked: dict[Millis, Picture]) -> None:
        self._marked = []
        for t, picture in sorted(marked.items()):
            grey = _grey(picture)
            points = cv2.goodFeaturesToTrack(grey, MOST_POINTS, 0.01, 6)
            found = np.zeros((0, 1, 2), np.float32) if points is None else points.astype(np.float32)
            self._marked.append(_Marked(t, grey, found))
        self._moves = {one.t: UNMOVED for one in self._marked}
        self._last: Picture | None = None
        self._result: tuple[Millis, Move] | None = None

    def follow(self, t: Millis, picture: Picture) -> tuple[Millis, Move] | None:
        """The marked moment whose board is found, and how it has moved since; None where it is not found."""
        grey = _grey(picture)
        if self._last is not None and self._result is not None and _apart(grey, self._last) < STILL:
            return self._result
        self._last, self._result = grey, None
        for one in sorted(self._marked, key=lambda one: abs(one.t - t)):
            for guess in (self._moves[one.t], UNMOVED):
                move = _moved(one, grey, guess)
                if move is not None:
                    self._moves[one.t], self._result = move, (one.t, move)
                    return self._result
        return None


def _grey(picture: Picture) -> Picture:
    return np.asarray(cv2.cvtColor(picture, cv2.COLOR_RGB2GRAY), np.uint8)


def _apart(grey: Picture, other: Picture) -> float:
    return float(cv2.absdiff(grey, other).mean()) if grey.shape == other.shape else 255.0


def _moved(marked: _Marked, grey: Picture, guess: Move) -> Move | None:
    """How the points of a marked picture have moved together; None where too few did."""
    if len(marked.points) < FEWEST or marked.grey.shape != grey.shape:
        return guess
    start = cv2.transform(marked.points, guess).astype(np.float32)
    ends, found, _ = cv2.calcOpticalFlowPyrLK(
        marked.grey, grey, marked.points, start.copy(), winSize=(21, 21), maxLevel=3, flags=cv2.OPTFLOW_USE_INITIAL_FLOW
    )
    kept = found.ravel() == 1
    if kept.sum() < FEWEST:
        return None
    move, fits = cv2.estimateAffinePartial2D(
        marked.points[kept], ends[kept], method=cv2.RANSAC, ransacReprojThreshold=WITHIN
    )
    if move is None or fits.sum() < max(FEWEST, LEAST_SHARE * kept.sum()):
        return None
    change = abs(np.hypot(move[0, 0], move[1, 0]) - 1) + abs(move[1, 0])
    return None if change > LARGEST_CHANGE else np.asarray(move, np.float64)
