"""What a match log is worth: the fold over its observations, and the verdict."""

from .fold import adjudicate
from .growing import Adjudicator
from .moves import Outlook, outlook
from .verdict import Verdict

__all__ = ["Adjudicator", "Outlook", "Verdict", "adjudicate", "outlook"]
