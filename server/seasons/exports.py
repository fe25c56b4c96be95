"""Seasons to take along: tidy tables in a zip, one JSON, and a page to print."""

from __future__ import annotations

import datetime
import io
import zipfile
from collections.abc import Iterator

from django.db.models import QuerySet
from django.template.loader import render_to_string

from clubs.access import Access
from config.printing import pdf
from jurata_core.season.athlete import as_json
from jurata_core.season.tables import Entry, files
from matches.models import Match
from reviews.report import DEFERENCE, STYLE
from roster.models import Athlete

from .queries import played_in, season_of_athlete

MOST_KINDS = 6
"""So many things that come back go on the page."""


def tables_zip(matches: QuerySet[Match]) -> bytes:
    """The tables of some matches and their dictionary, as a zip."""
    made = io.BytesIO()
    with zipfile.ZipFile(made, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, text in files(_entries(matches)):
            archive.writestr(name, text)
    return made.getvalue()


def _entries(matches: QuerySet[Match]) -> Iterator[Entry]:
    rows = list(matches.select_related("athlete", "summary").order_by("date", "created"))
    for match, played in zip(rows, played_in(rows), strict=True):
        yield Entry(
            match.athlete.name, match.opponent, match.event, match.age, match.belt, match.attire, played
        )  # fmt: skip


def season_pdf(access: Access, athlete: Athlete, split: datetime.date | None) -> bytes:
    """An athlete's season on a page or two."""
    season = as_json(season_of_athlete(access, athlete, split))
    shown = {
        "athlete": athlete,
        "season": season,
        "record": [{**row, "said": _record(row["counts"])} for row in season["record"]],
        "own": [one for one in season["moves"] if one["by"] == "a" and one["whole"]["share"]["of"]],
        "theirs": [one for one in season["moves"] if one["by"] == "b" and one["whole"]["share"]["of"]],
        "kinds": season["kinds"][:MOST_KINDS],
        "well": season["well"][:MOST_KINDS],
        "deference": DEFERENCE,
    }
    return pdf(render_to_string("seasons/season.html", shown), STYLE)


def _record(counts: dict[str, int]) -> str:
    return ", ".join(f"{counts[one]} {one}" for one in ("won", "lost", "drawn") if counts.get(one)) or "none decided"
