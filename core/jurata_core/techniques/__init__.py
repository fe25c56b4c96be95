"""The technique catalogue."""

from .catalogue import Technique, catalogue, find, lineage, spelling, suggestions

__all__ = ["Technique", "catalogue", "find", "lineage", "spelling", "suggestions"]
