"""The first hour of a new coach: the practice, a match of one's own, a whole day of clips, help, and changed minds."""

from __future__ import annotations

import re

from playwright.sync_api import Locator, expect

from footage.models import Clip
from jurata_core.practice import practice_log
from matches.logs import log_of
from matches.models import Match
from matches.parts import parts_of

from .base import TRUTH, Journey, filmed
from .test_touch import HEIGHT, WIDTH

MOST_STEPS = 12
"""So many clicks and filled fields at most from the first screen of a fresh account to the desk with its own clip."""


class FirstMatch(Journey):
    def setUp(self):
        super().setUp()
        self.athlete.delete()  # a fresh account has no one yet
        self.steps = 0

    def click(self, what: Locator):
        self.steps += 1
        what.click()

    def fill(self, label: str, text: str):
        self.steps += 1
        self.page.get_by_label(label, exact=True).fill(text)

    def test_from_sign_in_to_the_first_exchange_on_ones_own_clip(self):
        page = self.page
        self.sign_in_by_hand()
        expect(page.get_by_role("button", name="Start with the practice")).to_be_visible()
        self.click(page.get_by_role("link", name="Set up a match"))
        self.fill("Name", "Cilla Dorn")
        self.fill("Year of birth", "2001")
        self.click(page.get_by_role("button", name="Add"))
        expect(page.get_by_label("Age at the event")).not_to_have_value("")
        self.fill("Opponent", "Enno Falk")
        self.steps += 1
        page.get_by_label("Upload a clip").set_input_files(self.footage)
        expect(page.get_by_label("or use one already uploaded")).not_to_have_value("")
        self.click(page.get_by_role("button", name="Go to the desk"))
        self.until("document.querySelector('video')?.readyState >= 2")
        self.assertLessEqual(self.steps, MOST_STEPS)
        self.now = 0
        for t, key in ((1, "c"), (3, "g"), (9, "s"), (13, "f")):
            self.go_to(t)
            page.keyboard.press(key)
            self.saved()
        expect(page.get_by_role("img", name="5 points for the athlete")).to_be_visible()

    def tab_to(self, name: str):
        """Go on with Tab to the field or button of a name."""
        for _ in range(120):
            self.page.keyboard.press("Tab")
            label = self.page.evaluate(
                "(() => { const e = document.activeElement;"
                " return (e.labels?.[0]?.innerText || e.getAttribute('aria-label') || e.innerText || '').trim(); })()"
            )
            if label.startswith(name):
                return
        self.fail(f"Tab does not reach {name}")

    def test_set_up_by_keyboard_alone(self):
        self.sign_in("/matches/new")
        expect(self.page.get_by_role("heading", name="New match")).to_be_visible()
        press, write = self.page.keyboard.press, self.page.keyboard.type
        for name, text in (("Name", "Cilla Dorn"), ("Year of birth", "2001")):
            self.tab_to(name)
            write(text)
        press("Enter")
        expect(self.page.get_by_label("Age at the event")).not_to_have_value("")
        self.tab_to("Opponent")
        write("Enno Falk")
        self.tab_to("Ruleset")
        press("ArrowDown")
        self.tab_to("Go to the desk")
        press("Enter")
        expect(self.page.get_by_test_id("save-state")).to_be_attached()
        made = Match.objects.get()
        self.assertEqual((made.opponent, made.athlete.name), ("Enno Falk", "Cilla Dorn"))
        self.assertNotEqual(made.ruleset, "full-points")

    def test_set_up_by_touch_alone(self):
        context = self.browser.new_context(viewport={"width": WIDTH, "height": HEIGHT}, has_touch=True)
        self.addCleanup(context.close)
        page = self.page = context.new_page()
        self.sign_in("/")
        page.get_by_role("link", name="Set up a match").tap()
        page.get_by_label("Name", exact=True).tap()
        page.keyboard.type("Cilla Dorn")  # the keyboard on the screen
        page.get_by_label("Year of birth").tap()
        page.keyboard.type("2001")
        page.get_by_role("button", name="Add").tap()
        page.get_by_label("Opponent").tap()
        page.keyboard.type("Enno Falk")
        expect(page.get_by_text("minutes are usual for this division")).to_be_visible()
        page.wait_for_load_state("networkidle")  # what is still fetched would move the button away from the finger
        page.get_by_role("button", name="Go to the desk").tap()
        expect(page.get_by_test_id("save-state")).to_be_attached()
        self.assertEqual(Match.objects.get().opponent, "Enno Falk")


class Practice(Journey):
    def test_each_step_is_done_by_doing_it_and_the_end_says_how_close_it_came(self):
        page = self.page
        self.sign_in()
        page.get_by_role("button", name="Start with the practice").click()
        tour = page.get_by_label("Practice", exact=True)
        expect(tour).to_contain_text("Practice 1 of 9: Start the clock")
        expect(page.get_by_text("The simulated camera is filming this clip")).to_be_visible()
        self.work_once()
        self.until("document.querySelector('video')?.readyState >= 2")
        done = ["Who is on top", "A guard pass", "Half guard again", "An attempt", "Not held", None, "Your judgement"]
        keys = zip((4, 14, 30, 42, 50, 60, 62.2), ("c", "g", "s", "g", "Shift+N", "s", "g"), done, strict=True)
        for t, key, following in keys:
            page.get_by_label("Time in the footage").fill(str(t))
            page.keyboard.press(key)
            self.saved()
            if key == "g" and t == 14:
                expect(tour).to_contain_text("The three seconds")
                page.get_by_label("Time in the footage").fill("18")
            if following:
                expect(tour).to_contain_text(following)
        for key in (";", "1"):
            page.keyboard.press(key)
        expect(tour).to_contain_text("The end")
        page.get_by_label("Time in the footage").fill("70")
        page.keyboard.press("s")
        page.get_by_label("Time in the footage").fill("84")
        for key in ("Enter", "2", "Enter"):
            page.keyboard.press(key)
        expect(tour).to_contain_text("all done")
        self.saved()
        tour.get_by_role("button", name="See how close you came").click()
        expect(page.get_by_role("dialog")).to_contain_text("You logged 9 of 9 moments, and your score is what the clip")
        page.get_by_role("dialog").get_by_role("button", name="Practise again from the start").click()
        expect(tour).to_contain_text("Practice 1 of 9")
        page.get_by_role("link", name="Leave").click()
        expect(page.get_by_text("No matches yet")).to_be_visible()
        page.keyboard.press("?")
        page.get_by_role("button", name="Practise on a 90-second clip").click()
        expect(tour).to_be_visible()
        self.assertEqual(Clip.objects.filter(script=practice_log()).count(), 1)


class ManyClips(Journey):
    def test_a_day_of_clips_becomes_matches_with_a_click_each(self):
        short = filmed({**TRUTH, "observations": TRUTH["observations"][:1]})
        page = self.page
        self.sign_in()
        page.get_by_role("link", name="Several at once").click()
        page.get_by_label("Event", exact=True).fill("Dune Day")
        page.get_by_label("Clips", exact=True).set_input_files([self.footage, short])
        drafts = page.get_by_role("listitem").filter(has=page.get_by_role("group", name="Athlete"))
        expect(drafts).to_have_count(2)
        expect(drafts.first).to_contain_text("filmed")
        drafts.filter(has_text=short.name).get_by_label("Opponent (if you know)").fill("Enno Falk")
        drafts.filter(has_text=short.name).get_by_role("button", name="Ada Brenn").click()
        expect(page.get_by_text("Set up just now")).to_be_visible()
        expect(drafts).to_have_count(1)
        made = Match.objects.get()
        self.assertEqual(
            (made.opponent, made.event, made.clip.name, made.duration_ms),
            ("Enno Falk", "Dune Day", short.name, 360_000),
        )
        self.assertEqual(made.date, made.clip.filmed)
        page.get_by_role("link", name="Matches").click()
        page.get_by_role("link", name="clips without a match: 1").click()
        page.get_by_role("button", name=f"Delete {self.footage.name}").click()
        page.get_by_role("button", name="Delete the clip").click()
        expect(drafts).to_have_count(0)

    def test_two_matches_in_one_clip(self):
        first = self.at_desk()
        page = self.page
        page.get_by_label("Time in the footage").fill("12")
        page.get_by_role("button", name="Clips").click()
        page.get_by_role("button", name="to: the moment shown now").click()
        page.get_by_role("button", name="Apply").click()
        page.get_by_role("link", name="Another match in this clip, from 0:12").click()
        expect(page.get_by_label("This match is from")).to_have_value("0:12")
        expect(page.get_by_label("Your athlete")).to_have_value(str(self.athlete.pk))
        page.get_by_label("Opponent").fill("Enno Falk")
        page.get_by_role("button", name="Go to the desk").click()
        expect(page.get_by_test_id("footage-time")).to_have_text("0:12.000")
        page.keyboard.press("ArrowUp")  # no further back than its beginning
        expect(page.get_by_test_id("footage-time")).to_have_text(re.compile(r"0:(12\.0|11\.9)"))
        second = Match.objects.get(opponent="Enno Falk")
        self.assertEqual(second.clip, first.clip)
        self.assertEqual([(part.begin, part.start) for part in parts_of(second)], [(12_000, 0)])
        (part,) = parts_of(Match.objects.get(pk=first.pk))
        self.assertEqual(part.end, 12_000)


class SecondThoughts(Journey):
    def test_a_deleted_match_is_restored(self):
        match = self.match(TRUTH, with_clip=False)
        self.sign_in()
        page = self.page
        page.get_by_role("button", name="Delete").click()
        page.get_by_role("button", name="Delete the match").click()
        expect(page.get_by_text("No matches yet")).to_be_visible()
        page.get_by_role("link", name="Deleted matches").click()
        expect(page.get_by_text("can be restored until")).to_be_visible()
        page.get_by_role("button", name="Restore").click()
        expect(page.get_by_text("No match was deleted")).to_be_visible()
        page.get_by_role("link", name="Matches").click()
        expect(page.get_by_role("heading", name="Bo Calder")).to_be_visible()
        self.assertEqual(len(log_of(Match.objects.get(pk=match.pk))["observations"]), len(TRUTH["observations"]))


class Help(Journey):
    def test_every_screen_explains_itself(self):
        self.match(TRUTH, with_clip=False)
        page = self.page
        self.sign_in()
        expect(page.get_by_role("heading", name="Matches")).to_be_visible()
        for path, title in (
            ("/", "Your matches"),
            ("/rulebook/drill", "Rules drill"),
            ("/words", "Words of the sport"),
        ):
            page.goto(self.live_server_url + path)
            expect(page.get_by_role("button", name="Help")).to_be_visible()
            page.keyboard.press("?")
            expect(page.get_by_role("dialog")).to_contain_text(title)
            page.keyboard.press("Escape")
        page.get_by_label("Search the words").fill("hooks")
        expect(page.get_by_role("term")).to_have_text(["back control"])

    def test_the_desk_says_how_it_is_scored_and_prints_its_keys(self):
        self.at_desk(TRUTH, with_clip=False)
        page = self.page
        page.keyboard.press("?")
        with page.expect_download() as card:
            page.get_by_role("button", name="Key card (PDF)").click()
        self.assertEqual(card.value.path().read_bytes()[:5], b"%PDF-")
        page.get_by_role("button", name="How it is scored here").click()
        expect(page.get_by_role("dialog")).to_contain_text("Scored after 3 s of control")
        expect(page.get_by_role("dialog")).to_contain_text("licensed medical staff")
