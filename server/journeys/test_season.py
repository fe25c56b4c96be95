"""The season of an athlete: from a figure to the moments behind it, played one after the other."""

from __future__ import annotations

import datetime
import json
from pathlib import Path
from tempfile import TemporaryDirectory

from django.utils import timezone
from playwright.sync_api import expect

from clubs.models import Role
from matches.models import Match
from roster.models import Athlete
from training.models import Planned

from .base import TRUTH, Journey
from .test_club import ClubJourney

CONCEDED = {
    **TRUTH,
    "observations": [
        {"t": 1, "kind": "clock", "action": "start"},
        {"t": 3, "kind": "position", "position": "guard", "top": "b"},
        {"t": 9, "kind": "position", "position": "side", "top": "b"},
        {"t": 14, "kind": "position", "position": "guard", "top": "b"},
        {"t": 18, "kind": "position", "position": "side", "top": "b"},
        {"t": 26, "kind": "end", "how": "time"},
    ],
}
"""A match in which the guard is passed twice."""
KEPT = {
    **TRUTH,
    "observations": [CONCEDED["observations"][0], *TRUTH["observations"][1:3], CONCEDED["observations"][-1]],
}
"""One in which it is not."""


class Season(Journey):
    def test_a_number_opens_the_moments_behind_it_which_play_in_turn(self):
        held = {**TRUTH, "observations": TRUTH["observations"][:3] + TRUTH["observations"][-1:]}
        for with_clip in (True, True, False):
            self.match(held, with_clip)
        self.sign_in("/athletes")
        page = self.page
        page.get_by_role("link", name="Season of Ada Brenn").click()
        expect(page.get_by_role("heading", level=1)).to_have_text("Ada Brenn")
        expect(page.get_by_role("img", name="3 of 3: between", exact=False).first).to_be_visible()
        page.get_by_role("button", name="Guard passes that worked: 3 worked").click()
        sheet = page.get_by_role("dialog", name="Guard passes that worked")
        moments = sheet.get_by_role("button", name="against Bo Calder, 0:09")
        expect(moments).to_have_count(3)
        expect(sheet.get_by_text("no clip", exact=True)).to_have_count(1)
        with_clip = sheet.get_by_role("listitem").filter(has_not_text="no clip").get_by_role("button")
        expect(with_clip.first).to_have_attribute("aria-current", "true")
        expect(with_clip.last).to_have_attribute("aria-current", "true")
        sheet.get_by_role("button", name="Back to the season").click()
        expect(page.get_by_text("Full points: 3 won (3 by points).")).to_be_visible()

    def test_without_a_match_it_says_what_to_do(self):
        self.sign_in(f"/athletes/{self.athlete.pk}")
        expect(self.page.get_by_text("No matches yet.")).to_be_visible()
        expect(self.page.get_by_role("link", name="Set up the first one")).to_be_visible()


class WholeSeason(ClubJourney):
    def test_import_moments_plan_tick_and_the_effect(self):
        me = self.member("ada", Role.ATHLETE)
        Athlete.objects.filter(pk=self.athlete.pk).update(user=me)
        today = timezone.localdate()
        self.sign_in("/season/import")
        page = self.page
        with TemporaryDirectory() as folder:
            page.locator("input[type=file]").first.set_input_files(self.log_file(folder, today))
            expect(page.get_by_text("waiting for the worker")).to_be_visible()
        self.work_once()
        expect(page.get_by_text("6 matches taken in, 2 left out.", exact=False)).to_be_visible()
        page.get_by_text("What was wrong with the matches that were left out").click()
        expect(page.get_by_text('athlete: "Nobody" is not an athlete of the club')).to_be_visible()

        page.goto(f"{self.address}/athletes/{self.athlete.pk}")
        page.get_by_role("button", name="Points or advantages conceded: 18 in 6 matches").click()
        sheet = page.get_by_role("dialog", name="Points or advantages conceded")
        expect(sheet.get_by_role("listitem")).to_have_count(18)
        sheet.get_by_role("button", name="Back to the season").click()

        page.get_by_role("link", name="Plan the drills").click()
        page.get_by_role("link", name="library").click()
        page.get_by_role("button", name="start with the examples").click()
        expect(page.get_by_text("Near elbow, far knee")).to_be_visible()
        page.goto(f"{self.address}/athletes/{self.athlete.pk}/plan")
        page.get_by_label("Next event").fill("Thaw Cup")
        page.get_by_label("Sessions a week").fill("7")
        page.get_by_role("button", name="Propose a plan").click()
        expect(page.get_by_role("heading", name="Thaw Cup")).to_be_visible()
        first = Planned.objects.first()
        chip = page.get_by_role("button", name=first.drill.name, exact=True).first
        tomorrow = page.locator("section[aria-label]").nth(1)
        before = tomorrow.get_by_role("button").count()
        chip.hover()
        box = tomorrow.bounding_box()
        page.mouse.down()
        page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2, steps=10)
        page.mouse.up()
        expect(tomorrow.get_by_role("button")).to_have_count(before + 1)
        self.assertEqual(Planned.objects.get(pk=first.pk).day, today + datetime.timedelta(days=1))

        own = self.other_page(390, 844)
        self.entered("ada", own)
        own.get_by_role("link", name="What to drill").click()
        own.get_by_role("checkbox").first.click()
        expect(own.get_by_text("1 of ", exact=False).first).to_be_visible()

        for number in range(4):
            made = self.match(KEPT, with_clip=False)
            Match.objects.filter(pk=made.pk).update(date=today + datetime.timedelta(days=number))
        page.reload()
        expect(page.get_by_text("1 of ", exact=False).first).to_be_visible()
        expect(page.get_by_text("0 in 4 matches since: better").first).to_be_visible()

    def log_file(self, folder, today):
        rows = []
        for number in range(6):
            date = str(today - datetime.timedelta(days=30 + number))
            rows.append({"athlete": "Ada Brenn", "opponent": f"Earlier {number}", "date": date, "log": CONCEDED})
        lines = [*(json.dumps(row) for row in rows), "{", json.dumps({**rows[0], "athlete": "Nobody"})]
        path = Path(folder, "season.jsonl")
        path.write_text("\n".join(lines))
        return path
