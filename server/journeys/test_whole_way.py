"""From sign-in to review, and that every screen can be used by everybody."""

from __future__ import annotations

import json
import subprocess
import tempfile
from pathlib import Path

from playwright.sync_api import expect

from matches.models import Match

from .base import PASSWORD, TRUTH, Journey


class WholeWay(Journey):
    def test_a_newcomer_signs_in_uploads_a_clip_and_reaches_the_desk(self):
        page = self.page
        page.goto(self.address)
        page.get_by_label("Name").fill("coach")
        page.get_by_label("Password").fill("wrong")
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_role("alert")).to_contain_text("Wrong name or password")
        page.get_by_label("Password").fill(PASSWORD)
        page.get_by_role("button", name="Sign in").click()
        expect(page.get_by_text("No matches yet")).to_be_visible()
        page.get_by_role("link", name="New match").first.click()

        page.get_by_label("Name", exact=True).fill("Cilla Dorn")
        page.get_by_label("Year of birth").fill("2012")
        page.get_by_role("button", name="Add").click()
        expect(page.get_by_label("Your athlete")).to_contain_text("Cilla Dorn")
        page.get_by_label("Your athlete").select_option("Cilla Dorn")
        page.get_by_label("Opponent").fill("Enno Falk")

        with tempfile.TemporaryDirectory() as folder:
            fake = Path(folder) / "notes.mp4"
            fake.write_text("not a video")
            page.get_by_label("Upload a clip").set_input_files(fake)
            expect(page.get_by_role("alert")).to_contain_text("not a video")
        expect(page.get_by_label("Opponent")).to_have_value("Enno Falk")
        page.get_by_label("Upload a clip").set_input_files(self.footage)
        expect(page.get_by_label("or use one already uploaded")).to_contain_text(self.footage.name)
        page.get_by_role("button", name="Go to the desk").click()
        expect(page.get_by_text("Nothing logged yet")).to_be_visible()
        self.until("document.querySelector('video')?.readyState >= 2")
        match = Match.objects.get(opponent="Enno Falk")
        self.assertEqual((match.athlete.name, match.clip.name), ("Cilla Dorn", self.footage.name))

    def test_an_upload_can_be_cancelled(self):
        page = self.page
        self.sign_in_by_hand("/matches/new")
        page.route("**/upload", lambda route: None)  # it never gets through
        page.get_by_label("Upload a clip").set_input_files(self.footage)
        page.get_by_role("button", name="Cancel").click()
        expect(page.get_by_role("progressbar")).to_have_count(0)

    def test_a_log_from_elsewhere_and_its_faults(self):
        page = self.page
        self.sign_in("/matches/new")
        page.get_by_label("Your athlete").select_option("Ada Brenn")
        page.get_by_label("Opponent").fill("Bo Calder")
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "log.json"
            path.write_text(json.dumps({**TRUTH, "duration": -1, "observations": [{"t": 0, "kind": "nap"}]}))
            page.get_by_label("Open a log").set_input_files(path)
            page.get_by_role("button", name="Go to the desk").click()
            expect(page.get_by_role("alert")).to_contain_text("observations[0].kind")
            expect(page.get_by_role("alert")).to_contain_text("duration")
            path.write_text(json.dumps(TRUTH))
            page.get_by_label("Open a log").set_input_files(path)
            page.get_by_role("button", name="Go to the desk").click()
        expect(page.get_by_test_id("because")).to_contain_text("won")

    def test_a_match_is_deleted_only_after_asking(self):
        self.match(TRUTH)
        self.sign_in()
        self.page.get_by_role("button", name="Delete").click()
        self.page.get_by_role("button", name="Cancel").click()
        self.assertEqual(Match.objects.count(), 1)
        self.page.get_by_role("button", name="Delete").click()
        self.page.get_by_role("button", name="Delete the match").click()
        expect(self.page.get_by_text("No matches yet")).to_be_visible()

    def test_the_list_is_narrowed_down_to_what_waits(self):
        scored = self.match(TRUTH)
        Match.objects.filter(pk=scored.pk).update(opponent="Ines Varr")
        self.match(None, with_clip=False)
        self.sign_in()
        page = self.page
        page.get_by_role("button", name="not scored: 1").click()
        expect(page.get_by_text("Ines Varr")).to_have_count(0)
        expect(page.get_by_label("State")).to_have_value("not_scored")
        page.get_by_label("State").select_option("scored")
        expect(page.get_by_role("heading", name="Ines Varr")).to_be_visible()
        page.get_by_label("Order").select_option("opponent")
        page.get_by_label("State").select_option("")
        expect(page.get_by_role("heading", level=2)).to_have_count(2)
        expect(page.get_by_role("heading", level=2).first).to_contain_text("Bo Calder")

    def test_athletes_are_added_changed_and_kept_while_they_have_matches(self):
        self.match(TRUTH)
        self.sign_in("/athletes")
        page = self.page
        expect(page.get_by_role("heading", name="Athletes", exact=True)).to_be_visible()
        page.get_by_label("Name", exact=True).fill("Cilla Dorn")
        page.get_by_label("Year of birth").fill("2012")
        page.get_by_role("button", name="Add").click()
        row = page.get_by_role("listitem").filter(has_text="Cilla Dorn")
        row.get_by_role("button", name="Change").click()
        page.get_by_label("Belt").select_option("orange")
        page.get_by_role("button", name="Save").click()
        expect(row).to_contain_text("orange belt")
        row.get_by_role("button", name="Delete").click()
        page.get_by_role("alertdialog").get_by_role("button", name="Delete the athlete").click()
        expect(row).to_have_count(0)
        ada = page.get_by_role("listitem").filter(has_text="Ada Brenn")
        ada.get_by_role("button", name="Delete").click()
        page.get_by_role("alertdialog").get_by_role("button", name="Cancel").click()
        expect(ada).to_be_visible()
        ada.get_by_role("button", name="Delete").click()
        page.get_by_role("alertdialog").get_by_role("button", name="Delete the athlete").click()
        expect(page.get_by_role("alert")).to_contain_text("has matches.")

    def test_the_form_asks_the_division_for_the_length_of_a_match(self):
        """Six minutes for an adult blue belt, five for a white one (common practice, no source); or as it is typed."""
        self.sign_in("/matches/new")
        page, length = self.page, self.page.get_by_label("Match length in minutes")
        expect(length).to_have_value("")
        page.get_by_label("Age at the event").fill("25")
        page.get_by_label("Belt").first.select_option("blue")
        expect(length).to_have_value("6")
        page.get_by_label("Belt").first.select_option("white")
        expect(length).to_have_value("5")
        length.fill("4.5")
        page.get_by_label("Belt").first.select_option("purple")
        expect(length).to_have_value("4.5")

    def test_signing_out_leaves_nothing_on_the_screen(self):
        self.match(TRUTH)
        self.sign_in()
        expect(self.page.get_by_text("Bo Calder").first).to_be_visible()
        self.page.get_by_role("button", name="Sign out").click()
        expect(self.page.get_by_label("Password")).to_be_visible()
        expect(self.page.get_by_text("Bo Calder")).to_have_count(0)

    def test_a_page_says_when_the_server_is_gone(self):
        self.sign_in()
        self.page.route("**/api/athletes", lambda route: route.abort())
        self.page.get_by_role("link", name="Athletes").click()
        expect(self.page.get_by_role("alert")).to_contain_text("can't be reached")

    def test_an_upload_that_is_cut_goes_on_by_itself(self):
        self.sign_in("/matches/new")
        page = self.page
        cuts = []

        def cut_twice(route):
            if len(cuts) < 2:
                cuts.append(route.request.method)
                route.abort()
            else:
                route.continue_()

        page.route("**/upload", cut_twice)
        page.get_by_label("Upload a clip").set_input_files(self.footage)
        expect(page.get_by_text("resuming where it stopped")).to_be_visible()
        expect(page.get_by_label("or use one already uploaded")).to_contain_text(self.footage.name)
        self.assertEqual(len(cuts), 2)

    def test_a_clip_that_browsers_cannot_play_is_prepared_by_the_worker(self):
        """The worker is the real one, as ./start runs it, on the tests' database."""
        match = self.match(with_clip=False)
        self.sign_in(f"/matches/{match.pk}")
        page = self.page
        with tempfile.TemporaryDirectory() as folder:
            old = Path(folder) / "old.avi"
            subprocess.run(["ffmpeg", "-v", "error", "-i", self.footage, "-t", "4", "-c:v", "mpeg4", old], check=True)
            page.get_by_label("Upload a clip").set_input_files(old)
            expect(page.get_by_text("The clip is being prepared")).to_be_visible()
        self.work_once()
        self.until("document.querySelector('video')?.readyState >= 2")
        self.page.keyboard.press("ArrowRight")
        expect(page.get_by_test_id("footage-time")).to_have_text("0:00.050")
        box = page.get_by_label("Time in the footage").bounding_box()
        page.mouse.move(box["x"] + box["width"] / 2, box["y"] + 4)
        self.until(
            "[...document.querySelectorAll('span')].some(one => one.style.backgroundImage.includes('pictures/strip'))"
        )
