"""Scoring at the desk, as a coach does it."""

from __future__ import annotations

from itertools import cycle

from playwright.sync_api import expect

from jurata_core.answers import score
from matches.logs import log_of
from matches.models import Match

from .base import TRUTH, Journey

KEYS = {"guard": "g", "side": "s", "mount": "m", "standing": "f"}


class Scoring(Journey):
    def log_with_keys(self, observation):
        """The keys a scorer presses for what the camera showed."""
        page, kind = self.page, observation["kind"]
        self.go_to(observation["t"])
        if kind == "clock":
            page.keyboard.press("Shift+C" if observation.get("restart") == "standing" else "c")
        elif kind == "position":
            key = KEYS[observation["position"]]
            page.keyboard.press(f"Shift+{key.upper()}" if observation.get("top") == "b" else key)
        elif kind == "pull":
            page.keyboard.press("Shift+P")
        elif kind == "submission":
            page.keyboard.press("Shift+X")
            page.keyboard.type(observation["technique"])
            page.keyboard.press("Enter")
            self.go_to(observation["until"])
            page.keyboard.press("l")
        elif kind == "foul":
            page.keyboard.press("Shift+V")
            page.keyboard.press("Tab")
            page.get_by_role("button", name="Log it").press("Enter")
        elif kind == "end":
            page.keyboard.press("Enter")
            page.keyboard.press("1")  # by time: with time left, nothing is chosen
            page.get_by_role("button", name="Log it").press("Enter")
        expect(page.get_by_role("heading", name="How it ended")).to_have_count(0)
        self.saved()

    def test_scoring_with_the_keyboard_gives_the_verdict_of_the_true_log(self):
        match = self.at_desk()
        for observation in TRUTH["observations"]:
            self.log_with_keys(observation)
        stored = log_of(Match.objects.get(pk=match.pk))
        found, true = score(stored), score(TRUTH)
        self.assertEqual((found["score"], found["result"]), (true["score"], true["result"]))
        self.assertEqual([row["because"] for row in found["ledger"]], [row["because"] for row in true["ledger"]])
        self.assertEqual(self.score(), [str(true["score"][side]["points"]) for side in "ab"])
        self.page.reload()
        expect(self.page.get_by_test_id("because")).to_contain_text(
            "Bo Calder won" if true["result"]["winner"] == "b" else "Ada Brenn won"
        )
        self.assertEqual(log_of(Match.objects.get(pk=match.pk)), stored)

    def test_the_count_fills_at_the_playhead(self):
        self.at_desk({**TRUTH, "observations": TRUTH["observations"][:4]})
        self.go_to(10.5)
        count = self.page.get_by_test_id("count")
        expect(count).to_contain_text("Guard pass")
        expect(count).to_contain_text("1.5 s")
        self.go_to(11.8)
        expect(count).to_contain_text("2.8 s")
        self.go_to(12)
        expect(count).to_contain_text("not held")

    def test_undo_redo_change_and_delete(self):
        match = self.at_desk({**TRUTH, "observations": TRUTH["observations"][:1]})
        page = self.page
        self.go_to(5)
        page.keyboard.press("m")
        self.saved()
        self.go_to(9)
        page.keyboard.press("n")
        self.saved()
        self.assertEqual(self.score(), ["6", "0"])
        for press, kinds in (
            ("z", ["clock", "position"]),
            ("z", ["clock"]),
            ("Shift+Z", ["clock", "position"]),
            ("Shift+Z", ["clock", "position", "attempt"]),
        ):
            page.keyboard.press(press)
            self.saved()
            self.assertEqual([seen["kind"] for seen in log_of(match)["observations"]], kinds)
        spine = page.get_by_test_id("spine")
        spine.get_by_role("button", name="0:05.000 Mount").click()
        spine.get_by_role("button", name="Change").click()
        page.get_by_role("radio", name="opponent").click()
        page.get_by_role("button", name="Save").click()
        self.saved()
        self.assertEqual(log_of(match)["observations"][1]["top"], "b")
        spine.get_by_role("button", name="Delete").click()
        self.saved()
        self.assertEqual([seen["kind"] for seen in log_of(match)["observations"]], ["clock", "attempt"])

    def test_a_hold_lasts_until_it_is_let_go(self):
        match = self.at_desk({**TRUTH, "observations": TRUTH["observations"][:2]})
        page = self.page
        self.go_to(5)
        page.keyboard.press("w")
        page.keyboard.press("w")  # pressed again, it asks which one
        page.get_by_label("Grip", exact=True).last.fill("collar")
        page.keyboard.press("Enter")
        self.saved()
        self.go_to(7.5)
        page.keyboard.press("l")
        self.saved()
        self.assertEqual(log_of(match)["observations"][-1]["until"], 7.5)
        expect(page.get_by_test_id("spine")).to_contain_text("for 2.5 s")

    def test_unsure_is_one_key_there_and_back(self):
        match = self.at_desk({**TRUTH, "observations": TRUTH["observations"][:2]})
        self.go_to(4)
        for sure in (False, True):
            self.page.keyboard.press("u")
            self.saved()
            self.assertEqual(log_of(match)["observations"][1]["sure"], sure)

    def test_again_from_before_the_last_observation_slowly(self):
        self.at_desk({**TRUTH, "observations": TRUTH["observations"][:3]})
        self.go_to(12)
        self.page.keyboard.press("a")
        self.until("document.querySelector('video').playbackRate === 0.5")
        self.until("(t => t >= 5 && t < 9)(document.querySelector('video').currentTime)")

    def test_a_clicked_row_gives_the_keys_back(self):
        """Space plays after a click on an exchange; it does not press the row again."""
        self.at_desk(TRUTH)
        self.page.get_by_role("button", name="0:02").click()
        self.page.keyboard.press("Space")
        expect(self.page.get_by_role("button", name="Pause")).to_be_visible()

    def test_the_legend_names_every_key_and_closes(self):
        self.at_desk(with_clip=False)
        self.page.keyboard.press("?")
        legend = self.page.get_by_role("dialog", name="Help: the desk and its keys")
        for words in ("guard, on top", "submission or grip released now", "undo (Shift: redo)"):
            expect(legend).to_contain_text(words)
        self.page.keyboard.press("Escape")
        expect(legend).to_have_count(0)

    def test_why_nothing_was_scored_is_said(self):
        pulled = [
            *TRUTH["observations"][:1],
            {"t": 3, "kind": "pull", "by": "b"},
            {"t": 3, "kind": "position", "position": "guard", "top": "a"},
        ]
        self.at_desk({**TRUTH, "observations": pulled})
        self.go_to(4)
        expect(self.page.get_by_test_id("spine")).to_contain_text("because Bo Calder pulled guard: no takedown")

    def test_with_the_mouse_alone(self):
        match = self.at_desk(with_clip=False)
        page = self.page
        page.get_by_role("button", name="Start clock").click()
        page.get_by_role("button", name="One second forward").click(click_count=4)
        pad = page.get_by_role("group", name="Opponent on top")
        pad.get_by_role("button", name="Side control", exact=False).click()
        self.saved()
        expect(pad.get_by_role("button", name="Side control", exact=False)).to_contain_text("now")
        body = log_of(match)["observations"][1]
        self.assertEqual((body["position"], body["top"], body["t"]), ("side", "b", 4))

    def test_an_illegal_technique_is_marked_before_it_is_logged(self):
        self.at_desk({**TRUTH, "observations": TRUTH["observations"][:2]})
        self.page.keyboard.press("x")
        self.page.keyboard.type("inverted heel")
        offered = self.page.get_by_role("listbox", name="Techniques")
        expect(offered.get_by_role("option").first).to_contain_text("illegal here")
        expect(self.page.get_by_role("form")).to_contain_text("is a variant of Heel hook")
        self.page.keyboard.press("Enter")
        expect(self.page.get_by_test_id("because")).to_contain_text("Ada Brenn is disqualified")


class NothingIsLost(Journey):
    def test_what_is_logged_while_the_server_is_gone_is_sent_when_it_is_back(self):
        match = self.at_desk({**TRUTH, "observations": TRUTH["observations"][:1]})
        page = self.page
        page.route("**/api/matches/**", lambda route: route.abort())
        for t, key in ((3, "g"), (9, "s"), (15, "m")):
            self.go_to(t)
            page.keyboard.press(key)
        expect(page.get_by_test_id("save-state")).to_contain_text("3 changes not saved yet")
        expect(page.get_by_text("clock stopped")).to_have_count(0)
        expect(page.get_by_text("not saved yet").first).to_be_visible()
        self.assertEqual(len(log_of(match)["observations"]), 1)
        page.unroute("**/api/matches/**")
        self.saved()
        logged = [(seen.get("position"), seen["t"]) for seen in log_of(match)["observations"]]
        self.assertEqual(logged, [(None, 1), ("guard", 3), ("side", 9), ("mount", 15)])

    def test_keys_pressed_before_the_first_is_answered_go_to_what_it_logged(self):
        match = self.at_desk({**TRUTH, "observations": TRUTH["observations"][:1]})
        page = self.page

        def slowly(route):
            page.wait_for_timeout(400)
            route.continue_()

        page.route("**/observations/**", slowly)
        self.go_to(3)
        for key in ("g", "u", "2"):
            page.keyboard.press(key)
        expect(page.get_by_text("not saved yet").first).to_be_visible()
        self.saved()
        logged = log_of(match)["observations"][-1]
        self.assertEqual((logged["position"], logged["sure"], logged["doubt"]), ("guard", False, "out_of_frame"))
        self.go_to(9)
        for key in ("s", "z"):
            page.keyboard.press(key)
        self.saved()
        self.assertEqual([seen["t"] for seen in log_of(match)["observations"]], [1, 3])

    def test_an_answer_that_is_lost_on_the_way_stores_nothing_twice(self):
        match = self.at_desk({**TRUTH, "observations": TRUTH["observations"][:1]})
        lost = []

        def deliver_but_lose_the_first_answer(route):
            if not lost:
                lost.append(route.fetch())
                route.abort()
            else:
                route.continue_()

        self.page.route("**/observations/**", deliver_but_lose_the_first_answer)
        self.go_to(3)
        self.page.keyboard.press("g")
        expect(self.page.get_by_test_id("save-state")).to_contain_text("1 change not saved yet")
        self.saved()
        self.assertEqual(match.observations.count(), 2)

    def test_what_the_server_refuses_can_be_corrected(self):
        match = self.at_desk(with_clip=False)
        self.page.keyboard.press("c")
        self.page.keyboard.press("Shift+F")
        self.page.get_by_role("button", name="Log it").click()
        alert = self.page.get_by_role("alert")
        expect(alert).to_contain_text("give points, advantages or penalties")
        self.page.get_by_role("button", name="Correct it").click()
        self.page.get_by_role("spinbutton", name="Points").fill("2")
        self.page.get_by_role("button", name="Save").click()
        self.saved()
        self.assertEqual(log_of(match)["observations"][1]["points"], 2)

    def test_a_change_at_which_the_server_fails_is_set_aside_and_the_others_go_on(self):
        match = self.at_desk()
        page = self.page
        tried = []

        def fail_at_the_guard(route):
            if '"guard"' in (route.request.post_data or ""):
                tried.append(1)
                route.fulfill(status=500, json={})
            else:
                route.continue_()

        page.route("**/observations/**", fail_at_the_guard)
        page.keyboard.press("c")
        page.keyboard.press("g")
        page.keyboard.press("s")
        aside = page.get_by_test_id("set-aside")
        expect(aside).to_contain_text("is not saved. It is kept here")
        self.saved()
        self.assertEqual([one["kind"] for one in log_of(match)["observations"]], ["clock", "position"])
        page.reload()  # it is kept over a reload
        expect(aside).to_contain_text("is not saved")
        page.unroute("**/observations/**")
        aside.get_by_role("button", name="Send it again").click()
        expect(aside).to_have_count(0)
        self.saved()
        self.assertEqual(len(log_of(match)["observations"]), 3)
        self.assertEqual(len(tried), 3)

    def test_too_many_requests_drop_nothing(self):
        """A proxy in between may answer so; it says nothing of the change."""
        match = self.at_desk()
        answers = cycle([429, 503])
        self.page.route("**/observations/**", lambda route: route.fulfill(status=next(answers), body="slow down"))
        self.page.keyboard.press("c")
        expect(self.page.get_by_test_id("save-state")).to_contain_text("kept in this browser")
        self.page.unroute("**/observations/**")
        self.saved()
        self.assertEqual(len(log_of(match)["observations"]), 1)

    def test_a_browser_that_keeps_nothing_says_so(self):
        self.page.add_init_script(
            "IDBObjectStore.prototype.put = () => { throw new DOMException('full', 'QuotaExceededError'); };"
        )
        self.at_desk()
        self.page.route("**/observations/**", lambda route: route.abort())
        self.page.keyboard.press("c")
        state = self.page.get_by_test_id("save-state")
        expect(state).to_contain_text("this browser has no room to keep them. Leave this page open.")
        self.page.unroute("**/observations/**")
        self.saved()
