"""What a scorer can record: one frozen record per kind of observation.

Times are milliseconds of footage. ``index`` is the place in the file, by which
an observation without an ``id`` is cited.
"""

from __future__ import annotations

from collections.abc import Mapping
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

CLAIM_KINDS = ("takedown", "double_pull_top", "sweep", "reversal", "guard_pass", "knee_on_belly", "mount", "back")
"""What coming to a position can claim."""
CLAIMED_MOVES = ("takedown", "sweep", "guard_pass", "knee_on_belly", "mount", "back")
"""Moves whose coming off a position shows, so that nearly coming off is worth something."""
MOVES = (*CLAIMED_MOVES, "escape", "stand_up")
AVOIDABLE = ("takedown", "sweep", "guard_pass", "mount", "back", "submission")
"""What a side can flee from."""
CONTESTED = ("head", "inside", "underhook", "posture", "grip", "hips")
"""What both can fight for."""
Lateral = Literal["left", "right", "both"]
LATERAL: tuple[Lateral, ...] = ("left", "right", "both")
"""Which arm, leg or side of a body."""
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
class Act(Observation):
    """What somebody does with a left or a right: ``own`` is the actor's arm, leg or side, ``target`` the other's."""

    own: Lateral | None
    target: Lateral | None


@dataclass(frozen=True, slots=True)
class Begin(Observation):
    """The footage starts inside the match: ``clock`` has run already, and ``score`` was on the board."""

    clock: Millis
    score: Mapping[Side, Mapping[Tally, int]]


@dataclass(frozen=True, slots=True)
class Clock(Observation):
    """A start or a stop. ``why`` and ``by`` say of a stop what it was for; ``position`` and ``top`` of a start
    with the restart ``placed`` where the referee put the two."""

    action: Literal["start", "stop"]
    restart: Literal["standing", "same", "placed"]
    why: str | None
    by: Side | None
    position: str | None
    top: Side | None
    grips: Literal["kept", "let_go"]
    """Of a start in the same or a given position: whether they went on with the grips they had."""


@dataclass(frozen=True, slots=True)
class Period(Observation):
    """Overtime begins."""


@dataclass(frozen=True, slots=True)
class Position(Observation):
    position: str
    top: Side | None
    detail: str | None


@dataclass(frozen=True, slots=True)
class Pull(Observation):
    by: Literal["a", "b", "both"]
    caught: bool
    """The other already had the foot, the leg or a grip for a takedown."""
    attack: bool
    """A pull or jump straight into a submission."""


@dataclass(frozen=True, slots=True)
class Attempt(Act):
    """A move that was tried. ``near``: the scorer judges that it very nearly came off; ``done``: it came off, and
    the position that shows it is logged as well."""

    by: Side
    move: str
    technique: str | None
    until: Millis
    outcome: Literal["failed", "near", "done"]


@dataclass(frozen=True, slots=True)
class Mark(Act):
    """The coach's eye: something that ``on`` did wrong, or well."""

    on: Side
    good: bool
    cause: str | None
    chance: str | None
    """What was there to be taken and was not: a move, or ``submission``."""
    text: str | None
    instead: str | None
    """What should have been done."""
    hurt: str | None
    """The part of a body that was injured."""
    until: Millis


@dataclass(frozen=True, slots=True)
class Submission(Act):
    by: Side
    technique: str
    until: Millis
    threat: Literal["attempt", "close"]


@dataclass(frozen=True, slots=True)
class Technique(Act):
    by: Side
    technique: str


@dataclass(frozen=True, slots=True)
class Foul(Observation):
    by: Literal["a", "b", "both"]
    foul: Literal["stalling", "fleeing", "grip", "conduct", "severe"]
    avoiding: str | None
    """What was fled from, one of ``AVOIDABLE``."""
    verbal: bool
    """A caution without a penalty."""


@dataclass(frozen=True, slots=True)
class Grip(Act):
    by: Side
    grip: str
    until: Millis
    outcome: Literal["held", "failed"]
    """``failed``: reached for and not taken."""
    controls: Literal["head", "arm", "leg", "hips"] | None
    broken: bool
    """Whether the other broke it; false where it was let go or kept."""


@dataclass(frozen=True, slots=True)
class Legs(Observation):
    """Who has whose leg. It stands until a later one of the same side says otherwise, or a position other than
    ``entangled`` or ``guard`` is logged; what is None is not said."""

    by: Side
    """The attacker, whoever is up."""
    knee: Literal["caught", "free"] | None
    """``caught``: the other's knee line is behind the attacker's hips."""
    heel: Literal["exposed", "hidden"] | None
    leg: Literal["left", "right"] | None


@dataclass(frozen=True, slots=True)
class Contest(Act):
    """Both fight for something."""

    aim: str
    """One of ``CONTESTED``; the file calls it ``for``."""
    until: Millis
    won: Side | None
    """None where nobody got it."""


@dataclass(frozen=True, slots=True)
class Board(Observation):
    """What the event's scoreboard showed: of a tally that it names for neither side nothing is known."""

    score: Mapping[Side, Mapping[Tally, int]]


@dataclass(frozen=True, slots=True)
class Unwatched(Observation):
    """A stretch that the footage does not show, or that nobody watched."""

    until: Millis


@dataclass(frozen=True, slots=True)
class Call(Observation):
    """What the officials showed. ``to`` is None where it was not seen whose it was."""

    to: Side | None
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
    how: Literal["time", "submission", "withdrawal", "stoppage", "disqualification"]
    by: Literal["a", "b", "both"] | None
    """The winner of a submission, the loser of anything else; ``both`` only where both are disqualified."""
    technique: str | None
