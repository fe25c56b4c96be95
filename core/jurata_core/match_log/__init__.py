"""The match log: what a scorer records, read from and written to files."""

from .loader import MatchLog, read_log, write_log
from .versions import FORMAT

__all__ = ["FORMAT", "MatchLog", "read_log", "write_log"]
