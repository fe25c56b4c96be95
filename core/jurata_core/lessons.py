"""What scored matches teach the estimates, as whole numbers that add up.

A lesson is a mapping from what was counted to how often, so that one match is added to what is known already, or
taken away from it, without looking at the others. Keys are texts, for a lesson is kept as JSON:

    matches                             how many matches
    stay|guard|a|early                  milliseconds of running clock in a place, in its first seconds or later
    event|guard|a|late|move|side|a|     what followed: its kind, the position and top it led to, and whose it was
    move|guard top|side top|3400        a move of one side, and after how many milliseconds it was made
"""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Mapping
from typing import NamedTuple, cast

from .adjudication.places import Place
from .adjudication.verdict import Verdict
from .chance import count, fit
from .chance.rates import MINUTE, Band, Event, Rates, Seen, prior
from .divisions import age_class
from .match_log import MatchLog
from .match_log.observations import Side
from .times import Millis
from .winnable import moves_of
from .winnable.paces import Move

Lesson = dict[str, int]


def lesson_of(log: MatchLog, verdict: Verdict) -> Lesson:
    """What a match teaches; empty before its end is logged, and where nothing happened in it."""
    if verdict.result.t is None or not verdict.running or len(verdict.timeline.places) < 2:
        return {}
    seen = count([(log, verdict)])
    found: Lesson = {"matches": seen.matches}
    for band, lasted in seen.lasted.items():
        found[_key("stay", *_band(band))] = lasted
    for band, events in seen.counts.items():
        for event, n in events.items():
            to = event.to or Place("", None)
            found[_key("event", *_band(band), event.what, to.position, to.top, event.side)] = n
    for (role, to_role, lasted), n in moves_of(verdict).items():
        found[_key("move", role, to_role, lasted)] = n
    return {key: n for key, n in found.items() if n}


def added(known: Mapping[str, int], lesson: Mapping[str, int], sign: int = 1) -> Lesson:
    """What is known with a lesson added, or with a ``sign`` of -1 without it."""
    total = Counter(known)
    for key, n in lesson.items():
        total[key] += sign * n
    return {key: n for key, n in total.items() if n}


class Group(NamedTuple):
    """The matches that are most like one: of the same rules, belt and age class."""

    ruleset: str
    belt: str
    ages: str

    @property
    def said(self) -> str:
        """What they have in common, in words."""
        return f"{self.belt} belts, {self.ages}, {self.ruleset}"


def group_of(log: MatchLog, title: str) -> Group:
    """The group of a match; ``title`` is that of its ruleset."""
    division = log.division
    ages = age_class(division.age)
    return Group(title, division.counted_belt, ages.name if ages else "younger")


class Layer(NamedTuple):
    """Matches that rates were learned from: which, and how many with how many minutes."""

    name: str
    matches: int
    minutes: float


class Fitted(NamedTuple):
    """Rates for the matches of a group, and what each layer of them was learned from, the most general first.

    What is seen of the group is held against what is seen of the club's other matches under the same rules, and that
    against the others: where there is little of the nearer, the rates are those of the farther.
    """

    rates: Rates
    layers: tuple[Layer, ...]
    before: Rates
    own: Seen
    """What was counted in the group itself, and the rates that it is held against."""


def fitted(lessons: Mapping[Group, Mapping[str, int]], group: Group) -> Fitted:
    """Rates for the matches of a group, from the lessons of all groups."""
    others: Lesson = {}
    same_rules: Lesson = {}
    for other, lesson in lessons.items():
        if other == group:
            continue
        if other.ruleset == group.ruleset:
            same_rules = added(same_rules, lesson)
        else:
            others = added(others, lesson)
    parts = (
        ("other rulesets", others), (f"{group.ruleset}, other divisions", same_rules),
        (group.said, lessons.get(group, {})),
    )  # fmt: skip
    before, rates, layers = prior(), None, []
    seen = seen_in({})
    for name, lesson in parts:
        seen = seen_in(lesson)
        before = rates or before
        rates = fit(seen, rates)
        layers.append(Layer(name, seen.matches, sum(seen.lasted.values()) / MINUTE))
    assert rates is not None  # there are parts
    return Fitted(rates, tuple(layers), before, seen)


def seen_in(lesson: Mapping[str, int]) -> Seen:
    """The events and times of a lesson, from which rates are fitted."""
    counts: dict[Band, dict[Event, int]] = defaultdict(dict)
    lasted: dict[Band, Millis] = {}
    for key, n in lesson.items():
        what, *parts = key.split("|")
        if what == "stay":
            lasted[_read_band(*parts)] = n
        elif what == "event":
            kind, position, top, side = parts[3:]
            to = Place(position, _side(top)) if position else None
            counts[_read_band(*parts[:3])][Event(kind, to, _side(side))] = n  # type: ignore[arg-type]
    return Seen(dict(counts), lasted, lesson.get("matches", 0))


def moves_in(lesson: Mapping[str, int]) -> dict[Move, int]:
    """The moves of a lesson, from which paces are learned."""
    found: dict[Move, int] = {}
    for key, n in lesson.items():
        what, *parts = key.split("|")
        if what == "move":
            role, to, lasted = parts
            found[role, to, int(lasted)] = n
    return found


def _key(*parts: object) -> str:
    return "|".join("" if part is None else str(part) for part in parts)


def _band(band: Band) -> tuple[str, Side | None, str]:
    return band.place.position, band.place.top, "early" if band.early else "late"


def _read_band(position: str, top: str, when: str) -> Band:
    return Band(Place(position, _side(top)), when == "early")


def _side(text: str) -> Side | None:
    return cast(Side, text) if text else None
