"""What every journey needs: a browser, a coach, and a clip that the simulated camera filmed."""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
from pathlib import Path
from typing import Any, ClassVar

from django.conf import settings
from django.contrib.auth.models import User
from django.contrib.staticfiles.testing import StaticLiveServerTestCase
from django.core.management import CommandError
from django.db import connection
from django.test import override_settings
from playwright.sync_api import Browser, Page, expect, sync_playwright

from clubs.actions import found_club
from footage.models import Clip
from footage.tests.base import filmed, stored
from jurata_simulation.camera import FPS
from matches.actions import set_up
from roster.models import Athlete

sys.path.insert(0, str(settings.ROOT))
from scripts.chromium import LAUNCH

PASSWORD = "three-seconds"
expect.set_options(timeout=15_000)
FEW = 5
"""So many frames are gone one by one."""

#: A short match with everything a first scorer meets; its times lie on frames of the clip.
TRUTH: dict[str, Any] = {
    "format": "jurata-match/3",
    "ruleset": "full-points",
    "duration": 40,
    "division": {"age": 24, "belt": "blue", "attire": "gi"},
    "observations": [
        {"t": 1, "kind": "clock", "action": "start"},
        {"t": 3, "kind": "position", "position": "guard", "top": "a"},
        {"t": 9, "kind": "position", "position": "side", "top": "a"},
        {"t": 11.8, "kind": "position", "position": "guard", "top": "a"},
        {"t": 14, "kind": "submission", "by": "b", "technique": "triangle", "threat": "attempt", "until": 17},
        {"t": 18, "kind": "position", "position": "mount", "top": "b"},
        {"t": 21, "kind": "clock", "action": "stop"},
        {"t": 22, "kind": "clock", "action": "start", "restart": "standing"},
        {"t": 23, "kind": "pull", "by": "b"},
        {"t": 23, "kind": "position", "position": "guard", "top": "a"},
        {"t": 24, "kind": "foul", "by": "b", "foul": "stalling"},
        {"t": 26, "kind": "end", "how": "time"},
    ],
}


def launched() -> tuple[Any, Browser]:
    playwright = sync_playwright().start()
    return playwright, playwright.chromium.launch(**LAUNCH)


def outside() -> dict[str, str]:
    """The environment of another process that works on the tests' database and folder of clips."""
    seen = {"JURATA_DB_NAME": connection.settings_dict["NAME"], "JURATA_CLIPS": str(settings.MEDIA_ROOT)}
    return {**os.environ, **seen}


class Journey(StaticLiveServerTestCase):
    playwright: ClassVar[Any]
    browser: ClassVar[Browser]
    footage: ClassVar[Path]
    address: str
    fps: int = FPS
    """The frames a second of what is scored."""

    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        folder = tempfile.TemporaryDirectory()
        cls.addClassCleanup(folder.cleanup)
        moved = override_settings(MEDIA_ROOT=folder.name)
        moved.enable()
        cls.addClassCleanup(moved.disable)
        cls.footage = filmed(TRUTH)
        cls.playwright, cls.browser = launched()
        cls.addClassCleanup(cls.playwright.stop)
        cls.addClassCleanup(cls.browser.close)

    def setUp(self):
        self.address = self.live_server_url
        self.coach = User.objects.create_user("coach", password=PASSWORD)
        self.club = found_club("Dune Grappling", self.coach)
        self.athlete = Athlete.objects.create(club=self.club, name="Ada Brenn", birth_year=2000, belt="blue")
        context = self.browser.new_context(viewport={"width": 1280, "height": 800})
        context.set_default_timeout(90_000)
        self.addCleanup(context.close)
        self.page: Page = context.new_page()
        self.problems: list[str] = []
        self.page.on("pageerror", lambda error: self.problems.append(str(error)))

    def tearDown(self):
        self.assertEqual(self.problems, [])

    def _fixture_teardown(self):
        """Empty the database. The server may be busy with what a closed page asked for last, and the two may lock each
        other out; the database then lets one of them go on, and the other tries again."""
        for last in (False, False, True):
            try:
                super()._fixture_teardown()
                break
            except CommandError:
                if last:
                    raise

    def sign_in(self, path: str = "/"):
        """Open a page as the coach, with the cookie that signing in would have brought."""
        self.client.force_login(self.coach)
        cookie = self.client.cookies[settings.SESSION_COOKIE_NAME].value
        self.page.context.add_cookies(
            [{"name": settings.SESSION_COOKIE_NAME, "value": cookie, "url": self.address, "httpOnly": True}]
        )
        self.page.goto(self.address + path)

    def sign_in_by_hand(self, path: str = "/"):
        self.page.goto(self.address + path)
        self.page.get_by_label("Name").fill("coach")
        self.page.get_by_label("Password").fill(PASSWORD)
        self.page.get_by_role("button", name="Sign in").click()

    def clip(self, path: Path | None = None) -> Clip:
        return stored(self.coach, path or self.footage, "journey.webm")

    def match(self, log: dict[str, Any] | None = None, with_clip: bool = True):
        values = {
            "athlete": self.athlete, "opponent": "Bo Calder", "event": "Dune Day", "ruleset": "full-points",
            "duration_ms": 40_000, "age": 24, "belt": "blue", "attire": "gi", "clip": self.clip() if with_clip else None,
        }  # fmt: skip
        return set_up(self.coach, values, log)

    def at_desk(self, log: dict[str, Any] | None = None, with_clip: bool = True):
        match = self.match(log, with_clip)
        self.sign_in(f"/matches/{match.pk}")
        expect(self.page.get_by_test_id("footage-time")).to_have_text("0:00.000")
        if with_clip:
            self.until("document.querySelector('video')?.readyState >= 2")
        self.now = 0
        return match

    def go_to(self, t: float):
        """Go to a time of the footage: a few frames by keys, further by typing it."""
        frames = round((t - self.now) * self.fps)
        minutes, seconds = divmod(round(t * 1000), 60_000)
        shown = f"{minutes}:{seconds // 1000:02d}.{seconds % 1000:03d}"
        if abs(frames) > FEW:
            self.page.get_by_title("Type a time to go to").click()
            self.page.keyboard.type(shown)
            self.page.keyboard.press("Enter")
        else:
            for _ in range(abs(frames)):
                self.page.keyboard.press("ArrowRight" if frames > 0 else "ArrowLeft")
        self.now = t
        expect(self.page.get_by_test_id("footage-time")).to_have_text(shown)

    def work_once(self):
        """Let the worker do what is in the queue, on the tests' database and folder of clips."""
        command = [sys.executable, settings.ROOT / "server" / "manage.py", "procrastinate", "worker", "--one-shot"]
        subprocess.run(command, env=outside(), check=True, capture_output=True, timeout=120)

    def until(self, script: str, page: Page | None = None):
        """Wait for something in a page that no locator sees; a page allows no evaluation of its own."""
        page = page or self.page
        for _ in range(800):
            if page.evaluate(script):
                return
            page.wait_for_timeout(50)
        self.fail(f"never true in the page: {script}")

    def saved(self, page: Page | None = None):
        """Wait until nothing is on its way to the server."""
        state = (page or self.page).get_by_test_id("save-state")
        expect(state).to_have_attribute("aria-busy", "false")
        expect(state).to_have_text("Saved")

    def score(self) -> list[str]:
        """Points of the athlete and of the opponent as they stand on the sheet."""
        return [self.page.get_by_role("img", name="points", exact=False).nth(side).inner_text() for side in (0, 1)]
