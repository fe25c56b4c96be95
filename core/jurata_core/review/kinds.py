"""The kinds of errors as data: their sentences, thresholds, what to do instead, what to drill, likely causes."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from functools import cache
from pathlib import Path
from typing import Any, NamedTuple

from ..times import Millis
from ..vocabulary import vocabulary


class Young(NamedTuple):
    """The sentences for an athlete who is a child."""

    because: str
    instead: str


@dataclass(frozen=True, slots=True)
class Kind:
    """One kind of error. ``limits`` are in milliseconds."""

    id: str
    name: str
    """What it is called where no match is in question."""
    title: str
    because: str
    instead: str
    drill: str
    causes: tuple[str, ...]
    limits: Mapping[str, Millis]
    young: Young


@dataclass(frozen=True, slots=True)
class Setting:
    """How a coach wants a kind to be looked for: not at all, or with other limits, in milliseconds."""

    off: bool = False
    limits: Mapping[str, Millis] = field(default_factory=dict)


@cache
def _data() -> dict[str, Any]:
    data: dict[str, Any] = json.loads((Path(__file__).parent / "kinds.json").read_text("utf-8"))
    return data


@cache
def kinds() -> Mapping[str, Kind]:
    """All kinds by id, the most telling first. Raises ValueError for a cause that is not in the list."""
    found = {}
    for row in _data()["kinds"]:
        limits = {name: seconds * 1000 for name, seconds in row["limits"].items()}
        young = Young(**row["young"])
        kind = Kind(**{**row, "causes": tuple(row["causes"]), "limits": limits, "young": young})
        if unknown := set(kind.causes) - set(causes()):
            raise ValueError(f"{kind.id}: no such cause: {', '.join(sorted(unknown))}")
        found[kind.id] = kind
    return found


def looked_for(settings: Mapping[str, Setting]) -> dict[str, Kind]:
    """The kinds that a coach wants to see, with the coach's limits."""
    found = {}
    for kind in kinds().values():
        setting = settings.get(kind.id, Setting())
        if not setting.off:
            own = {name: limit for name, limit in setting.limits.items() if name in kind.limits}
            found[kind.id] = replace(kind, limits={**kind.limits, **own})
    return found


def young_below() -> int:
    """The age below which an athlete is spoken to as a child."""
    age: int = _data()["young_below"]
    return age


def causes() -> tuple[str, ...]:
    """The causes a coach can choose from. A coach may keep another list."""
    return tuple(vocabulary()["causes"])
