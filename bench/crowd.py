"""How long a key takes while many coaches are at work, with players that play or pause, and slow half requests.

./start && bench/run crowd

Each coach has a match with 45 observations, logs one more about every second, and has the clip of the match open. The
bar: with 50 coaches, players that play and 100 half requests the 95th percentile is under 150 ms, without an error.
"""

from __future__ import annotations

import argparse
import contextlib
import multiprocessing
import os
import random
import socket
import statistics
import sys
import threading
import time
import uuid
from collections.abc import Iterator
from pathlib import Path
from typing import Any, NamedTuple, cast

ROOT = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(ROOT), str(ROOT / "server")]
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")
os.environ.setdefault("JURATA_CACHE", "dbcache://cache")

import django  # noqa: E402

django.setup()

import requests  # noqa: E402
from bench.desk import long_log  # noqa: E402
from django.conf import settings  # noqa: E402
from django.contrib.auth import BACKEND_SESSION_KEY, HASH_SESSION_KEY, SESSION_KEY  # noqa: E402
from django.contrib.auth.models import User  # noqa: E402
from django.contrib.sessions.backends.cached_db import SessionStore  # noqa: E402

from clubs.actions import join  # noqa: E402
from clubs.models import Role  # noqa: E402
from footage.models import Clip  # noqa: E402
from jobs.models import Job  # noqa: E402
from matches.actions import set_up  # noqa: E402
from roster.models import Athlete  # noqa: E402

PORT = int(os.environ.get("JURATA_PORT", "8417"))
ADDRESS = f"http://127.0.0.1:{PORT}"
TOKEN = "c" * 32
ATHLETE = "Ada Brenn of the crowd"
OBSERVED = 45
PLAYED_A_SECOND = 500_000
"""Bytes: a phone's clip of 1080p in a copy that seeks well."""


class Coach(NamedTuple):
    session: str
    match: str
    clip: str


@contextlib.contextmanager
def coaches(many: int) -> Iterator[list[Coach]]:
    """Coaches with a match and the first prepared clip that is there; they are gone afterwards."""
    clip = Clip.objects.filter(job__state=Job.State.DONE).exclude(played_as="").order_by("-size").first()
    if clip is None:
        sys.exit("No clip is prepared yet: wait until the demo's are.")
    users = [User.objects.create_user(f"crowd-{uuid.uuid4()}") for _ in range(many)]
    try:
        yield [_coach(user, clip) for user in users]
    finally:
        for user in users:
            user.matches.all().delete()
            user.delete()
        Athlete.objects.filter(club=clip.club, name=ATHLETE).delete()


def _coach(user: User, clip: Clip) -> Coach:
    join(clip.club, user, Role.COACH)  # a match and its clip are of one club
    athlete = Athlete.objects.create(club=clip.club, name=ATHLETE, birth_year=2000, belt="blue")
    values = {"athlete": athlete, "opponent": "Bo Calder", "event": "Dune Day", "date": None, "clip": clip}
    match = set_up(user, values, long_log(OBSERVED))
    session = SessionStore()
    session[SESSION_KEY], session[BACKEND_SESSION_KEY] = str(user.pk), settings.AUTHENTICATION_BACKENDS[-1]
    session[HASH_SESSION_KEY] = user.get_session_auth_hash()
    session.save()
    return Coach(str(session.session_key), str(match.pk), str(clip.pk))


def headers_of(coach: Coach) -> dict[str, str]:
    cookies = f"{settings.SESSION_COOKIE_NAME}={coach.session}; csrftoken={TOKEN}"
    return {"Cookie": cookies, "X-CSRFToken": TOKEN, "Referer": ADDRESS}


def log_keys(all_coaches: list[Coach], seconds: float, answers: Any) -> None:
    """Every coach logs a key a second, out of step with the others."""
    took: list[float] = []
    errors: list[str] = []

    def one(coach: Coach) -> None:
        client = requests.Session()
        client.headers.update(headers_of(coach))
        random_ = random.Random(coach.match)
        begun = time.monotonic()
        time.sleep(random_.random())
        number = 0
        while time.monotonic() - begun < seconds:
            number += 1
            body = {
                "t": 16 + number / 100,
                "kind": "position",
                "position": random_.choice(["guard", "side"]),
                "top": "a",
            }
            start = time.perf_counter()
            try:
                answer = client.put(
                    f"{ADDRESS}/api/matches/{coach.match}/observations/{uuid.uuid4()}", json=cast(Any, body), timeout=30
                )
                if answer.status_code != 200:
                    errors.append(f"{answer.status_code} {answer.text[:100]}")
            except requests.RequestException as error:
                errors.append(type(error).__name__)
            took.append((time.perf_counter() - start) * 1000)
            time.sleep(random_.uniform(0.5, 1.45))  # people are not in step, nor brought into step by a slow answer

    threads = [threading.Thread(target=one, args=(coach,)) for coach in all_coaches]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    answers.put((took, errors))


def play(all_coaches: list[Coach], paused: bool, end: Any) -> None:
    """Players that read at the speed of the clip, or read a little and then hold the answer."""

    def one(coach: Coach) -> None:
        while not end.is_set():
            try:
                with requests.get(
                    f"{ADDRESS}/api/clips/{coach.clip}/content", headers=headers_of(coach), stream=True, timeout=30
                ) as answer:
                    for block in answer.iter_content(PLAYED_A_SECOND // 4):
                        if end.wait(3600 if paused else len(block) / PLAYED_A_SECOND):
                            return
            except requests.RequestException:
                end.wait(1)

    for coach in all_coaches:
        threading.Thread(target=one, args=(coach,), daemon=True).start()
    end.wait()


def half_requests(many: int, end: Any) -> None:
    """Clients, signed in nowhere, that send half a request and then nothing, and come again when they are cut off."""
    halves = [
        b"GET /api/session HTTP/1.1\r\nHost: 127.0.0.1\r\nX-Slow: ",
        b"POST /api/auth/browser/v1/auth/login HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 99\r\n\r\n{",
    ]
    held: list[socket.socket] = []
    while not end.is_set():
        for one in held[:]:
            try:
                one.setblocking(False)
                if one.recv(1) == b"":
                    raise ConnectionError
            except BlockingIOError:
                continue
            except OSError:
                held.remove(one)
                one.close()
        while len(held) < many:
            one = socket.create_connection(("127.0.0.1", PORT))
            one.sendall(random.choice(halves))
            held.append(one)
        end.wait(0.5)


def measured(many: int, players: str, halves: int, seconds: float) -> None:
    context = multiprocessing.get_context("fork")
    with coaches(many) as all_coaches:
        django.db.connections.close_all()
        end, answers = context.Event(), context.Queue()
        helpers = []
        if players != "none":
            helpers.append(context.Process(target=play, args=(all_coaches, players == "paused", end)))
        if halves:
            helpers.append(context.Process(target=half_requests, args=(halves, end)))
        for process in helpers:
            process.start()
        time.sleep(2)
        log_keys(all_coaches, seconds, answers)
        took, errors = answers.get()
        end.set()
        for process in helpers:
            process.join(5)
            process.kill()
    cuts = statistics.quantiles(took, n=20)
    print(
        f"{many:3} coaches, players {players:8} {halves:3} half requests: {len(took):5} keys, "
        f"p50 {statistics.median(took):6.1f} ms, p95 {cuts[18]:6.1f} ms, worst {max(took):7.1f} ms, "
        f"{len(errors)} errors {sorted(set(errors))[:3] if errors else ''}",
        flush=True,
    )


def main() -> None:
    parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    parser.add_argument("--seconds", type=float, default=20, help="of each line")
    parser.add_argument("--coaches", type=int, nargs="+", default=[1, 5, 20, 50])
    asked = parser.parse_args()
    for many in asked.coaches:
        for players, halves in (("none", 0), ("playing", 0), ("paused", 0), ("playing", 100)):
            measured(many, players, halves, asked.seconds)


if __name__ == "__main__":
    main()
