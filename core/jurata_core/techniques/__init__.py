"""The technique catalogue."""

from .catalogue import (
    Technique,
    catalogue,
    family,
    find,
    lineage,
    misspelt,
    named_in,
    spelling,
    suggestions,
    within,
    within_sentence,
)

__all__ = [
    "Technique", "catalogue", "family", "find", "lineage", "misspelt", "named_in", "spelling", "suggestions",
    "within", "within_sentence",
]  # fmt: skip
