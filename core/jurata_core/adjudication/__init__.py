"""What a match log is worth: the fold over its observations, and the verdict."""

from .fold import adjudicate
from .moves import Outlook, outlook
from .verdict import Verdict

__all__ = ["Outlook", "Verdict", "adjudicate", "outlook"]
