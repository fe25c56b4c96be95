"""Age classes, the belts worn in them and the length of their matches, read from ``ages.json``.

An athlete's age for a whole season is the age reached in the year of the event.
Events differ: what does not fit is doubtful, never impossible.
"""

from __future__ import annotations

import json
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from typing import Any

from ..times import Millis
from .model import BELTS, Division

MINUTE: Millis = 60_000


@dataclass(frozen=True, slots=True)
class AgeClass:
    """Ages ``youngest`` to ``oldest``, both included; None where it has no upper end."""

    id: str
    name: str
    youngest: int
    oldest: int | None
    minutes: dict[str, int]
    """Length of a match by belt, in minutes; ``any`` where the belt makes no difference."""

    def holds(self, age: int) -> bool:
        return self.youngest <= age and (self.oldest is None or age <= self.oldest)


@cache
def _data() -> dict[str, Any]:
    data: dict[str, Any] = json.loads((Path(__file__).parent / "ages.json").read_text("utf-8"))
    return data


@cache
def age_classes() -> tuple[AgeClass, ...]:
    """All age classes, youngest first."""
    rows = _data()["classes"]
    return tuple(AgeClass(row["id"], row["name"], row["from"], row["to"], row["minutes"]) for row in rows)


def age_in(event_year: int, born: int) -> int:
    """The age that counts at an event: the one reached in its year."""
    return event_year - born


def age_class(age: int) -> AgeClass | None:
    """The class of an age, None below the youngest."""
    return next((found for found in age_classes() if found.holds(age)), None)


def _ages_of(belt: str) -> tuple[int, int | None]:
    youngest, oldest = _data()["belts"][belt]
    return youngest, oldest


def allowed_belts(age: int) -> tuple[str, ...]:
    """The belts that are usually worn at an age."""
    ages = {belt: _ages_of(belt) for belt in BELTS}
    return tuple(belt for belt, (low, high) in ages.items() if low <= age and (high is None or age <= high))


def match_length(division: Division) -> Millis | None:
    """How long a match of the division usually is; None for ages without a class."""
    found = age_class(division.age)
    if found is None:
        return None
    minutes = found.minutes.get("any") or found.minutes.get(division.counted_belt)
    return None if minutes is None else minutes * MINUTE


def doubts(division: Division) -> tuple[str, ...]:
    """Why a division can hardly exist, as sentences; empty where nothing is odd."""
    if age_class(division.age) is None:
        return (f"There is no age class for age {division.age}; the youngest starts at {age_classes()[0].youngest}.",)
    low, high = _ages_of(division.belt)
    if division.age < low:
        return (f"{division.belt.capitalize()} belt starts at age {low}, but this division is age {division.age}.",)
    if high is not None and division.age > high:
        return (f"{division.belt.capitalize()} belt ends at age {high}, but this division is age {division.age}.",)
    return ()
