"""The kinds of errors as data: sentence, thresholds, what to do instead, likely causes."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from typing import Any

from ..times import Millis
from ..vocabulary import vocabulary


@dataclass(frozen=True, slots=True)
class Kind:
    """One kind of error. ``limits`` are in milliseconds."""

    id: str
    title: str
    because: str
    instead: str
    causes: tuple[str, ...]
    limits: Mapping[str, Millis]


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
        kind = Kind(**{**row, "causes": tuple(row["causes"]), "limits": limits})
        if unknown := set(kind.causes) - set(causes()):
            raise ValueError(f"{kind.id}: no such cause: {', '.join(sorted(unknown))}")
        found[kind.id] = kind
    return found


def causes() -> tuple[str, ...]:
    """The causes a coach can choose from. A coach may keep another list."""
    return tuple(vocabulary()["causes"])
