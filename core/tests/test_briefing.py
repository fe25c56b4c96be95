"""The briefing fits its division, and a child can read a child's."""

import re
import unittest

from jurata_core.briefing import MOST_ERRORS, briefing
from jurata_core.divisions import Division
from jurata_core.legality import legality
from jurata_core.rulesets import preset, preset_ids
from jurata_core.techniques import find

DIVISIONS = [
    Division(8, "grey", "gi"), Division(14, "green", "nogi"), Division(17, "blue", "gi"), Division(25, "white", "gi"),
    Division(27, "purple", "nogi"), Division(45, "black", "gi"),
]  # fmt: skip
LONGEST_SENTENCE = 20
"""Words; common advice for plain language, no source."""


class Briefings(unittest.TestCase):
    def test_what_is_barred_is_barred_and_nothing_is_missing(self):
        for division in DIVISIONS:
            for name in preset_ids():
                got = briefing(division, preset(name))
                names = [one.name for row in got.barred for group in row.groups for one in group.techniques]
                self.assertTrue(all(legality(one, division, preset(name)).status != "legal" for one in names))
                for known in ("heel hook", "guillotine", "kneebar", "slam"):
                    barred = legality(known, division, preset(name)).status != "legal"
                    self.assertEqual(find(known).name in names, barred, (known, division))

    def test_a_family_is_named_once_and_every_technique_is_explained(self):
        for division in DIVISIONS:
            got = briefing(division, preset("house-warnings"))
            families = [row.family for row in got.barred]
            self.assertEqual(len(families), len(set(families)))
            self.assertTrue(all(one.about for row in got.barred for group in row.groups for one in group.techniques))

    def test_five_errors_that_can_happen_there(self):
        for division in DIVISIONS:
            for name in preset_ids():
                self.assertEqual(len(briefing(division, preset(name)).errors), MOST_ERRORS)
        adult = briefing(Division(27, "purple", "nogi"), preset("late-points"))
        self.assertIn("costs a point", " ".join(adult.errors))
        self.assertNotIn("guillotine", " ".join(adult.errors).lower())

    def test_a_childs_briefing_is_in_short_sentences(self):
        for division in DIVISIONS[:2]:
            for name in preset_ids():
                got = briefing(division, preset(name))
                self.assertTrue(got.plain)
                texts = [*(rule.text for rule in got.wins), *got.errors, got.danger, got.deference]
                for sentence in re.split(r"(?<=[.:])\s", " ".join(texts)):
                    self.assertLessEqual(len(sentence.split()), LONGEST_SENTENCE, sentence)

    def test_what_changed_against_the_last_event(self):
        division = Division(27, "blue", "gi")
        self.assertEqual(briefing(division, preset("full-points"), (division, preset("full-points"))).changed, ())
        got = briefing(division, preset("full-points"), (division, preset("house-warnings"))).changed
        self.assertIn(
            "Illegal technique: Disqualified at once. Before: Stopped with a warning; the third warning disqualifies.",
            got,
        )
        self.assertIn("Illegal now: Knee reap.", got)

    def test_every_briefing_defers_to_referees_and_medical_staff(self):
        for division in DIVISIONS:
            got = briefing(division, preset("full-points"))
            self.assertRegex(got.deference, "referee")
            self.assertRegex(got.deference, "medical staff|doctors")
            self.assertRegex(got.danger.lower(), "tap")
