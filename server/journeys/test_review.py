"""The evening after: what cost the match, where it began, and what the athlete gets to see of it."""

from __future__ import annotations

import re

from playwright.sync_api import expect

from reviews.actions import remark
from reviews.models import Answer, Note, Remark, Tick
from reviews.queries import reviewed

from .base import TRUTH, Journey

#: Swept under a grip, passed, and a pass of one's own not held.
FOUGHT = {
    **TRUTH,
    "observations": [
        {"t": 1, "kind": "clock", "action": "start"},
        {"t": 2, "kind": "pull", "by": "b"},
        {"t": 2, "kind": "position", "position": "guard", "top": "a"},
        {"t": 2.5, "kind": "grip", "by": "b", "grip": "cross collar", "until": 23.5},
        {"t": 20, "kind": "position", "position": "guard", "top": "b"},
        {"t": 24, "kind": "position", "position": "side", "top": "b"},
        {"t": 25, "kind": "call", "to": "b", "points": 2},
        {"t": 26, "kind": "end", "how": "time"},
    ],
}
LONG_S = 20_000
"""Milliseconds that the worker's work or the reckoning of the chance may take on a loaded machine."""


class Review(Journey):
    def at_review(self, part="errors", log=FOUGHT):
        match = self.match(log)
        self.sign_in(f"/matches/{match.pk}/review?part={part}")
        expect(self.page.get_by_role("tab", selected=True)).to_be_visible()
        self.until("document.querySelector('video')?.readyState >= 1")
        return match

    def error(self, title):
        return self.page.get_by_role("article", name=title, exact=True)

    def test_a_chain_is_played_looked_at_and_accepted_by_one_key(self):
        match = self.at_review()
        page = self.page
        grip = self.error("Cross collar grip not broken for 21 s")
        expect(grip.get_by_role("list", name="What it led to")).to_contain_text("Sweep conceded")
        expect(grip).to_contain_text("It came under that grip of Bo Calder.")
        page.keyboard.press("j")
        page.keyboard.press("p")
        self.until("document.querySelector('video').currentTime > 0.5 && !document.querySelector('video').paused")
        page.keyboard.press("e")
        expect(grip.locator("dl")).to_contain_text("The result without it")
        page.get_by_role("button", name="frames").click()
        expect(page.get_by_role("button", name="frames")).to_have_attribute("aria-pressed", "true")
        page.keyboard.press("a")
        expect(grip).to_contain_text("in the report")
        rows = {row.key.split("-")[0]: row for row in Remark.objects.filter(match=match)}
        self.assertEqual({row.standing for row in rows.values()}, {"accepted"})
        self.assertEqual(rows["grip_unbroken"].causes, ["frames"])
        self.assertTrue(rows["taken"].came_from.startswith("grip_unbroken"))
        # On the line of the match the one says that it came from the other.
        page.get_by_role("tab", name="The match").click()
        self.until("document.querySelectorAll('[data-error]').length >= 3")
        expect(page.locator("[data-error]", has_text="from 0:01 Cross collar grip not broken").first).to_be_visible()

    def test_an_error_is_cut_from_its_chain_and_linked_again(self):
        match = self.at_review()
        page = self.page
        page.get_by_role("button", name=re.compile("Sweep conceded")).first.click()
        expect(page.locator("dl")).to_contain_text(re.compile(r"\d+% afterwards"))
        page.get_by_role("button", name="No, a root cause").click()
        expect(self.error("Sweep conceded")).to_be_visible()
        page.get_by_label("Caused by").select_option(label="0:01 Cross collar grip not broken for 21 s")
        expect(self.error("Sweep conceded")).to_have_count(0)
        row = Remark.objects.get(match=match, key__startswith="taken")
        self.assertEqual((row.root, row.came_from.split("-")[0]), (False, "grip_unbroken"))

    def test_dismissed_by_one_key_taken_back_by_another_and_offered_to_be_turned_down(self):
        self.at_review()
        page = self.page
        grip = self.error("Cross collar grip not broken for 21 s")
        page.keyboard.press("j")
        page.keyboard.press("x")
        expect(grip).to_have_count(0)
        expect(page.get_by_text("Dismissed: Cross collar grip not broken for 21 s.")).to_be_visible()
        page.keyboard.press("z")
        expect(grip).to_be_visible()
        for _ in range(2):
            other = self.match(FOUGHT)
            key = next(error.key for error in reviewed(other).review.errors if error.kind == "grip_unbroken")
            remark(other, key, {"standing": "dismissed"})
        page.reload()
        expect(grip).to_be_visible()
        page.keyboard.press("j")
        page.keyboard.press("x")
        expect(page.get_by_text("You have dismissed Grip not broken 3 of 3 times.")).to_be_visible()
        page.get_by_role("button", name="Show it only from 25 s on").click()
        expect(page.get_by_text("You have dismissed")).to_have_count(0)
        page.get_by_role("link", name="What the review looks for").click()
        row = page.get_by_role("listitem").filter(has_text="Grip not broken")
        expect(row.get_by_label("only from")).to_have_value("25")
        row.get_by_role("checkbox").uncheck()
        expect(row.get_by_label("only from")).to_be_disabled()
        with page.expect_response("**/api/kinds"):
            page.reload()
        expect(row.get_by_role("checkbox")).not_to_be_checked()

    def test_reworded_dismissed_and_one_of_ones_own(self):
        match = self.at_review()
        page = self.page
        grip = "Cross collar grip not broken for 21 s"
        self.error(grip).get_by_role("button", name="Details").click()
        page.get_by_role("button", name="Reword").click()
        page.get_by_label("What happened, in a few words").fill("Base too narrow")
        page.get_by_role("button", name="Save", exact=True).click()
        expect(self.error("Base too narrow")).to_contain_text("reworded")
        self.error("Base too narrow").get_by_role("button", name=re.compile("^Dismiss ?:")).click()
        expect(self.error("Base too narrow")).to_have_count(0)
        page.get_by_text("1 dismissed").click()
        page.get_by_role("button", name="Restore", exact=True).click()
        expect(self.error("Base too narrow")).to_be_visible()

        page.get_by_role("button", name="Add an error you saw").click()
        page.get_by_role("button", name="Save", exact=True).click()
        expect(page.get_by_role("alert")).to_contain_text("title")
        page.get_by_label("What happened, in a few words").fill("Looked at the bench")
        page.get_by_label("Points lost").fill("1")
        page.get_by_role("button", name="Save", exact=True).click()
        expect(self.error("Looked at the bench")).to_contain_text("1 point")
        page.reload()
        expect(self.error("Looked at the bench")).to_contain_text("added by you")
        self.assertEqual(match.remarks.filter(own=True).count(), 1)

    def test_all_marks_of_one_cause_are_played_one_after_the_other(self):
        said = {"kind": "mark", "on": "a", "cause": "head"}
        marks = [{"t": 3, **said, "text": "Head low"}, {"t": 12, **said, "good": True, "text": "Head up"}]
        log = {**FOUGHT, "observations": sorted([*FOUGHT["observations"], *marks], key=lambda one: one["t"])}
        self.at_review(log=log)
        page = self.page
        expect(page.get_by_role("region", name="Your marks")).to_contain_text("well: Head up")
        page.get_by_role("button", name="Play all 2 marked head").click()
        # The first ends at 5; from there it goes on to the second, which is shown from 8.
        self.until("document.querySelector('video').currentTime > 7.9")
        self.until("document.querySelector('video').paused && document.querySelector('video').currentTime >= 13.9")

    def test_the_chance_and_what_was_still_enough_follow_the_playhead(self):
        self.at_review()
        page = self.page
        now = page.get_by_test_id("now")
        expect(now).to_contain_text("to win", timeout=LONG_S)
        page.get_by_role("button", name=re.compile("Sweep conceded")).first.click()
        page.get_by_role("button", name="Play just this").click()
        self.until("document.querySelector('video').currentTime > 24")
        expect(now).to_contain_text("0–2, behind by 2 points")
        expect(now).to_contain_text("too late")
        figure = page.get_by_role("figure", name="Chance to win over the match")
        expect(figure).to_contain_text("Estimated from your one scored match")
        expect(figure).to_contain_text("The pale band is the 80% range", timeout=2 * LONG_S)
        figure.get_by_role("button", name="Sweep conceded").click()
        expect(page.get_by_role("button", name="Accept just this")).to_be_visible()

    def test_officials_and_other_rules(self):
        self.at_review("officials")
        page = self.page
        expect(page.get_by_role("listitem").filter(has_text="We scored 1 advantage to Bo Calder").first).to_be_visible()
        expect(page.get_by_role("heading", name="To ask at the event")).to_be_visible()
        page.get_by_role("tab", name="Under other rules").click()
        page.get_by_label("The same match under").select_option("submission-only")
        expect(page.get_by_text("gives nothing for this").first).to_be_visible()
        expect(page.get_by_role("heading", name=re.compile("differences?"))).to_be_visible()

    def test_a_note_with_marks_on_the_paused_picture(self):
        match = self.at_review("notes")
        page = self.page
        page.get_by_label("A note at").fill("Elbow inside")
        page.get_by_role("button", name="Arrow").click()
        picture = page.get_by_test_id("picture")
        box = picture.bounding_box()
        page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
        page.mouse.down()
        page.mouse.move(box["x"] + box["width"] / 4, box["y"] + box["height"] / 4, steps=4)
        page.mouse.up()
        page.get_by_role("button", name="Point", exact=True).click()
        page.mouse.click(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
        page.get_by_role("button", name="Save the note").click()
        expect(page.get_by_role("list", name="Notes")).to_contain_text("Elbow inside (2 marked)")
        note = Note.objects.get(match=match)
        arrow, point = note.marks
        # In the pixels of the clip, however large it is drawn.
        middle = (match.clip.width / 2, match.clip.height / 2)
        for mark, (x, y) in ((arrow, (arrow["x"], arrow["y"])), (point, (point["x"], point["y"]))):
            self.assertLess(abs(x - middle[0]) + abs(y - middle[1]), 4, mark)
        self.assertLess(abs(arrow["to_x"] - middle[0] / 2) + abs(arrow["to_y"] - middle[1] / 2), 4)
        page.get_by_role("button", name="Delete").click()
        expect(page.get_by_text("No notes yet")).to_be_visible()

    def test_the_report_goes_by_link_to_a_phone_and_comes_back_answered(self):
        match = self.at_review("send")
        page = self.page
        expect(page.get_by_test_id("in-report")).to_contain_text("accept errors to put them there")
        for error in reviewed(match).review.errors:
            remark(match, error.key, {"standing": "accepted"})
        page.reload()
        expect(page.get_by_test_id("in-report")).to_contain_text("Guard pass")
        page.get_by_label("To Ada Brenn").fill("Chin up.")
        page.get_by_role("button", name="Save").click()
        expect(page.get_by_role("button", name="Saved")).to_be_visible()
        page.get_by_role("button", name=re.compile("missing")).click()
        expect(page.get_by_role("progressbar").first).to_be_visible()
        self.work_once()
        expect(page.get_by_role("link", name="Save, with captions").first).to_be_visible(timeout=LONG_S)
        page.get_by_role("button", name="Create link").click()
        link = page.get_by_label("The link").input_value()

        phone = self.browser.new_context(viewport={"width": 390, "height": 844}).new_page()
        self.addCleanup(phone.context.close)
        phone.goto(link)
        expect(phone.get_by_text("Chin up.")).to_be_visible()
        self.assertEqual(phone.evaluate("document.documentElement.scrollWidth"), 390)
        self.until("document.querySelector('video')?.readyState >= 1", phone)
        self.until("document.querySelector('video track')?.track.cues?.length >= 1", phone)
        phone.get_by_role("checkbox").first.check()
        phone.get_by_role("button", name="Reply on").first.click()
        phone.get_by_label("Reply on").first.fill("I froze.")
        phone.get_by_role("button", name="Send to your coach").first.click()
        expect(phone.get_by_role("paragraph").filter(has_text="I froze.")).to_be_visible()
        self.assertEqual((Answer.objects.get().match, Tick.objects.count()), (match, 1))

        page.reload()
        expect(page.get_by_text("I froze.")).to_be_visible()
        page.get_by_role("button", name="Revoke").click()
        expect(page.get_by_text("revoked")).to_be_visible()
        phone.reload()
        expect(phone.get_by_role("heading", name="This link no longer works")).to_be_visible()
        expect(phone.get_by_text("Ada Brenn")).to_have_count(0)

    def test_it_is_read_on_a_phone(self):
        self.page.set_viewport_size({"width": 390, "height": 844})
        match = self.at_review()
        for part in ("errors", "match", "officials", "rules", "notes", "send"):
            self.page.goto(f"{self.live_server_url}/matches/{match.pk}/review?part={part}")
            expect(self.page.get_by_role("tab", selected=True)).to_be_visible()
            self.assertEqual(self.page.evaluate("document.documentElement.scrollWidth"), 390, part)

    def test_without_footage_and_without_a_log(self):
        match = self.match(None, with_clip=False)
        self.sign_in(f"/matches/{match.pk}/review")
        expect(self.page.get_by_text("The log shows no errors by your athlete.")).to_be_visible()
        for part in ("match", "officials", "rules", "notes", "send"):
            self.page.goto(f"{self.live_server_url}/matches/{match.pk}/review?part={part}")
            expect(self.page.get_by_role("tab", selected=True)).to_be_visible()
            expect(self.page.get_by_role("alert")).to_have_count(0)
