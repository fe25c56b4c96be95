"""The season of an athlete: from a figure to the moments behind it, played one after the other."""

from __future__ import annotations

from playwright.sync_api import expect

from .base import TRUTH, Journey


class Season(Journey):
    def test_a_number_opens_the_moments_behind_it_which_play_in_turn(self):
        held = {**TRUTH, "observations": TRUTH["observations"][:3] + TRUTH["observations"][-1:]}
        for with_clip in (True, True, False):
            self.match(held, with_clip)
        self.sign_in("/athletes")
        page = self.page
        page.get_by_role("link", name="Season of Ada Brenn").click()
        expect(page.get_by_role("heading", level=1)).to_have_text("Ada Brenn")
        expect(page.get_by_role("img", name="3 of 3: between", exact=False).first).to_be_visible()
        page.get_by_role("button", name="Guard passes that worked: 3 worked").click()
        sheet = page.get_by_role("dialog", name="Guard passes that worked")
        expect(sheet.get_by_role("listitem")).to_have_count(2)
        expect(sheet.get_by_text("1 moment is in matches without a clip")).to_be_visible()
        expect(sheet.get_by_role("button", name="against Bo Calder, 0:09").first).to_have_attribute(
            "aria-current", "true"
        )
        expect(sheet.get_by_role("button", name="against Bo Calder, 0:09").last).to_have_attribute(
            "aria-current", "true"
        )
        sheet.get_by_role("button", name="Back to the season").click()
        expect(page.get_by_text("Full points: 3 won.")).to_be_visible()

    def test_without_a_match_it_says_what_to_do(self):
        self.sign_in(f"/athletes/{self.athlete.pk}")
        expect(self.page.get_by_text("No matches yet.")).to_be_visible()
        expect(self.page.get_by_role("link", name="Set up the first one.")).to_be_visible()
