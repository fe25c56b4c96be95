"""What was seen, logged at the desk by the keys that a coach would press."""

from __future__ import annotations

from typing import Any

from playwright.sync_api import expect

from jurata_core.vocabulary import vocabulary

from .base import Journey

POSITION_KEYS = {
    "guard": "g", "turtle": "t", "side": "s", "knee_on_belly": "k", "mount": "m", "back_one_hook": "h", "back": "b",
    "entangled": "e", "standing": "f", "double_pull": "d", "scramble": "r",
}  # fmt: skip
DETAIL_KEYS = {
    (position, one["name"]): one["key"] for position, rows in vocabulary()["details"].items() for one in rows
}
CAUSES, STOPS = vocabulary()["causes"], list(vocabulary()["stops"])
GRIPS, CONTESTS = vocabulary()["grip_keys"], list(vocabulary()["contests"])
LEGS = [one["says"] for one in vocabulary()["legs"]]
LATERAL = {"left": "<", "right": ">"}


class ByKeys(Journey):
    """Counts the keys that it presses; those that move the footage are not among them."""

    attire = "gi"
    pressed = 0

    def press(self, key: str) -> None:
        self.page.keyboard.press(key)
        self.pressed += 1

    def side(self, key: str, side: str | None) -> None:
        name = f"Digit{key}" if key.isdigit() else key.upper() if len(key) == 1 else key
        self.press(f"Shift+{name}" if side == "b" else key)

    def name_it(self, name: str) -> None:
        """Type until what was seen is the name that Enter takes."""
        lit = self.page.locator("[role=option][aria-selected=true] > span:first-child")
        for letter in ["", *name]:
            if letter:
                self.press(letter)
            if lit.count() and lit.inner_text().casefold() == name.replace("-", " "):
                return
        self.fail(f"{name} is not found by its name")

    def log(self, seen: dict[str, Any]) -> None:
        """The keys for what was seen."""
        if seen["kind"] in ("grip", "contest", "legs"):
            self.log_close(seen)
        else:
            self.log_kind(seen)
        for name in ("own", "target"):
            if name in seen:
                self.press(LATERAL[seen[name]])

    def log_close(self, seen: dict[str, Any]) -> None:
        """Grips, what both fight for, and legs."""
        match seen["kind"]:
            case "grip":
                self.side("w", seen["by"])
                if seen["grip"] in GRIPS[self.attire]:
                    self.press(str(1 + GRIPS[self.attire].index(seen["grip"])))
                else:
                    self.side("w", seen["by"])
                    self.name_it(seen["grip"])
                    self.press("Enter")
                if seen.get("outcome") == "failed":
                    self.press("Shift+Enter")
            case "contest":
                self.side("j", seen["won"])
                self.press(str(1 + CONTESTS.index(seen["for"])))
            case "legs":
                for number, fact in enumerate(LEGS):
                    if fact.items() <= seen.items():
                        self.side(str(1 + number), seen["by"])
                if "leg" in seen:
                    self.press(LATERAL[seen["leg"]])

    def log_kind(self, seen: dict[str, Any]) -> None:
        match seen["kind"]:
            case "clock" if seen.get("restart") == "placed":
                self.side(POSITION_KEYS[seen["position"]], seen.get("top"))
            case "clock":
                self.press("Shift+C" if seen.get("restart") == "standing" else "c")
                if "why" in seen:
                    self.press(str(1 + STOPS.index(seen["why"])))
            case "period":
                self.press("Shift+Y")
            case "position" if seen["position"] == "entangled" and "top" not in seen:
                self.press("Shift+R")
            case "position":
                self.side(POSITION_KEYS[seen["position"]], seen.get("top"))
                if "detail" in seen:
                    self.side(POSITION_KEYS[seen["position"]], seen.get("top"))
                    self.press(DETAIL_KEYS[seen["position"], seen["detail"]])
                if seen.get("sure") is False:
                    self.press("u")
            case "pull":
                self.side("p", seen["by"])
            case "submission":
                self.side("x", seen["by"])
                self.name_it(seen["technique"])
                self.press("Shift+Enter" if seen["threat"] == "close" else "Enter")
            case "foul":
                self.side("v", seen["by"])
                self.press("Enter")
            case "attempt":
                self.side("n", seen["by"])
                if seen.get("outcome") == "near":
                    self.press("Shift+Enter")
            case "mark":
                self.side("Quote" if seen.get("good") else "Semicolon", seen["on"])
                self.press(str(1 + CAUSES.index(seen["cause"])))
            case "end":
                self.press("Enter")
                expect(self.page.get_by_role("heading", name="How it ended")).to_be_visible()
                self.press("Enter")
