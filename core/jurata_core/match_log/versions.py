"""Versions of the match log's format, and the steps from each to the next.

An old file is upgraded when it is read; what is written is always the current
format. A step gets the raw object and gives a new one; fields it does not know go
along unchanged. To add a version: its name in ``FORMAT``, and the step from the one
before in ``_STEPS``.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

from ..faults import Fault, FaultyInput, quoted
from .kinds import WHOLE

FORMAT = "jurata-match/3"
_SECOND = "jurata-match/2"
_FIRST = "jurata-match/1"
_DRAFT = "jurata-match/0"


def _from_draft(raw: Mapping[str, Any]) -> dict[str, Any]:
    """The draft gave the length in ``minutes`` and the attire as ``gi``: true or false."""
    later = {name: value for name, value in raw.items() if name != "minutes"}
    minutes, division = raw.get("minutes"), raw.get("division")
    if isinstance(minutes, int | float) and not isinstance(minutes, bool):
        later["duration"] = minutes * 60
    elif minutes is not None:
        raise FaultyInput([Fault("minutes", f"{quoted(minutes)} should be a number", "wrong_type")])
    if isinstance(division, dict) and "gi" in division:
        kept = {name: value for name, value in division.items() if name != "gi"}
        later["division"] = {**kept, "attire": "gi" if division["gi"] else "nogi"}
    return {**later, "format": _FIRST}


def _from_first(raw: Mapping[str, Any]) -> dict[str, Any]:
    """Version 1 said ``near`` with its ``claim``, and took whole numbers as ids."""
    seen = raw.get("observations")
    later = [_seen_in_first(one) for one in seen] if isinstance(seen, list) else seen
    return {**raw, "format": _SECOND, **({} if later is None else {"observations": later})}


def _seen_in_first(seen: Any) -> Any:
    """One observation of version 1 in the words of version 2. A takedown is what coming up from a double pull is
    called as a move."""
    if not isinstance(seen, dict):
        return seen
    later = dict(seen)
    ref = seen.get("id")
    if (isinstance(ref, int) and not isinstance(ref, bool)) or (isinstance(ref, str) and WHOLE.fullmatch(ref)):
        later["id"] = f"#{ref}"
    if seen.get("kind") == "near":
        move = later.pop("claim", None)
        later |= {"kind": "attempt", "move": "takedown" if move == "double_pull_top" else move, "outcome": "near"}
    return later


def _from_second(raw: Mapping[str, Any]) -> dict[str, Any]:
    """Version 3 has more kinds and fields, and changes none."""
    return {**raw, "format": FORMAT}


_STEPS: Mapping[str, Callable[[Mapping[str, Any]], dict[str, Any]]] = {
    _DRAFT: _from_draft,
    _FIRST: _from_first,
    _SECOND: _from_second,
}


def upgraded(raw: dict[str, Any]) -> dict[str, Any]:
    """The object in the current format; the same object where it is that already, or no known version."""
    while isinstance(version := raw.get("format"), str) and version in _STEPS:
        raw = _STEPS[version](raw)
    return raw
