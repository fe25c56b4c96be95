"""What a scorer can record: one frozen record per kind of observation.

Times are milliseconds of footage. ``index`` is the place in the file, by which
an observation without an ``id`` is cited.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from ..times import Millis

Side = Literal["a", "b"]
"""``a`` is the coached athlete, ``b`` the opponent."""

SIDES: tuple[Side, Side] = ("a", "b")
OTHER: dict[Side, Side] = {"a": "b", "b": "a"}

Ref = str | int
"""How the verdict cites an observation: its id, or its index in the file."""

TOPLESS = ("standing", "double_pull", "scramble")
TOPPED = ("guard", "turtle", "side", "knee_on_belly", "mount", "back", "back_one_hook")
EITHER = ("entangled",)
POSITIONS = TOPLESS + TOPPED + EITHER

CLAIM_KINDS = ("takedown", "double_pull_top", "sweep", "guard_pass", "knee_on_belly", "mount", "back")
Tally = Literal["points", "advantages", "penalties"]
TALLIES: tuple[Tally, ...] = ("points", "advantages", "penalties")


@dataclass(frozen=True, slots=True)
class Observation:
    """What all observations carry. ``sure`` is false where the view was bad."""

    index: int
    t: Millis
    id: Ref | None
    note: str | None
    sure: bool

    @property
    def ref(self) -> Ref:
        return self.index if self.id is None else self.id


@dataclass(frozen=True, slots=True)
class Clock(Observation):
    action: Literal["start", "stop"]
    restart: Literal["standing", "same"]


@dataclass(frozen=True, slots=True)
class Position(Observation):
    position: str
    top: Side | None
    detail: str | None


@dataclass(frozen=True, slots=True)
class Pull(Observation):
    by: Literal["a", "b", "both"]
    caught: bool


@dataclass(frozen=True, slots=True)
class Submission(Observation):
    by: Side
    technique: str
    until: Millis
    threat: Literal["attempt", "close"]


@dataclass(frozen=True, slots=True)
class Technique(Observation):
    by: Side
    technique: str


@dataclass(frozen=True, slots=True)
class Near(Observation):
    by: Side
    claim: str


@dataclass(frozen=True, slots=True)
class Foul(Observation):
    by: Side
    foul: Literal["stalling", "fleeing", "grip", "conduct", "severe"]
    avoiding: Literal["takedown", "sweep", "submission"] | None


@dataclass(frozen=True, slots=True)
class Grip(Observation):
    by: Side
    grip: str
    until: Millis


@dataclass(frozen=True, slots=True)
class Call(Observation):
    to: Side
    points: int
    advantages: int
    penalties: int


@dataclass(frozen=True, slots=True)
class ExchangeStart(Observation):
    """An exchange that the scorer begins by hand."""

    title: str | None


@dataclass(frozen=True, slots=True)
class Ruling(Observation):
    to: Side
    points: int
    advantages: int
    penalties: int


@dataclass(frozen=True, slots=True)
class Decision(Observation):
    votes: tuple[int, int]


@dataclass(frozen=True, slots=True)
class End(Observation):
    how: Literal["time", "submission", "withdrawal", "disqualification"]
    by: Side | None
    technique: str | None
