"""The technique catalogue."""

from .catalogue import Technique, catalogue, find, lineage, misspelt, spelling, suggestions

__all__ = ["Technique", "catalogue", "find", "lineage", "misspelt", "spelling", "suggestions"]
