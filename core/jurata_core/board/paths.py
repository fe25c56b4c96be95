"""The most likely path of a clock through its readings: exact dynamic programming over a hidden Markov model.

A state is a mode and a value of the clock in ticks. In each tick

    stands, value v  -->  stands, v            as nothing happens
                     -->  runs, v              it is started
                     -->  stands, any other    the table sets it
    runs, value v    -->  runs, v - 1 tick     it goes on (v + 1 where it counts up)
                     -->  stands, v - 1        it is stopped; at zero it stops by itself
                     -->  runs, any other      it is set while it runs: rare

Each change costs its weight. A reading rewards the values that it may stand for, by how sure it is, and leaves all
others alone: what is hidden rewards nobody. All weights are logarithms of odds.
"""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from .readings import TICK, Seen, Values

Scores = npt.NDArray[np.float32]
STANDS, RUNS = 0, 1
START, STOP = 4.0, 4.0
SET_BY_TABLE = 14.0
STAY, CHANGE, SET = 0, 1, 2
NEVER = np.float32(-1e9)
LEAST_WEIGHT, MOST_WEIGHT = 0.2, 8.0
"""What a reading rewards: of one that is not sure at all, and of one that is."""
EDGE = 0.5
"""Such a share of the reward goes to a tick before and after as well: pictures come at times of their own."""
SECOND = 10
"""Ticks in which one picture counts once, however often it was taken."""
MOST_SECONDS = 3
"""A picture that does not change says no more after so long."""
BLOCK = 512
"""Ticks whose choices are held in memory at once."""


class Reward(NamedTuple):
    """What the values from ``low`` to ``high`` (ticks, both included) gain in one tick."""

    low: int
    high: int
    by: float


class Path(NamedTuple):
    """A mode and a value in ticks for each tick, and the score of the whole."""

    modes: npt.NDArray[np.int8]
    values: npt.NDArray[np.int32]
    score: float


def weight(sure: float) -> float:
    """What a reading rewards the values that it may stand for."""
    odds = np.log(max(sure, 1e-6) / max(1 - sure, 3e-4))
    return float(np.clip(odds, LEAST_WEIGHT, MOST_WEIGHT))


def share_of_tick(ticks: int, least: float = 1, most: float = MOST_SECONDS) -> float:
    """What one tick of an unchanged picture counts, in readings, where it is seen for so many ticks: together at
    least ``least`` and at most ``most``."""
    return min(max(least, ticks / SECOND), most) / ticks


def rewards_of(seen: Sequence[tuple[Seen, Values]], begin: int, ticks: int, size: int) -> list[list[Reward]]:
    """The rewards of each tick from ``begin`` (ms) on."""
    rows: list[list[Reward]] = [[] for _ in range(ticks)]
    for one, values in seen:
        first = max(0, round((one.t - begin) / TICK))
        last = min(ticks - 1, round((one.until - begin) / TICK))
        low, high = -(-values.low // TICK), values.high // TICK
        if low >= size or last < first:
            continue
        by = weight(values.sure) * share_of_tick(last - first + 1)
        edges = Reward(max(0, low - 1), min(size - 1, high + 1), by * EDGE)
        whole = Reward(low, min(size - 1, high), by * (1 - EDGE))
        for tick in range(first, last + 1):
            rows[tick] += [edges, whole]
    return rows


class Walk:
    """One pass over the ticks. ``sign``: what a tick of running adds to the value."""

    def __init__(self, rewards: Sequence[Sequence[Reward]], size: int, sign: int) -> None:
        self.rewards, self.size, self.sign = rewards, size, sign
        self.ends = sign < 0

    def begin(self) -> Scores:
        """The scores of the first tick: any state may be the first."""
        scores: Scores = np.zeros((2, self.size), np.float32)
        self._reward(scores, 0)
        return scores

    def step(self, before: Scores, tick: int) -> tuple[Scores, Scores, int]:
        """The scores of a tick, those of running on, and the state before that a setting of the clock comes from."""
        moved = _moved(before[RUNS], self.sign)
        best = int(before.argmax())
        top = before.ravel()[best]
        after: Scores = np.empty_like(before)
        np.maximum(before[STANDS], moved - np.float32(STOP), out=after[STANDS])
        np.maximum(after[STANDS], top - np.float32(SET_BY_TABLE), out=after[STANDS])
        np.maximum(moved, before[STANDS] - np.float32(START), out=after[RUNS])
        np.maximum(after[RUNS], top - np.float32(SET_BY_TABLE), out=after[RUNS])
        if self.ends:  # time is up: it stands without anybody's doing
            after[STANDS, 0] = max(after[STANDS, 0], moved[0])
            after[RUNS, 0] = NEVER
        self._reward(after, tick)
        return after, moved, best

    def _reward(self, scores: Scores, tick: int) -> None:
        for low, high, by in self.rewards[tick]:
            scores[:, low : high + 1] += np.float32(by)

    def at(self, ticks: Sequence[int]) -> dict[int, Scores]:
        """The scores of some ticks."""
        wanted, kept = set(ticks), {}
        scores = self.begin()
        for tick in range(len(self.rewards)):
            if tick:
                scores, _, _ = self.step(scores, tick)
            if tick in wanted:
                kept[tick] = scores
        return kept

    def step_back(self, after: Scores, tick: int) -> Scores:
        """The scores of the best ways from the tick before one to the end, from those of the tick."""
        top = after.max() - np.float32(SET_BY_TABLE)
        stopped = _moved(after[STANDS], -self.sign) - np.float32(STOP)
        if self.ends and self.size > 1:
            stopped[1] += np.float32(STOP)
        before: Scores = np.empty_like(after)
        np.maximum(after[STANDS], after[RUNS] - np.float32(START), out=before[STANDS])
        np.maximum(_moved(after[RUNS], -self.sign), stopped, out=before[RUNS])
        np.maximum(before, top, out=before)
        if self.ends and tick > 1:
            before[RUNS, 0] = NEVER
        self._reward(before, tick - 1)
        return before

    def from_there(self, ticks: Sequence[int]) -> dict[int, Scores]:
        """The scores of the best ways from some ticks on to the end, their own rewards included."""
        wanted, kept = set(ticks), {}
        last = len(self.rewards) - 1
        scores: Scores = np.zeros((2, self.size), np.float32)
        if self.ends and last > 0:
            scores[RUNS, 0] = NEVER
        self._reward(scores, last)
        for tick in range(last, -1, -1):
            if tick < last:
                scores = self.step_back(scores, tick + 1)
            if tick in wanted:
                kept[tick] = scores
        return kept

    def best(self) -> Path:
        """The path of the highest score. Choices are worked out again block by block: memory stays flat."""
        count = len(self.rewards)
        starts = list(range(0, count, BLOCK))
        kept = self.at(starts)
        modes, values = np.zeros(count, np.int8), np.zeros(count, np.int32)
        state, score = -1, 0.0
        for first, last in reversed(list(pairwise([*starts, count]))):
            steps = [(kept[first], kept[first][RUNS], 0)]
            # One tick of the next block as well: it says where its first tick came from.
            for tick in range(first + 1, min(last, count - 1) + 1):
                steps.append(self.step(steps[-1][0], tick))
            if last == count:
                state = int(steps[-1][0].argmax())
                score = float(steps[-1][0].ravel()[state])
                modes[-1], values[-1] = divmod(state, self.size)
            for tick in range(min(last, count - 1), first, -1):
                before = steps[tick - first - 1][0]
                state = self._came_from(state, before, steps[tick - first])
                modes[tick - 1], values[tick - 1] = divmod(state, self.size)
        return Path(modes, values, score)

    def _came_from(self, state: int, before: Scores, step: tuple[Scores, Scores, int]) -> int:
        """The state before, on the best way to a state."""
        _, moved, best = step
        mode, value = divmod(state, self.size)
        top = before.ravel()[best]
        ran = self.size + value - self.sign
        if mode == STANDS:
            stop = moved[value] - (0 if value == 0 and self.ends else np.float32(STOP))
            ways = ((before[STANDS, value], value), (stop, ran), (top - np.float32(SET_BY_TABLE), best))
        else:
            start = before[STANDS, value] - np.float32(START)
            ways = ((moved[value], ran), (start, value), (top - np.float32(SET_BY_TABLE), best))
        return int(max(ways, key=lambda way: way[0])[1])


def _moved(scores: Scores, by: int) -> Scores:
    """The scores of values that are one tick less (``by`` -1) or more (1)."""
    moved = np.full(len(scores), NEVER, np.float32)
    if by < 0:
        moved[:-1] = scores[1:]
    else:
        moved[1:] = scores[:-1]
    return moved


def margins(rewards: Sequence[Sequence[Reward]], size: int, sign: int, ticks: Sequence[int]) -> dict[int, float]:
    """By how much the best path that stands in a tick is better than the best one that runs in it, for some ticks."""
    walk = Walk(rewards, size, sign)
    up_to, on = walk.at(ticks), walk.from_there(ticks)
    found = {}
    for tick in ticks:
        both = up_to[tick] + on[tick]
        for low, high, by in rewards[tick]:  # counted on both ways
            both[:, low : high + 1] -= np.float32(by)
        found[tick] = float(both[STANDS].max() - both[RUNS].max())
    return found
