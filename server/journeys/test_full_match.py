"""A whole match of the demo, scored with the keyboard as the clip shows it; the server dies in the middle of it."""

from __future__ import annotations

import json
import os
import signal
import socket
import subprocess
import sys
import time
from pathlib import Path
from typing import Any
from urllib.error import URLError
from urllib.request import urlopen

from django.conf import settings
from playwright.sync_api import expect

from demo.setting import filmed_matches
from jurata_core.answers import score
from matches.actions import set_up
from matches.logs import log_of
from matches.models import Match

from .base import filmed, outside
from .by_keys import ByKeys

MOST_KEYS = 1.7
"""So many keys at most for an observation, and so many for a detail; those that move the footage not counted."""


class Server:
    """The server as ./start runs it, on the tests' database: a process that can be killed."""

    def __init__(self) -> None:
        with socket.socket() as free:
            free.bind(("127.0.0.1", 0))
            self.port = free.getsockname()[1]
        self.address = f"http://127.0.0.1:{self.port}"
        self.process: subprocess.Popen[bytes] | None = None

    def start(self) -> None:
        command = [sys.executable, "-m", "gunicorn", "config.wsgi", "--bind", f"127.0.0.1:{self.port}"]
        command += ["--worker-class", "gthread", "--threads", "8", "--no-control-socket", "--log-level", "critical"]
        folder = settings.ROOT / "server"
        self.process = subprocess.Popen(command, env=outside(), cwd=folder, start_new_session=True)
        for _ in range(300):
            try:
                urlopen(f"{self.address}/api/session", timeout=5).close()
                return
            except (URLError, TimeoutError):  # not there yet, or so busy with starting that it doesn't answer
                time.sleep(0.1)
        raise AssertionError("the server did not start")

    def kill(self) -> None:
        if self.process is not None:
            os.killpg(self.process.pid, signal.SIGKILL)
            self.process.wait()
            self.process = None


def without_calls(log: dict[str, Any]) -> dict[str, Any]:
    """A log without the officials' calls: they are read off the table, or the board in the picture."""
    return {**log, "observations": [one for one in log["observations"] if one["kind"] != "call"]}


class FullMatch(ByKeys):
    def setUp(self):
        super().setUp()
        self.server = Server()
        self.server.start()
        self.addCleanup(self.server.kill)
        self.address = self.server.address

    def score_match(self, log: dict[str, Any], dies_at: int | None = None) -> None:
        """Score all that is on the clip, in its order; with the server dead for one of the observations."""
        self.attire = log["division"]["attire"]
        steps = [(seen["t"], number, seen) for number, seen in enumerate(log["observations"])]
        steps += [
            (seen["until"], number, None)
            for number, seen in enumerate(log["observations"])
            if "until" in seen and seen["kind"] in ("submission", "grip")
        ]
        for t, number, seen in sorted(steps, key=lambda step: (step[0], step[1])):
            self.go_to(t)
            if seen is None:
                self.press("l")
            elif number == dies_at:
                self.server.kill()
                self.log(seen)
                expect(self.page.get_by_test_id("save-state")).to_contain_text("1 change not saved yet")
                self.server.start()
            else:
                self.log(seen)
            self.saved()

    def check(self, match: Match, log: dict[str, Any]) -> None:
        found, true = score(log_of(match)), score(log)
        got = [(row["t"], row["kind"], row["n"], row["because"]) for row in found["ledger"]]
        self.assertEqual(got, [(row["t"], row["kind"], row["n"], row["because"]) for row in true["ledger"]])
        for name in ("score", "result", "because", "ended", "counts", "exchanges", "warnings"):
            for row in found[name] if name == "warnings" else ():
                row["observations"] = []
            self.assertEqual(found[name], true[name], name)
        logged = log_of(match)["observations"]
        self.assertEqual(len(logged), len(log["observations"]))
        self.assertEqual([one.get("detail") for one in logged], [one.get("detail") for one in log["observations"]])
        self.assertLessEqual(self.pressed, MOST_KEYS * (len(logged) + sum("detail" in one for one in logged)))

    def test_a_clip_of_the_demo_with_the_server_killed_in_the_middle(self):
        film = filmed_matches()["ready-to-score"]["log"]
        log = without_calls(film)
        match = set_up(self.coach, self.settings_of(log) | {"clip": self.clip(filmed(film))})
        self.begin(match, with_clip=True)
        self.score_match(log, dies_at=6)
        self.check(match, log)
        self.page.reload()
        expect(self.page.get_by_test_id("because")).to_contain_text("Ada Brenn won by americana")

    def test_the_longest_match_of_the_demo(self):
        log = without_calls(filmed_matches()["three-single-legs"]["log"])
        match = set_up(self.coach, self.settings_of(log))
        self.fps = 25  # of the desk without a clip
        self.begin(match, with_clip=False)
        self.score_match(log)
        self.check(match, log)

    def settings_of(self, log: dict[str, Any]) -> dict[str, Any]:
        length = {"ruleset": log["ruleset"], "duration_ms": log["duration"] * 1000, **log["division"]}
        return {"athlete": self.athlete, "opponent": "Bo Calder", **length}

    def begin(self, match: Match, with_clip: bool) -> None:
        self.sign_in(f"/matches/{match.pk}")
        expect(self.page.get_by_test_id("footage-time")).to_have_text("0:00.000")
        if with_clip:
            self.until("document.querySelector('video')?.readyState >= 2")
        self.now = 0

    def test_everything_a_coach_sees_by_keys_alone(self):
        """Attempts, marks, a start in the middle, a restart at the edge, overtime and a golden score."""
        log = json.loads((Path(__file__).parent / "golden.json").read_text("utf-8"))
        match = set_up(self.coach, self.settings_of(log))
        self.sign_in_by_hand(f"/matches/{match.pk}")
        expect(self.page.get_by_test_id("footage-time")).to_have_text("0:00.000")
        self.page.keyboard.press("Shift+ArrowRight")
        self.page.get_by_text("Does the footage start partway through the match?").click()
        for key in ("Tab", *"0:55", "Tab", "Tab", "Tab", "Tab", "Tab", "2", "Enter"):
            self.page.keyboard.press(key)
        self.saved()
        self.now = 1
        rest = {**log, "observations": log["observations"][3:]}
        self.score_match(rest)
        self.check(match, log)
