"""The scoreboard in the picture: marked once, read by the worker, taken into the log, and held against the score."""

from __future__ import annotations

from typing import Any

from playwright.sync_api import expect

from boards.tests.base import around, boxes_of
from footage.tests.base import filmed
from matches.logs import log_of
from matches.models import Match

from .base import Journey

KIND = "tilted"
HIDDEN_STOP, HIDDEN_START = 25.0, 28.0
#: Two stops, of which somebody stands before the second one, and calls before and after.
FILM: dict[str, Any] = {
    "format": "jurata-match/3",
    "ruleset": "full-points",
    "duration": 300,
    "division": {"age": 24, "belt": "blue", "attire": "gi"},
    "board": KIND,
    "observations": [
        {"t": 2, "kind": "clock", "action": "start"},
        {"t": 5, "kind": "position", "position": "guard", "top": "a"},
        {"t": 9.4, "kind": "call", "to": "a", "points": 2},
        {"t": 12.6, "kind": "clock", "action": "stop"},
        {"t": 16.2, "kind": "clock", "action": "start"},
        {"t": HIDDEN_STOP, "kind": "clock", "action": "stop"},
        {"t": HIDDEN_START, "kind": "clock", "action": "start"},
        {"t": 37, "kind": "call", "to": "b", "advantages": 1},
        {"t": 40, "kind": "exchange"},
    ],
}

#: The same board for a few seconds: enough to mark it.
SHORT = {**FILM, "observations": [FILM["observations"][0], {"t": 6, "kind": "exchange"}]}


class Board(Journey):
    def in_picture(self, x: float, y: float) -> tuple[float, float]:
        """Where a point of the picture, in shares of it, lies on the page."""
        box = self.page.evaluate(
            """() => { const video = document.querySelector('video'), box = video.getBoundingClientRect();
            const scale = Math.min(box.width / video.videoWidth, box.height / video.videoHeight);
            const [width, height] = [video.videoWidth * scale, video.videoHeight * scale];
            return [box.left + (box.width - width) / 2, box.top + (box.height - height) / 2, width, height]; }"""
        )
        return box[0] + x * box[2], box[1] + y * box[3]

    def drag(self, start, end):
        mouse = self.page.mouse
        mouse.move(*self.in_picture(*start))
        mouse.down()
        mouse.move(*self.in_picture(*end), steps=10)
        mouse.up()

    def at_own_clip(self, film: dict[str, Any]) -> Match:
        """A match of one's own, with a clip that was uploaded."""
        page = self.page
        match = self.match(with_clip=False)
        Match.objects.filter(pk=match.pk).update(duration_ms=300_000)
        self.sign_in(f"/matches/{match.pk}")
        page.get_by_label("Upload a clip").set_input_files(filmed(film))
        self.until("document.querySelector('video')?.readyState >= 2")
        self.work_once()  # what is made of every clip
        page.reload()
        self.until("document.querySelector('video')?.readyState >= 2")
        return match

    def test_from_the_upload_to_the_audit(self):
        page = self.page
        match = self.at_own_clip(FILM)
        page.get_by_role("button", name="Read it").click()
        page.get_by_role("button", name="Whole scoreboard").click()
        corners = around(KIND)
        self.drag(corners[0], corners[2])
        shows = page.get_by_test_id("shows")
        expect(shows).to_have_text(["5:00", "0", "0", "0", "0", "0", "0"])
        self.fine_tune()
        page.get_by_role("button", name="Read the clip").click()
        expect(page.get_by_text("Reading the scoreboard")).to_be_visible()
        self.work_once()
        expect(page.get_by_role("button", name="Take all 7")).to_be_visible()
        expect(page.get_by_test_id("ghost")).to_have_count(7)
        self.take_all()
        self.score_it(match)
        self.see_the_audit(match)

    def fine_tune(self):
        """A corner is moved by keys, and what the box shows is read again."""
        page = self.page
        corner = page.get_by_role("button", name="Clock, top left corner")
        corner.focus()
        before = float(corner.get_attribute("cx"))
        with page.expect_response("**/look"):
            page.keyboard.press("ArrowLeft")
        self.assertAlmostEqual(float(corner.get_attribute("cx")), before - 1, delta=0.1)
        expect(page.get_by_test_id("shows").first).to_have_text("5:00")

    def take_all(self):
        page = self.page
        page.get_by_role("button", name="Take all 7").click()
        self.saved()
        expect(page.get_by_text("The log agrees with the scoreboard.")).to_be_visible()
        expect(page.get_by_test_id("ghost")).to_have_count(0)
        # One action, one undo.
        page.get_by_role("button", name="Undo").click()
        expect(page.get_by_test_id("ghost")).to_have_count(7)
        page.get_by_role("button", name="Redo").click()
        self.saved()
        expect(page.get_by_test_id("ghost")).to_have_count(0)

    def score_it(self, match: Match):
        """The clock is set already: only what the two do is logged."""
        clocks = [one for one in log_of(match)["observations"] if one["kind"] == "clock"]
        self.assertEqual([one["action"] for one in clocks], ["start", "stop", "start", "stop", "start"])
        for one, t in zip(clocks[:3], (2.0, 12.6, 16.2), strict=True):
            self.assertAlmostEqual(one["t"], t, delta=0.75)
        self.assertAlmostEqual(clocks[4]["t"] - clocks[3]["t"], HIDDEN_START - HIDDEN_STOP, delta=0.3)
        self.now = 0
        self.go_to(5)
        self.page.keyboard.press("g")
        self.saved()
        expect(self.page.get_by_role("img", name="2 points for the athlete").first).to_be_visible()
        # Now it matters how they went on after the stop: on the ground, or standing.
        asked = self.page.get_by_test_id("proposal").filter(has_text="They were on the ground when it stopped.")
        asked.first.get_by_role("button", name="as they were").click()
        self.saved()
        restart = [one for one in log_of(match)["observations"] if one["kind"] == "clock"][2]
        self.assertEqual(restart["restart"], "same")

    def see_the_audit(self, match: Match):
        page = self.page
        page.goto(f"{self.address}/matches/{match.pk}/review")
        page.get_by_role("tab", name="Officials").click()
        pictures = page.get_by_role("img", name="The scoreboard at this call")
        expect(pictures).to_have_count(2)
        self.until("[...document.querySelectorAll('img[alt^=\"The scoreboard\"]')].every(one => one.naturalWidth > 50)")

    def test_boxes_by_hand_and_for_the_next_clip(self):
        """A box for the clock alone; another match of the event is proposed it."""
        page = self.page
        self.at_own_clip(SHORT)
        page.get_by_role("button", name="Read the scoreboard in the picture").click()
        clock = boxes_of(KIND)["clock"]
        self.drag((clock[3][0], clock[0][1] - 0.05), (clock[1][0], clock[2][1]))
        expect(page.get_by_test_id("shows")).to_have_text(["5:00"])
        page.get_by_role("button", name="Read the clip").click()
        expect(page.get_by_text("Reading the scoreboard")).to_be_visible()
        page.get_by_role("button", name="Cancel").click()
        expect(page.get_by_text("Reading stopped.")).to_be_visible()
        self.at_own_clip(SHORT)
        page.get_by_role("button", name="Read it").click()
        expect(page.get_by_text("From another clip of this event.")).to_be_visible()
        expect(page.get_by_test_id("shows")).to_have_text(["5:00"])
        page.get_by_role("button", name="Remove the box: Clock").click()
        expect(page.get_by_role("button", name="Read the clip")).to_be_disabled()
