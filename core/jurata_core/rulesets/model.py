"""A ruleset: the settings of docs/scoring.md, each with the check that guards it.

To add a setting: one field here, its value in ``full-points.json``, and the
rule that reads it.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, field
from fractions import Fraction
from functools import cached_property
from typing import Any, Literal, cast, get_args

from ..divisions import BELTS, OLDEST
from ..faults import quoted
from ..fields import Check, Wrong, boolean, check_parts, choice, list_of, named, number, text, whole
from ..times import Millis, to_millis, to_seconds
from ..vocabulary import phrases, vocabulary

POINT_KEYS = (
    "takedown", "takedown_clear", "sweep", "sweep_clear", "reversal", "knee_on_belly", "guard_pass", "mount", "back",
)  # fmt: skip
HELD_KEYS = (
    "takedown",
    "double_pull_top",
    "sweep",
    "reversal",
    "guard_pass",
    "knee_on_belly",
    "mount",
    "back",
    "other",
)
"""The claims whose holding time can be set each by itself; ``other`` are the rest."""
DEFAULT_HOLD: float = next(one["usual"] for one in vocabulary()["settings"] if one["name"] == "hold_seconds")
"""Seconds that a claim is held where a ruleset has a time for others, and none for it."""
Rung = Literal["none", "advantage", "one_point", "two_points", "minus_point", "disqualify"]
TieBreak = Literal[
    "points", "advantages", "penalties", "first_score", "last_score", "submission_attempts", "decision", "draw"
]
Golden = Literal["points", "advantages"]


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


def _read_hold(value: Any) -> float | dict[str, float]:
    if not isinstance(value, dict):
        return cast(float, _duration(value))
    if unknown := [name for name in value if name not in HELD_KEYS]:
        raise Wrong(f"{quoted(unknown[0])} is not one of {', '.join(HELD_KEYS)}", "unknown", f".{unknown[0]}")
    given = {name: one for name, one in value.items() if one is not None}
    return dict(zip(given, check_parts((f".{name}", _duration, one) for name, one in given.items()), strict=True))


@dataclass(frozen=True, slots=True)
class Overtime:
    """``seconds`` a period, None without a limit; ``golden`` what ends the match at once in one."""

    seconds: float | None
    golden: Golden | None

    @property
    def length(self) -> Millis | None:
        return None if self.seconds is None else to_millis(self.seconds)


def or_nothing(check: Check) -> Check:
    """A null as well as what ``check`` takes."""
    schema = {"anyOf": [check.schema, {"type": "null"}]}
    return Check(lambda value: None if value is None else check(value), schema)


def _read_overtime(value: Any) -> Overtime:
    if not isinstance(value, dict):
        raise Wrong("should be an object with seconds and golden, or null")
    parts = ((f".{name}", check, value.get(name)) for name, check in _OVERTIME.items())
    return Overtime(*check_parts(parts))


def _setting(check: Check, **default: Any) -> Any:
    return field(metadata={"check": check}, **default)


_duration = number(0, 86_400)
_hold = Check(
    _read_hold,
    {"anyOf": [_duration.schema, {"type": "object", "properties": dict.fromkeys(HELD_KEYS, _duration.schema)}]},
)
_OVERTIME = {"seconds": or_nothing(number(0.001, 86_400)), "golden": or_nothing(choice("points", "advantages"))}
_overtime = or_nothing(
    Check(
        _read_overtime,
        {"type": "object", "properties": {name: check.schema for name, check in _OVERTIME.items()}},
    )
)


@dataclass(frozen=True)
class Ruleset:
    """How one event scores. Settings are named as in files; times in seconds."""

    id: str = _setting(named)
    title: str = _setting(text)
    about: str = _setting(text)
    points: dict[str, int] = _setting(_points)
    advantages: bool = _setting(boolean)
    hold_seconds: float | dict[str, float] = _setting(_hold)
    points_from_fraction: float = _setting(number(0, 1))
    points_from_seconds: float | None = _setting(or_nothing(_duration))
    repeat: Literal["after_recovery", "after_turtle", "every_time"] = _setting(
        choice("after_recovery", "after_turtle", "every_time")
    )
    regain: Literal["nothing", "sweep"] = _setting(choice("nothing", "sweep"))
    turtle_escape: Literal["none", "advantage"] = _setting(choice("none", "advantage"))
    double_pull_top: Literal["advantage", "takedown", "none"] = _setting(choice("advantage", "takedown", "none"))
    double_pull_limit: float = _setting(_duration)
    pull_caught: Literal["takedown", "none"] = _setting(choice("takedown", "none"))
    pull_cost: int = _setting(whole(0, 99))
    mercy: int = _setting(whole(0, 99))
    overtime: Overtime | None = _setting(_overtime)
    ladder: tuple[Rung, ...] = _setting(list_of(choice(*get_args(Rung))))
    illegal: Literal["disqualify", "warn"] = _setting(choice("disqualify", "warn"))
    illegal_disqualify_on: int = _setting(whole(1, 99))
    illegal_hold_blocks: bool = _setting(boolean)
    tiebreak: tuple[TieBreak, ...] = _setting(list_of(choice(*get_args(TieBreak))))
    also_legal: AlsoLegal = _setting(_also_legal)
    barred: tuple[str, ...] = _setting(list_of(named))
    unknown: tuple[str, ...] = ()
    """Settings found in a coach's changes that no rule reads; each is warned of."""

    @cached_property
    def holds(self) -> Mapping[str, Millis]:
        """How long each kind of claim is held until it is paid."""
        given = self.hold_seconds
        if isinstance(given, dict):
            other = given.get("other", DEFAULT_HOLD)
            return {kind: to_millis(given.get(kind, other)) for kind in HELD_KEYS}
        return dict.fromkeys(HELD_KEYS, to_millis(given))

    @cached_property
    def hold(self) -> Millis:
        """The longest that any claim is held: how far one look ahead has to reach."""
        return max(time for kind, time in self.holds.items() if kind != "other")

    @cached_property
    def hold_said(self) -> str:
        """How long claims are held, in words: ``3 s``, or ``3 s, but 2 s for the mount``."""
        other = self.holds["other"]
        apart = [
            f"{to_seconds(time):g} s for the {phrases('claims')[kind]}"
            for kind, time in self.holds.items()
            if kind != "other" and time != other
        ]
        return f"{to_seconds(other):g} s" + (f", but {' and '.join(apart)}" if apart else "")

    @cached_property
    def double_pull(self) -> Millis:
        return to_millis(self.double_pull_limit)

    @cached_property
    def counts_scorers(self) -> bool:
        """Whether a tie is settled by who scored first or last."""
        return "first_score" in self.tiebreak or "last_score" in self.tiebreak

    def opening(self, duration: Millis | None) -> Millis:
        """The match clock from which claims pay, for a match of ``duration``."""
        if self.points_from_seconds is not None:
            return to_millis(self.points_from_seconds)
        return 0 if duration is None else math.ceil(Fraction(str(self.points_from_fraction)) * duration)
