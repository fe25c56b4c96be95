"""Agreement: the officials' calls, or other scorers, held against a ledger."""

from .comparison import Comparison, Line, audit, compare, compare_all
from .questions import OpenQuestion, questions
from .shown import Shown, shown_on_boards
from .table import read_calls

__all__ = [
    "Comparison",
    "Line",
    "OpenQuestion",
    "Shown",
    "audit",
    "compare",
    "compare_all",
    "questions",
    "read_calls",
    "shown_on_boards",
]
