"""That every screen can be used by everybody: by axe-core in three widths, by the Tab key alone, and in plain words."""

from __future__ import annotations

import json
import re
from datetime import timedelta

from axe_playwright_python.sync_playwright import Axe
from django.conf import settings
from django.contrib.auth.models import User
from django.utils import timezone
from playwright.sync_api import expect

from clubs.actions import join
from clubs.models import Role
from events.models import EventDay, Fight
from matches.actions import ask_second
from reviews.actions import make_link
from training.actions import add_examples
from training.actions import make_link as plan_link
from training.models import Plan, Planned

from .base import PASSWORD, TRUTH, Journey

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


WIDTHS = ((1280, 800), (640, 400), (390, 844))
"""A small notebook, the same at 200 % zoom, and a phone."""
MOST = 400
"""So many stops of the Tab key are on no screen."""
FOCUSED = """() => {
  const one = document.activeElement;
  if (!one || one === document.body) return null;
  window.walked ??= 0;
  one.dataset.walked ??= String(window.walked++);
  return one.dataset.walked;
}"""
NOT_REACHED = """() => [...document.querySelectorAll('a[href], button, select, textarea, input, summary, [tabindex="0"]')]
  .filter((one) => !one.disabled && one.tabIndex >= 0 && one.type !== 'radio' && one.role !== 'tablist' && !one.closest('[inert], details:not([open]) > :not(summary)')
    && one.checkVisibility({ visibilityProperty: true }) && one.dataset.walked === undefined)
  .map((one) => one.outerHTML.slice(0, 160))"""


class Access(Journey):
    def check(self, name, on_the_desk=False):
        """No serious or critical fault by axe-core (WCAG 2.2 A and AA) in any width, and no odd words."""
        for width, height in reversed(WIDTHS):
            self.page.set_viewport_size({"width": width, "height": height})
            results = Axe().run(self.page)
            grave = [
                f"{fault['id']}: {node['target']} {node['failureSummary'][:200]}"
                for fault in results.response["violations"]
                if fault["impact"] in ("serious", "critical")
                for node in fault["nodes"]
            ]
            self.assertEqual(grave, [], f"{name} at {width}")
        self.assertEqual(said_oddly(self.page.inner_text("body"), on_the_desk), [], name)

    def walk(self, name):
        """The Tab key comes to everything and round again, and so it does backwards."""
        self.page.evaluate("document.activeElement?.blur()")
        forwards = self.stops("Tab", name)
        missed = self.page.evaluate(NOT_REACHED)
        self.assertEqual(missed, [], f"{name}: {len(forwards)} reached, not {missed}")
        self.page.evaluate("document.activeElement?.blur()")
        self.assertEqual(set(self.stops("Shift+Tab", name)), set(forwards), name)

    def stops(self, key, name):
        """What has the focus, press by press, until it comes round; in between it leaves the page once."""
        found, outside = [], 0
        for _ in range(MOST):
            self.page.keyboard.press(key)
            at = self.page.evaluate(FOCUSED)
            outside += at is None
            if (at is None and outside < 2) or (at is not None and found[-1:] == [at]):
                continue  # outside of the page, or in the next part of a field for a day
            if at is None or at in found:
                return found
            found.append(at)
        raise AssertionError(f"{key} never comes round on {name}")

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
            self.walk(path)
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
