"""Load the demo: an invented club's coach, athletes, matches, and clips drawn by the simulated camera."""

from __future__ import annotations

import multiprocessing
from pathlib import Path
from typing import Any

from django.conf import settings
from django.contrib.auth import get_user_model
from django.core.management.base import BaseCommand, CommandParser
from django.db import connections, transaction

from demo.setting import ATHLETES, HOUSE_RULES, PASSWORD, SECOND, USERNAME, demo_matches, film
from footage.actions import finish
from footage.files import clips_folder, make_private
from footage.models import Clip
from jurata_core.rulesets.house import read_house_rules
from matches.actions import set_up
from matches.models import Match
from reviews.actions import keep_note, remark
from reviews.models import Report
from reviews.queries import reviewed
from roster.models import Athlete
from rulebook.models import HouseRules


class Command(BaseCommand):
    help = "Loads the demo data if there are no accounts yet. Safe to run again."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--only", help="load just the match of that name")

    def handle(self, *args: Any, **options: Any) -> None:
        if get_user_model().objects.exists():
            return
        matches = demo_matches()
        if options["only"]:
            matches = {options["only"]: matches[options["only"]]}
        folder = Path(settings.DATA) / "demo-clips"
        folder.mkdir(parents=True, exist_ok=True)
        paths = {name: folder / f"{name}.webm" for name in matches}
        self._film([(matches[name]["log"], path) for name, path in paths.items() if not path.exists()])
        with transaction.atomic():
            self._store(matches, paths)
        self.stdout.write(f"Demo loaded: sign in as {USERNAME} with {PASSWORD}")

    def _film(self, jobs: list[tuple[dict[str, Any], Path]]) -> None:
        if not jobs:
            return
        jobs.sort(key=lambda job: -job[0]["duration"])
        self.stdout.write(f"Generating {len(jobs)} demo clips with the simulated camera (takes about 90 s)")
        connections.close_all()
        with multiprocessing.get_context("spawn").Pool(min(2, len(jobs))) as pool:
            for done, name in enumerate(pool.imap_unordered(film, jobs), 1):
                self.stdout.write(f"  {done} of {len(jobs)}: {name}")

    def _store(self, matches: dict[str, dict[str, Any]], paths: dict[str, Path]) -> None:
        coach = get_user_model().objects.create_user(USERNAME, password=PASSWORD, first_name="Coach", last_name="Varn")
        second = get_user_model().objects.create_user(
            SECOND, password=PASSWORD, first_name="Ines", last_name="Vrakholm"
        )
        roster = {row["name"]: Athlete.objects.create(owner=coach, **row) for row in ATHLETES}
        rules = {**read_house_rules(HOUSE_RULES), "version": 1}
        HouseRules.objects.create(owner=second, version=1, body=rules, shared=True)
        for name, match in matches.items():
            log = match["log"]
            values = {
                "athlete": roster[match["athlete"]],
                "opponent": match["opponent"],
                "event": match["event"],
                "date": match["date"],
                "clip": _keep(coach.pk, paths[name]),
                "ruleset": log["ruleset"],
                "duration_ms": log["duration"] * 1000,
                **log["division"],
                **_looks(log["division"]["attire"]),
            }
            made = set_up(coach, values, None if match.get("unscored") else log)
            if "review" in match:
                _review(made, match["review"])


def _looks(attire: str) -> dict[str, str]:
    """What the two figures that the camera draws look like."""
    worn = "gi" if attire == "gi" else "shirt"
    return {"athlete_looks": f"amber {worn}", "opponent_looks": f"blue {worn}"}


def _review(match: Match, review: dict[str, Any]) -> None:
    """What the demo's coach has made of the errors: each is named by its kind and where it began, in seconds."""
    keys = {(error.kind, error.found.since / 1000): error.key for error in reviewed(match).errors}
    for said in review["remarks"]:
        values = {name: said[name] for name in ("standing", "title", "causes") if name in said}
        if "from" in said:
            values["came_from"] = keys[tuple(said["from"])]
        remark(match, keys[said["error"], said["since"]], values)
    Report.objects.create(match=match, greeting=review["greeting"])
    for note in review["notes"]:
        keep_note(match, None, {"t_ms": round(note["t"] * 1000), "text": note["text"], "marks": note["marks"]})


def _keep(owner: int, path: Path) -> Clip:
    """Put a clip that is on disk already among the coach's clips."""
    clip = Clip.objects.create(owner_id=owner, name=path.name, size=path.stat().st_size)
    clips_folder()
    clip.beside("part").hardlink_to(path)
    make_private(clip.beside("part"))
    finish(clip)
    return clip
