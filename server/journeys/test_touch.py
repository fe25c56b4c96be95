"""The desk by fingers alone: on a tablet, and on a phone and a tablet held either way."""

from __future__ import annotations

from playwright.sync_api import expect

from matches.logs import log_of

from .base import TRUTH, Journey

WIDTH, HEIGHT = 1024, 768
SMALL = ((390, 844), (844, 390), (820, 1180))


class Fingers(Journey):
    """A screen that is touched."""

    size = (WIDTH, HEIGHT)

    def setUp(self):
        super().setUp()
        self.on_screen(*self.size)

    def on_screen(self, width: int, height: int) -> None:
        context = self.browser.new_context(viewport={"width": width, "height": height}, has_touch=True)
        self.addCleanup(context.close)
        self.page = context.new_page()
        self.page.on("pageerror", lambda error: self.problems.append(str(error)))

    def seek(self, t: float) -> None:
        """Drag the time line to a time, as a finger does: by its value."""
        self.page.get_by_label("Time in the footage").fill(str(t))
        self.now = t


class Small(Fingers):
    """A whole match by touch on screens on which the sheet is a drawer."""

    def tap(self, name: str) -> None:
        self.page.get_by_role("button", name=name, exact=True).first.tap()

    def score_by_touch(self) -> None:
        match = self.at_desk(with_clip=False)
        pad = self.page.get_by_label("What can follow")
        self.tap("Start clock")
        self.saved()
        for t, name in (
            (4, "Guard, opponent on top"),
            (9, "Side control, opponent on top"),
            (16, "Mount, opponent on top"),
        ):
            self.seek(t)
            pad.get_by_role("button", name=name).tap()
            self.saved()
        self.seek(18)
        self.tap("Grip: opponent")
        self.seek(20)
        self.tap("Submission: opponent")
        self.page.get_by_role("combobox", name="Technique").fill("americ")
        self.page.get_by_role("option", name="Americana").first.tap()
        self.page.get_by_role("button", name="Log it").tap()
        self.saved()
        self.seek(30)
        self.tap("End")
        self.page.get_by_role("radio", name="submission").tap()
        self.page.get_by_role("radio", name="opponent").tap()
        self.page.get_by_role("button", name="Log it").tap()
        self.saved()
        seen = log_of(match)["observations"]
        self.assertEqual(
            [one["kind"] for one in seen],
            ["clock", "position", "position", "position", "grip", "submission", "end"],
        )
        self.assertEqual((seen[-1]["how"], seen[-1]["by"]), ("submission", "b"))
        expect(self.page.get_by_test_id("small-score")).to_contain_text("9")
        self.see_the_sheet()

    def see_the_sheet(self) -> None:
        sheet = self.page.get_by_test_id("spine")
        expect(sheet).to_be_hidden()
        self.tap("Sheet")
        expect(sheet).to_contain_text("Mount")
        expect(self.page.get_by_test_id("because")).to_contain_text("Bo Calder won")
        self.tap("Close the sheet")
        expect(sheet).to_be_hidden()

    def nothing_is_cut_off(self, width: int) -> None:
        self.assertLessEqual(self.page.evaluate("document.documentElement.scrollWidth"), width)
        for button in self.page.get_by_role("button").all():
            box = button.bounding_box()
            if box is not None:
                self.assertGreaterEqual(box["x"], 0)
                self.assertLessEqual(box["x"] + box["width"], width + 0.5, button.inner_text())
        expect(self.page.locator(".desk .key").locator("visible=true")).to_have_count(0)

    def test_a_whole_match_on_each_of_them(self):
        for width, height in SMALL:
            with self.subTest(width=width, height=height):
                self.on_screen(width, height)
                self.score_by_touch()
                self.nothing_is_cut_off(width)


class Touch(Fingers):
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
