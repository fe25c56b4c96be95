"""The course of a board's clock: its starts and stops, what the table set, and what it stood at at any time."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Literal

from ..times import Millis, to_seconds
from .readings import Rule


@dataclass(frozen=True, slots=True)
class Moment:
    """The clock was started or stopped at ``t``, in any case between ``since`` and ``until`` (footage).

    ``value`` is what the clock stood at. ``sure`` is from 0 to 1.
    """

    action: Literal["start", "stop"]
    t: Millis
    since: Millis
    until: Millis
    value: Millis
    sure: float


@dataclass(frozen=True, slots=True)
class Setting:
    """The table set the clock, between ``since`` and ``until``, by ``by`` (more or less on the board)."""

    since: Millis
    until: Millis
    before: Millis
    after: Millis

    @property
    def by(self) -> Millis:
        return self.after - self.before


@dataclass(frozen=True, slots=True)
class Stretch:
    """Between ``t`` and ``until`` the clock ran from ``value`` on, or stood at it."""

    t: Millis
    until: Millis
    runs: bool
    value: Millis

    def as_json(self) -> dict[str, Any]:
        times = {"t": to_seconds(self.t), "until": to_seconds(self.until)}
        return {**times, "runs": self.runs, "value": to_seconds(self.value)}


@dataclass(frozen=True, slots=True)
class Course:
    """What a board's clock did. ``seen`` is the share of the footage in which it was read and fits the course."""

    rule: Rule
    stretches: tuple[Stretch, ...]
    moments: tuple[Moment, ...]
    settings: tuple[Setting, ...]
    seen: float
    because: str
    read: tuple[tuple[Millis, Millis], ...] = ()
    """From when until when the clock was read as the course has it."""

    @property
    def readable(self) -> bool:
        return bool(self.stretches)

    def value_at(self, t: Millis) -> Millis | None:
        """The value of the clock at a time of the footage, in milliseconds; None where it is not known."""
        for one in self.stretches:
            if one.t <= t <= one.until:
                return max(0, one.value + (self.rule.sign * (t - one.t) if one.runs else 0))
        return None

    def as_json(self) -> dict[str, Any]:
        return {
            "readable": self.readable,
            "because": self.because,
            "seen": round(self.seen, 3),
            "direction": self.rule.counts,
            "stretches": [
                {
                    "t": to_seconds(one.t),
                    "until": to_seconds(one.until),
                    "runs": one.runs,
                    "value": to_seconds(one.value),
                }
                for one in self.stretches
            ],
        }
