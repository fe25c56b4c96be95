"""JSON that comes from outside as text: read to values, or refused with one sentence that says where it is wrong."""

from __future__ import annotations

import json
import math
import re
from collections.abc import Iterator
from typing import Any, NoReturn

from .faults import Fault, FaultCode, FaultyInput, quoted

MOST_BYTES = 64 * 1024 * 1024
DEEPEST = 40
"""Objects and lists inside one another: a log needs six."""
_LONE = re.compile("[\ud800-\udfff]")


def parse_json(data: str | bytes) -> Any:
    """JSON to values; anything that is no JSON is one fault that says where. Bytes may be UTF-8, UTF-16 or UTF-32."""
    if len(data) > MOST_BYTES:
        _refuse(f"is larger than {MOST_BYTES // 1024 // 1024} MiB", "too_large")
    try:
        return json.loads(data, parse_constant=_no_constant, object_pairs_hook=_object)
    except json.JSONDecodeError as error:
        _refuse(f"is not JSON: {error.msg} at line {error.lineno}, column {error.colno}")
    except RecursionError:
        _refuse("is nested too deeply to be a match log")
    except UnicodeDecodeError:
        _refuse("is not text in UTF-8")
    except FaultyInput:
        raise
    except ValueError:  # the interpreter reads whole numbers of up to 4,300 digits
        _refuse("is not JSON that can be read: it holds a number of thousands of digits")


def _no_constant(name: str) -> NoReturn:
    _refuse(f"is not JSON: {name} is not a number that JSON allows")


def _object(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    found = dict(pairs)
    if len(found) < len(pairs):
        seen: set[str] = set()
        twice = next(name for name, _ in pairs if name in seen or seen.add(name))  # type: ignore[func-returns-value]
        _refuse(f"has {quoted(twice)} twice in one object; leave one of them out", "duplicate")
    return found


def _refuse(message: str, code: FaultCode = "malformed") -> NoReturn:
    raise FaultyInput([Fault("file", message, code)]) from None


def unstorable(value: Any) -> Iterator[Fault]:
    """What in values read from JSON no database and no file can hold, each with its path."""
    return _unstorable(value, None, 0)


_Place = tuple["_Place", str | int] | None
"""Where a value lies: in what, and there under which name or number. It is put into words only for a fault."""


def _path(place: _Place) -> str:
    names: list[str] = []
    while place is not None:
        place, name = place
        names.append(f"[{name}]" if isinstance(name, int) else f".{name}")
    return "".join(reversed(names)).removeprefix(".")


def _unstorable(value: Any, place: _Place, depth: int) -> Iterator[Fault]:
    if isinstance(value, str):
        if "\0" in value:
            yield Fault(_path(place), "has a character that is no text (NUL)", "out_of_range")
        if _LONE.search(value):
            yield Fault(_path(place), "has half of a character (a lone surrogate)", "out_of_range")
    elif isinstance(value, float):
        if not math.isfinite(value):
            yield Fault(_path(place), "is too large a number", "out_of_range")
    elif isinstance(value, int):
        if value.bit_length() > 63:
            yield Fault(_path(place), f"{quoted(value)} is too large a number", "out_of_range")
    elif isinstance(value, dict | list):
        if depth == DEEPEST:
            yield Fault(_path(place), f"is nested more than {DEEPEST} deep", "too_large")
        elif isinstance(value, list):
            for index, one in enumerate(value):
                yield from _unstorable(one, (place, index), depth + 1)
        else:
            for name, one in value.items():
                if "\0" in name or _LONE.search(name):
                    message = f"has a field with the name {ascii(name)[:60]}"
                    yield Fault(_path(place) or "body", message, "unknown")
                else:
                    yield from _unstorable(one, (place, name), depth + 1)
