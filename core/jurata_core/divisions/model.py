"""A division: age, belt and attire, and how far the rules let it go."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Literal

from ..faults import Fault
from ..fields import REQUIRED, Check, choice, read_fields, whole

BELTS = ("white", "grey", "yellow", "orange", "green", "blue", "purple", "brown", "black")
YOUTH_BELTS = frozenset(("grey", "yellow", "orange", "green"))
RANK = {belt: rank for rank, belt in enumerate(BELTS)}
OLDEST = 120


@dataclass(frozen=True, slots=True)
class Division:
    """Age in years at the event, belt, and gi or nogi."""

    age: int
    belt: str
    attire: Literal["gi", "nogi"]

    @property
    def counted_belt(self) -> str:
        """The belt the rules go by: from 16 a youth belt counts as white."""
        return "white" if self.age >= 16 and self.belt in YOUTH_BELTS else self.belt

    @property
    def column(self) -> int:
        """The column of the legality table.

        0: up to 12; 1: 13 to 15; 2: 16 and 17, and white from 18;
        3: from 18 blue and purple; 4: from 18 brown and black.
        """
        if self.age <= 12:
            return 0
        if self.age <= 15:
            return 1
        if self.age <= 17 or self.counted_belt == "white":
            return 2
        return 3 if self.belt in ("blue", "purple") else 4

    def __str__(self) -> str:
        return f"{self.belt} belt, age {self.age}, {'gi' if self.attire == 'gi' else 'no-gi'}"


DIVISION_FIELDS: list[tuple[str, Check, Any]] = [
    ("age", whole(0, OLDEST), REQUIRED),
    ("belt", choice(*BELTS), REQUIRED),
    ("attire", choice("gi", "nogi"), REQUIRED),
]


def read_division(raw: Any, path: str, faults: list[Fault]) -> Division | None:
    """A division from its object; faults are added under ``path``."""
    prefix = f"{path}." if path else ""
    if not isinstance(raw, dict):
        faults.append(Fault(path, "should be an object with age, belt and attire", "wrong_type"))
        return None
    before = len(faults)
    fields = read_fields(raw, DIVISION_FIELDS, prefix, faults)
    return Division(**fields) if len(faults) == before else None
