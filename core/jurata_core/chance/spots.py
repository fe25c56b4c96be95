"""Where a match can be for the model, and what one second can bring.

A spot is a place, how long it has lasted up to the holding time, and what is being
held for points there. Each second, in this order: something follows (a move, a pull,
a finish, a close attack), or nothing does and the place lasts a second longer; what
was held for the whole holding time is paid with that second.

What the model leaves out, on purpose: stops of the clock, penalties still to come,
counts that wait under a submission, and that a position is paid once in a spell of
control. A claim that goes on while its side moves up is counted from the move.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import cached_property
from math import ceil, expm1
from typing import NamedTuple

from ..adjudication.holding import worth
from ..adjudication.places import OWN_POSITION, Place, claims_from, holds, moved_up
from ..match_log.observations import Side
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


class Spot(NamedTuple):
    """``age`` in whole seconds; from the holding time on it stays at that, and nothing is pending."""

    place: Place
    age: int
    pending: Pending


class Shift(NamedTuple):
    """By how much the athlete's lead changes, in points and in advantages."""

    points: int = 0
    advantages: int = 0


class Outcome(NamedTuple):
    """One thing that a second can bring: with a probability, a spot and a shift, or a winner."""

    probability: float
    spot: Spot | None
    shift: Shift
    winner: Side | None


@dataclass(frozen=True)
class Model:
    """The process under a ruleset and a length of the match in seconds of clock, with its rates."""

    ruleset: Ruleset
    seconds: int
    rates: Rates
    _outcomes: dict[tuple[Spot, bool], list[Outcome]] = field(default_factory=dict)

    @cached_property
    def hold(self) -> int:
        """The holding time in whole seconds, rounded up."""
        return ceil(self.ruleset.hold / 1000)

    @cached_property
    def opening(self) -> Millis:
        return self.ruleset.opening(self.seconds * 1000)

    def open(self, second: int) -> bool:
        """Whether claims that begin at a second of the clock pay."""
        return second * 1000 >= self.opening

    @cached_property
    def bands(self) -> frozenset[bool]:
        """Whether points are open: at some seconds, at all, or at none."""
        return frozenset((self.open(0), self.open(max(0, self.seconds - 1))))

    @cached_property
    def spots(self) -> tuple[Spot, ...]:
        """All spots that a match can come to."""
        # Those without anything pending are where a match is while points are not open yet.
        found = dict.fromkeys(Spot(place, age, NOTHING) for place in places() for age in range(self.hold + 1))
        waiting = list(found)
        while waiting:
            spot = waiting.pop()
            for outcome in (outcome for points_open in self.bands for outcome in self.outcomes(spot, points_open)):
                if outcome.spot is not None and outcome.spot not in found:
                    found[outcome.spot] = None
                    waiting.append(outcome.spot)
        return tuple(found)

    @cached_property
    def numbers(self) -> dict[Spot, int]:
        return {spot: number for number, spot in enumerate(self.spots)}

    def outcomes(self, spot: Spot, points_open: bool) -> list[Outcome]:
        """What a second in ``spot`` can bring; probabilities add up to 1."""
        known = self._outcomes.get((spot, points_open))
        if known is None:
            known = self._outcomes[spot, points_open] = self._second(spot, points_open)
        return known

    def _second(self, spot: Spot, points_open: bool) -> list[Outcome]:
        rates = self.rates.per_minute[Band(spot.place, spot.age < self.hold)]
        total = sum(rates.values()) / 60
        stays, paid = self._lasted(spot)
        if total == 0:
            return [Outcome(1.0, stays, paid, None)]
        happens = -expm1(-total)
        found = [Outcome(1 - happens, stays, paid, None)]
        for event, rate in rates.items():
            probability = happens * rate / 60 / total
            if probability == 0:
                continue
            if event.what == "finish":
                found.append(Outcome(probability, None, Shift(), event.side))
            elif event.what == "close":
                close = _lead(event.side, 0, 1 if self.ruleset.advantages else 0)
                found.append(Outcome(probability, stays, _sum(paid, close), None))
            else:
                found.append(Outcome(probability, *self.moved(spot, event, points_open), None))
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
        kept, shift = self._broken_off(spot, place)
        opened = NOTHING
        if event.what == "pull":
            shift = _sum(shift, _lead(event.side, -self.ruleset.pull_cost if points_open else 0, 0))
        elif points_open:
            opened = self.opened(spot.place, place)
        pending = Pending(*(one + other for one, other in zip(kept, opened, strict=True)))
        if self.hold == 0:
            return Spot(place, 0, NOTHING), _sum(shift, paid(Spot(place, 0, pending)))
        return Spot(place, 0, pending), shift

    def opened(self, origin: Place, place: Place) -> Pending:
        """What coming from one place to another opens."""
        found = {"anyhow": 0, "passing": 0, "here": 0, "advantages": 0}
        for kind in claims_from(origin, place):
            tally, n = worth(self.ruleset, kind, place)
            part = "passing" if kind == "guard_pass" else "here" if kind in OWN_POSITION else "anyhow"
            found["advantages" if tally == "advantages" else part] += n
        return Pending(**found)

    def _broken_off(self, spot: Spot, place: Place) -> tuple[Pending, Shift]:
        """What goes on being held in ``place``, and what losing the rest gives."""
        side, pending = spot.place.top, spot.pending
        if side is None or pending == NOTHING:
            return NOTHING, Shift()
        anyhow, passing = holds("sweep", side, place), holds("guard_pass", side, place)
        kept = Pending(
            pending.anyhow if anyhow else 0,
            pending.passing if passing else 0,
            0,
            pending.advantages if anyhow else 0,
        )
        lost = pending.points > kept.points and not moved_up(spot.place, place, side)
        return kept, _lead(side, 0, 1 if lost and self.ruleset.advantages else 0)

    def left_at_time(self, spot: Spot) -> Shift:
        """What time running out gives for what is being held."""
        lost = spot.pending.points > 0 and self.ruleset.advantages
        return _lead(spot.place.top, 0, 1 if lost else 0)


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
