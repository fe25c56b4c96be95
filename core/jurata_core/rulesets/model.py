"""A ruleset: the settings of docs/scoring.md, each with the check that guards it.

To add a setting: one field here, its value in ``full-points.json``, and the
rule that reads it.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, field
from fractions import Fraction
from functools import cached_property
from typing import Any, Literal

from ..divisions import BELTS, OLDEST
from ..fields import Check, Wrong, boolean, check_parts, choice, list_of, named, number, text, whole
from ..times import Millis, to_millis

POINT_KEYS = ("takedown", "takedown_clear", "sweep", "sweep_clear", "knee_on_belly", "guard_pass", "mount", "back")
Rung = Literal["none", "advantage", "two_points", "minus_point", "disqualify"]
TieBreak = Literal["points", "advantages", "penalties", "decision", "draw"]


@dataclass(frozen=True, slots=True)
class AlsoLegal:
    """Techniques that a ruleset allows beyond the table, from an age and a belt."""

    techniques: tuple[str, ...]
    from_age: int
    from_belt: str


def _read_points(value: Any) -> dict[str, int]:
    if not isinstance(value, dict):
        raise Wrong("should be an object of point values")
    parsed = check_parts((f".{key}", whole(0, 99), value.get(key)) for key in POINT_KEYS)
    return dict(zip(POINT_KEYS, parsed, strict=True))


_points = Check(_read_points, {"type": "object", "properties": {key: whole(0, 99).schema for key in POINT_KEYS}})


_ALLOWANCE: list[tuple[str, Check, Any]] = [
    ("techniques", list_of(named), []),
    ("from_age", whole(0, OLDEST), 18),
    ("from_belt", choice(*BELTS), "blue"),
]


def _read_also_legal(value: Any) -> AlsoLegal:
    if not isinstance(value, dict):
        raise Wrong("should be an object with techniques, from_age and from_belt")
    return AlsoLegal(*check_parts((f".{name}", check, value.get(name, default)) for name, check, default in _ALLOWANCE))


_also_legal = Check(
    _read_also_legal, {"type": "object", "properties": {name: check.schema for name, check, _ in _ALLOWANCE}}
)


def _setting(check: Check, **default: Any) -> Any:
    return field(metadata={"check": check}, **default)


_duration = number(0, 86_400)


@dataclass(frozen=True)
class Ruleset:
    """How one event scores. Settings are named as in files; times in seconds."""

    id: str = _setting(named)
    title: str = _setting(text)
    about: str = _setting(text)
    points: dict[str, int] = _setting(_points)
    advantages: bool = _setting(boolean)
    hold_seconds: float = _setting(_duration)
    points_from_fraction: float = _setting(number(0, 1))
    repeat: Literal["after_recovery", "every_time"] = _setting(choice("after_recovery", "every_time"))
    double_pull_top: Literal["advantage", "takedown", "none"] = _setting(choice("advantage", "takedown", "none"))
    double_pull_limit: float = _setting(_duration)
    pull_caught: Literal["takedown", "none"] = _setting(choice("takedown", "none"))
    pull_cost: int = _setting(whole(0, 99))
    ladder: tuple[Rung, ...] = _setting(
        list_of(choice("none", "advantage", "two_points", "minus_point", "disqualify"), 1)
    )
    illegal: Literal["disqualify", "warn"] = _setting(choice("disqualify", "warn"))
    illegal_disqualify_on: int = _setting(whole(1, 99))
    illegal_hold_blocks: bool = _setting(boolean)
    tiebreak: tuple[TieBreak, ...] = _setting(list_of(choice("points", "advantages", "penalties", "decision", "draw")))
    also_legal: AlsoLegal = _setting(_also_legal)
    barred: tuple[str, ...] = _setting(list_of(named))
    unknown: tuple[str, ...] = ()
    """Settings found in a coach's changes that no rule reads; each is warned of."""

    @cached_property
    def hold(self) -> Millis:
        return to_millis(self.hold_seconds)

    @cached_property
    def double_pull(self) -> Millis:
        return to_millis(self.double_pull_limit)

    def opening(self, duration: Millis) -> Millis:
        """The match clock from which claims pay, for a match of ``duration``."""
        return math.ceil(Fraction(str(self.points_from_fraction)) * duration)
