"""The setting of the demo: one club over two years. Everybody and everything in it is invented."""

from __future__ import annotations

import datetime
import json
from pathlib import Path
from typing import Any

from django.conf import settings

USERNAME, PASSWORD = settings.DEMO_ACCOUNT
CLUB = "Millrace Grappling Club"
COACH = {"first_name": "Coach", "last_name": "Orde", "email": "orde@millrace.example"}
SECOND = "second"
"""The sign-in name of a second scorer, with the same password."""
SECOND_SCORER = {"first_name": "Hale", "last_name": "Merrow", "email": "merrow@millrace.example"}
ATHLETE, ATHLETE_S_NAME = "dara", "Dara Finch"
"""The sign-in name of an athlete who reads their own reports, with the same password."""
GUARDIAN, WARD = "sol", "Ilya Marsh"
"""The sign-in name of a guardian, with the same password, and the child."""
GUARDIAN_OF = {"first_name": "Sol", "last_name": "Marsh", "email": "marsh@millrace.example"}
OPERATOR = "operator"
"""The sign-in name of who runs the installation and is in no club, with the same password."""
OPERATOR_S_NAME = {"first_name": "Lowe", "last_name": "Tarn", "email": "tarn@millrace.example"}
SIGN_INS = (USERNAME, SECOND, ATHLETE, GUARDIAN, OPERATOR)
"""All sign-in names of the demo; their password is published."""
FOLDER = Path(__file__).parent / "data"

ATHLETES = [
    {"name": "Pip Harlan", "birth_year": 2016, "belt": "grey"},
    {"name": "Noor Castell", "birth_year": 2013, "belt": "orange"},
    {"name": "Ilya Marsh", "birth_year": 2011, "belt": "green"},
    {"name": "Wren Oakley", "birth_year": 2007, "belt": "white"},
    {"name": "Dara Finch", "birth_year": 2000, "belt": "blue"},
    {"name": "Tobin Ashgrove", "birth_year": 1996, "belt": "purple"},
    {"name": "Signe Holloway", "birth_year": 1993, "belt": "brown"},
    {"name": "Marek Thorne", "birth_year": 1985, "belt": "blue"},
    {"name": "Bettan Quill", "birth_year": 1979, "belt": "black"},
]


HOUSE_RULES = {
    "title": "Millrace Duals rules",
    "extends": "house-warnings",
    "note": "As announced at the weigh-in: four seconds, and no scissor takedown or flying armbar for anyone.",
    "hold_seconds": 4,
    "barred": ["scissor-takedown", "flying-armbar"],
}
"""The club's own rules; the matches of that event are scored by it."""


PLAN_BEGAN, PLAN_ENDED = datetime.date(2026, 3, 2), datetime.date(2026, 4, 18)
"""When an athlete drilled by a plan, all of it; what it helped shows in the matches since."""
DRILLED, PLANNED = "Wren Oakley", "Dara Finch"
"""Whose plan that was, and who has one now."""
NEXT_EVENT, DAYS_TO_IT = "Midwinter Open", 41
FIGHTS = """time;mat;athlete;opponent;club;round;weight_class
9:40;2;Wren Oakley;Sunniva Tansley;Greywater Mat Club;round of 16;-64 kg
10:15;1;Tobin Ashgrove;Lorne Mossley;Millrace Team;quarterfinal;-82 kg
10:50;4;Dara Finch;Ulla Vexley;Fernhill Grapplers;quarterfinal;-58 kg
11:30;2;Signe Holloway;;;semifinal;-69 kg
"""
"""Who fights when at the next event, as a table."""


def filmed_matches() -> dict[str, dict[str, Any]]:
    """The matches with a clip, by name: who and where, and the log that the camera films."""
    return {path.stem: json.loads(path.read_text("utf-8")) for path in sorted(FOLDER.glob("*.json"))}


def season() -> list[dict[str, Any]]:
    """The other matches, of which there is no clip, one after the other."""
    lines = Path(__file__).with_name("season.jsonl").read_text("utf-8").splitlines()
    return [json.loads(line) for line in lines]


def second_score() -> dict[str, Any]:
    """What the second scorer saw: ``of`` a filmed match, and the observations."""
    found: dict[str, Any] = json.loads(Path(__file__).with_name("second-score.json").read_text("utf-8"))
    return found
