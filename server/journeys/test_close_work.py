"""A fight for the grips and a leg battle, logged by keys alone while the count of keys stays low."""

from __future__ import annotations

from typing import Any

from playwright.sync_api import expect

from jurata_core.answers import score
from matches.logs import log_of

from .base import TRUTH
from .by_keys import ByKeys

MOST_KEYS = 1.9
"""Keys for an observation at most, with all that is said of it."""

Row = dict[str, Any]


def grip(t: float, by: str, name: str, **more: Any) -> Row:
    return {"t": t, "kind": "grip", "by": by, "grip": name, **more}


def contest(t: float, aim: str, won: str, **more: Any) -> Row:
    return {"t": t, "kind": "contest", "for": aim, "won": won, **more}


def legs(t: float, by: str, **said: str) -> Row:
    return {"t": t, "kind": "legs", "by": by, **said}


START: Row = {"t": 0, "kind": "clock", "action": "start"}
GRIPS = [
    START,
    grip(2, "a", "sleeve", own="right", target="left"),
    grip(3, "b", "collar", outcome="failed"),
    contest(4, "grip", "b"),
    grip(5, "b", "cross collar"),
    {"t": 7, "kind": "pull", "by": "b"},
    {"t": 7, "kind": "position", "position": "guard", "top": "a"},
    contest(9, "posture", "a"),
    grip(11, "b", "collar and sleeve"),
    {"t": 16, "kind": "position", "position": "side", "top": "a"},
    {"t": 20, "kind": "position", "position": "mount", "top": "a"},
    {"t": 26, "kind": "clock", "action": "stop"},
]  # fmt: skip
LEGS = [
    START,
    {"t": 3, "kind": "pull", "by": "a"},
    {"t": 3, "kind": "position", "position": "guard", "top": "b"},
    {"t": 6, "kind": "position", "position": "entangled"},
    legs(7, "a", knee="caught", leg="right"),
    legs(8, "b", knee="free"),
    legs(9, "a", heel="exposed"),
    legs(10, "b", knee="caught", heel="hidden"),
    legs(11, "a", heel="hidden"),
    {"t": 13, "kind": "position", "position": "entangled", "top": "b"},
    legs(14, "a", knee="free"),
    {"t": 16, "kind": "position", "position": "guard", "top": "b"},
    {"t": 20, "kind": "position", "position": "side", "top": "b"},
    {"t": 26, "kind": "clock", "action": "stop"},
]


class CloseWork(ByKeys):
    def score_by_keys(self, rows: list[Row]) -> None:
        match = self.at_desk(with_clip=False)
        self.pressed = 0
        for row in rows:
            self.go_to(row["t"])
            self.log(row)
            self.saved()
        stored = log_of(match)["observations"]
        self.assertEqual([{name: one[name] for name in one if name != "id"} for one in stored], rows)
        self.assertLessEqual(self.pressed, MOST_KEYS * len(rows))
        plain = [row for row in rows if row["kind"] not in ("grip", "contest", "legs")]
        self.assertEqual(score(log_of(match))["score"], score({**log_of(match), "observations": plain})["score"])

    def test_a_fight_for_the_grips(self):
        self.score_by_keys(GRIPS)
        sheet = self.page.get_by_test_id("spine")
        expect(sheet).to_contain_text("Fought for posture, won")
        self.go_to(4)  # the exchange before has its entries unfolded then
        for text in ("Grip: sleeve, right, the other's left", "Missed grip: collar"):
            expect(sheet).to_contain_text(text)

    def test_a_leg_battle(self):
        self.score_by_keys(LEGS)
        expect(self.page.get_by_test_id("spine")).to_contain_text("Legs: knee caught, right leg")
        self.go_to(11)
        expect(
            self.page.get_by_role("group", name="What the attacker has of the legs").locator("visible=true")
        ).to_be_visible()
        self.go_to(22)
        expect(
            self.page.get_by_role("group", name="What the attacker has of the legs").locator("visible=true")
        ).to_have_count(0)

    def test_what_the_scoreboard_shows_is_typed_in(self):
        match = self.at_desk({**TRUTH, "observations": TRUTH["observations"][:2]}, with_clip=False)
        self.go_to(9)
        self.press("Shift+D")
        self.page.keyboard.type("0-4 1-0")
        self.press("Enter")
        self.saved()
        board = log_of(match)["observations"][-1]
        self.assertEqual(
            (board["kind"], board["score"]["a"]["advantages"], board["score"]["b"]["points"]), ("board", 1, 4)
        )
        expect(self.page.get_by_test_id("prompt")).to_contain_text("the scoreboard shows 0 to 4, 1 to 0 advantages")

    def test_what_nobody_watched_and_what_a_grip_lost(self):
        match = self.at_desk({**TRUTH, "observations": TRUTH["observations"][:2]}, with_clip=False)
        self.go_to(9)
        self.press("Shift+U")
        self.saved()
        unwatched = log_of(match)["observations"][-1]
        self.assertEqual((unwatched["kind"], unwatched["until"]), ("unwatched", 9))
        self.press("w")
        self.go_to(12)
        self.press("Shift+L")
        self.saved()
        grip = log_of(match)["observations"][-1]
        self.assertEqual((grip["grip"], grip["until"], grip["broken"]), ("not named", 12, True))
