"""The trade's words: every code of the core has them, and the browser's are the same."""

import unittest
from dataclasses import fields
from pathlib import Path

from jurata_core.adjudication.places import CONTROL
from jurata_core.divisions import BELTS
from jurata_core.match_log.kinds import KINDS
from jurata_core.match_log.observations import CLAIM_KINDS, MOVES, POSITIONS
from jurata_core.rulesets.model import POINT_KEYS, Ruleset
from jurata_core.vocabulary import vocabulary
from jurata_core.winnable import guessed

ROOT = Path(__file__).resolve().parents[2]
BELOW = {f"{position} bottom" for position in CONTROL}
TEXTS = {"id", "title", "about", "unknown"}


class Vocabulary(unittest.TestCase):
    def test_every_code_has_its_words(self):
        words = vocabulary()
        self.assertEqual(tuple(words["belts"]), tuple(BELTS))
        self.assertEqual(set(words["positions"]), set(POSITIONS))
        self.assertEqual(tuple(words["claims"]), CLAIM_KINDS)
        self.assertEqual(tuple(words["moves"]), MOVES)
        fouls = next(check for name, check, _ in KINDS["foul"][1] if name == "foul").schema["enum"]
        self.assertEqual(list(words["fouls"]), fouls)

    def test_every_setting_can_be_edited(self):
        words = vocabulary()
        settings = {one.name for one in fields(Ruleset)} - TEXTS - {"points"}
        self.assertEqual({one["name"] for one in words["settings"]}, settings)
        self.assertEqual([key for key, _ in words["points"]], list(POINT_KEYS))
        for one in words["settings"]:
            schema = Ruleset.__dataclass_fields__[one["name"]].metadata["check"].schema
            offered = {"choice": schema, "list": schema.get("items", {})}.get(one["type"])
            if offered is not None:
                self.assertEqual([option for option, _ in one["options"]], offered["enum"], one["name"])

    def test_what_is_tried_next_is_a_move_from_a_place_that_there_is(self):
        places = guessed().moves
        for place, move in vocabulary()["next"].items():
            self.assertIn(place, {*places, *BELOW, "double_pull"})
            self.assertIn(move, MOVES)

    def test_the_browser_has_the_same_words(self):
        """After a change run scripts/api-types."""
        ours = (ROOT / "core/jurata_core/vocabulary/words.json").read_bytes()
        self.assertEqual((ROOT / "web/src/api/words.json").read_bytes(), ours)
