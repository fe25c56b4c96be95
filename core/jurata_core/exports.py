"""What a scored match can be taken away as: one row for each kind of file, which all that offer it read."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

from .adjudication import Verdict
from .formats.captions import captions
from .formats.logged import logged_captions, logged_csv
from .formats.sheet import score_sheet
from .formats.table import ledger_csv
from .match_log import MatchLog
from .unsure import deciding


class Export(NamedTuple):
    """A kind of file: how it is asked for, what it is called, and how it is made from a log and its verdict."""

    name: str
    title: str
    suffix: str
    content_type: str
    made: Callable[[MatchLog, Verdict], str]


def sheet_of(log: MatchLog, verdict: Verdict) -> str:
    """The score sheet, with the judgements that decide the match by themselves."""
    return score_sheet(log, verdict, [row.because for row in deciding(log, verdict)])


EXPORTS = (
    Export("csv", "Score (CSV)", "csv", "text/csv; charset=utf-8", lambda log, verdict: ledger_csv(verdict)),
    Export("vtt", "Captions (WebVTT)", "vtt", "text/vtt; charset=utf-8", lambda log, verdict: captions(verdict)),
    Export("logged", "Entries (CSV)", "csv", "text/csv; charset=utf-8", logged_csv),
    Export("logged-vtt", "Entries as captions (WebVTT)", "vtt", "text/vtt; charset=utf-8", logged_captions),
    Export("text", "Score sheet (text)", "txt", "text/plain; charset=utf-8", sheet_of),
)


def export_named(name: str) -> Export | None:
    """The kind of file with a name, or None."""
    return next((one for one in EXPORTS if one.name == name), None)
