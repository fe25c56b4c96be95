"""A clip with a scoreboard, filmed by the simulated camera, and where the board is in it."""

from __future__ import annotations

import json
from collections.abc import Callable
from hashlib import sha256
from typing import Any
from unittest import mock

from boards import process, tasks
from boards.process import Answer
from footage.convert import Source
from footage.models import Clip
from footage.tests.base import ClipCase, filmed, stored
from jurata_core.match_log import read_log
from jurata_core.times import Millis
from jurata_simulation.camera import Camera
from matches.actions import set_up
from matches.models import Match
from roster.models import Athlete

STOPPED, GOES_ON, POINTS = 9.4, 13.6, 16.2
#: A start, a stop and a restart, two calls, and nobody who walks past yet.
OBSERVATIONS: list[dict[str, Any]] = [
    {"t": 2.3, "kind": "clock", "action": "start"},
    {"t": 4, "kind": "position", "position": "guard", "top": "a"},
    {"t": 6.8, "kind": "call", "to": "b", "penalties": 1},
    {"t": STOPPED, "kind": "clock", "action": "stop"},
    {"t": GOES_ON, "kind": "clock", "action": "start"},
    {"t": POINTS, "kind": "call", "to": "a", "points": 2},
]


def film_of(board: str = "plain") -> dict[str, Any]:
    """What the camera films, with a board of a kind."""
    return {
        "format": "jurata-match/3",
        "ruleset": "full-points",
        "duration": 300,
        "division": {"age": 24, "belt": "blue", "attire": "gi"},
        "board": board,
        "observations": OBSERVATIONS,
    }


def boxes_of(board: str = "plain") -> dict[str, list[list[float]]]:
    """Where the parts of the board are in the first picture."""
    return Camera(read_log(film_of(board))).boxes(0)


def around(board: str = "plain") -> list[list[float]]:
    """A box around the whole board."""
    corners = [corner for box in boxes_of(board).values() for corner in box]
    left, right = min(x for x, _ in corners) - 0.02, max(x for x, _ in corners) + 0.02
    top, bottom = min(y for _, y in corners) - 0.02, max(y for _, y in corners) + 0.02
    return [[left, top], [right, top], [right, bottom], [left, bottom]]


_answers: dict[tuple[Any, ...], Answer] = {}


def ask_once(source: Source, marks: list[Any], start: Millis, end: Millis, go_on: Callable[[float], bool]) -> Answer:
    """The reading process's answer; asked the same again, the answer that it gave. It takes seconds to get going."""
    key = (sha256(source.path.read_bytes()).digest(), json.dumps(marks, sort_keys=True), start, end)
    if key not in _answers:
        _answers[key] = process.ask(source, marks, start, end, go_on)
    return _answers[key]


class BoardCase(ClipCase):
    def setUp(self):
        super().setUp()
        self.enterContext(mock.patch.object(tasks, "ask", side_effect=ask_once))
        self.athlete = Athlete.objects.create(club=self.club, name="Ada Brenn", birth_year=2000, belt="blue")

    def clip(self, board="plain") -> Clip:
        return stored(self.coach, filmed(film_of(board)), "phone.webm")

    def match(self, clip: Clip | None, **more: Any) -> Match:
        about = {"athlete": self.athlete, "opponent": "Bo Castel", "event": "Thaw Cup", "mat": "2", **more}
        setting = {"ruleset": "full-points", "duration_ms": 300_000, "age": 24, "belt": "blue", "attire": "gi"}
        return set_up(self.coach, {**about, **setting, "clip": clip})

    def address(self, match: Match, clip: Clip, more: str = "") -> str:
        return f"/api/matches/{match.pk}/boards/{clip.pk}{more}"

    def send(self, method: str, address: str, body: Any):
        return getattr(self.client, method)(address, body, content_type="application/json")
