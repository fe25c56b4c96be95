"""Where a match can be for the model, and what one second can bring.

A spot is a place, how long it has lasted up to the holding time, and what is being
held for points there. Each second, in this order: something follows (a move, a pull,
a finish, a close attack), or nothing does and the place lasts a second longer; what
was held for the whole holding time is paid with that second.

Overtime, where the ruleset has it, is one period that begins standing when the tally of regular time leaves nothing
but a decision; points are open in it, and a golden score ends it.

What the model leaves out, on purpose: stops of the clock, penalties still to come,
counts that wait under a submission, that a position is paid once in a spell of control,
and a second period. A claim that goes on while its side moves up is counted from the move.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from functools import cached_property
from math import ceil, expm1
from typing import Literal, NamedTuple

from ..adjudication.at_once import Gain
from ..adjudication.control import control_at
from ..adjudication.places import OWN_POSITION, STANDING, ClaimKind, Place
from ..adjudication.transition import Opened, Pulled, consoled, pull, transition
from ..match_log.observations import Side, Tally
from ..rulesets import Ruleset
from ..times import Millis
from .rates import Band, Event, Rates, places


class Pending(NamedTuple):
    """What the side on top will be paid when it has held: points by how they are held, and advantages."""

    anyhow: int = 0
    """For a takedown or a sweep: held anywhere on top."""
    passing: int = 0
    """For a guard pass: held in the positions past the guard."""
    here: int = 0
    """For the position itself."""
    advantages: int = 0

    @property
    def points(self) -> int:
        return self.anyhow + self.passing + self.here


NOTHING = Pending()

Phase = Literal["waiting", "open", "overtime"]
"""Regular time before points open and after, and overtime."""
LONGEST_OVERTIME_S = 600
"""So long a period without a limit goes on in the model."""


class Spot(NamedTuple):
    """``age`` in whole seconds; from the holding time on it stays at that, and nothing is pending."""

    place: Place
    age: int
    pending: Pending


class Shift(NamedTuple):
    """By how much the athlete's lead changes, in points and in advantages."""

    points: int = 0
    advantages: int = 0


class Branch(NamedTuple):
    """One thing that a second can bring: with a probability, a spot and a shift, or a winner."""

    probability: float
    spot: Spot | None
    shift: Shift
    winner: Side | None
    costs: bool = False
    """Whether the shift is what a guard pull costs."""


@dataclass(frozen=True)
class Model:
    """The process under a ruleset and a length of the match in seconds of clock, with its rates."""

    ruleset: Ruleset
    seconds: int
    rates: Rates
    _branches: dict[tuple[Spot, Phase], list[Branch]] = field(default_factory=dict)

    @cached_property
    def hold(self) -> int:
        """The holding time in whole seconds, rounded up."""
        return ceil(self.ruleset.hold / 1000)

    @cached_property
    def opening(self) -> Millis:
        return self.ruleset.opening(self.seconds * 1000)

    @cached_property
    def overtime_seconds(self) -> int | None:
        """How long a period of overtime is; None where there is none."""
        overtime = self.ruleset.overtime
        if overtime is None:
            return None
        return LONGEST_OVERTIME_S if overtime.length is None else ceil(overtime.length / 1000)

    def phase(self, second: int, overtime: bool = False) -> Phase:
        """Of a second of the clock, or of the period of overtime."""
        return "overtime" if overtime else "open" if second * 1000 >= self.opening else "waiting"

    @cached_property
    def phases(self) -> tuple[Phase, ...]:
        """Those that a match can be in."""
        found = [self.phase(0), self.phase(max(0, self.seconds - 1))]
        if self.overtime_seconds is not None:
            found.append("overtime")
        return tuple(dict.fromkeys(found))

    @property
    def overtime_begins(self) -> Spot:
        return Spot(STANDING, self.hold, NOTHING)

    @cached_property
    def spots(self) -> tuple[Spot, ...]:
        """All spots that a match can come to."""
        # Those without anything pending are where a match is while points are not open yet.
        found = dict.fromkeys(Spot(place, age, NOTHING) for place in places() for age in range(self.hold + 1))
        waiting = list(found)
        while waiting:
            spot = waiting.pop()
            for branch in (branch for phase in self.phases for branch in self.branches(spot, phase)):
                if branch.spot is not None and branch.spot not in found:
                    found[branch.spot] = None
                    waiting.append(branch.spot)
        return tuple(found)

    @cached_property
    def numbers(self) -> dict[Spot, int]:
        return {spot: number for number, spot in enumerate(self.spots)}

    def branches(self, spot: Spot, phase: Phase) -> list[Branch]:
        """What a second in ``spot`` can bring; probabilities add up to 1."""
        known = self._branches.get((spot, phase))
        if known is None:
            known = self._second(spot, phase != "waiting")
            if phase == "overtime":
                known = [self._golden(branch) for branch in known]
            self._branches[spot, phase] = known
        return known

    def _golden(self, branch: Branch) -> Branch:
        """In overtime: what ends the match there and then, where it brings a golden score. A cost does not."""
        golden = self.ruleset.overtime.golden if self.ruleset.overtime else None
        gained = branch.shift.points or (branch.shift.advantages if golden == "advantages" else 0)
        if golden is None or not gained or branch.costs:
            return branch
        return Branch(branch.probability, None, Shift(), "a" if gained > 0 else "b")

    def _second(self, spot: Spot, points_open: bool) -> list[Branch]:
        rates = self.rates.per_minute[Band(spot.place, spot.age < self.hold)]
        total = sum(rates.values()) / 60
        stays, paid = self._lasted(spot)
        if total == 0:
            return [Branch(1.0, stays, paid, None)]
        happens = -expm1(-total)
        found = [Branch(1 - happens, stays, paid, None)]
        for event, rate in rates.items():
            probability = happens * rate / 60 / total
            if probability == 0:
                continue
            if event.what == "finish":
                found.append(Branch(probability, None, Shift(), event.side))
            elif event.what == "close":
                close = _lead(event.side, 0, 1 if self.ruleset.advantages else 0)
                found.append(Branch(probability, stays, _sum(paid, close), None))
            else:
                found.append(Branch(probability, *self.moved(spot, event, points_open), None, event.what == "pull"))
        return found

    def _lasted(self, spot: Spot) -> tuple[Spot, Shift]:
        if spot.age >= self.hold:
            return spot, Shift()
        if spot.age + 1 < self.hold:
            return spot._replace(age=spot.age + 1), Shift()
        return Spot(spot.place, self.hold, NOTHING), paid(spot)

    def moved(self, spot: Spot, event: Event, points_open: bool) -> tuple[Spot, Shift]:
        """Where a move or a pull leads, and by how much it shifts the leads."""
        place = event.to
        assert place is not None  # moves and pulls lead somewhere
        control, shift = control_at(spot.place), Shift()
        gains: list[Gain] = []
        if event.what == "pull" and event.side is not None:
            pulled = pull(self.ruleset, control, event.side, points_open=points_open)
            if isinstance(pulled, Pulled):
                control = pulled.control
                gains += pulled.at_once
        change = transition(self.ruleset, control, claims_of(spot), place, points_open)
        gains += change.at_once
        for gain in gains:
            points, advantages = (gain.n if gain.tally == tally else 0 for tally in ("points", "advantages"))
            shift = _sum(shift, _lead(gain.to, points, advantages))
        for side in consoled(self.ruleset, control, change.lost):
            shift = _sum(shift, _lead(side, 0, 1))
        opened = change.opened if points_open else ()
        pending = pending_of([*change.kept, *opened])
        if self.hold == 0:
            return Spot(place, 0, NOTHING), _sum(shift, paid(Spot(place, 0, pending)))
        return Spot(place, 0, pending), shift

    def left_at_time(self, spot: Spot) -> Shift:
        """What time running out gives for what is being held."""
        lost = consoled(self.ruleset, control_at(spot.place), claims_of(spot))
        return _lead(spot.place.top, 0, 1 if lost else 0)


class Waiting(NamedTuple):
    """What is pending in one part of a :class:`Pending`, as a claim."""

    kind: ClaimKind
    side: Side
    tally: Tally
    n: int
    by_hook: bool = False


def claims_of(spot: Spot) -> list[Waiting]:
    """The claims that are pending in a spot; one that holds anywhere on top stands for all of its kind."""
    side, pending = spot.place.top, spot.pending
    if side is None:
        return []
    found = [
        Waiting("sweep", side, "points", pending.anyhow),
        Waiting("guard_pass", side, "points", pending.passing),
        Waiting(spot.place.position, side, "points", pending.here),
        Waiting("double_pull_top", side, "advantages", pending.advantages),
    ]
    return [claim for claim in found if claim.n]


def pending_of(claims: Sequence[Waiting | Opened]) -> Pending:
    """What the claims of the side on top come to."""
    found = {"anyhow": 0, "passing": 0, "here": 0, "advantages": 0}
    for claim in claims:
        found["advantages" if claim.tally == "advantages" else _part(claim.kind)] += claim.n
    return Pending(**found)


def _part(kind: ClaimKind) -> str:
    return "passing" if kind == "guard_pass" else "here" if kind in OWN_POSITION else "anyhow"


def paid(spot: Spot) -> Shift:
    """What a spot's pending claims give when they have been held."""
    return _lead(spot.place.top, spot.pending.points, spot.pending.advantages)


def _lead(side: Side | None, points: int, advantages: int) -> Shift:
    """A gain of ``side`` as a change of the athlete's lead."""
    if side is None:
        return Shift()
    sign = 1 if side == "a" else -1
    return Shift(sign * points, sign * advantages)


def _sum(one: Shift, other: Shift) -> Shift:
    return Shift(one.points + other.points, one.advantages + other.advantages)
