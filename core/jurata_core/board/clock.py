"""Finding the course of a board's clock: where it started and stopped, and where the table set it.

The most likely path through the readings says in which ticks the clock ran. Each of its runs is then laid to the
millisecond by the changes of the seconds shown, and each start and stop gets the span in which it must lie:

    shown    4:12   4:11   4:10   4:10   4:10   4:09
    changes      |      |      |                |
    stop                        |------|                  within a second after 4:10 came
    start                               |------|          as much later as the run after it says
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from itertools import pairwise
from typing import Any

import numpy as np

from ..times import Millis
from .course import Course, Moment, Setting, Stretch
from .paths import RUNS, Path, Walk, margins, rewards_of
from .readings import TICK, Rule, Seen, Values, clock_values, weighed

LONGEST: Millis = 30 * 60_000
"""No board counts further; what reads as more is misread."""
FEWEST, LEAST_AGREEING = 8, 0.5
"""So many readings, and such a share of them, must agree with the course: else the board can't be read."""
SHORTEST_STOP: Millis = 250
"""No table stops and starts a clock within so short a time: it is the camera's timing."""
SPAN: Millis = 1_000
"""A board shows whole seconds."""
FINE, COARSE, COARSE_FROM = 10, 50, 8_000
"""Milliseconds between the moments that are tried, and how long a hidden stretch is that is tried in coarse ones."""
AROUND: Millis = 1_500
"""So far around the path's tick the moment of a stop is looked for, and a run is laid."""
WHOLE: Millis = 30_000
"""Lengths of matches are whole half minutes: a clock that stands at one has not run yet."""
CANT_BE_READ = (
    "The clock can't be read: too few of the readings fit one course of it. "
    "Mark it again where it is seen best, with the box close around the digits."
)
READ = "The clock was read in {share} % of the footage."


Read = tuple[Seen, Values]


@dataclass(frozen=True, slots=True)
class _Leg:
    """Ticks of the path in one mode. ``at`` is the clock's value where it stands, and where it runs what it would be at
    time 0 of the footage; it lies between ``low`` and ``high``. ``was_set``: the table set the clock to get here."""

    t: Millis
    until: Millis
    runs: bool
    at: Millis
    was_set: bool
    low: Millis = 0
    high: Millis = 0

    def value(self, t: Millis, rule: Rule) -> Millis:
        return max(0, self.at + rule.sign * t) if self.runs else self.at


def course_of(
    readings: Sequence[Seen], begin: Millis, end: Millis, rules: Sequence[Rule] = (Rule("down"), Rule("up"))
) -> Course:
    """The course of a clock from ``begin`` to ``end`` (footage), under that of the rules that fits best."""
    ordered = sorted(readings, key=lambda one: one.t)
    courses = [_follow(ordered, begin, end, rule) for rule in rules]
    return max(courses, key=lambda one: one[0])[1]


def _follow(readings: Sequence[Seen], begin: Millis, end: Millis, rule: Rule) -> tuple[float, Course]:
    """The course under one rule, with its score."""
    read = [(one, found) for one in readings if (found := clock_values(one, rule)) and found.high <= LONGEST]
    ticks = max(1, (end - begin) // TICK + 1)
    if len(read) < FEWEST:
        return 0.0, Course(rule, (), (), (), 0.0, CANT_BE_READ)
    size = (_largest(read) + 3_000) // TICK
    rewards = rewards_of(read, begin, ticks, size)
    path = Walk(rewards, size, rule.sign).best()
    return path.score, _course(path, rewards, size, read, begin, rule)


def _largest(read: Sequence[tuple[Seen, Values]]) -> Millis:
    """The largest value that is read more than once in a row: a single one may be misread."""
    highs = [values.high for _, values in read]
    near = [min(one, other) for one, other in pairwise(highs) if abs(one - other) <= 2_000]
    return max(near, default=max(highs))


def _course(path: Path, rewards: Any, size: int, read: Sequence[Read], begin: Millis, rule: Rule) -> Course:
    fits = [one for one in read if all(_agrees(path, one[1], t, begin) for t in (one[0].t, one[0].until))]
    share = sum(weighed(one) for one, _ in fits) / max(1e-9, sum(weighed(one) for one, _ in read))
    if len(fits) < FEWEST or share < LEAST_AGREEING:
        return Course(rule, (), (), (), 0.0, CANT_BE_READ)
    legs = [_run(leg, fits, rule) if leg.runs else _stand(leg, fits) for leg in _legs(path, begin)]
    legs = _without_short_stops(legs)
    middles = [((leg.t + leg.until) // 2 - begin) // TICK for leg in legs]
    margin = margins(rewards, size, rule.sign, middles)
    sure = [_chance(margin[middle] * (-1 if leg.runs else 1)) for leg, middle in zip(legs, middles, strict=True)]
    seen = min(1.0, sum(one.until - one.t + TICK for one, _ in fits) / (len(path.modes) * TICK))
    found = _join(legs, sure, fits, rule)
    spans = tuple((one.t, one.until) for one, _ in fits)
    return replace(found, seen=seen, because=READ.format(share=round(100 * seen)), read=spans)


def _agrees(path: Path, values: Values, t: Millis, begin: Millis) -> bool:
    tick = round((t - begin) / TICK)
    if not 0 <= tick < len(path.values):
        return False
    return values.low - TICK <= int(path.values[tick]) * TICK <= values.high + TICK


def _chance(margin: float) -> float:
    return float(1 / (1 + np.exp(-np.clip(margin, -50, 50))))


def _legs(path: Path, begin: Millis) -> list[_Leg]:
    """The path cut where its mode changes and where the clock was set."""
    jumps = np.abs(np.diff(path.values)) > 1
    cuts = np.flatnonzero(jumps | (np.diff(path.modes) != 0)) + 1
    legs = []
    for first, then in pairwise([0, *cuts.tolist(), len(path.modes)]):
        t, runs = begin + first * TICK, bool(path.modes[first] == RUNS)
        value = int(path.values[first]) * TICK
        legs.append(_Leg(t, begin + then * TICK, runs, value, first > 0 and bool(jumps[first - 1])))
    return legs


def _within(leg: _Leg, fits: Sequence[Read]) -> list[Read]:
    return [one for one in fits if leg.t - TICK <= one[0].t and one[0].until <= leg.until + TICK]


def _stand(leg: _Leg, fits: Sequence[Read]) -> _Leg:
    """A leg that stands, with the values that most of its readings allow."""
    shown: dict[tuple[Millis, Millis], float] = {}
    for one, values in fits:
        together = min(one.until, leg.until) - max(one.t, leg.t) + TICK
        if together > 0 and values.low - TICK <= leg.at <= values.high + TICK:
            shown[values.low, values.high] = shown.get((values.low, values.high), 0) + values.sure * together
    if not shown:
        return replace(leg, low=max(0, leg.at - SPAN), high=leg.at + SPAN)
    low, high = max(shown, key=lambda one: shown[one])
    return replace(leg, low=low, high=high, at=min(max(leg.at, low), high))


def _run(leg: _Leg, fits: Sequence[Read], rule: Rule) -> _Leg:
    """A leg that runs, laid by the changes of the seconds: where most of its readings allow it."""
    about = leg.at - rule.sign * leg.t
    within = _within(leg, fits)
    if not within:
        return replace(leg, at=about, low=about - SPAN, high=about + SPAN)
    first, last = (np.array([getattr(one, name) for one, _ in within]) for name in ("t", "until"))
    low, high = (np.array([getattr(values, name) for _, values in within]) for name in ("low", "high"))
    # The clock is at its largest where the reading begins, if it counts down, and where it ends, if it counts up.
    largest, smallest = (first, last) if rule.sign < 0 else (last, first)
    tried = np.arange(about - AROUND, about + AROUND + 1, FINE)[:, None]
    kept = (tried + rule.sign * largest <= high).sum(axis=1) + (tried + rule.sign * smallest >= low).sum(axis=1)
    best = tried[kept == kept.max()]
    return replace(leg, at=int(best[0, 0] + best[-1, 0]) // 2, low=int(best[0, 0]), high=int(best[-1, 0]))


def _without_short_stops(legs: Sequence[_Leg]) -> list[_Leg]:
    """Runs that are parted by less than a table can do are one."""
    kept: list[_Leg] = []
    for leg in legs:
        before = kept[-2] if len(kept) >= 2 and leg.runs and kept[-2].runs and not kept[-1].runs else None
        if before is not None and not leg.was_set and abs(leg.at - before.at) < SHORTEST_STOP:
            longer = max(before, leg, key=lambda one: one.until - one.t)
            kept[-2:] = [replace(longer, t=before.t, until=leg.until, was_set=before.was_set)]
        else:
            kept.append(leg)
    return kept


def _join(legs: Sequence[_Leg], sure: Sequence[float], fits: Sequence[Read], rule: Rule) -> Course:
    """The legs with what lies between each and the next: a start, a stop, or a setting by the table."""
    moments: list[Moment] = []
    settings: list[Setting] = []
    edges, values = [legs[0].t], [leg.at for leg in legs]
    for number, (leg, then) in enumerate(pairwise(legs)):
        moment = None
        if leg.runs and not then.runs:
            after = legs[number + 2] if number + 2 < len(legs) else None
            moment = _stopped(leg, then, after, fits, rule)
            values[number + 1] = then.at if then.was_set else moment.value
        elif then.runs and not leg.runs:
            went_on = moments and not leg.was_set and not then.was_set
            moment = _went_on(then, moments[-1], rule) if went_on else _started(leg, then, rule)
            values[number] = values[number] if then.was_set or went_on else moment.value
        if then.was_set:
            settings.append(Setting(*_unseen(fits, then.t), leg.value(then.t, rule), then.value(then.t, rule)))
        if moment is not None:
            moments.append(replace(moment, sure=round(min(sure[number], sure[number + 1]), 3)))
        edges.append(then.t if moment is None else moment.t)
    stretches = [
        Stretch(t, until, leg.runs, leg.value(t, rule) if leg.runs else value)
        for leg, value, (t, until) in zip(legs, values, pairwise([*edges, legs[-1].until]), strict=True)
    ]
    return Course(rule, tuple(stretches), tuple(moments), tuple(settings), 0.0, "")


def _unseen(fits: Sequence[Read], about: Millis) -> tuple[Millis, Millis]:
    """The span around a moment in which nothing was read."""
    since = max((one.until for one, _ in fits if one.until <= about), default=about)
    until = min((one.t for one, _ in fits if one.t >= about), default=about)
    return since, until


def _stopped(leg: _Leg, stood: _Leg, after: _Leg | None, fits: Sequence[Read], rule: Rule) -> Moment:
    """Where a run was stopped: of all moments that may be, those that most readings around them agree with."""
    if rule.sign < 0 and stood.high <= 0:  # time was up
        return Moment("stop", leg.at, leg.low, leg.high, 0, 1.0)
    if stood.was_set:
        since, until = _unseen(fits, stood.t)
        return Moment("stop", until, since, until, leg.value(until, rule), 1.0)
    goes_on = after if after is not None and after.runs and not after.was_set else None
    since, until = max(leg.t, stood.t - AROUND), stood.t + AROUND
    if goes_on is not None:
        apart = (leg.at - goes_on.at) * rule.sign
        until = max(until, min((one.t for one, _ in fits if one.t >= goes_on.t), default=goes_on.until) - apart)
    tried = np.arange(since, until + 1, FINE if until - since < COARSE_FROM else COARSE)[:, None]
    again = tried + apart if goes_on else np.full_like(tried, stood.until)
    last = until + (0 if goes_on is None else int(again[0, 0] - tried[0, 0])) + SPAN
    near = [
        one for one in fits if since - SPAN <= one[0].t and one[0].until <= min(last, after.until if after else last)
    ]
    votes = np.zeros(len(tried))
    for one, values in near:
        right = np.ones(len(tried), bool)
        for t in (one.t, one.until):
            value = leg.at + rule.sign * np.minimum(tried, t)
            if goes_on is not None:
                value = np.where(t > again, goes_on.at + rule.sign * t, value)
            right &= ((values.low <= value) & (value <= values.high))[:, 0]
        votes += right * values.sure
    best = tried[votes >= votes.max() - 1e-6]
    first, end, loose = int(best[0, 0]), int(best[-1, 0]), (leg.high - leg.low) // 2
    t = (first + end) // 2
    return Moment("stop", t, first - loose, end + loose, leg.value(t, rule), 1.0)


def _went_on(then: _Leg, stop: Moment, rule: Rule) -> Moment:
    """Where a run began that goes on from the value that the clock was stopped at: as much later as they are apart."""
    t, loose = (stop.value - then.at) * rule.sign, (then.high - then.low) // 2
    return Moment("start", t, t - (stop.t - stop.since) - loose, t + (stop.until - stop.t) + loose, stop.value, 1.0)


def _started(leg: _Leg, then: _Leg, rule: Rule) -> Moment:
    """Where a run began from a value that is known by what is shown alone."""
    loose = (then.high - then.low) // 2
    first, last = sorted((value - then.at) * rule.sign for value in (leg.low, leg.high))
    first, last = first - loose, last + loose
    whole = leg.high if rule.rounds_up else leg.low
    if leg.was_set or whole % WHOLE == 0:  # it has not run since it was set
        return Moment("start", (whole - then.at) * rule.sign, first, last, whole, 1.0)
    t = (first + last) // 2
    return Moment("start", t, first, last, then.value(t, rule), 1.0)
