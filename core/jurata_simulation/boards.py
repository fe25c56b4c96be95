"""Simulated scoreboards: what the simulated camera sees of an event's clock and score.

A board has a face, which shows the clock and six figures, and something that makes it harder to read. All of them are
invented. Digits are at least 20 pixels high.
"""

from __future__ import annotations

import math
import random
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache, lru_cache
from pathlib import Path
from typing import Literal, NamedTuple

from PIL import Image, ImageDraw, ImageFilter, ImageFont

from jurata_core.match_log.observations import SIDES, Side, Tally
from jurata_core.times import Millis

Colour = tuple[int, int, int]
Corner = tuple[float, float]
Quad = tuple[Corner, Corner, Corner, Corner]
"""Four corners, clockwise from the top left one."""
Style = Literal["digits", "segments", "table"]

WIDTH, HEIGHT = 180, 102
"""Pixels of a face that is seen straight on."""
_CLOCK = (30, 3, 150, 39)
_FIRST_ROW, _ROW = 40, 31
_COLUMNS: dict[Tally, tuple[int, int]] = {"points": (30, 74), "advantages": (84, 124), "penalties": (134, 174)}
_SQUARE = (8, 24)
_FACES = Path("/usr/share/fonts/truetype/dejavu")
_SAMPLES = 2
"""A face is drawn so many times as large, and made smaller: as soft as a camera sees it."""


@dataclass(frozen=True, slots=True)
class Kind:
    """How a board looks, and what is in the way. ``corners``: where it hangs in the picture, in pixels."""

    name: str
    style: Style = "digits"
    corners: Quad = ((26, 16), (206, 16), (206, 118), (26, 118))
    blur: float = 0
    heads: bool = False
    glare: bool = False
    neighbour: bool = False
    drift: float = 0
    """How far a tired hand lets the picture wander, in pixels."""


PLAIN = "plain"
KINDS = {
    kind.name: kind
    for kind in (
        Kind(PLAIN),
        Kind("segments", style="segments"),
        Kind("projected", style="table"),
        Kind("tilted", corners=((26, 30), (196, 8), (202, 108), (30, 142))),
        Kind("blurred", blur=1.0),
        Kind("heads", heads=True),
        Kind("glare", style="segments", glare=True),
        Kind("neighbour", neighbour=True),
        Kind("handheld", drift=14),
    )
}
"""The boards that the camera knows, by name."""


class Shown(NamedTuple):
    """What a board shows: the clock as text, and the figures of ``a`` and ``b`` in the order of the tallies."""

    clock: str
    a: tuple[int, int, int]
    b: tuple[int, int, int]


def parts(kind: Kind, size: tuple[int, int]) -> dict[str, Quad]:
    """Where the clock and each figure are in a picture of ``size`` while the camera is still, as shares of it.

    The names are ``clock`` and, of each side, ``a.points`` and so on.
    """
    boxes: dict[str, tuple[float, float, float, float]] = {"clock": _CLOCK}
    for row, side in enumerate(SIDES):
        top = _FIRST_ROW + row * _ROW
        boxes |= {f"{side}.{tally}": (left, top, right, top + _ROW) for tally, (left, right) in _COLUMNS.items()}
    return {name: _in_picture(box, kind.corners, size) for name, box in boxes.items()}


def _in_picture(box: tuple[float, float, float, float], corners: Quad, size: tuple[int, int]) -> Quad:
    left, top, right, bottom = box
    found = [_lies(x, y, corners) for x, y in ((left, top), (right, top), (right, bottom), (left, bottom))]
    one, two, three, four = ((x / size[0], y / size[1]) for x, y in found)
    return one, two, three, four


def _lies(x: float, y: float, corners: Quad) -> Corner:
    """Where a point of the face is in the picture."""
    a, b, c, d, e, f, g, h = _projection(((0, 0), (WIDTH, 0), (WIDTH, HEIGHT), (0, HEIGHT)), corners)
    w = g * x + h * y + 1
    return (a * x + b * y + c) / w, (d * x + e * y + f) / w


@cache
def _projection(source: Quad, target: Quad) -> tuple[float, ...]:
    """The eight numbers that take the four corners of one to those of the other, as Pillow wants them."""
    import numpy as np

    rows, right = [], []
    for (x, y), (u, v) in zip(source, target, strict=True):
        rows += [[x, y, 1, 0, 0, 0, -u * x, -u * y], [0, 0, 0, x, y, 1, -v * x, -v * y]]
        right += [u, v]
    return tuple(float(number) for number in np.linalg.solve(np.array(rows), np.array(right)))


def hang(picture: Image.Image, kind: Kind, shown: Shown, t: Millis, sway: Corner) -> None:
    """Draw a board into a picture that the hand moves by ``sway`` pixels."""
    if kind.neighbour:
        _paste(picture, face(_elsewhere(t), kind.style), _moved(_NEXT_TO, sway), 0)
    _paste(picture, face(shown, kind.style), _moved(kind.corners, sway), kind.blur)
    if kind.glare:
        _shine(picture, t, kind.corners, sway)


_NEXT_TO: Quad = ((222, 24), (372, 30), (372, 112), (222, 112))


def _elsewhere(t: Millis) -> Shown:
    """Another mat's match, which has been on for longer."""
    left = max(0, 190 - t // 1000)
    return Shown(f"{left // 60}:{left % 60:02d}", (t // 50_000 * 2, 1, 0), (3, 0, t // 70_000))


def _moved(corners: Quad, by: Corner) -> Quad:
    one, two, three, four = ((x + by[0], y + by[1]) for x, y in corners)
    return one, two, three, four


def _paste(picture: Image.Image, board: Image.Image, corners: Quad, blur: float) -> None:
    left, top = (math.floor(min(corner[axis] for corner in corners)) - 2 for axis in (0, 1))
    right, bottom = (math.ceil(max(corner[axis] for corner in corners)) + 2 for axis in (0, 1))
    local = _moved(corners, (-left, -top))
    whole: Quad = ((0, 0), (board.width, 0), (board.width, board.height), (0, board.height))
    size = (right - left, bottom - top)
    back = _projection(local, whole)
    placed = board.transform(size, Image.Transform.PERSPECTIVE, back, Image.Resampling.BICUBIC)
    mask = _whole(board.size).transform(size, Image.Transform.PERSPECTIVE, back, Image.Resampling.BILINEAR)
    picture.paste(placed, (left, top), mask)
    if blur:
        region = picture.crop((left, top, right, bottom)).filter(ImageFilter.GaussianBlur(blur))
        picture.paste(region, (left, top))


@cache
def _whole(size: tuple[int, int]) -> Image.Image:
    return Image.new("L", size, 255)


def _shine(picture: Image.Image, t: Millis, corners: Quad, sway: Corner) -> None:
    """A lamp's reflection that wanders over the board as the camera sways."""
    x = (corners[0][0] + corners[1][0]) / 2 + 80 * math.sin(t / 5_000) + sway[0]
    y = (corners[0][1] + corners[3][1]) / 2 + 20 * math.sin(t / 7_000) + sway[1]
    spot = _spot()
    at = (round(x - spot.width / 2), round(y - spot.height / 2))
    picture.paste((255, 252, 240), at, spot)


@cache
def _spot() -> Image.Image:
    spot = Image.new("L", (110, 60))
    ImageDraw.Draw(spot).ellipse((28, 16, 82, 44), fill=235)
    return spot.filter(ImageFilter.GaussianBlur(12))


def heads(picture: Image.Image, t: Millis) -> None:
    """Spectators of the row in front, who lean before the board now and then."""
    draw = ImageDraw.Draw(picture)
    for number, (x, every, stays) in enumerate(((70, 17_000, 5_000), (150, 23_000, 6_000))):
        into = (t + number * 7_000) % every
        up = min(1.0, into / 600, max(0.0, (stays - into) / 600))
        if up > 0:
            top = 130 - 120 * up
            draw.ellipse((x - 34, top, x + 34, top + 76), fill=(24, 22, 22))
            draw.rounded_rectangle((x - 62, top + 70, x + 62, 240), 26, fill=(30, 30, 36))


def drift(kind: Kind, t: Millis) -> Corner:
    """How far the picture has wandered, in pixels."""
    return kind.drift * math.sin(t / 3_100), 0.6 * kind.drift * math.sin(t / 4_300 + 1)


@lru_cache(maxsize=32)
def face(shown: Shown, style: Style) -> Image.Image:
    """A board as it is seen straight on."""
    paper: Colour = (198, 200, 192) if style == "table" else (14, 16, 18)
    ink: Colour = (70, 72, 88) if style == "table" else (238, 230, 204)
    image = Image.new("RGB", (WIDTH * _SAMPLES, HEIGHT * _SAMPLES), paper)
    draw = ImageDraw.Draw(image)
    write = _write_segments if style == "segments" else _write
    write(draw, _CLOCK, shown.clock, 27, (255, 92, 60) if style == "segments" else ink)
    figures: Mapping[Side, tuple[int, int, int]] = {"a": shown.a, "b": shown.b}
    inks: tuple[Colour, ...] = ((255, 214, 90), (130, 230, 150), (255, 120, 110)) if style == "segments" else (ink,) * 3
    for row, side in enumerate(SIDES):
        top = _FIRST_ROW + row * _ROW
        square = (_SQUARE[0], top + 7, _SQUARE[1], top + 23)
        draw.rectangle(_enlarged(square), fill=(226, 150, 46) if side == "a" else (54, 122, 150))
        for (left, right), number, colour in zip(_COLUMNS.values(), figures[side], inks, strict=True):
            write(draw, (left, top, right, top + _ROW), str(number), 21, colour)
        if style == "table":
            draw.line(_enlarged((4, top, WIDTH - 4, top)), fill=(150, 152, 148), width=2)
    return image.resize((WIDTH, HEIGHT), Image.Resampling.LANCZOS)


def _enlarged(box: tuple[int, int, int, int]) -> tuple[int, int, int, int]:
    left, top, right, bottom = (number * _SAMPLES for number in box)
    return left, top, right, bottom


@cache
def _font(name: str, size: int) -> ImageFont.FreeTypeFont | ImageFont.ImageFont:
    path = _FACES / name
    return ImageFont.truetype(str(path), size) if path.exists() else ImageFont.load_default()


def _write(draw: ImageDraw.ImageDraw, box: tuple[int, int, int, int], text: str, height: int, colour: Colour) -> None:
    """Text in the middle of a box, its digits ``height`` pixels high on the face."""
    left, top, right, bottom = _enlarged(box)
    font = _font("DejaVuSans-Bold.ttf", round(height * _SAMPLES / 0.73))
    draw.text(((left + right) / 2, (top + bottom) / 2), text, font=font, fill=colour, anchor="mm")


_SEGMENTS = {
    "0": "abcdef", "1": "bc", "2": "abdeg", "3": "abcdg", "4": "bcfg",
    "5": "acdfg", "6": "acdefg", "7": "abc", "8": "abcdefg", "9": "abcdfg",
}  # fmt: skip
"""Which bars are lit, by the letters that bars of such digits have: a on top, then clockwise, g in the middle."""
_UNLIT = 0.1


def _write_segments(
    draw: ImageDraw.ImageDraw, box: tuple[int, int, int, int], text: str, height: int, colour: Colour
) -> None:
    left, top, right, bottom = _enlarged(box)
    tall = height * _SAMPLES
    wide, gap = tall * 0.56, tall * 0.2
    widths = [gap if sign == ":" else wide for sign in text]
    x = (left + right - sum(widths) - gap * (len(text) - 1)) / 2
    y = (top + bottom - tall) / 2
    for sign, width in zip(text, widths, strict=True):
        if sign == ":":
            for middle in (0.3, 0.7):
                half = tall * 0.055
                across = x + width / 2
                draw.rectangle(
                    (across - half, y + tall * middle - half, across + half, y + tall * middle + half), colour
                )
        else:
            _digit(draw, x, y, wide, tall, _SEGMENTS[sign], colour)
        x += width + gap


def _digit(draw: ImageDraw.ImageDraw, x: float, y: float, wide: float, tall: float, lit: str, colour: Colour) -> None:
    half, thick, gap = tall / 2, tall * 0.14, tall * 0.03
    bars = {
        "a": (x + gap, y, x + wide - gap, y + thick), "b": (x + wide - thick, y + gap, x + wide, y + half - gap),
        "c": (x + wide - thick, y + half + gap, x + wide, y + tall - gap),
        "d": (x + gap, y + tall - thick, x + wide - gap, y + tall),
        "e": (x, y + half + gap, x + thick, y + tall - gap), "f": (x, y + gap, x + thick, y + half - gap),
        "g": (x + thick * 0.8, y + half - thick / 2, x + wide - thick * 0.8, y + half + thick / 2),
    }  # fmt: skip
    dim = (int(colour[0] * _UNLIT), int(colour[1] * _UNLIT), int(colour[2] * _UNLIT))
    for name in sorted(bars, key=lambda bar: bar in lit):
        draw.rectangle(bars[name], fill=colour if name in lit else dim)


def made_up(rng: random.Random) -> Shown:
    """Anything that a board may show: for tests of the reader."""
    left = rng.randrange(600)

    def figures() -> tuple[int, int, int]:
        return rng.randrange(13), rng.randrange(8), rng.randrange(4)

    return Shown(f"{left // 60}:{left % 60:02d}", figures(), figures())
