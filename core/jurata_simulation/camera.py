"""The simulated camera: draws a match log as a clip filmed from a raised corner.

A stand-in for footage. It shows two figures (the athlete warm, the opponent
cool), a referee, a wall board that people walk in front of, and the footage
time. A position is reached exactly at the time of its observation.
"""

from __future__ import annotations

import bisect
import math
import subprocess
from collections.abc import Callable, Sequence
from functools import cache, lru_cache
from itertools import pairwise
from pathlib import Path

from PIL import Image, ImageDraw, ImageFont

from jurata_core.adjudication import adjudicate
from jurata_core.adjudication.places import PLACE_OF, STANDING, Place
from jurata_core.match_log import MatchLog
from jurata_core.match_log.observations import (
    OTHER,
    SIDES,
    TALLIES,
    Attempt,
    Begin,
    Call,
    Clock,
    Foul,
    Side,
    Submission,
)
from jurata_core.times import Millis, minutes

from .boards import KINDS, PLAIN, Shown, drift, hang, heads, parts
from .poses import JOINTS, LIMBS, Point, Pose, between, poses_of

WIDTH, HEIGHT = 768, 432
"""The units that everything is drawn in."""
SCALE = 0.75
"""Pixels a unit: the clip is 576 by 324."""
PIXELS = (int(WIDTH * SCALE), int(HEIGHT * SCALE))
FPS = 20
MOVING: Millis = 450
"""How long the figures take from one position to the next."""
SHORTEST_TRY: Millis = 1_200
"""So long an attempt is seen at least."""
MOST_TRIED = 0.45
"""How far towards the position that an attempt aims at the figures get, of the whole way."""
DRIFTS: Millis = 3_000
"""How long they drift towards the edge of the mat, and are led back."""
OUT = 1.5
"""How far the edge is from the middle, as poses measure."""

_FONTS = Path("/usr/share/fonts/truetype/dejavu")
_WALL, _FLOOR, _MAT, _EDGE = (38, 44, 50), (58, 62, 66), (128, 134, 120), (168, 142, 88)
_BODY: dict[Side, tuple[int, int, int]] = {"a": (226, 150, 46), "b": (54, 122, 150)}
_TRIM: dict[Side, tuple[int, int, int]] = {"a": (120, 72, 14), "b": (18, 58, 78)}
_SKIN, _REFEREE = (222, 184, 150), (34, 34, 38)
Screen = tuple[float, float]
Box = tuple[float, float, float, float]
Colour = tuple[int, int, int]
_JOLTS: tuple[Screen, ...] = ((0, 0), (4, -2), (1, 3), (-4, 1), (-2, -3))


@cache
def _font(size: int) -> ImageFont.FreeTypeFont | ImageFont.ImageFont:
    path = _FONTS / "DejaVuSansMono-Bold.ttf"
    return ImageFont.truetype(str(path), size) if path.exists() else ImageFont.load_default()


class _Pen:
    """Draws in units, whatever the size of the picture."""

    def __init__(self, picture: Image.Image) -> None:
        self._draw = ImageDraw.Draw(picture)

    def rectangle(self, box: Box, fill: Colour) -> None:
        self._draw.rectangle(_scaled(box), fill=fill)

    def rounded(self, box: Box, radius: float, fill: Colour) -> None:
        self._draw.rounded_rectangle(_scaled(box), radius * SCALE, fill=fill)

    def ellipse(self, box: Box, fill: Colour | None = None, outline: Colour | None = None, width: int = 1) -> None:
        self._draw.ellipse(_scaled(box), fill=fill, outline=outline, width=max(1, round(width * SCALE)))

    def polygon(self, points: Sequence[Screen], fill: Colour) -> None:
        self._draw.polygon([(x * SCALE, y * SCALE) for x, y in points], fill=fill)

    def line(self, points: Sequence[Screen], fill: Colour, width: float) -> None:
        self._draw.line([(x * SCALE, y * SCALE) for x, y in points], fill=fill, width=max(1, round(width * SCALE)))

    def text(self, at: Screen, words: str, size: int, fill: Colour) -> None:
        self._draw.text((at[0] * SCALE, at[1] * SCALE), words, font=_font(round(size * SCALE)), fill=fill)


def _scaled(box: Box) -> Box:
    left, top, right, bottom = box
    return left * SCALE, top * SCALE, right * SCALE, bottom * SCALE


class Camera:
    """Draws any moment of one log. ``length`` is how much footage there is, in milliseconds.

    A log may name the board that hangs there as ``board``, one of :data:`.boards.KINDS`.
    """

    def __init__(self, log: MatchLog, tail: Millis = 3_000) -> None:
        verdict = adjudicate(log)
        self.log = log
        self.board = KINDS.get(str(log.raw.get("board")), KINDS[PLAIN])
        self.length = (log.observations[-1].t if log.observations else 0) + tail
        first: tuple[Millis, Place] = (-MOVING, verdict.positions[0][1] if verdict.positions else STANDING)
        self.places = [first, *verdict.positions]
        self.times = [t for t, _ in self.places]
        self.timeline = verdict.timeline
        self.calls = [seen for seen in log.observations if isinstance(seen, Call)]
        began = next((seen for seen in log.observations if isinstance(seen, Begin)), None)
        self.carried_in = {side: dict.fromkeys(TALLIES, 0) if began is None else began.score[side] for side in SIDES}
        self.holds = [seen for seen in log.observations if isinstance(seen, Submission)]
        self.fouls = [seen for seen in log.observations if isinstance(seen, Foul)]
        self.tries = [seen for seen in log.observations if isinstance(seen, Attempt)]
        self.edges = _edges([seen for seen in log.observations if isinstance(seen, Clock)])

    def frame(self, t: Millis) -> Image.Image:
        """The picture at footage time ``t``."""
        sway = self.sway(t)
        picture = _hall(sway).copy()
        draw = _Pen(picture)
        hang(picture, self.board, self.shown(t), t, (sway[0] * SCALE, sway[1] * SCALE))
        self._referee(draw, t, sway)
        self._figures(draw, t, sway)
        if self.board.heads:
            heads(picture, t)
        self._passer_by(draw, t)
        stamp = f"{minutes(t)}.{t % 1000:03d}"
        draw.rectangle((WIDTH - 128, HEIGHT - 30, WIDTH, HEIGHT), fill=(12, 14, 16))
        draw.text((WIDTH - 118, HEIGHT - 27), stamp, size=18, fill=(240, 240, 236))
        return picture

    def sway(self, t: Millis) -> Screen:
        """How far the hand has moved the picture at footage time ``t``, in units."""
        x, y = _sway(t)
        if not self.board.drift:
            return x, y
        wander = drift(self.board, t)
        return round(x + wander[0] / SCALE, 1), round(y + wander[1] / SCALE, 1)

    def boxes(self, t: Millis) -> dict[str, list[list[float]]]:
        """Where the parts of the board are at footage time ``t``: four corners each, as shares of the picture."""
        x, y = self.sway(t)
        by = (x * SCALE / PIXELS[0], y * SCALE / PIXELS[1])
        found = parts(self.board, PIXELS)
        return {name: [[corner[0] + by[0], corner[1] + by[1]] for corner in quad] for name, quad in found.items()}

    def shown(self, t: Millis) -> Shown:
        """What the board shows at footage time ``t``."""
        to_go = self.timeline.left_at(t)
        clock = self.timeline.clock_at(t) if to_go is None else max(0, to_go) + 999
        figures = {side: list(self.carried_in[side].values()) for side in SIDES}
        for call in self.calls:
            if call.t <= t and call.to is not None:
                for number, tally in enumerate(TALLIES):
                    figures[call.to][number] += getattr(call, tally)
        first, second = ((one[0], one[1], one[2]) for one in figures.values())
        return Shown(minutes(clock), first, second)

    def _figures(self, draw: _Pen, t: Millis, sway: Screen) -> None:
        poses = self._poses(t)
        place = self._place(t)
        front: Side = place.top or "a"
        for side in (OTHER[front], front):
            _body(draw, poses[side], side, sway)
        for hold in self.holds:
            if hold.t <= t < max(hold.until, hold.t + 400):
                victim = poses[OTHER[hold.by]]
                x, y = _project(victim["neck"], sway)
                beat = 2 * math.sin(t / 60)
                draw.ellipse(
                    (x - 17 - beat, y - 11 - beat, x + 17 + beat, y + 11 + beat), outline=_BODY[hold.by], width=6
                )

    def _place(self, t: Millis) -> Place:
        return self.places[max(0, bisect.bisect_right(self.times, t) - 1)][1]

    def _poses(self, t: Millis) -> dict[Side, Pose]:
        index = max(0, bisect.bisect_right(self.times, t) - 1)
        now = poses_of(self.places[index][1])
        if index + 1 < len(self.places):
            reached, place = self.places[index + 1]
            started = max(self.times[index], reached - MOVING)
            if t > started and reached > started:
                share = (t - started) / (reached - started)
                coming = poses_of(place)
                now = {side: between(now[side], coming[side], share) for side in now}
        for seen in self.tries:
            share = _share(t, seen.t, max(seen.until, seen.t + SHORTEST_TRY))
            if 0 < share < 1:
                would_be = poses_of(_reached_by(seen))
                now = {side: between(now[side], would_be[side], MOST_TRIED * math.sin(math.pi * share)) for side in now}
        busy = 0.05 if self._place(t).position == "scramble" else 0.012
        out = OUT * max((_out(t, stop, start) for stop, start in self.edges), default=0.0)
        return {side: _alive(_beside(pose, out), t, busy, 0 if side == "a" else 2) for side, pose in now.items()}

    def _referee(self, draw: _Pen, t: Millis, sway: Screen) -> None:
        x = 1.55 * math.sin(t / 9000) + 0.3
        hand: Point = (x + 0.3, 1.3, 0.85)
        stopped = not self.timeline.running_at(t)
        raised = next((seen.to for seen in self.calls if seen.t <= t < seen.t + 2500), None)
        if raised or any(foul.t <= t < foul.t + 2000 for foul in self.fouls):
            hand = (x + 0.2, 1.3, 2.15)
        elif stopped:
            hand = (x + 0.75, 1.3, 1.4)
        neck, hip = (x, 1.3, 1.45), (x, 1.3, 0.9)
        for foot in ((x - 0.15, 1.3, 0.0), (x + 0.15, 1.3, 0.0)):
            _limb(draw, [hip, foot], (70, 70, 76), 9, sway)
        _limb(draw, [neck, hip], _REFEREE, 19, sway)
        _limb(draw, [neck, hand], _REFEREE, 7, sway)
        _dot(draw, (x, 1.3, 1.68), 9, _SKIN, sway)
        if raised:
            _dot(draw, hand, 8, _BODY[raised], sway)

    def _passer_by(self, draw: _Pen, t: Millis) -> None:
        """Somebody walks past the camera, and stands before the board, every 40 s."""
        phase = t % 40_000
        if not 22_000 <= phase < 34_000:
            return
        x = min((phase - 22_000) * 0.09, 150) if phase < 31_000 else 150 + (phase - 31_000) * 0.3
        draw.ellipse((x - 46, 10, x + 46, 112), fill=(20, 21, 24))
        draw.rounded((x - 88, 104, x + 88, 236), 34, fill=(20, 21, 24))


def _share(t: Millis, start: Millis, end: Millis) -> float:
    return (t - start) / (end - start)


def _edges(clocks: Sequence[Clock]) -> list[tuple[Millis, Millis]]:
    """When the clock was stopped because they had come to the edge of the mat, and when it went on."""
    return [
        (stop.t, start.t) for stop, start in pairwise(clocks) if stop.action == "stop" and stop.why == "edge"
    ]  # fmt: skip


def _out(t: Millis, stop: Millis, start: Millis) -> float:
    """How far they are out, from 0 to 1: they drift there before the stop, and are led back before the restart."""
    if t < stop:
        return max(0.0, _share(t, stop - DRIFTS, stop))
    return min(1.0, max(0.0, _share(t, start, max(stop, start - DRIFTS))))


def _beside(pose: Pose, by: float) -> Pose:
    return {joint: (x + by, y, z) for joint, (x, y, z) in pose.items()} if by else pose


def _reached_by(tried: Attempt) -> Place:
    """Where the two would be if a move came off."""
    match tried.move:
        case "stand_up":
            return STANDING
        case "escape":
            return PLACE_OF["guard", OTHER[tried.by]]
        case "guard_pass":
            return PLACE_OF["side", tried.by]
        case "takedown" | "sweep":
            return PLACE_OF["guard", tried.by]
        case _:
            return PLACE_OF[tried.move, tried.by]


def _project(point: Point, sway: Screen) -> Screen:
    """From the mat to the picture: a raised corner, nearer is lower and larger."""
    x, y, z = point
    depth = 1 / (1 + 0.09 * (y + 1.5))
    return (WIDTH / 2 + (x * 150 + y * 34) * depth + sway[0], 318 - y * 62 * depth - z * 118 * depth + sway[1])


def _sway(t: Millis) -> Screen:
    """The hand that holds the camera: steady for a while, then a small jolt."""
    grip, since = divmod(t, 4_000)
    before, after = (_JOLTS[number % len(_JOLTS)] for number in (grip, grip + 1))
    share = round(max(0, since - 3_600) / 400, 1)
    return before[0] + (after[0] - before[0]) * share, before[1] + (after[1] - before[1]) * share


@lru_cache(maxsize=64)
def _hall(sway: Screen) -> Image.Image:
    """Everything that stands still."""
    picture = Image.new("RGB", PIXELS, _WALL)
    draw = _Pen(picture)
    draw.rectangle((0, 150 + sway[1], WIDTH, HEIGHT), fill=_FLOOR)
    corners = ((-3, -2.2), (3, -2.2), (3, 2.4), (-3, 2.4))
    draw.polygon([_project((x, y, 0), sway) for x, y in corners], fill=_EDGE)
    inner = ((-2.4, -1.6), (2.4, -1.6), (2.4, 1.9), (-2.4, 1.9))
    draw.polygon([_project((x, y, 0), sway) for x, y in inner], fill=_MAT)
    return picture


def _alive(pose: Pose, t: Millis, amount: float, phase: float) -> Pose:
    moved: Pose = {}
    for number, joint in enumerate(JOINTS):
        x, y, z = pose[joint]
        swing = t / 310 + phase + number
        moved[joint] = (x + amount * math.sin(swing), y, max(0.0, z + amount * math.cos(swing * 0.8)))
    return moved


def _body(draw: _Pen, pose: Pose, side: Side, sway: Screen) -> None:
    for limb in LIMBS:
        points = [pose[joint] for joint in limb]
        _limb(draw, points, _TRIM[side], 19 if len(limb) == 3 else 14, sway)
        _limb(draw, points, _BODY[side], 15 if len(limb) == 3 else 10, sway)
        _dot(draw, points[-1], 6, _SKIN, sway)
    trunk = [pose["neck"], pose["hip"]]
    _limb(draw, trunk, _TRIM[side], 32, sway)
    _limb(draw, trunk, _BODY[side], 27, sway)
    _dot(draw, pose["hip"], 12, _TRIM[side], sway)
    _dot(draw, pose["head"], 15, _TRIM[side], sway)
    _dot(draw, pose["head"], 13, _SKIN, sway)


def _limb(draw: _Pen, points: list[Point], colour: Colour, width: int, sway: Screen) -> None:
    line = [_project(point, sway) for point in points]
    draw.line(line, fill=colour, width=width)
    for x, y in line:
        draw.ellipse((x - width / 2, y - width / 2, x + width / 2, y + width / 2), fill=colour)


def _dot(draw: _Pen, point: Point, radius: float, colour: Colour, sway: Screen) -> None:
    x, y = _project(point, sway)
    draw.ellipse((x - radius, y - radius, x + radius, y + radius), fill=colour)


def render(log: MatchLog, path: Path, progress: Callable[[float], None] | None = None) -> None:
    """Write the clip of a log as WebM (VP8, a keyframe a second). ``progress`` hears the share done.

    Raises RuntimeError with what ffmpeg said where it fails.
    """
    camera = Camera(log)
    frames = camera.length * FPS // 1000
    size = "{}x{}".format(*PIXELS)
    command = [
        "ffmpeg", "-y", "-loglevel", "error", "-f", "rawvideo", "-pix_fmt", "rgb24", "-s", size, "-r", str(FPS),
        "-i", "-", "-c:v", "libvpx", "-deadline", "realtime", "-cpu-used", "16", "-static-thresh", "300",
        "-threads", "1", "-b:v", "300k", "-g", str(FPS), "-pix_fmt", "yuv420p", "-f", "webm", str(path),
    ]  # fmt: skip
    with subprocess.Popen(command, stdin=subprocess.PIPE, stderr=subprocess.PIPE) as process:
        assert process.stdin is not None
        assert process.stderr is not None
        try:
            for number in range(frames):
                process.stdin.write(camera.frame(number * 1000 // FPS).tobytes())
                if progress is not None and number % FPS == 0:
                    progress(number / frames)
            process.stdin.close()
        except BrokenPipeError:
            pass
        said = process.stderr.read().decode("utf-8", "replace").strip()
    if process.returncode:
        raise RuntimeError(f"ffmpeg could not write {path.name}: {said}")
