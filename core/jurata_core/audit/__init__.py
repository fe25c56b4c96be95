"""Agreement: the officials' calls, or other scorers, held against a ledger."""

from .comparison import Comparison, Line, audit, compare, compare_all

__all__ = ["Comparison", "Line", "audit", "compare", "compare_all"]
