"""From sign-in to review, and that every screen can be used by everybody."""

from __future__ import annotations

import json
import re
import subprocess
import tempfile
from datetime import timedelta
from pathlib import Path

from axe_playwright_python.sync_playwright import Axe
from django.conf import settings
from django.contrib.auth.models import User
from django.utils import timezone
from playwright.sync_api import expect

from clubs.actions import join
from clubs.models import Role
from events.models import EventDay, Fight
from matches.actions import ask_second
from matches.models import Match
from reviews.actions import make_link
from training.actions import add_examples
from training.actions import make_link as plan_link
from training.models import Plan, Planned

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


REVIEW = [
    ("errors", "What mattered"),
    ("match", "A red edge"),
    ("officials", "No officials"),
    ("rules", "differ"),
    ("notes", "No notes yet"),
    ("send", "Create link"),
]
"""The parts of the review, and what is seen in each when it is there."""


UNWANTED = json.loads((settings.ROOT / "core" / "tests" / "unwanted_words.json").read_text("utf-8"))["words"]
RAW = {
    "an id": r"[0-9a-f]{8}-[0-9a-f]{4}-",
    "a name of code": r"\b[a-z]+_[a-z_]+\b",
    "an address": r"/api/",
    "what a program says of nothing": r"\b(undefined|null|NaN|\[object)\b",
}
FOOTAGE_TIME = r"\b\d+:\d\d\.\d{3}\b(?! of the footage)"
"""A time of the footage: on the desk alone, where it is labelled."""


def said_oddly(text, on_the_desk):
    """What a user would stumble over in the text of a screen."""
    found = [f"{name}: {match[0]}" for name, pattern in RAW.items() if (match := re.search(pattern, text))]
    found += [f"{match[0]}: write {instead}" for pattern, instead in UNWANTED if (match := re.search(pattern, text))]
    if not on_the_desk and (match := re.search(FOOTAGE_TIME, text)):
        found.append(f"an unlabelled time of the footage: {match[0]}")
    return found


class Access(Journey):
    def check(self, name, on_the_desk=False):
        """No serious or critical fault by axe-core (WCAG 2.2 A and AA)."""
        results = Axe().run(self.page)
        grave = [
            f"{fault['id']}: {node['target']} {node['failureSummary'][:200]}"
            for fault in results.response["violations"]
            if fault["impact"] in ("serious", "critical")
            for node in fault["nodes"]
        ]
        self.assertEqual(grave, [], name)
        self.assertEqual(said_oddly(self.page.inner_text("body"), on_the_desk), [], name)

    def planned(self):
        """A plan of the athlete, and a day with a fight."""
        add_examples(self.club)
        today = timezone.localdate()
        plan = Plan.objects.create(
            athlete=self.athlete, start=today, until=today + timedelta(days=9), sessions=3, minutes=20
        )
        Planned.objects.create(plan=plan, drill=self.club.drills.first(), day=today)
        day = EventDay.objects.create(club=self.club, name="Thaw Cup", date=today, ruleset="full-points")
        Fight.objects.create(day=day, athlete=self.athlete, opponent="Una Vale")
        return plan, day

    def test_every_screen(self):
        match = self.match(TRUTH)
        plan, day = self.planned()
        self.page.goto(self.address)
        expect(self.page.get_by_label("Password")).to_be_visible()
        self.check("sign-in")
        self.sign_in()
        expect(self.page.get_by_role("heading", name="Matches")).to_be_visible()
        expect(self.page.get_by_text("Bo Calder").first).to_be_visible()
        self.check("matches")
        for path, ready in (
            ("/athletes", "Ada Brenn"),
            (f"/athletes/{self.athlete.pk}", "What works"),
            (f"/athletes/{self.athlete.pk}/plan", "Did it help?"),
            ("/season", "Do the chances come true?"),
            ("/season/import", "Choose a folder"),
            ("/season/record", "What you were not sure of"),
            ("/drills", "Near elbow, far knee"),
            ("/days", "Thaw Cup"),
            (f"/days/{day.pk}", "Set it up"),
            ("/own/plans", "No plan yet"),
            (f"/p/{plan_link(plan, 1)}", "Drills for Ada Brenn"),
            ("/p/no-such-link", "This link no longer works"),
            ("/matches/new", "Rules and division"),
            ("/review-settings", "Grip not broken"),
            ("/rulebook?age=14&belt=green&attire=gi&ruleset=full-points", "How it is scored"),
            ("/rulebook/house", "Start from"),
            ("/rulebook/drill", "Practising as yourself"),
            (f"/matches/{match.pk}", "Help"),
            ("/matches/several", "Whose match is it?"),
            ("/matches/deleted", "No match was deleted"),
            ("/words", "guard pass"),
            ("/club", "Invite someone"),
            ("/club/journal", "can change or delete"),
            ("/club/data", "How long clips are kept"),
            ("/notices", "No notices yet"),
            ("/account", "Where you are signed in"),
            ("/own", "No athlete is linked"),
            ("/sign-up", "Your name"),
            ("/new-password", "Change the password"),
            ("/invitation#none", "has ended or was taken up"),
            *((f"/matches/{match.pk}/review?part={part}", ready) for part, ready in REVIEW),
            (f"/matches/{match.pk}/report", "What mattered"),
            (f"/r/{make_link(match, 1)[1]}", "What mattered"),
            ("/r/no-such-link", "This link no longer works"),
        ):
            self.page.goto(self.live_server_url + path)
            expect(self.page.get_by_text(ready).first).to_be_visible()
            self.check(path, on_the_desk=path == f"/matches/{match.pk}")
        scorer = User.objects.create_user("second", password=PASSWORD)
        join(self.club, scorer, Role.SCORER)
        second = ask_second(match, scorer)
        self.page.goto(f"{self.live_server_url}/matches/{match.pk}/seconds/{second.pk}")
        expect(self.page.get_by_role("heading", name="How well they agree")).to_be_visible()
        self.check("side by side")

    def test_what_opens_over_the_desk(self):
        calls = [*TRUTH["observations"][:3], {"t": 10, "kind": "call", "to": "b", "points": 2}]
        self.at_desk({**TRUTH, "observations": calls})
        page = self.page
        self.go_to(9.5)
        page.keyboard.press("u")
        self.saved()
        page.get_by_text("Check the clock against the scoreboard").click()
        page.get_by_text("Import the officials’ calls").click()
        self.check("unsure, with the clock and the calls", on_the_desk=True)
        page.keyboard.press("x")
        page.keyboard.type("heel hok")
        expect(page.get_by_role("listbox").get_by_role("option").first).to_contain_text("Heel hook")
        self.check("a technique being logged", on_the_desk=True)
        page.keyboard.press("Escape")
        for name, dialog in (
            ("Help and all keys", "Help: the desk and its keys"),
            ("History", "History"),
            ("People", "People and this match"),
        ):
            page.get_by_role("button", name=name).click()
            expect(page.get_by_role("dialog", name=dialog)).to_be_visible()
            self.check(name, on_the_desk=True)
            page.keyboard.press("Escape")
            expect(page.get_by_role("dialog")).to_have_count(0)

    def test_the_desk_fits_without_scrolling_and_the_picture_has_half_of_it(self):
        armbar = {"t": 10, "kind": "submission", "by": "a", "technique": "armbar", "threat": "close"}
        before = [one for one in TRUTH["observations"] if one["t"] < 10]
        self.at_desk({**TRUTH, "observations": [*before, armbar]})
        page = self.page
        self.go_to(10.5)
        for width, height in ((1280, 800), (1024, 768)):
            page.set_viewport_size({"width": width, "height": height})
            for key, form in (("", ""), ("x", "Submission"), ("Enter", "How it ended")):
                if key:
                    page.keyboard.press(key)
                    expect(
                        page.get_by_role("form", name=form).get_by_role("combobox", name="Technique")
                    ).to_be_visible()
                    room = "({ scrollWidth, clientWidth, scrollHeight, clientHeight }) => [scrollWidth - clientWidth, scrollHeight - clientHeight]"
                    self.assertEqual(page.get_by_role("form", name=form).evaluate(room), [0, 0], (width, form))
                sizes = page.evaluate("[document.documentElement.scrollHeight, document.documentElement.scrollWidth]")
                self.assertEqual(sizes, [height, width])
                stage = page.get_by_test_id("stage").bounding_box()
                self.assertGreaterEqual(stage["width"] * stage["height"], width * height / 2)
                page.keyboard.press("Escape")

    def test_the_practice_and_help(self):
        self.sign_in()
        self.page.get_by_role("button", name="Start with the practice").click()
        expect(self.page.get_by_text("Practice 1 of 9")).to_be_visible()
        self.check("the practice", on_the_desk=True)
        self.page.keyboard.press("?")
        expect(self.page.get_by_role("dialog")).to_be_visible()
        self.check("help on the desk", on_the_desk=True)
        self.page.goto(self.address)
        expect(self.page.get_by_text("No matches yet")).to_be_visible()
        self.page.keyboard.press("?")
        expect(self.page.get_by_role("dialog")).to_be_visible()
        self.check("help on a page")
