"""What a scored match can be taken away as: one row for each kind of file, which all that offer it read."""

from __future__ import annotations

from collections.abc import Callable
from typing import NamedTuple

from .adjudication import Verdict
from .formats.captions import NAMES, Names, captions
from .formats.logged import logged_captions, logged_csv
from .formats.sheet import score_sheet
from .formats.table import ledger_csv
from .match_log import MatchLog
from .unsure import deciding


class Heading(NamedTuple):
    """Whose match a file is of, and where and when it was, as far as that is known."""

    names: Names = NAMES
    event: str = ""


class Export(NamedTuple):
    """A kind of file: how it is asked for, what it is called, and how it is made from a log and its verdict."""

    name: str
    title: str
    suffix: str
    content_type: str
    made: Callable[[MatchLog, Verdict, Heading], str]


UNKNOWN = Heading()


def sheet_of(log: MatchLog, verdict: Verdict, of: Heading = UNKNOWN) -> str:
    """The score sheet, with the judgements that decide the match by themselves."""
    return score_sheet(log, verdict, [row.because for row in deciding(log, verdict)], of.names, of.event)


def _entries(log: MatchLog, verdict: Verdict, of: Heading) -> str:
    return logged_captions(log, verdict, of.names)


EXPORTS = (
    Export("csv", "Score (CSV)", "csv", "text/csv; charset=utf-8", lambda log, verdict, of: ledger_csv(verdict)),
    Export(
        "vtt",
        "Captions (WebVTT)",
        "vtt",
        "text/vtt; charset=utf-8",
        lambda log, verdict, of: captions(verdict, of.names),
    ),
    Export(
        "logged", "Entries (CSV)", "csv", "text/csv; charset=utf-8", lambda log, verdict, of: logged_csv(log, verdict)
    ),
    Export("logged-vtt", "Entries as captions (WebVTT)", "vtt", "text/vtt; charset=utf-8", _entries),
    Export("text", "Score sheet (text)", "txt", "text/plain; charset=utf-8", sheet_of),
)


def export_named(name: str) -> Export | None:
    """The kind of file with a name, or None."""
    return next((one for one in EXPORTS if one.name == name), None)
