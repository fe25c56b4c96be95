"""The course of one figure of a board: what it showed, and each step that it took up or back.

The most likely path by dynamic programming over the numbers that it may show. It stays as it is, goes up by what
officials give at once, or changes to any other number, which costs more; readings reward what they show.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from ..times import Millis
from .paths import NEVER, share_of_tick, weight
from .readings import LARGEST_FIGURE, TICK, Seen, figure, weighed

AT_ONCE = (1, 2, 3, 4)
"""What is given at once in the presets; see rulesets/*.json."""
UP, OTHERWISE = 5.0, 8.0
MOST_SECONDS = 6
"""A figure that does not change says no more after so long."""
SHORTEST: Millis = 2_000
"""A figure must have been read for so long in all."""
NOT_CLEAR = 0.15
"""What a reading counts while the clock could not be read."""
BETWEEN, WALKING = 2, 7
"""Ticks between two readings of a clear clock at the most, and how long a figure may be hidden before the clock is."""
LEAST_AGREEING = 0.5
_NUMBERS = LARGEST_FIGURE + 1
_Rewards = Sequence[Sequence[tuple[int, float]]]
"""Of each tick: numbers, and what each gains."""


@dataclass(frozen=True, slots=True)
class Step:
    """A figure went from ``before`` to ``after``, between ``since`` and ``until`` (footage); sure from 0 to 1.

    ``until`` is when the new number was read first.
    """

    since: Millis
    until: Millis
    before: int
    after: int
    sure: float

    @property
    def t(self) -> Millis:
        """When it was seen: in the middle of what was not read for a moment only, else when it was read again."""
        return (self.since + self.until) // 2 if self.until - self.since <= 1_000 else self.until


@dataclass(frozen=True, slots=True)
class Figure:
    """What a figure showed first, and its steps; ``first`` is None where it can't be read."""

    first: int | None
    steps: tuple[Step, ...]

    def at(self, t: Millis) -> int | None:
        """What it showed at a time of the footage."""
        return next((step.after for step in reversed(self.steps) if step.until <= t), self.first)


def steps_of(
    readings: Sequence[Seen], begin: Millis, end: Millis, clear: Sequence[tuple[Millis, Millis]] | None = None
) -> Figure:
    """The steps of a figure from ``begin`` to ``end`` of the footage.

    ``clear``: when the clock of the same board was read well. At other times somebody may stand in front of the board,
    and half a figure reads as another one: what is read then counts little.
    """
    read = [(one, number) for one in sorted(readings, key=lambda one: one.t) if (number := figure(one)) is not None]
    if sum(one.until - one.t + TICK for one, _ in read) < SHORTEST:
        return Figure(None, ())
    ticks = max(1, (end - begin) // TICK + 1)
    trust = _trust(clear, begin, ticks)
    rewards: list[list[tuple[int, float]]] = [[] for _ in range(ticks)]
    for one, number in read:
        first, last = max(0, round((one.t - begin) / TICK)), min(ticks - 1, round((one.until - begin) / TICK))
        for tick in range(first, last + 1):
            by = weight(one.sure) * share_of_tick(last - first + 1, least=0, most=MOST_SECONDS)
            rewards[tick].append((number, by * trust[tick]))
    path = _best(rewards)
    fits = [(one, number) for one, number in read if number == path[_tick(one.until, begin, ticks)]]
    if sum(weighed(one) for one, _ in fits) < LEAST_AGREEING * sum(weighed(one) for one, _ in read):
        return Figure(None, ())
    changes = [0, *(np.flatnonzero(np.diff(path)) + 1).tolist(), ticks]
    steps = []
    for _, tick, then in zip(changes, changes[1:], changes[2:], strict=False):
        before, after = int(path[tick - 1]), int(path[tick])
        margin = -UP
        for row in rewards[tick:then]:
            margin += sum(by for number, by in row if number == after)
            margin -= sum(by for number, by in row if number == before)
        last = _seen_as(before, rewards, trust, range(tick - 1, -1, -1), -1)
        came = _seen_as(after, rewards, trust, range(tick, then), tick)
        since, until = max(begin, begin + last * TICK), begin + came * TICK
        sure = float(1 / (1 + np.exp(-np.clip(margin, -50, 50))))
        steps.append(Step(since, until, before, after, round(sure, 3)))
    return Figure(int(path[0]), tuple(steps))


def _seen_as(
    number: int,
    rewards: Sequence[Sequence[tuple[int, float]]],
    trust: npt.NDArray[np.float64],
    ticks: range,
    default: int,
) -> int:
    """The first of some ticks in which a number was read while nobody stood in front of the board."""
    seen = (tick for tick in ticks if trust[tick] == 1 and any(one == number for one, _ in rewards[tick]))
    return next(seen, default)


def _trust(clear: Sequence[tuple[Millis, Millis]] | None, begin: Millis, ticks: int) -> npt.NDArray[np.float64]:
    """How much the readings of each tick count."""
    if clear is None:
        return np.ones(ticks)
    trust = np.full(ticks, NOT_CLEAR)
    for since, until in clear:
        trust[_tick(since, begin, ticks) : _tick(until, begin, ticks) + 1 + BETWEEN] = 1
    hidden = trust != 1
    for by in range(1, WALKING + 1):  # who walks into the picture of the clock stood before a figure a moment ago
        trust[:-by][hidden[by:]] = NOT_CLEAR
        trust[by:][hidden[:-by]] = NOT_CLEAR
    return trust


def _tick(t: Millis, begin: Millis, ticks: int) -> int:
    return min(ticks - 1, max(0, round((t - begin) / TICK)))


def _best(rewards: _Rewards) -> npt.NDArray[np.int16]:
    """The most likely number in each tick."""
    count = len(rewards)
    scores = np.zeros(_NUMBERS, np.float32)
    came = np.zeros((count, _NUMBERS), np.int16)
    stays = np.arange(_NUMBERS, dtype=np.int16)
    for number, by in rewards[0]:
        scores[number] += by
    for tick in range(1, count):
        if not rewards[tick]:  # nothing is gained by a change here
            came[tick] = stays
            continue
        top = int(scores.argmax())
        best, origin = scores.copy(), stays.copy()
        for more in AT_ONCE:
            moved = np.full(_NUMBERS, NEVER, np.float32)
            moved[more:] = scores[:-more] - np.float32(UP)
            better = moved > best
            best[better], origin[better] = moved[better], stays[better] - more
        other = scores[top] - np.float32(OTHERWISE)
        better = best < other
        best[better], origin[better] = other, top
        for number, by in rewards[tick]:
            best[number] += by
        scores, came[tick] = best, origin
    path = np.zeros(count, np.int16)
    path[-1] = int(scores.argmax())
    for tick in range(count - 1, 0, -1):
        path[tick - 1] = came[tick, path[tick]]
    return path


def merged(steps: Sequence[Step], within: Millis = 1_500) -> list[Step]:
    """Steps of one figure that follow one another at once are one: a table counts up press by press."""
    kept: list[Step] = []
    for step in steps:
        if kept and step.until - kept[-1].until <= within and kept[-1].after == step.before:
            last = kept.pop()
            if last.before != step.after:
                kept.append(Step(last.since, step.until, last.before, step.after, min(last.sure, step.sure)))
        else:
            kept.append(step)
    return kept
