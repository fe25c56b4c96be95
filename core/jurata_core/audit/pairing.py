"""Pairing what one gave with what another gave, one to one, by the best overall assignment.

The assignment is ``scipy.optimize.linear_sum_assignment``. Entries pair only where
the second is not earlier than ``before`` and not later than ``after`` the first:

    award            call
      |----|----------|           within -2 s .. +15 s: may be paired
    -2 s   0        +15 s
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import NamedTuple

from ..faults import Fault, FaultyInput
from ..times import Millis
from .entries import Entry

MOST_ENTRIES = 3_000
"""More on either side are refused: the assignment takes memory by their product."""
OTHER_NUMBER = 1_000_000
"""In milliseconds: how much worse a pair with another number is than any lateness within a window."""
NEVER = 1_000_000_000_000
"""The cost of a pair that may not be; far above all others together."""


class Window(NamedTuple):
    """How far a second entry may lie before and after the first."""

    before: Millis
    after: Millis

    def holds(self, first: Entry, second: Entry) -> bool:
        return -self.before <= second.t - first.t <= self.after


OFFICIALS = Window(2_000, 15_000)
"""Calls come late: the referee's hand goes up after the three seconds, the table follows."""
SCORERS = Window(5_000, 5_000)
"""Two scorers of one clip differ to both sides."""

Pair = tuple[int, int]
"""Indexes into the first and the second list."""


def pairs(
    first: Sequence[Entry], second: Sequence[Entry], window: Window, alike: Callable[[Entry, Entry], bool]
) -> list[Pair]:
    """As many pairs as can be; among those, the most with equal numbers; then the nearest in time.

    Raises FaultyInput for more entries than can be assigned.
    """
    for name, entries in (("first", first), ("second", second)):
        if len(entries) > MOST_ENTRIES:
            message = f"has {len(entries)} awards or calls; {MOST_ENTRIES} at most can be compared"
            raise FaultyInput([Fault(name, message, "too_large")])
    if not first or not second:
        return []
    from scipy.optimize import linear_sum_assignment  # type: ignore[import-untyped]  # scoring needs no scipy

    costs = [
        [_cost(one, other) if window.holds(one, other) and alike(one, other) else NEVER for other in second]
        for one in first
    ]
    rows, columns = linear_sum_assignment(costs)
    found = [(int(row), int(column)) for row, column in zip(rows, columns, strict=True)]
    return [(row, column) for row, column in found if costs[row][column] < NEVER]


def _cost(one: Entry, other: Entry) -> int:
    return abs(other.t - one.t) + (0 if one.n == other.n else OTHER_NUMBER)
