"""The desk on a tablet: fingers alone, at 1024 by 768."""

from __future__ import annotations

from playwright.sync_api import expect

from matches.logs import log_of

from .base import TRUTH, Journey

WIDTH, HEIGHT = 1024, 768


class Touch(Journey):
    def setUp(self):
        super().setUp()
        context = self.browser.new_context(viewport={"width": WIDTH, "height": HEIGHT}, has_touch=True)
        self.addCleanup(context.close)
        self.page = context.new_page()
        self.page.on("pageerror", lambda error: self.problems.append(str(error)))

    def test_a_match_is_scored_with_taps(self):
        match = self.at_desk()
        page = self.page
        line = page.get_by_label("Time in the footage")

        def seek(share: float) -> None:
            box = line.bounding_box()
            page.touchscreen.tap(box["x"] + box["width"] * share, box["y"] + box["height"] / 2)

        seek(0.05)
        page.get_by_role("button", name="Start clock").tap()
        seek(0.2)
        page.get_by_role("button", name="Guard, athlete on top").tap()
        self.saved()
        seek(0.4)
        page.get_by_role("button", name="Submission: opponent").tap()
        page.get_by_role("option", name="Triangle").tap()
        seek(0.5)
        page.get_by_role("button", name="end here").tap()
        page.get_by_role("button", name="as close").tap()
        self.saved()
        seek(0.6)
        page.get_by_role("button", name="Mount, opponent on top").tap()
        page.get_by_role("button", name="Unsure", exact=True).first.tap()
        self.saved()
        seen = log_of(match)["observations"]
        self.assertEqual([one["kind"] for one in seen], ["clock", "position", "submission", "position"])
        self.assertEqual((seen[2]["by"], seen[2]["technique"], seen[2]["threat"]), ("b", "triangle", "close"))
        self.assertGreater(seen[2]["until"], seen[2]["t"])
        self.assertEqual((seen[3]["position"], seen[3]["sure"]), ("mount", False))
        page.get_by_role("button", name="Undo").tap()
        self.saved()
        self.assertTrue(log_of(match)["observations"][3].get("sure", True))

    def test_the_picture_is_played_with_a_tap_and_enlarged_with_two_fingers(self):
        self.at_desk({**TRUTH, "observations": TRUTH["observations"][:2]})
        page = self.page
        picture = page.get_by_label("Footage of the match")
        picture.tap()
        expect(page.get_by_role("button", name="Pause")).to_be_visible()
        picture.tap()
        expect(page.get_by_role("button", name="Play", exact=True)).to_be_visible()
        hands = page.context.new_cdp_session(page)

        def fingers(kind: str, apart: float | None) -> None:
            points = (
                [] if apart is None else [{"x": 300 - apart, "y": 250, "id": 0}, {"x": 300 + apart, "y": 250, "id": 1}]
            )
            hands.send("Input.dispatchTouchEvent", {"type": kind, "touchPoints": points})

        fingers("touchStart", 40)
        for apart in range(50, 101, 10):
            fingers("touchMove", apart)
        fingers("touchEnd", None)
        whole = page.get_by_role("button", name="whole picture")
        expect(whole).to_contain_text("2.")
        whole.tap()
        expect(whole).to_have_count(0)

    def test_nothing_lies_outside_of_the_screen(self):
        self.at_desk(TRUTH)
        for button in self.page.get_by_role("button").all():
            box = button.bounding_box()
            inside_spine = button.evaluate("node => !!node.closest('[data-testid=spine]')")
            if box is None or inside_spine:
                continue
            self.assertGreaterEqual(box["x"], 0)
            self.assertLessEqual(box["x"] + box["width"], WIDTH, button.inner_text())
            self.assertLessEqual(box["y"] + box["height"], HEIGHT, button.inner_text())
