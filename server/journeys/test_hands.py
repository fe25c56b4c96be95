"""Nothing typed is lost, whoever else has a hand in the log."""

from __future__ import annotations

from django.contrib.auth.models import User
from playwright.sync_api import expect

from clubs.actions import join
from clubs.models import Role
from jurata_core.answers import score
from matches.logs import log_of
from matches.models import Match

from .base import PASSWORD, TRUTH, Journey

BEGIN = {**TRUTH, "observations": TRUTH["observations"][:2]}
OBSERVATIONS = "**/api/matches/*/observations/**"


class Hands(Journey):
    def setUp(self):
        super().setUp()
        self.page.on("dialog", lambda dialog: dialog.accept())

    def another_tab(self, match):
        page = self.page.context.new_page()
        self.addCleanup(page.close)
        page.goto(f"{self.live_server_url}/matches/{match.pk}")
        expect(page.get_by_test_id("because")).to_be_visible()
        return page

    def open_exchange(self, page):
        page.get_by_test_id("spine").get_by_role("button", name="0:02").click()
        page.get_by_test_id("spine").get_by_role("button", name="0:03.000 Guard").click()

    def test_two_tabs_see_each_other(self):
        match = self.at_desk(BEGIN, with_clip=False)
        other = self.another_tab(match)
        self.page.get_by_label("Time in the footage").fill("10")
        self.page.keyboard.press("m")
        self.saved()
        expect(other.get_by_role("img", name="points", exact=False).first).to_have_text("2")

    def test_two_hands_on_one_observation_are_shown_not_overwritten(self):
        match = self.at_desk(BEGIN, with_clip=False)
        other = self.another_tab(match)
        for page in (self.page, other):
            self.open_exchange(page)
        other.route("**/api/**", lambda route: route.abort())
        self.page.keyboard.press("Alt+Shift+ArrowRight")
        self.saved()
        other.keyboard.press("u")
        expect(other.get_by_test_id("save-state")).to_contain_text("1 change not saved yet")
        other.unroute("**/api/**")
        conflict = other.get_by_test_id("conflict")
        expect(conflict).to_contain_text("There: Guard at 0:04.000. Here: Guard at 0:03.000.")
        self.assertEqual(log_of(match)["observations"][1]["t"], 4)
        conflict.get_by_role("button", name="Use mine").click()
        self.saved(other)
        mine = log_of(match)["observations"][1]
        self.assertEqual((mine["t"], mine["sure"]), (3, False))

    def test_what_was_not_sent_survives_a_reload_and_a_closed_tab(self):
        match = self.at_desk(BEGIN, with_clip=False)
        other = self.another_tab(match)
        for page, t, key in ((self.page, "10", "m"), (other, "12", "f")):
            page.route(OBSERVATIONS, lambda route: route.abort())
            page.get_by_label("Time in the footage").fill(t)
            page.keyboard.press(key)
            expect(page.get_by_test_id("save-state")).to_contain_text("1 change not saved yet")
        other.close()
        self.page.unroute(OBSERVATIONS)
        self.page.reload()
        self.saved()
        self.until("document.querySelectorAll('[data-testid=because]').length === 1")
        for _ in range(100):
            if len(log_of(match)["observations"]) == 4:
                break
            self.page.wait_for_timeout(50)
        logged = sorted((seen["t"], seen.get("position")) for seen in log_of(match)["observations"])
        self.assertEqual(logged, [(1, None), (3, "guard"), (10, "mount"), (12, "standing")])

    def test_undo_and_redo_outlive_a_reload(self):
        match = self.at_desk(BEGIN, with_clip=False)
        self.page.get_by_label("Time in the footage").fill("10")
        self.page.keyboard.press("m")
        self.saved()
        for key, count in (("z", 2), ("Shift+Z", 3)):
            self.page.reload()
            expect(self.page.get_by_role("button", name="Undo" if key == "z" else "Redo")).to_be_enabled()
            self.page.keyboard.press(key)
            self.saved()
            self.assertEqual(len(log_of(match)["observations"]), count)

    def test_a_change_far_from_the_picture_is_asked_about(self):
        match = self.at_desk(BEGIN, with_clip=False)
        self.open_exchange(self.page)
        self.page.get_by_label("Time in the footage").fill("25")
        self.page.keyboard.press("Delete")
        far = self.page.get_by_test_id("far")
        expect(far).to_contain_text("You deleted Guard at 0:03.000, but the video is at 0:25.000")
        far.get_by_role("button", name="Undo it").click()
        expect(far).to_have_count(0)
        self.saved()
        self.assertEqual(len(log_of(match)["observations"]), 2)
        self.page.keyboard.press("m")
        self.saved()
        expect(far).to_have_count(0)

    def test_quiet_stretches_are_one_row(self):
        quiet = [{"t": 4 + n, "kind": "clock", "action": "start" if n % 2 else "stop"} for n in range(8)]
        self.at_desk({**BEGIN, "observations": [*BEGIN["observations"][:1], *quiet]}, with_clip=False)
        rows = self.page.get_by_test_id("spine").get_by_role("listitem")
        folded = self.page.get_by_role("button", name="exchanges without a score")
        expect(folded).to_be_visible()
        before = rows.count()
        folded.click()
        expect(folded).to_have_count(0)
        self.assertGreater(rows.count(), before)

    def test_the_history_puts_things_back(self):
        match = self.at_desk(BEGIN, with_clip=False)
        self.open_exchange(self.page)
        self.page.keyboard.press("Delete")
        self.saved()
        self.assertEqual(len(log_of(match)["observations"]), 1)
        self.page.get_by_role("button", name="History").click()
        history = self.page.get_by_role("dialog", name="History")
        expect(history).to_contain_text("Deleted Guard at 0:03.000")
        history.get_by_role("button", name="Restore").click()
        self.page.get_by_role("button", name="Back to the desk").click()
        self.saved()
        self.assertEqual(score(log_of(match))["score"], score(BEGIN)["score"])

    def test_a_key_can_be_changed_and_is_kept(self):
        match = self.at_desk(BEGIN, with_clip=False)
        self.page.keyboard.press("?")
        self.page.get_by_role("button", name="Change the key for mount").click()
        self.page.keyboard.press("g")
        expect(self.page.get_by_role("button", name="Change the key for guard, on top")).to_have_text("m")
        self.page.reload()
        expect(self.page.get_by_test_id("because")).to_be_visible()
        self.page.get_by_label("Time in the footage").fill("10")
        expect(self.page.get_by_role("button", name="Mount").first).to_contain_text("g")
        self.page.keyboard.press("g")
        self.saved()
        self.assertEqual(log_of(match)["observations"][-1]["position"], "mount")


class Setting(Journey):
    def test_a_setting_is_changed_with_its_effect_shown_first(self):
        match = self.at_desk(TRUTH, with_clip=False)
        page = self.page
        page.get_by_role("button", name="Settings").click()
        dialog = page.get_by_role("dialog", name="Match settings")
        expect(dialog.get_by_role("button", name="Nothing changed")).to_be_disabled()
        dialog.get_by_label("Event", exact=True).fill("Dune Day, day two")
        expect(dialog.get_by_text("The score stays as it is.")).to_be_visible()
        dialog.get_by_label("Ruleset").select_option("submission-only")
        effect = dialog.get_by_label("What this changes")
        expect(effect).to_contain_text("Then: 0–0, advantages 0–0")
        expect(effect).to_contain_text("No longer")
        match.refresh_from_db()
        self.assertEqual(match.ruleset, "full-points")
        dialog.get_by_role("button", name="Save").click()
        expect(dialog).to_have_count(0)
        expect(page.get_by_text("Submission only", exact=False).first).to_be_visible()
        match.refresh_from_db()
        self.assertEqual((match.ruleset, match.event), ("submission-only", "Dune Day, day two"))

    def test_the_next_round_begins_with_the_same_setting(self):
        match = self.at_desk(TRUTH, with_clip=False)
        page = self.page
        page.get_by_role("button", name="Settings").click()
        page.get_by_role("link", name="Set up the next round").click()
        expect(page.get_by_role("heading", level=1)).to_have_text("New match")
        expect(page.get_by_label("Your athlete")).to_have_value(str(match.athlete_id))
        expect(page.get_by_label("Event", exact=True)).to_have_value(match.event)
        expect(page.get_by_label("Opponent")).to_have_value("")
        page.get_by_label("Opponent").fill("Ines Varr")
        page.get_by_role("button", name="Go to the desk").click()
        expect(page.get_by_test_id("save-state")).to_be_attached()
        made = Match.objects.get(opponent="Ines Varr")
        self.assertEqual((made.ruleset, made.belt, made.duration_ms), (match.ruleset, match.belt, match.duration_ms))


class SecondScorer(Journey):
    def test_a_blind_second_score_is_laid_beside_the_first(self):
        join(self.club, User.objects.create_user("ines", password=PASSWORD, first_name="Ines"), Role.SCORER)
        match = self.at_desk(TRUTH)
        page = self.page
        page.get_by_role("button", name="People").click()
        page.get_by_label("Second score by").select_option("Ines")
        page.get_by_role("button", name="Ask").click()
        expect(page.get_by_role("dialog")).to_contain_text("invited, not started")

        blind = self.browser.new_context(viewport={"width": 1280, "height": 800}).new_page()
        self.addCleanup(blind.close)
        blind.goto(self.live_server_url)
        blind.get_by_label("Name").fill("ines")
        blind.get_by_label("Password").fill(PASSWORD)
        blind.get_by_role("button", name="Sign in").click()
        blind.get_by_role("link", name="Score it").click()
        expect(blind.get_by_text("Nothing logged yet")).to_be_visible()
        for t, key in (("1", "c"), ("3", "g"), ("9", "f")):
            blind.get_by_label("Time in the footage").fill(t)
            blind.keyboard.press(key)
            self.saved(blind)
        blind.get_by_role("button", name="Submit").click()
        blind.get_by_role("button", name="Submit my score").click()
        blind.get_by_role("link", name="See both side by side").click()
        expect(blind.get_by_test_id("line").first).to_contain_text("both")
        expect(blind.get_by_text("first scorer only").first).to_be_visible()
        second = Match.objects.get(second_of=match)
        page.goto(f"{self.live_server_url}/matches/{match.pk}/seconds/{second.pk}")
        expect(page.get_by_role("heading", name="How well they agree")).to_be_visible()
