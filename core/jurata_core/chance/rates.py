"""How often things follow from a place: counted in scored matches, shrunk towards the prior.

A rate is times a minute of running clock. It differs between the seconds in which a
position is still to be held ("early") and later: the process is semi-Markov, what
follows depends on how long the place has lasted, in these two bands.

The rate of an event seen n times in E minutes, with prior rate r and the prior's
weight of w minutes, is (n + r w) / (E + w): the mean of the gamma distribution that
n Poisson events leave of a gamma prior (the conjugate pair of any Bayesian textbook,
e.g. Gelman et al., "Bayesian Data Analysis", ch. 2).
"""

from __future__ import annotations

import json
from bisect import bisect_left, bisect_right
from collections import defaultdict
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from functools import cache
from operator import attrgetter
from pathlib import Path
from typing import Any, Literal, NamedTuple

import numpy as np

from ..adjudication.places import Place, passed_through
from ..adjudication.verdict import Verdict
from ..match_log import MatchLog
from ..match_log.observations import OTHER, SIDES, TOPLESS, End, Pull, Side, Submission
from ..times import Millis

MINUTE: Millis = 60_000
LONGEST_S = 3_600
"""The chance is calculated second by second, for matches of up to an hour."""
_time = attrgetter("t")


class Event(NamedTuple):
    """What can happen in a place: a move ``to`` another, or an attack of ``side``."""

    what: Literal["move", "pull", "finish", "close"]
    to: Place | None
    side: Side | None
    """Who attacks or pulls; None for a move."""


class Band(NamedTuple):
    """A place, in its first seconds or later."""

    place: Place
    early: bool


@dataclass(frozen=True, slots=True)
class Rates:
    """Times a minute of each event in each band, and how many matches they come from."""

    per_minute: Mapping[Band, Mapping[Event, float]]
    matches: int
    minutes: float
    """Of running clock seen in those matches."""


@dataclass(frozen=True, slots=True)
class Seen:
    """Events counted, and the milliseconds of running clock in which they could have happened."""

    counts: Mapping[Band, Mapping[Event, int]]
    lasted: Mapping[Band, Millis]
    matches: int


@cache
def _data() -> dict[str, Any]:
    data: dict[str, Any] = json.loads((Path(__file__).parent / "prior.json").read_text("utf-8"))
    return data


@cache
def places() -> tuple[Place, ...]:
    """All places of the model. What is passed through is no place of its own."""
    found = []
    for position in _data()["places"]:
        found += [Place(position, None)] if position in TOPLESS else [Place(position, side) for side in SIDES]
    return tuple(found)


@cache
def prior() -> Rates:
    """The rates before anything is seen."""
    data = _data()
    found: dict[Band, dict[Event, float]] = {}
    for place in places():
        row = data["places"][place.position]
        events: dict[Event, float] = {}
        for side in SIDES:
            role = "either" if place.top is None else "top" if place.top == side else "bottom"
            for to, rate in row[role].items():
                event = _event(to, side)  # either side may lead to the same place
                events[event] = events.get(event, 0.0) + rate
            for what in ("finish", "close"):
                events[Event(what, None, side)] = row[what][role]
        for to, rate in row["nobody"].items():
            events[Event("move", Place(to, None), None)] = rate
        found[Band(place, False)] = events
        found[Band(place, True)] = {event: rate * _early(event) for event, rate in events.items()}
    return Rates(found, 0, 0.0)


def _early(event: Event) -> float:
    factor: float = _data()["early"]["attacks" if event.what in ("finish", "close") else "moves"]
    return factor


def _event(to: str, mover: Side) -> Event:
    """A row of the data for one side: ``side top`` is that side on top, ``pull`` its sitting to guard."""
    if to == "pull":
        return Event("pull", Place("guard", OTHER[mover]), mover)
    position, _, role = to.partition(" ")
    return Event("move", Place(position, mover if role == "top" else OTHER[mover]), None)


def fit(seen: Seen, before: Rates | None = None) -> Rates:
    """The rates after what was counted; ``before`` are those before it, the prior if nothing is said.

    The matches that ``before`` comes from are counted with those seen now.
    """
    return _rates(seen, before, lambda shape, weight: shape / weight)


def draw(seen: Seen, random: np.random.Generator, before: Rates | None = None) -> Rates:
    """Rates as they might also be after what was seen: one draw of their distribution."""
    return _rates(seen, before, lambda shape, weight: float(random.gamma(shape) / weight) if shape > 0 else 0.0)


def _rates(seen: Seen, before: Rates | None, of: Callable[[float, float], float]) -> Rates:
    weight = _data()["weight_minutes" if before is None else "weight_minutes_of_others"]
    base = prior() if before is None else before
    found: dict[Band, dict[Event, float]] = {}
    for band, guessed in base.per_minute.items():
        counts, minutes = seen.counts.get(band, {}), seen.lasted.get(band, 0) / MINUTE
        events = {**guessed, **dict.fromkeys(counts.keys() - guessed.keys(), 0.0)}
        found[band] = {
            event: of(counts.get(event, 0) + rate * weight, minutes + weight) for event, rate in events.items()
        }
    return Rates(found, base.matches + seen.matches, base.minutes + sum(seen.lasted.values()) / MINUTE)


def count(matches: Iterable[tuple[MatchLog, Verdict]]) -> Seen:
    """Count what followed from what, in time of running clock."""
    counts: dict[Band, dict[Event, int]] = defaultdict(lambda: defaultdict(int))
    lasted: dict[Band, Millis] = defaultdict(int)
    number = 0
    for log, verdict in matches:
        if not verdict.running:
            continue
        number += 1
        stays = _stays(verdict)
        attacks = _Attacks.of(log)
        for index, stay in enumerate(stays):
            after = stays[index + 1].place if index + 1 < len(stays) else None
            _count_stay(attacks, log.ruleset.hold, stay, after, counts, lasted)
        _count_end(log, verdict, stays, counts)
    return Seen({band: dict(events) for band, events in counts.items()}, dict(lasted), number)


class _Stay(NamedTuple):
    """A place held from ``start`` to ``end`` (footage); ``lasted`` is running clock."""

    place: Place
    start: Millis
    end: Millis
    lasted: Millis
    cut: bool
    """Whether a restart from standing ended it: nobody moved."""


def _stays(verdict: Verdict) -> list[_Stay]:
    began = verdict.running[0].start
    over = verdict.running[-1].stop
    changes: list[tuple[Millis, Place]] = [(began, Place("standing", None))]
    for t, place in verdict.positions:
        if passed_through(place) or place == changes[-1][1] or t > over:
            continue
        if t <= began:
            changes = [(began, place)]
        else:
            changes.append((t, place))
    stays = []
    restarts = {one.start for one in verdict.running[1:]}
    for (t, place), (until, after) in zip(changes, [*changes[1:], (over, None)], strict=True):
        lasted = verdict.timeline.ran(t, until)
        cut = after is not None and after.position == "standing" and until in restarts
        stays.append(_Stay(place, t, until, lasted, cut))
    return stays


class _Attacks(NamedTuple):
    """What is looked for within a stay, in order of time."""

    close: list[Submission]
    pulls: list[Pull]

    @classmethod
    def of(cls, log: MatchLog) -> _Attacks:
        close = [seen for seen in log.observations if isinstance(seen, Submission) and seen.threat == "close"]
        return cls(close, [seen for seen in log.observations if isinstance(seen, Pull)])


def _count_stay(
    attacks: _Attacks,
    hold: Millis,
    stay: _Stay,
    after: Place | None,
    counts: dict[Band, dict[Event, int]],
    lasted: dict[Band, Millis],
) -> None:
    lasted[Band(stay.place, True)] += min(hold, stay.lasted)
    lasted[Band(stay.place, False)] += max(0, stay.lasted - hold)
    if after is not None and not stay.cut:
        puller = _puller(attacks.pulls, stay, after)
        event = Event("move", after, None) if puller is None else Event("pull", after, puller)
        counts[Band(stay.place, stay.lasted < hold)][event] += 1
    first, last = (bisect_left(attacks.close, t, key=_time) for t in (stay.start, stay.end))
    for seen in attacks.close[first:last]:
        counts[Band(stay.place, seen.t - stay.start < hold)][Event("close", None, seen.by)] += 1


def _puller(pulls: list[Pull], stay: _Stay, after: Place) -> Side | None:
    """Who sat down, where that is how standing became a guard."""
    if stay.place.position != "standing" or after.position != "guard":
        return None
    within = pulls[bisect_left(pulls, stay.start, key=_time) : bisect_right(pulls, stay.end, key=_time)]
    return next((seen.by for seen in within if seen.by != "both" and seen.by != after.top), None)


def _count_end(log: MatchLog, verdict: Verdict, stays: list[_Stay], counts: dict[Band, dict[Event, int]]) -> None:
    winner = verdict.result.winner
    if (
        verdict.result.method == "submission"
        and winner is not None
        and any(isinstance(s, End) for s in log.observations)
    ):
        last = stays[-1]
        counts[Band(last.place, last.lasted < log.ruleset.hold)][Event("finish", None, winner)] += 1
