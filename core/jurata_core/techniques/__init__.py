"""The technique catalogue."""

from .catalogue import (
    NOT_NAMED,
    Technique,
    catalogue,
    family,
    find,
    goes_for_a_leg,
    lineage,
    misspelt,
    named_in,
    same_technique,
    spelling,
    suggestions,
    within,
    within_sentence,
)

__all__ = [
    "NOT_NAMED",
    "Technique", "catalogue", "family", "find", "goes_for_a_leg", "lineage", "misspelt", "named_in", "same_technique",
    "spelling", "suggestions", "within", "within_sentence",
]  # fmt: skip
