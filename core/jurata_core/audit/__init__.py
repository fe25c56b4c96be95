"""Agreement: the officials' calls, or other scorers, held against a ledger."""

from .comparison import Comparison, Line, audit, compare, compare_all
from .table import read_calls

__all__ = ["Comparison", "Line", "audit", "compare", "compare_all", "read_calls"]
