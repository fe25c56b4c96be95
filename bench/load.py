"""Many coaches at their desks at once, with the desk's real traffic, by Locust: where it breaks, and what it takes.

./start && bench/run load --coaches 50 --seconds 60

Each coach presses a key a second, asks every 3 s whether somebody else wrote, says every 4 s where they are, and
plays the clip of the match in pieces as a browser does. Locust's own processes take a part of the same machine.
"""

from __future__ import annotations

import argparse
import os
import random
import sys
import time
import uuid
from pathlib import Path
from typing import Any

from gevent import monkey

monkey.patch_all()

ROOT = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(ROOT), str(ROOT / "server")]

import gevent  # noqa: E402
from locust import FastHttpUser, between, task  # noqa: E402
from locust.env import Environment  # noqa: E402

ADDRESS = f"http://127.0.0.1:{os.environ.get('JURATA_PORT', '8417')}"
KEY, LOOK, HERE, PIECE = "key", "has somebody written", "here", "piece of the clip"
PLAYED_A_SECOND = 500_000
"""Bytes: a phone's clip of 1080p in a copy that seeks well."""
WARM_S = 15
"""Until every process of the server has each match in memory: the first verdict on a match takes the longest."""
PIECE_S, LOOK_S = 4, 3
"""A coach who is alone at a desk asks so seldom whether somebody else wrote."""


class Coach(FastHttpUser):
    """One coach at the desk; what runs beside the keys is spawned with it."""

    host = ADDRESS
    wait_time = between(0.5, 1.45)  # people are not in step, and a slow answer must not bring them into step
    coaches: list[Any] = []
    headers_of: Any = None

    def on_start(self) -> None:
        self.coach = self.coaches.pop()
        self.headers = self.headers_of(self.coach)
        self.match = f"/api/matches/{self.coach.match}"
        self.pressed = self.revision = 0
        others = ((LOOK_S, self.look), (4, self.say), (PIECE_S, self.play))
        self.beside = [gevent.spawn(self.again, every, what) for every, what in others]
        time.sleep(random.random())

    def on_stop(self) -> None:
        gevent.killall(self.beside)

    def again(self, every: float, what: Any) -> None:
        time.sleep(every * random.random())
        while True:
            begun = time.monotonic()
            what()
            time.sleep(max(0, every - (time.monotonic() - begun)))

    @task
    def key(self) -> None:
        self.pressed += 1
        body = {
            "t": 16 + self.pressed / 100,
            "kind": "position",
            "position": random.choice(["guard", "side"]),
            "top": "a",
        }
        address = f"{self.match}/observations/{uuid.uuid4()}?have={self.revision}"
        answer = self.client.put(address, json=body, headers=self.headers, name=KEY)
        if answer.ok:
            self.revision = answer.json()["revision"]

    def look(self) -> None:
        self.client.get(f"{self.match}/revision", headers=self.headers, name=LOOK)

    def say(self) -> None:
        body = {"t": 16 + self.pressed / 100}
        self.client.put(f"{self.match}/here", json=body, headers=self.headers, name=HERE)

    def play(self) -> None:
        start = random.randrange(0, 1_000_000)
        asked = {**self.headers, "Range": f"bytes={start}-{start + PIECE_S * PLAYED_A_SECOND}"}
        self.client.get(f"/api/clips/{self.coach.clip}/content", headers=asked, name=PIECE)


def measured(many: int, seconds: int, coaches: list[Any]) -> None:
    Coach.coaches = list(coaches)
    environment = Environment(user_classes=[Coach])
    runner = environment.create_local_runner()
    runner.start(many, spawn_rate=many)
    time.sleep(WARM_S)
    environment.stats.reset_all()
    time.sleep(seconds)
    for name, method in ((KEY, "PUT"), (LOOK, "GET"), (HERE, "PUT"), (PIECE, "GET")):
        row = environment.stats.get(name, method)
        p50, p95 = (row.get_response_time_percentile(share) for share in (0.5, 0.95))
        print(
            f"{many:4} coaches  {name:22} {row.num_requests / seconds:7.1f}/s  p50 {p50:6.0f} ms  p95 {p95:6.0f} ms  "
            f"worst {row.max_response_time:6.0f} ms  {row.num_failures} errors",
            flush=True,
        )
    for error in list(environment.stats.errors.values())[:3]:
        print(f"     {error.to_name()}: {error.occurrences}")
    runner.quit()
    runner.greenlet.join()
    time.sleep(1)  # what was asked last is answered


def main() -> None:
    from bench import crowd

    parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    parser.add_argument("--seconds", type=int, default=30, help="of each line")
    parser.add_argument("--coaches", type=int, nargs="+", default=[10, 25, 50, 75, 100])
    asked = parser.parse_args()
    Coach.headers_of = staticmethod(crowd.headers_of)
    with crowd.coaches(max(asked.coaches)) as all_coaches:
        for many in asked.coaches:
            measured(many, asked.seconds, all_coaches[:many])


if __name__ == "__main__":
    main()
