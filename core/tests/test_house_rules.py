"""House rules: read strictly, kept as what they change, written and read again unchanged."""

import json
import random
import unittest

import jsonschema

from jurata_core.faults import FaultyInput
from jurata_core.formats.schema import ruleset_schema
from jurata_core.rulesets import preset_ids, preset_settings, read_ruleset
from jurata_core.rulesets.house import FORMAT, as_file, read_house_rules, without_effect

SCHEMA = jsonschema.Draft202012Validator(ruleset_schema())
CHANGES = {
    "hold_seconds": 4, "points": {"mount": 3}, "advantages": False, "pull_cost": 2, "barred": ["armbar"],
    "tiebreak": ["points", "draw"], "also_legal": {"techniques": ["wrist-lock"], "from_age": 21, "from_belt": "purple"},
}  # fmt: skip


def faults(raw):
    try:
        read_house_rules(raw)
    except FaultyInput as error:
        return {fault.path for fault in error.faults}
    return set()


class HouseRules(unittest.TestCase):
    def test_only_what_is_changed_is_kept(self):
        whole = {
            **preset_settings("full-points"),
            "extends": "full-points",
            "title": "Harbour rules",
            "hold_seconds": 4,
        }
        self.assertEqual(
            read_house_rules(whole), {"extends": "full-points", "title": "Harbour rules", "hold_seconds": 4}
        )

    def test_they_survive_a_file_and_score_the_same(self):
        rng = random.Random(5)
        for name in preset_ids():
            for _ in range(20):
                some = dict(rng.sample(sorted(CHANGES.items()), 3))
                rules = read_house_rules({"title": "Harbour rules", "note": "as told", "extends": name, **some})
                written = json.loads(json.dumps(as_file(rules)))
                self.assertEqual(read_house_rules(written), rules)
                SCHEMA.validate(written)
                found = []
                asked = read_ruleset({"extends": name, **some, "title": "Harbour rules"}, "", found)
                self.assertEqual(read_ruleset(rules, "", found), asked)
                self.assertEqual(found, [])

    def test_what_other_settings_leave_without_effect_is_said(self):
        """A rung, a tiebreak and an overtime by advantages do nothing where there are none."""
        effect = {"ladder": ["advantage", "disqualify"], "tiebreak": ["advantages", "draw"]}
        rules = {"title": "Harbour rules", "extends": "full-points", **effect}
        self.assertEqual(without_effect(read_ruleset(rules, "", [])), [])
        said = " ".join(without_effect(read_ruleset({**rules, "advantages": False}, "", [])))
        self.assertIn("a penalty whose rung is an advantage costs nothing", said)
        self.assertIn("the tiebreak by advantages decides nothing", said)

    def test_every_fault_is_named(self):
        broken = {
            "format": "other/1", "title": " ", "extends": "full-points", "hold_seconds": -1, "ladder": ["jail"], "points": {"mount": 4.5},
            "mystery": 1, "version": "two",
        }  # fmt: skip
        self.assertEqual(faults(broken), {"format", "title", "hold_seconds", "ladder[0]", "points.mount", "version"})
        self.assertEqual(
            faults({"title": "x", "extends": "full-points", "mystery": 1, "points": {"tap": 1}}),
            {"mystery", "points.tap"},
        )
        self.assertEqual(faults({}), {"title", "extends"})
        self.assertEqual(faults([]), {"ruleset"})

    def test_the_schema_refuses_what_the_reader_refuses(self):
        good = {"format": FORMAT, "title": "x", "extends": "late-points"}
        self.assertTrue(SCHEMA.is_valid(good))
        for change in (
            {"title": 3},
            {"hold_seconds": "3"},
            {"mystery": 1},
            {"points": {"tap": 1}},
            {"extends": "none"},
            {"format": "x"},
        ):
            with self.subTest(change=change):
                self.assertFalse(SCHEMA.is_valid({**good, **change}))
                self.assertTrue(faults({**good, **change}))
