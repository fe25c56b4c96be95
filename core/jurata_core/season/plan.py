"""What to drill until a day: which drills would help most, on which days, and whether it helped.

A drill weighs as much as the errors that it is for. It comes back in growing intervals by FSRS, the scheduler of spaced
repetition that the rules quiz uses too, as if each time went well; what is fitted to the day is which come together.
"""

from __future__ import annotations

import datetime
import json
from collections import Counter
from collections.abc import Iterable, Sequence
from functools import cache
from math import sqrt
from pathlib import Path
from typing import NamedTuple

from fsrs import Card, Rating, Scheduler

from .athlete import MINUTE, Played, kind_name
from .certainty import Change, changes
from .mistakes import Counted, drilled_as

POINT, ADVANTAGE, HAPPENED = 0.05, 0.02, 0.01
"""What a point, an advantage and the error itself weigh, next to what it cost of the chance of winning."""
PLACE_TELLS = 0.5
"""That an error began in a position that a drill is for says half as much as its kind or its cause."""
MOST_DRILLS = 6
"""A plan has no more drills: what is drilled twice a week sticks, what is drilled once does not."""
RETENTION, LONGEST_GAP_DAYS = 0.95, 10
"""How well a drill is to be remembered when it comes back; and the longest gap, so that none is missing before the day.
"""
MOST_NEW = 2
"""So many drills at most are new in one session."""
LONGEST_PLAN = datetime.timedelta(days=370)
SPREAD_OVER = {
    1: (1,),
    2: (1, 3),
    3: (0, 2, 4),
    4: (0, 1, 3, 4),
    5: (0, 1, 2, 3, 4),
    6: (0, 1, 2, 3, 4, 5),
    7: (0, 1, 2, 3, 4, 5, 6),
}
"""On which days of the week so many sessions are proposed; Monday is 0."""


class Drill(NamedTuple):
    """A drill of a club's library, and what it is for."""

    id: str
    name: str
    about: str
    minutes: int
    kinds: tuple[str, ...]
    causes: tuple[str, ...]
    positions: tuple[str, ...]

    def fits(self, one: Counted) -> float:
        """How well it is for an error: once for its kind, once for a cause of it, half for where it began."""
        mistake = one.mistake
        by_cause = bool(set(self.causes) & set(mistake.causes))
        return (
            bool(drilled_as(mistake) & set(self.kinds)) + by_cause + PLACE_TELLS * (mistake.position in self.positions)
        )


class Wanted(NamedTuple):
    """A drill with how much it would help, and the kinds of errors that it is wanted for, the commonest first."""

    drill: Drill
    weight: float
    errors: int
    kinds: tuple[str, ...]

    @property
    def because(self) -> str:
        names = ", ".join(kind_name(kind) for kind in self.kinds)
        return f"{self.errors} {'error' if self.errors == 1 else 'errors'} it is for: {names}"


class Placed(NamedTuple):
    """A drill on a day."""

    day: datetime.date
    drill: str


@cache
def examples() -> tuple[Drill, ...]:
    """The drills that ship with the product; they are invented."""
    rows = json.loads((Path(__file__).parent / "drills.json").read_text("utf-8"))["drills"]
    lists = ("kinds", "causes", "positions")
    return tuple(
        Drill(str(number), row["name"], row["about"], row["minutes"], *(tuple(row[name]) for name in lists))
        for number, row in enumerate(rows)
    )


def weight_of(one: Counted) -> float:
    """How much an error weighs: what it cost of the chance of winning, and on the sheet."""
    sheet = POINT * one.mistake.points + ADVANTAGE * one.mistake.advantages
    return HAPPENED + sheet + (one.lost or 0.0)


def wanted(drills: Iterable[Drill], matches: Iterable[Played]) -> list[Wanted]:
    """The drills that some of the errors call for, the one that would help most first.

    One that is for many things is not for any of them in particular: its weight is divided by the root of how many.
    """
    errors = [one for match in matches for one in match.mistakes]
    found = []
    for drill in drills:
        fitting = [(drill.fits(one), one) for one in errors if _is_for(drill, one)]
        if not fitting:
            continue
        broad = sqrt(len(drill.kinds) + len(drill.causes) + len(drill.positions))
        weight = sum(fit * weight_of(one) for fit, one in fitting) / broad
        kinds = [kind for kind, _ in Counter(one.mistake.kind for _, one in fitting).most_common(2)]
        found.append(Wanted(drill, round(weight, 4), len(fitting), tuple(kinds)))
    return sorted(found, key=lambda one: (-one.weight, one.drill.name))


def _is_for(drill: Drill, one: Counted) -> bool:
    """Whether a drill is for an error: by its cause, or by its kind where that began in a position of the drill's.

    A mount that was lost from the top is not for a drill in the guard.
    """
    where = one.mistake.position
    here = not drill.positions or not where or where in drill.positions
    return _by_cause(drill, one) or (here and bool(drilled_as(one.mistake) & set(drill.kinds)))


def _by_cause(drill: Drill, one: Counted) -> bool:
    return bool(set(drill.causes) & set(one.mistake.causes))


def days_of(start: datetime.date, until: datetime.date, sessions: int) -> list[datetime.date]:
    """The days of the sessions from ``start`` to the day before ``until``, so many a week."""
    every = (start + datetime.timedelta(days=number) for number in range((until - start).days))
    return [day for day in every if day.weekday() in SPREAD_OVER[sessions]]


def proposed(drills: Sequence[Wanted], days: Sequence[datetime.date], minutes: int) -> list[Placed]:
    """The drills on their days, as much as there is time for in each session.

    In a session first comes what is due to come back, longest due first, then what is new, the weightiest first.
    """
    chosen = [one.drill for one in drills if one.drill.minutes <= minutes][:MOST_DRILLS]
    fresh = list(chosen)
    memory: dict[str, Card] = {}
    scheduler = Scheduler(
        desired_retention=RETENTION, learning_steps=(), maximum_interval=LONGEST_GAP_DAYS, enable_fuzzing=False
    )  # fmt: skip
    by_id = {one.id: one for one in chosen}
    placed = []
    for day in days:
        left, new = minutes, 0
        now = datetime.datetime.combine(day, datetime.time(12), datetime.UTC)
        due = sorted((card.due, name) for name, card in memory.items() if card.due.date() <= day)
        for one in [*(by_id[name] for _, name in due), *fresh]:
            if one.minutes > left or (one in fresh and new == MOST_NEW):
                continue
            new += one in fresh
            left -= one.minutes
            placed.append(Placed(day, one.id))
            memory[one.id], _ = scheduler.review_card(memory.get(one.id, Card()), Rating.Good, now)
        fresh = [one for one in fresh if one.id not in memory]
    return placed


class Effect(NamedTuple):
    """What became of the errors that a drill is for, in the matches since a plan began."""

    drill: Drill
    change: Change


def effects(drills: Sequence[Drill], matches: Sequence[Played], start: datetime.date) -> list[Effect]:
    """For each drill, how often the errors that it is for came in the matches before a plan began, and since."""
    dated = sorted(
        (one for one in matches if one.date is not None and one.figures.length > 0), key=lambda one: str(one.date)
    )
    counts = [[sum(_is_for(drill, one) for one in match.mistakes) for match in dated] for drill in drills]
    before = sum(one.date is not None and one.date < start for one in dated)
    found = changes(counts, [one.figures.length / MINUTE for one in dated], before)
    return [Effect(drill, change) for drill, change in zip(drills, found, strict=True)]
