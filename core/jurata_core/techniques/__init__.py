"""The technique catalogue."""

from .catalogue import Technique, catalogue, family, find, lineage, misspelt, spelling, suggestions

__all__ = ["Technique", "catalogue", "family", "find", "lineage", "misspelt", "spelling", "suggestions"]
