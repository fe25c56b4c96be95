"""What a part of a board says: its picture made straight, and its line of text read.

The text is read by the recognizer that the package rapidocr carries with it, run by onnxruntime. Nothing leaves the
machine. Of all signs that it knows only those count that a board shows.
"""

from __future__ import annotations

import threading
from collections.abc import Sequence
from functools import cache
from typing import Any, NamedTuple

import cv2
import numpy as np
import numpy.typing as npt

from .frames import Picture

Corners = npt.NDArray[np.float64]
"""Four rows of x and y in pixels, clockwise from the top left one."""
SIGNS = ("0Oo", "1Il|", "2己", "3", "4", "5", "6b", "7", "8B日", "9g", ":", ".")
"""The signs that a board shows, each with others that the recognizer takes it for: they are added up."""
HIGH = 72
"""Pixels of a part that was made straight."""
BOARD_HIGH = 320
"""Pixels of a whole board in which lines are looked for."""
LOWEST, HIGHEST = 0.1, 0.6
"""How high a digit is, in heights of the board."""
STROKE, BORDER = 5, 12
"""Pixels between the strokes of one digit, and those at the edge of a board that may be the wall."""
APART = 0.75
"""How far the digits of one line are from each other, in heights of them; a colon lies between two."""
LEAST_SURE = 0.5
WIDER = 0.2
"""What is left around a line, in heights of it."""
WIDEST = 8
"""A part is at most so many times as wide as high."""
AROUND = 0.15
"""What is left around the digits, in heights of them."""
SURE = 0.8
"""A reading that is surer than that is not tried in another way."""
SOFT = 0.065
"""How far the bars of a digit are run together, in heights of the part: else they are read as strokes of their own."""
GAP = 0.12
"""How far two strokes are apart at least, in heights of the part."""
TALL = 0.6
"""How high such a stroke is at least, in heights of the part."""
_LEAST_INK = 30
_lock = threading.Lock()


class Text(NamedTuple):
    """What was read, and how sure the reader is, from 0 to 1."""

    text: str
    sure: float


class Line(NamedTuple):
    """A line of digits that was found in a picture."""

    corners: Corners
    text: Text


def straight(picture: Picture, corners: Corners) -> Picture:
    """The part between four corners, as it is seen from the front."""
    return _straightened(picture, corners, HIGH)[0]


def _straightened(picture: Picture, corners: Corners, high: int) -> tuple[Picture, npt.NDArray[np.float64]]:
    """The part between four corners so many pixels high, and the turn that took it there."""
    source = corners.astype(np.float32)
    width = max(np.linalg.norm(source[1] - source[0]), np.linalg.norm(source[2] - source[3]))
    tall = max(1.0, float(max(np.linalg.norm(source[3] - source[0]), np.linalg.norm(source[2] - source[1]))))
    across = max(8, min(high * WIDEST, round(high * float(width) / tall)))
    target = np.array([[0, 0], [across, 0], [across, high], [0, high]], np.float32)
    turn = cv2.getPerspectiveTransform(source, target)
    made = cv2.warpPerspective(picture, turn, (across, high), flags=cv2.INTER_CUBIC)
    return np.asarray(made, np.uint8), np.asarray(turn, np.float64)


def lightest(part: Picture) -> Picture:
    """The lightest of the three colours of each pixel: digits of any colour are light on dark."""
    red, green, blue = cv2.split(part)
    return np.asarray(cv2.max(cv2.max(red, green), blue), np.uint8)


def read_text(part: Picture) -> Text:
    """The text of a part that was made straight."""
    light = lightest(part)
    trimmed = _trimmed(light)
    soft = np.asarray(cv2.GaussianBlur(trimmed, (0, 0), SOFT * trimmed.shape[0]), np.uint8)
    found = _recognized(soft)
    if found.sure < SURE:
        found = max(found, _recognized(trimmed), key=lambda one: one.sure)
    if found.text == "1" and _strokes(trimmed) == 2:  # two bars alike are taken for one that is wide
        return Text("11", found.sure)
    return found


def _strokes(light: Picture) -> int:
    """How many strokes stand next to each other, alike and with a gap between; 0 where they may be something else.

    What touches the edge of the part is the edge of the board or of another figure.
    """
    ink = _ink(light)
    high, wide = ink.shape
    lit = np.flatnonzero(ink.any(axis=0))
    if len(lit) == 0 or lit[0] == 0 or lit[-1] == wide - 1:
        return 0
    strokes = np.split(lit, np.flatnonzero(np.diff(lit) > GAP * high) + 1)
    across = [len(stroke) for stroke in strokes]
    tall = [np.ptp(np.flatnonzero(ink[:, stroke].any(axis=1))) + 1 for stroke in strokes]
    alike = max(across) <= 2 * min(across) and min(tall) >= TALL * high
    return len(strokes) if alike else 0


def _ink(light: Picture) -> Picture:
    """The digits as white on black."""
    _, ink = cv2.threshold(light, 0, 255, cv2.THRESH_BINARY + cv2.THRESH_OTSU)
    return np.asarray(255 - ink if ink.mean() > 127 else ink, np.uint8)  # they may be dark on light ground


def _trimmed(light: Picture) -> Picture:
    """The part without what is empty around its digits: they are read best when they fill it."""
    ink = _ink(light)
    rows, columns = np.nonzero(ink)
    if len(rows) < _LEAST_INK:
        return light
    top, bottom = np.percentile(rows, [1, 99])
    left, right = np.percentile(columns, [1, 99])
    margin = (bottom - top) * AROUND
    return light[
        max(0, int(top - margin)) : int(bottom + margin) + 1, max(0, int(left - margin)) : int(right + margin) + 1
    ]


def lines_in(picture: Picture, corners: Corners) -> list[Line]:
    """The lines of digits of a board between four corners, from the top down.

    Strokes that touch, or nearly do, are one digit; digits of one height next to each other are one line. Of what is
    found that way the lines are kept that read as digits.
    """
    board, turn = _straightened(picture, corners, BOARD_HIGH)
    back = np.linalg.inv(turn)
    lines = []
    rows = _in_lines(_digits(lightest(board)))
    slope = _slope(rows)
    for row in rows:
        box = _around(row, slope)
        around = cv2.perspectiveTransform(box[np.newaxis], back)[0]
        text = read_text(straight(picture, around))
        if text.text.strip(".:") and text.sure >= LEAST_SURE:
            lines.append(Line(around, text))
    return sorted(lines, key=lambda line: (round(line.corners[:, 1].mean() / 8), line.corners[:, 0].mean()))


Box = tuple[int, int, int, int]
"""Left, top, right, bottom."""


def _digits(light: Picture) -> list[Box]:
    """What may be digits on a board, by their size."""
    high, wide = light.shape
    _, ink = cv2.threshold(light, 0, 255, cv2.THRESH_BINARY + cv2.THRESH_OTSU)
    if ink[BORDER:-BORDER, BORDER:-BORDER].mean() > 127:
        ink = 255 - ink
    joined = cv2.morphologyEx(ink, cv2.MORPH_CLOSE, cv2.getStructuringElement(cv2.MORPH_RECT, (STROKE, STROKE)))
    count, _, stats, _ = cv2.connectedComponentsWithStats(joined)
    found = []
    for left, top, across, down, area in stats[1:count].tolist():
        fits = LOWEST * high <= down <= HIGHEST * high and across <= 1.2 * down and area >= 0.12 * across * down
        inside = left > 1 and top > 1 and left + across < wide - 1 and top + down < high - 1
        if fits and inside:
            found.append((left, top, left + across, top + down))
    return found


def _in_lines(digits: list[Box]) -> list[list[Box]]:
    """Digits next to each other in one line: about as high as the one before, level with it, and not far from it."""
    lines: list[list[Box]] = []
    for box in sorted(digits):
        left, top, _, bottom = box
        for line in lines:
            _, above, right, below = line[-1]
            high, low = max(bottom - top, below - above), min(bottom - top, below - above)
            if low > 0.6 * high and abs(top + bottom - above - below) < 0.7 * high and left - right < APART * high:
                line.append(box)
                break
        else:
            lines.append([box])
    return lines


def _slope(lines: list[list[Box]]) -> float:
    """How far the lines of a board rise or fall over their width, by the longest of them."""
    longest = max(lines, key=len, default=[])
    if len(longest) < 3:
        return 0.0
    middles = np.array([((left + right) / 2, (top + bottom) / 2) for left, top, right, bottom in longest])
    return float(np.polyfit(middles[:, 0], middles[:, 1], 1)[0])


def _around(line: list[Box], slope: float) -> Corners:
    """A box around the digits of a line that leans by a slope."""
    boxes = np.array(line, np.float64)
    high = float((boxes[:, 3] - boxes[:, 1]).max()) * (1 + 2 * WIDER)
    left, right = boxes[:, 0].min() - WIDER * high, boxes[:, 2].max() + WIDER * high
    middles = (boxes[:, 0] + boxes[:, 2]) / 2
    across, down = float(middles.mean()), float((boxes[:, 1] + boxes[:, 3]).mean() / 2)
    tops = [down + slope * (x - across) - high / 2 for x in (left, right)]
    return np.array([[left, tops[0]], [right, tops[1]], [right, tops[1] + high], [left, tops[0] + high]])


@cache
def _package() -> Any:
    """The package with its models, each loaded once when it is first needed: some 0.3 s."""
    from rapidocr import RapidOCR

    one = {f"EngineConfig.onnxruntime.{name}_op_num_threads": 1 for name in ("intra", "inter")}
    return RapidOCR(params={"Global.log_level": "critical", **one})


@cache
def _recognizer() -> Any:
    return _package()._load_rec_model()


@cache
def _known() -> npt.NDArray[np.float32]:
    """Which of the columns of the recognizer count for which sign: first that for no sign at all."""
    signs: Sequence[str] = _recognizer().postprocess_op.character
    known = np.zeros((len(signs), len(SIGNS) + 1), np.float32)
    known[0, 0] = 1
    for number, alike in enumerate(SIGNS, 1):
        known[[signs.index(sign) for sign in alike], number] = 1
    return known


def _recognized(light: Picture) -> Text:
    """The most likely signs, each where it is surer than no sign; the text is as sure as its least sure sign."""
    with _lock:
        recognizer = _recognizer()
        picture = cv2.cvtColor(light, cv2.COLOR_GRAY2BGR)
        shaped = recognizer.resize_norm_img(picture, max(1.0, picture.shape[1] / picture.shape[0]))
        chances = recognizer.session(shaped[np.newaxis].astype(np.float32))[0] @ _known()
    text, sure, before = "", [], 0
    for column, sign in enumerate(chances.argmax(axis=1).tolist()):
        if sign and sign != before:
            text += SIGNS[sign - 1][0]
            sure.append(float(chances[column, sign]))
        elif sign:
            sure[-1] = max(sure[-1], float(chances[column, sign]))
        before = sign
    return Text(text, min(1.0, min(sure, default=0.0)))
