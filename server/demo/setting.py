"""The setting of the demo. Everybody and everything in it is invented."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

from django.conf import settings

from jurata_core.match_log import read_log
from jurata_core.simulation.camera import render

USERNAME, PASSWORD = settings.DEMO_ACCOUNT
SECOND = "second"
"""The sign-in name of a second scorer, with the same password."""
FOLDER = Path(__file__).parent / "data"

ATHLETES = [
    {"name": "Mika Solvard", "birth_year": 2012, "belt": "green"},
    {"name": "Saga Brimsund", "birth_year": 2007, "belt": "white"},
    {"name": "Runa Tideholm", "birth_year": 1999, "belt": "blue"},
    {"name": "Edvin Klintmark", "birth_year": 1995, "belt": "purple"},
]


HOUSE_RULES = {
    "title": "Skerry Open rules",
    "extends": "house-warnings",
    "note": "As announced at the weigh-in: four seconds, and no scissor takedown or flying armbar for anyone.",
    "hold_seconds": 4,
    "barred": ["scissor-takedown", "flying-armbar"],
}
"""What the second scorer shares with the club."""


def demo_matches() -> dict[str, dict[str, Any]]:
    """The demo matches by name: who and where, and the log the camera films."""
    return {path.stem: json.loads(path.read_text("utf-8")) for path in sorted(FOLDER.glob("*.json"))}


def film(job: tuple[dict[str, Any], Path]) -> str:
    """Film one match; the clip appears under its name only when it is whole."""
    log, path = job
    partial = path.with_suffix(".part")
    render(read_log(log), partial)
    partial.rename(path)
    return path.name
