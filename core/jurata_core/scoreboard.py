"""The match clock of a log held against a scoreboard that can be read in the clip.

Each reading says what was left on the scoreboard at a time of the footage. Between
two readings both clocks should have run equally long; where ours ran longer, a stop
is missing in the log, and where it ran shorter, a logged stop did not happen or is too long.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Any, Literal

from .adjudication import Verdict
from .match_log import MatchLog
from .times import Millis, minutes, span, to_seconds

TOLERANCE: Millis = 1_000
"""A scoreboard shows whole seconds: so much may be between the two."""

Finding = Literal["agrees", "start_early", "start_late", "stop_missing", "stop_too_long"]


@dataclass(frozen=True, slots=True)
class Reading:
    """What the scoreboard showed as left at ``t``."""

    t: Millis
    left: Millis


@dataclass(frozen=True, slots=True)
class Check:
    """What one stretch of the footage says: from the start to the first reading, or between two readings."""

    start: Millis
    end: Millis
    off: Millis
    """How much longer our clock ran than the scoreboard's; negative for shorter."""
    finding: Finding

    @property
    def because(self) -> str:
        amount = span(abs(self.off))
        between = f"between {minutes(self.start)} and {minutes(self.end)} of the footage"
        return {
            "agrees": f"The clock agrees with the scoreboard at {minutes(self.end)} of the footage.",
            "start_early": f"The clock is {amount} ahead of the scoreboard at {minutes(self.end)} of the footage: "
            "it was started too early, or a stop before that is missing.",
            "start_late": f"The clock is {amount} behind the scoreboard at {minutes(self.end)} of the footage: "
            "it was started too late, or was stopped when it should have been running.",
            "stop_missing": f"A stop of {amount} is missing {between}.",
            "stop_too_long": f"The clock was stopped {amount} too long {between}.",
        }[self.finding]

    def as_json(self) -> dict[str, Any]:
        return {
            "start": to_seconds(self.start),
            "end": to_seconds(self.end),
            "off": to_seconds(self.off),
            "finding": self.finding,
            "because": self.because,
        }


def check_clock(log: MatchLog, verdict: Verdict, readings: Sequence[Reading]) -> list[Check]:
    """One check for each reading, in order of time; none where the clock never started or time has no end."""
    if not verdict.running:
        return []
    ordered: list[Reading] = []
    off: list[Millis] = []
    for reading in sorted(readings, key=lambda reading: reading.t):
        if (left := verdict.timeline.left_at(reading.t)) is not None:
            ordered.append(reading)
            off.append(reading.left - left)
    if not ordered:
        return []
    checks = [_check(verdict.running[0].start, ordered[0].t, off[0], "start_early", "start_late")]
    for (first, before), (second, after) in pairwise(zip(ordered, off, strict=True)):
        checks.append(_check(first.t, second.t, after - before, "stop_missing", "stop_too_long"))
    return checks


def _check(start: Millis, end: Millis, off: Millis, longer: Finding, shorter: Finding) -> Check:
    finding: Finding = "agrees" if abs(off) <= TOLERANCE else longer if off > 0 else shorter
    return Check(start, end, off, finding)
