"""Checks of single fields: each takes a raw JSON value and gives the parsed one.

A check raises :class:`Wrong`; whoever reads the object adds the path, so the
same check serves the match log, the rulesets and the web forms.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from typing import Any

from .faults import Fault, FaultCode, quoted
from .times import Millis, to_millis

LONGEST_SECONDS = 100_000_000
"""No time in a log may be later than this (about three years of footage)."""


@dataclass(frozen=True, slots=True)
class Check:
    """Reads one raw value; ``schema`` says the same as JSON Schema does."""

    read: Callable[[Any], Any]
    schema: Mapping[str, Any]

    def __call__(self, value: Any) -> Any:
        return self.read(value)


class Wrong(Exception):
    """A value that a check refuses, with what would be right; ``parts`` are all that is wrong inside it."""

    def __init__(self, message: str, code: FaultCode = "wrong_type", at: str = "") -> None:
        self.message, self.code, self.at = message, code, at
        self.parts: list[Wrong] = [self]
        super().__init__(message)

    def faults(self, path: str) -> list[Fault]:
        """A fault for each part."""
        return [Fault(f"{path}{part.at}", part.message, part.code) for part in self.parts]


def check_parts(parts: Iterable[tuple[str, Check, Any]]) -> list[Any]:
    """The parts of one value, each with where it stands in it. Raises Wrong with all that is wrong in them."""
    parsed: list[Any] = []
    wrongs: list[Wrong] = []
    for at, check, value in parts:
        try:
            parsed.append(check(value))
        except Wrong as wrong:
            wrongs += [Wrong(part.message, part.code, f"{at}{part.at}") for part in wrong.parts]
    if wrongs:
        wrongs[0].parts = wrongs
        raise wrongs[0]
    return parsed


def choice(*allowed: str) -> Check:
    """One of a few words."""
    choices = frozenset(allowed)
    listing = ", ".join(allowed)

    def check(value: Any) -> str:
        if isinstance(value, str) and value in choices:
            return value
        raise Wrong(f"{quoted(value)} is not one of {listing}", "unknown" if isinstance(value, str) else "wrong_type")

    return Check(check, {"type": "string", "enum": list(allowed)})


def _boolean(value: Any) -> bool:
    if isinstance(value, bool):
        return value
    raise Wrong(f"{quoted(value)} should be true or false")


boolean = Check(_boolean, {"type": "boolean"})


def _text(value: Any) -> str:
    if isinstance(value, str):
        return value
    raise Wrong(f"{quoted(value)} should be text")


text = Check(_text, {"type": "string"})


def _named(value: Any) -> str:
    if isinstance(value, str) and value.strip():
        return value
    raise Wrong("should be a name, and is empty" if value == "" else f"{quoted(value)} should be a name")


named = Check(_named, {"type": "string", "pattern": r"\S"})
"""Text that says something."""


def whole(low: int, high: int) -> Check:
    """A whole number from ``low`` to ``high``; 2.0 counts as whole, as in JSON Schema."""

    def check(value: Any) -> int:
        if isinstance(value, float) and math.isfinite(value) and value.is_integer():
            value = int(value)
        if isinstance(value, bool) or not isinstance(value, int):
            raise Wrong(f"{quoted(value)} should be a whole number")
        if not low <= value <= high:
            raise Wrong(f"{quoted(value)} should be from {low} to {high}", "out_of_range")
        return value

    return Check(check, {"type": "integer", "minimum": low, "maximum": high})


def number(low: float, high: float) -> Check:
    """Any finite number from ``low`` to ``high``."""

    def check(value: Any) -> int | float:
        if isinstance(value, bool) or not isinstance(value, int | float):
            raise Wrong(f"{quoted(value)} should be a number")
        if isinstance(value, float) and not math.isfinite(value):
            raise Wrong(f"{quoted(value)} is not a usable number", "out_of_range")
        if not low <= value <= high:
            raise Wrong(f"{quoted(value)} should be from {low} to {high}", "out_of_range")
        return value

    return Check(check, {"type": "number", "minimum": low, "maximum": high})


_number_of_seconds = number(0, LONGEST_SECONDS)


def _seconds(value: Any) -> Millis:
    return to_millis(_number_of_seconds(value))


seconds = Check(_seconds, _number_of_seconds.schema)
"""Seconds in the file, milliseconds inside."""


def list_of(item: Check, least: int = 0) -> Check:
    """A list whose every item passes; each wrong item is named by its index."""

    def check(value: Any) -> tuple[Any, ...]:
        if not isinstance(value, list):
            raise Wrong(f"{quoted(value)} should be a list")
        if len(value) < least:
            raise Wrong(f"should have at least {least} entry", "out_of_range")
        return tuple(check_parts((f"[{index}]", item, entry) for index, entry in enumerate(value)))

    return Check(check, {"type": "array", "items": item.schema, "minItems": least})


REQUIRED = object()
"""Marks a field without a default."""


def read_fields(
    raw: Mapping[str, Any], spec: Iterable[tuple[str, Check, Any]], path: str, faults: list[Fault]
) -> dict[str, Any]:
    """Read the fields of one object by its spec of (name, check, default).

    Every fault is added to ``faults``; a faulty field is left out of the result.
    A null counts as a missing field.
    """
    parsed: dict[str, Any] = {}
    for name, check, default in spec:
        value = raw.get(name)
        if value is None:
            if default is REQUIRED:
                faults.append(Fault(f"{path}{name}", "is missing", "missing"))
            else:
                parsed[name] = default
            continue
        try:
            parsed[name] = check(value)
        except Wrong as wrong:
            faults += wrong.faults(f"{path}{name}")
    return parsed
