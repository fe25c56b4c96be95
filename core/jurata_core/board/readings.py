"""Readings of a scoreboard, and what values a text may stand for.

A board that counts down mostly shows a second that has begun as whole, so that it shows 0:01 in the last one; one
that counts up shows the seconds that are over:

    clock that is left      2.0    1.5    1.0    0.5    0
    shown                  0:02   0:02   0:01   0:01   0:00      the last second shows 0:01
    shown                  0:02   0:01   0:01   0:00   0:00      the last second shows 0:00
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Literal

from ..match_log.observations import SIDES, TALLIES
from ..times import Millis

CLOCK = "clock"
BOARD_PARTS = (CLOCK, *(f"{side}.{tally}" for side in SIDES for tally in TALLIES))
"""The parts of a board that can be read: the clock, and the figures of each side."""
TICK: Millis = 100
"""The clock is followed in steps of so long."""
LARGEST_FIGURE = 99
_CLOCK_TEXT = re.compile(r"(\d{1,2})[:.]([0-5]\d)(?:[:.]\d{1,2})?")
_TENTHS = re.compile(r"(\d{1,2})\.(\d)")
_WITHOUT_COLON = re.compile(r"(\d{1,2})([0-5]\d)")
WITHOUT_COLON = 0.5
"""How much less sure a clock is whose colon was not seen."""


@dataclass(frozen=True, slots=True)
class Seen:
    """What one part of the board was read as, from ``t`` up to ``until``, in which its picture did not change.

    ``sure`` is the reader's own, from 0 to 1.
    """

    t: Millis
    until: Millis
    text: str
    sure: float


@dataclass(frozen=True, slots=True)
class Rule:
    """How a board's clock counts, and whether it shows 0:01 in the last second (or in the first: 0:00)."""

    counts: Literal["down", "up"] = "down"
    last_second: Literal["one", "zero"] = "one"

    @property
    def sign(self) -> int:
        """What a second of running adds to the clock."""
        return -1 if self.counts == "down" else 1

    @property
    def rounds_up(self) -> bool:
        return self.counts == "down" and self.last_second == "one"

    def shown(self, value: Millis) -> int:
        """The whole seconds that a board shows for a value of its clock."""
        return -(-value // 1000) if self.rounds_up else value // 1000


@dataclass(frozen=True, slots=True)
class Values:
    """The values that a clock's text may stand for, both ends included; ``sure`` as the reader was."""

    low: Millis
    high: Millis
    sure: float


def clock_values(seen: Seen, rule: Rule) -> Values | None:
    """What a text of the clock may stand for; None where it is no clock."""
    text = seen.text.strip()
    if found := _TENTHS.fullmatch(text):
        value = int(found[1]) * 1000 + int(found[2]) * 100
        return Values(value, value + 99, seen.sure)
    sure = seen.sure
    found = _CLOCK_TEXT.fullmatch(text)
    if found is None:
        found, sure = _WITHOUT_COLON.fullmatch(text), sure * WITHOUT_COLON
    if found is None:
        return None
    whole = (int(found[1]) * 60 + int(found[2])) * 1000
    if rule.rounds_up:
        return Values(max(0, whole - 999), whole, sure)
    return Values(whole, whole + 999, sure)


def figure(seen: Seen) -> int | None:
    """The number that a text of a figure stands for; None where it is none."""
    text = seen.text.strip()
    return int(text) if text.isdecimal() and len(text) <= len(str(LARGEST_FIGURE)) else None


def weighed(seen: Seen) -> float:
    """How much a reading counts among all: by how long it was seen, and how sure the reader was."""
    return seen.sure * (seen.until - seen.t + TICK)
