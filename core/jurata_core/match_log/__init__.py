"""The match log: what a scorer records, read from and written to ``jurata-match/1``."""

from .loader import FORMAT, MOST_BYTES, MatchLog, parse_json, read_log, write_log

__all__ = ["FORMAT", "MOST_BYTES", "MatchLog", "parse_json", "read_log", "write_log"]
