"""Frozen records that cost little to make: the adjudication makes several for each observation."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TypeVar, dataclass_transform

Kind = TypeVar("Kind")


@dataclass_transform(frozen_default=True, eq_default=True)
def record(kind: type[Kind]) -> type[Kind]:
    """A dataclass whose values are never changed: mypy refuses it.

    Python is not asked to refuse it at run time too, which would make each of them take three times as long.
    """
    return dataclass(slots=True, unsafe_hash=True)(kind)
