"""The technique catalogue."""

from .catalogue import Technique, catalogue, family, find, lineage, misspelt, spelling, suggestions, within_sentence

__all__ = [
    "Technique", "catalogue", "family", "find", "lineage", "misspelt", "spelling", "suggestions", "within_sentence",
]  # fmt: skip
