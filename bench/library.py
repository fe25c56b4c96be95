"""How fast a large library is: the list of 10,000 matches, its search and filters, and the opening of a review.

Run ./start first: it makes a coach with the library in that installation's database, measures over HTTP at the server
(without nginx), and takes the coach away again.

bench/run library [matches]
"""

from __future__ import annotations

import os
import random
import statistics
import sys
import time
import uuid
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import date, timedelta
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(ROOT / "server"), str(ROOT / "core")]
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")

import django  # noqa: E402

django.setup()

from django.contrib.auth.models import User  # noqa: E402
from django.test import Client  # noqa: E402

from clubs.actions import found_club  # noqa: E402
from jurata_core.chance import prior  # noqa: E402
from jurata_simulation.matches import made_log  # noqa: E402
from matches.models import Match, Observation  # noqa: E402
from matches.summaries import freshen, stale  # noqa: E402
from roster.models import Athlete  # noqa: E402

ROUNDS = 30
GIVEN = ("Ada", "Bryn", "Cleo", "Dana", "Elif", "Femi", "Greta", "Hana", "Ivo", "Jana")
FAMILY = ("Brenn", "Calder", "Dorn", "Elling", "Farrow", "Holt", "Marr", "Orlov", "Sund", "Voss")


@contextmanager
def library(matches: int) -> Iterator[User]:
    """A coach with so many scored matches; gone afterwards."""
    rng = random.Random(7)
    coach = User.objects.create_user(f"library-{uuid.uuid4()}")
    club = found_club("Library Grappling", coach)
    try:
        names = [f"{given} {family}" for given in GIVEN for family in FAMILY]
        athletes = [Athlete(club=club, name=name, birth_year=2000, belt="blue") for name in names[:40]]
        Athlete.objects.bulk_create(athletes)
        logs = [made_log(prior(), "full-points", 300, random.Random(seed)) for seed in range(60)]
        for first in range(0, matches, 1000):
            _made(coach, athletes, names, logs, min(1000, matches - first), rng)
        print(f"made {matches} matches")
        began = time.perf_counter()
        while freshen(Match.objects.filter(scorer=coach), 100):
            pass
        print(f"summed them up, as the worker does: {(time.perf_counter() - began) / matches * 1000:.1f} ms a match")
        assert not stale(Match.objects.filter(scorer=coach)).exists()
        yield coach
    finally:
        Match.objects.filter(scorer=coach).delete()
        club.delete()
        coach.delete()


Log = dict[str, Any]


def _made(
    coach: User, athletes: list[Athlete], names: list[str], logs: list[Log], many: int, rng: random.Random
) -> None:
    rows, seen = [], []
    for _ in range(many):
        log = rng.choice(logs)
        match = Match(
            scorer=coach, athlete=rng.choice(athletes), opponent=rng.choice(names), event=f"Cup {rng.randrange(40)}",
            date=date(2020, 1, 1) + timedelta(days=rng.randrange(2400)), ruleset="full-points", duration_ms=300_000,
            age=25, belt="blue", attire="gi", revision=1,
        )  # fmt: skip
        rows.append(match)
        for number, body in enumerate(log["observations"]):
            key = f"k{number}"
            seen.append(Observation(match=match, key=key, sequence=number, body={**body, "id": key}, revision=1))
    Match.objects.bulk_create(rows)
    Observation.objects.bulk_create(seen, batch_size=5000)


def timed(what: str, ask: Callable[[], object]) -> None:
    times = []
    for _ in range(ROUNDS):
        began = time.perf_counter()
        ask()
        times.append((time.perf_counter() - began) * 1000)
    times.sort()
    print(f"{what:44} p50 {statistics.median(times):6.0f} ms   p95 {times[int(ROUNDS * 0.95)]:6.0f} ms")


def main() -> None:
    many = int(sys.argv[1]) if len(sys.argv) > 1 else 10_000
    with library(many) as coach:
        client = Client(SERVER_NAME="localhost")
        client.force_login(coach)
        rng = random.Random(3)

        def get(path: str, **asked: str | int) -> None:
            answer = client.get(path, asked)
            assert answer.status_code == 200, (answer.status_code, answer.content[:200])

        timed("list, first page", lambda: get("/api/matches"))
        timed("list, any page", lambda: get("/api/matches", page=rng.randrange(1, many // 30)))
        timed("search by a name", lambda: get("/api/matches", search=rng.choice(FAMILY)))
        timed("search by name and event", lambda: get("/api/matches", search=f"{rng.choice(GIVEN)} cup 7"))
        timed("filter by result", lambda: get("/api/matches", result=rng.choice(("won", "lost", "level", "open"))))
        asked = {"result": "lost", "search": "marr", "ordering": "opponent"}
        timed("filter, search and order", lambda: get("/api/matches", **asked))
        keys = list(Match.objects.filter(scorer=coach).order_by("?").values_list("pk", flat=True)[: 2 * ROUNDS])
        timed("open a review, cold", lambda: get(f"/api/matches/{keys.pop()}/review"))
        timed("its prospects, cold", lambda: get(f"/api/matches/{keys.pop()}/prospects"))


if __name__ == "__main__":
    main()
