"""Divisions: age, belt and attire, the age classes they fall into, and how long their matches are."""

from .ages import AgeClass, age_class, age_in, allowed_belts, doubts, match_length
from .model import BELTS, OLDEST, RANK, YOUTH_BELTS, Division, read_division

__all__ = [
    "BELTS",
    "OLDEST",
    "RANK",
    "YOUTH_BELTS",
    "AgeClass",
    "Division",
    "age_class",
    "age_in",
    "allowed_belts",
    "doubts",
    "match_length",
    "read_division",
]
