"""How fast a large season is: the import of 10,000 logs of 200 athletes, their pages, the club's page and the exports.

Run ./start first: it makes a coach with the season in that installation's database, measures over HTTP at the server
(without nginx), and takes the coach away again. The import and the costs are the worker's.

bench/run season [matches] [athletes]
"""

from __future__ import annotations

import json
import os
import random
import resource
import statistics
import sys
import time
import uuid
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import date, timedelta
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(ROOT / "server"), str(ROOT / "core")]
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")

import django  # noqa: E402

django.setup()

from django.contrib.auth.models import User  # noqa: E402
from django.core.files.uploadedfile import SimpleUploadedFile  # noqa: E402
from django.test import Client  # noqa: E402

from clubs.actions import found_club  # noqa: E402
from clubs.models import Club  # noqa: E402
from jobs.models import UNDER_WAY, Job  # noqa: E402
from jurata_core.chance import prior  # noqa: E402
from jurata_simulation.matches import made_log  # noqa: E402
from matches.models import Match, Summary  # noqa: E402
from seasons.importing import announce  # noqa: E402
from seasons.models import Import  # noqa: E402

ROUNDS = 20
LOGS = 400
BELTS = ("white", "blue", "purple", "brown", "black")
RULES = ("full-points", "late-points", "submission-only")


def written(matches: int, athletes: int) -> bytes:
    """So many matches, one a line, as they are imported."""
    rng = random.Random(7)
    logs = [made_log(prior(), rng.choice(RULES), 300, random.Random(seed)) for seed in range(LOGS)]
    lines = []
    for number in range(matches):
        who = number % athletes
        log = rng.choice(logs)
        log = {**log, "division": {"age": 20 + who % 30, "belt": BELTS[who % 5], "attire": "gi"}}
        day = date(2024, 1, 1) + timedelta(days=rng.randrange(1000))
        about = {"athlete": f"Athlete {who}", "opponent": f"Opponent {number}", "event": f"Cup {rng.randrange(40)}"}
        lines.append(json.dumps({**about, "date": str(day), "round": str(number), "log": log}))
    return "\n".join(lines).encode()


@contextmanager
def coached() -> Iterator[tuple[User, Club]]:
    """A coach with a club; gone afterwards, with all that was made."""
    coach = User.objects.create_user(f"season-{uuid.uuid4()}")
    club = found_club("Season Grappling", coach)
    try:
        yield coach, club
    finally:
        Match.objects.filter(athlete__club=club).delete()
        club.delete()
        coach.delete()


def memory() -> float:
    """The most memory that was used so far, in MiB."""
    return resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024


def main(matches: int, athletes: int) -> None:
    with coached() as (coach, club):
        file = SimpleUploadedFile("season.jsonl", written(matches, athletes))
        made = announce(club, coach, [file], ["season.jsonl"], add_athletes=True)
        began = time.perf_counter()
        while Job.objects.filter(imported=made, state__in=UNDER_WAY).exists():
            time.sleep(0.2)
        lasted = time.perf_counter() - began
        made = Import.objects.select_related("job").get(pk=made.pk)
        state = made.job.state if made.job else "gone"
        print(f"import of {made.made} logs: {lasted:.0f} s, {lasted / matches * 1000:.1f} ms a log; {state}")
        unknown = Summary.objects.filter(match__athlete__club=club, costs__isnull=True)
        began, waiting = time.perf_counter(), unknown.count()
        while unknown.exists():
            time.sleep(1)
        print(f"costs of the {waiting} matches that had none yet: {time.perf_counter() - began:.0f} s")
        client = Client(headers={"host": "localhost"})
        client.force_login(coach)
        some_athlete = club.athletes.first()
        assert some_athlete is not None
        timed("an athlete's page", lambda: client.get(f"/api/athletes/{some_athlete.pk}/season"))
        timed("the club's page, everything", lambda: client.get("/api/club/season"))
        timed("the club's page, from a day on", lambda: client.get("/api/club/season?since=2025-10-01"))
        timed("an athlete's plans", lambda: client.get(f"/api/athletes/{some_athlete.pk}/plans"))
        timed("the scorer's record", lambda: client.get("/api/scorer-record"), 3)
        timed("the club's tables", lambda: client.get("/api/club/season/tables"), 2)
        print(f"most memory of this process: {memory():.0f} MiB")


def timed(name: str, ask: Callable[[], object], rounds: int = ROUNDS) -> None:
    """Ask some times after a first one, and say how long the middle one took, and the slowest but one in twenty."""
    answer = ask()
    assert getattr(answer, "status_code", 0) == 200, answer
    times = []
    for _ in range(rounds):
        began = time.perf_counter()
        ask()
        times.append((time.perf_counter() - began) * 1000)
    slow = sorted(times)[max(0, len(times) * 19 // 20 - 1)]
    print(f"{name}: {statistics.median(times):.0f} ms, 19 of 20 within {slow:.0f} ms")


if __name__ == "__main__":
    main(*(int(one) for one in (sys.argv[1:3] + ["10000", "200"][len(sys.argv) - 1 :])))
