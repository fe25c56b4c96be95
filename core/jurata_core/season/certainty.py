"""How sure a figure of a season is: intervals, what the club says where there is little, and whether something changed.

All of it is SciPy's; what is said here is which of its means is asked, and what for.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal, NamedTuple

import numpy as np
from numpy.typing import NDArray
from scipy import optimize, stats  # type: ignore[import-untyped]

LEVEL = 0.9
"""How often an interval holds the true value."""
SURE, LIKELY = 0.04, 0.2
"""Below which p-value a change is called one, and below which it is called probable: chance alone looks like a change
for the better in less than one season of twenty."""
LEAST_MATCHES = 2
"""On either side of a date; with fewer nothing is said of a change."""
USUAL_SIZE, SIZE_SPREAD = 8.0, 0.7
"""What is thought of a club before anything is seen: from so many tries an athlete's own share counts half; and how far
that may be off, as the standard deviation of its logarithm."""
RESAMPLES = 999
TEN_MINUTES = 10.0
ODDEST = 1e4
"""As sure a club's share can be: as if it came from so many tries."""


class Share(NamedTuple):
    """How much of what was tried came off, with the interval that the true share lies in."""

    done: int
    of: int
    estimate: float
    low: float
    high: float


class Rate(NamedTuple):
    """How often something happened in ten minutes of match time, with the interval of the true rate."""

    n: int
    minutes: float
    per_ten: float
    low: float
    high: float
    matches: int = 0
    """In how many matches it was counted."""


class Spread(NamedTuple):
    """How the true shares of a club's athletes are spread: a beta distribution."""

    a: float
    b: float

    @property
    def mean(self) -> float:
        return self.a / (self.a + self.b)


Counted = tuple[int, float]
"""How often something happened in a match, and the minutes of its running clock."""
Word = Literal["better", "probably better", "no difference", "probably worse", "worse"]


class Change(NamedTuple):
    """Errors before a date against since: their rates, by how much the rate changed, and how sure that is.

    ``ratio`` is the rate since over the rate before; ``p`` is the one-sided p-value of a change that way.
    """

    before: Rate
    since: Rate
    ratio: float
    low: float
    high: float
    p: float
    word: Word


def share(done: int, of: int, level: float = LEVEL) -> Share:
    """A share with Wilson's interval; of nothing tried it is anything from 0 to 1."""
    if not of:
        return Share(0, 0, 0.5, 0.0, 1.0)
    interval = stats.binomtest(done, of).proportion_ci(level, method="wilson")
    return Share(done, of, done / of, float(interval.low), float(interval.high))


def spread_of(shares: Sequence[tuple[int, int]]) -> Spread:
    """How the shares of several people are spread: the beta-binomial that makes ``(done, of)`` the likeliest.

    Where nothing was tried every share is as likely; where all are alike, each is known from all.
    """
    rows = np.array([(done, of) for done, of in shares if of], dtype=float)
    if not len(rows):
        return Spread(1.0, 1.0)
    done, of = rows[:, 0], rows[:, 1]
    mean = (done.sum() + 0.5) / (of.sum() + 1)

    def unlikeliness(x: NDArray[np.float64]) -> float:
        a, b = _beta(x)
        usual = stats.norm.logpdf(x[1], np.log(USUAL_SIZE), SIZE_SPREAD)
        return -float(stats.betabinom.logpmf(done, of, a, b).sum() + usual)

    start = np.array([np.log(mean / (1 - mean)), np.log(USUAL_SIZE)])
    found = optimize.minimize(unlikeliness, start, method="Nelder-Mead", options={"xatol": 1e-3, "fatol": 1e-4})
    return Spread(*_beta(found.x))


def _beta(x: NDArray[np.float64]) -> tuple[float, float]:
    mean, size = 1 / (1 + np.exp(-x[0])), min(np.exp(x[1]), ODDEST)
    return float(max(mean * size, 1e-3)), float(max((1 - mean) * size, 1e-3))


def shrunk(done: int, of: int, spread: Spread, level: float = LEVEL) -> Share:
    """A share moved towards the club's, the more the less was tried; its interval is of the beta posterior."""
    found = stats.beta(spread.a + done, spread.b + of - done)
    low, high = found.interval(level)
    return Share(done, of, float(found.mean()), float(low), float(high))


def rate(n: int, minutes: float, level: float = LEVEL) -> Rate:
    """A rate with the interval of its gamma posterior, from Jeffreys' prior; without any time it is unknown."""
    if minutes <= 0:
        return Rate(n, 0.0, 0.0, 0.0, float("inf"))
    low, high = stats.gamma(n + 0.5, scale=TEN_MINUTES / minutes).interval(level)
    return Rate(n, minutes, n * TEN_MINUTES / minutes, float(low) if n else 0.0, float(high))


def change(before: Sequence[Counted], since: Sequence[Counted], level: float = LEVEL) -> Change:
    """Whether something has become rarer since; see :func:`changes`."""
    counts, minutes = zip(*[*before, *since], strict=True) if before or since else ((), ())
    return changes([counts], minutes, len(before), level)[0]


def changes(
    rows: Sequence[Sequence[int]], minutes: Sequence[float], before: int, level: float = LEVEL
) -> list[Change]:  # fmt: skip
    """Whether each of some things has become rarer since, in the same matches.

    Each row has the counts of one thing, match by match; ``minutes`` are those of the matches, of which the first
    ``before`` are the ones before. Matches differ by more than chance alone: the p-value is that of a permutation test
    over matches, so a few wild matches make nobody sure of anything.
    """
    if not rows:
        return []
    counts, lasted = np.array(rows, dtype=float).reshape(len(rows), len(minutes)), np.array(minutes, dtype=float)
    parts = (slice(None, before), slice(before, None))
    rates = [
        [
            rate(int(row[part].sum()), float(lasted[part].sum()), level)._replace(matches=len(row[part]))
            for row in counts
        ]
        for part in parts
    ]
    pairs = list(zip(*rates, strict=True))
    found = [Change(first, later, 1.0, 0.0, float("inf"), 1.0, "no difference") for first, later in pairs]
    asked = [number for number, pair in enumerate(pairs) if _may_tell(pair, before, len(minutes) - before)]
    rarer = np.array([found[number].since.per_ten < found[number].before.per_ten for number in asked])
    for number, fewer, p in zip(asked, rarer, _p_values(counts[asked], lasted, before, rarer), strict=True):
        first, later = found[number].before, found[number].since
        ratio = (later.n + 0.5) / later.minutes / ((first.n + 0.5) / first.minutes)
        wild = _dispersion([(counts[number][part], lasted[part]) for part in parts])
        spread = stats.f((2 * later.n + 1) / wild, (2 * first.n + 1) / wild)
        low, high = (ratio * float(edge) for edge in spread.interval(level))
        found[number] = Change(first, later, ratio, low, high, float(p), _word(float(p), bool(fewer)))
    return found


def _may_tell(rates: Sequence[Rate], before: int, since: int) -> bool:
    """Whether there is enough on either side for anything to be said."""
    first, later = rates
    return min(before, since) >= LEAST_MATCHES and first.n + later.n > 0 and min(first.minutes, later.minutes) > 0


def _dispersion(periods: Sequence[tuple[NDArray[np.float64], NDArray[np.float64]]]) -> float:
    """By how much more matches differ than chance alone would have it: Pearson's statistic, and 1 at least."""
    statistic, free = 0.0, 0
    for counts, minutes in periods:
        expected = (counts.sum() + 0.5) * minutes / minutes.sum()
        statistic += float((np.square(counts - expected) / np.maximum(expected, 1e-9)).sum())
        free += len(counts) - 1
    return max(1.0, statistic / free) if free else 1.0


def _p_values(
    counts: NDArray[np.float64], minutes: NDArray[np.float64], before: int, rarer: NDArray[np.bool_]
) -> NDArray[np.float64]:
    """For each row of counts, how often matches in another order would show at least that change, one-sided."""
    if not len(counts):
        return np.zeros(0)
    flat, whole = counts.ravel(), np.tile(minutes, len(counts))
    sign = np.repeat(np.where(rarer, 1.0, -1.0), len(minutes))

    def difference(x: NDArray[np.int64], y: NDArray[np.int64], axis: int) -> NDArray[np.float64]:
        now, then = (flat[i].sum(axis=axis) / whole[i].sum(axis=axis) for i in (y, x))
        return np.asarray(sign[x[..., 0]] * (now - then))

    # Counts and minutes are moved together, so it is their places that are put in another order.
    places = np.arange(len(flat)).reshape(counts.shape)
    found = stats.permutation_test(
        (places[:, :before], places[:, before:]), difference, vectorized=True, n_resamples=RESAMPLES,
        alternative="less", axis=-1, rng=np.random.default_rng(1),
    )  # fmt: skip
    return np.asarray(found.pvalue)


def _word(p: float, rarer: bool) -> Word:
    if p < SURE:
        return "better" if rarer else "worse"
    if p < LIKELY:
        return "probably better" if rarer else "probably worse"
    return "no difference"
