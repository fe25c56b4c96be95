"""The legality table, cell by cell, against a table written down a second time.

The limits by age and belt follow the list of illegal moves in the rules book of
the International Brazilian Jiu-Jitsu Federation (the article on fouls), from
memory; where practice differs for 16 and 17 it is the stricter reading.
"""

import unittest

from jurata_core.divisions import Division
from jurata_core.legality import legality
from jurata_core.rulesets import preset
from jurata_core.techniques import catalogue, find, suggestions

# Divisions from left to right: 10 grey, 14 green, 17 blue, 25 white, 30 green (counts as white), 25 blue,
# 25 purple, 25 brown, 40 black. L legal, i illegal, s stopped; first in the gi, then without.
DIVISIONS = [(10, "grey"), (14, "green"), (17, "blue"), (25, "white"), (30, "green"), (25, "blue"), (25, "purple"),
             (25, "brown"), (40, "black")]  # fmt: skip
TABLE = {
    "leg-split": ("iLLLLLLLL", "iLLLLLLLL"),
    "choke-with-spinal-lock": ("iiLLLLLLL", "iiLLLLLLL"),
    "straight-foot-lock": ("iiLLLLLLL", "iiLLLLLLL"),
    "sleeve-choke": ("iiLLLLLLL", "iiLLLLLLL"),
    "guillotine": ("iiLLLLLLL", "iiLLLLLLL"),
    "omoplata": ("iiLLLLLLL", "iiLLLLLLL"),
    "triangle-head-pull": ("iiLLLLLLL", "iiLLLLLLL"),
    "arm-triangle": ("iiLLLLLLL", "iiLLLLLLL"),
    "closed-guard-squeeze": ("iiiiiLLLL", "iiiiiLLLL"),
    "wrist-lock": ("iiiiiLLLL", "iiiiiLLLL"),
    "single-leg-head-outside": ("sssssLLLL", "sssssLLLL"),
    "biceps-slicer": ("iiiiiiiLL", "iiiiiiiLL"),
    "calf-slicer": ("iiiiiiiLL", "iiiiiiiLL"),
    "kneebar": ("iiiiiiiLL", "iiiiiiiLL"),
    "toe-hold": ("iiiiiiiLL", "iiiiiiiLL"),
    "heel-hook": ("iiiiiiiii", "iiiiiiiLL"),
    "knee-twist": ("iiiiiiiii", "iiiiiiiLL"),
    "knee-reap": ("iiiiiiiii", "iiiiiiiLL"),
    "foot-lock-turn-out": ("iiiiiiiii", "iiiiiiiLL"),
    **dict.fromkeys(
        ("scissor-takedown", "toe-hold-outward", "slam", "spinal-lock", "finger-bend", "belt-spike", "suplex-on-head"),
        ("iiiiiiiii", "iiiiiiiii"),
    ),
    **dict.fromkeys(
        ("armbar", "triangle", "collar-choke", "rear-choke", "kimura", "americana", "straight-arm-lock", "cross-choke"),
        ("LLLLLLLLL", "LLLLLLLLL"),
    ),
}
STARRED = {
    "closed-guard-squeeze", "wrist-lock", "single-leg-head-outside", "biceps-slicer", "calf-slicer", "kneebar", "toe-hold",
    "heel-hook", "knee-twist", "knee-reap", "foot-lock-turn-out", "scissor-takedown", "toe-hold-outward",
}  # fmt: skip
LETTERS = {"legal": "L", "illegal": "i", "stop": "s"}

VARIANTS = {
    "Inverted Heel Hook": "heel-hook", "kata gatame": "arm-triangle", "Head-and-arm choke": "arm-triangle",
    "anaconda": "arm-triangle", "monoplata": "omoplata", "Ezequiel": "sleeve-choke", "banana split": "leg-split",
    "can opener": "spinal-lock", "kani basami": "scissor-takedown", "TOEHOLD": "toe-hold", "mão de vaca": "wrist-lock",
    "bicep slicer": "biceps-slicer", "straight ankle lock": "straight-foot-lock", "reaping": "knee-reap",
    "twisting lock from a figure-four of the legs": "knee-twist", "leg wrapped shoulder lock": "omoplata",
}  # fmt: skip


def cell(name, age, belt, attire, ruleset):
    return LETTERS[legality(name, Division(age, belt, attire), preset(ruleset)).status]


class Table(unittest.TestCase):
    def test_every_cell_of_the_strict_table(self):
        for name, rows in TABLE.items():
            for attire, row in zip(("gi", "nogi"), rows, strict=True):
                with self.subTest(technique=name, attire=attire):
                    found = "".join(cell(name, age, belt, attire, "full-points") for age, belt in DIVISIONS)
                    self.assertEqual(found, row)

    def test_everything_else_is_legal_everywhere(self):
        for technique in catalogue().values():
            if technique.parent is None and technique.id not in TABLE:
                self.assertEqual(technique.legal_from, "always", technique.id)

    def test_open_rulesets_allow_what_is_starred_to_adult_blue_belts(self):
        for name in TABLE:
            for ruleset, opened in (
                ("late-points", STARRED),
                ("submission-only", STARRED),
                ("house-warnings", {"knee-reap"}),
            ):
                with self.subTest(technique=name, ruleset=ruleset):
                    adult = "L" if name in opened else cell(name, 25, "blue", "gi", "full-points")
                    self.assertEqual(cell(name, 25, "blue", "gi", ruleset), adult)
                    for age, belt in ((25, "white"), (17, "blue"), (30, "green")):
                        self.assertEqual(
                            cell(name, age, belt, "gi", ruleset), cell(name, age, belt, "gi", "full-points")
                        )

    def test_a_variant_has_its_parents_status(self):
        for name, parent in VARIANTS.items():
            with self.subTest(name):
                self.assertIsNotNone(find(name))
                for age, belt in DIVISIONS:
                    self.assertEqual(
                        cell(name, age, belt, "nogi", "full-points"), cell(parent, age, belt, "nogi", "full-points")
                    )
        answer = legality("inverted heel hook", Division(25, "blue", "gi"), preset("full-points"))
        self.assertIn("is a variant of Heel hook", answer.because)

    def test_close_misspellings_are_suggested(self):
        for typed, meant in (("gilotine", "guillotine"), ("omaplata", "omoplata"), ("heel hok", "heel-hook")):
            self.assertEqual(suggestions(typed)[0], meant)

    def test_dangerous_techniques_carry_a_caution(self):
        for technique in catalogue().values():
            if technique.legal_from in ("never", "brown", "brown-nogi"):
                self.assertTrue(technique.caution and technique.injures, technique.id)
