"""The legality table, cell by cell, against a table written down a second time.

The limits by age and belt follow the list of illegal moves in the rules book of
the International Brazilian Jiu-Jitsu Federation (the article on fouls), from
memory; where practice differs for 16 and 17 it is the stricter reading.
"""

import unittest

from jurata_core.answers import ask_legality, score
from jurata_core.divisions import Division
from jurata_core.faults import FaultyInput
from jurata_core.legality import barred_near, legality, nearest
from jurata_core.rulesets import preset
from jurata_core.techniques import catalogue, family, find, suggestions

from .making import end, log, start

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
    "darce": "arm-triangle", "d'arce": "arm-triangle", "D’Arce choke": "arm-triangle", "darse": "arm-triangle",
    "buggy choke": "arm-triangle", "tarikoplata": "omoplata", "Tariko Plata": "omoplata", "mono plata": "omoplata",
    "baratoplata": "omoplata", "scissors takedown": "scissor-takedown", "scissors throws": "scissor-takedown",
    "flying scissors": "scissor-takedown", "straight foot lock turning outward": "foot-lock-turn-out",
    "forearm choke using the sleeve": "sleeve-choke", "single leg with the head outside": "single-leg-head-outside",
    "spinal lock without choke": "spinal-lock", "flying triangle": "triangle", "helicopter armbar": "armbar",
    "dogbar": "kneebar", "dog bars": "kneebar", "cloverleaf": "calf-slicer", "whizzer": "overhook",
    "de la riva": "open-guard", "reverse de la riva guard": "open-guard", "lockdown": "half-guard",
    "twisters": "spinal-lock", "electric chair": "leg-split", "can openers": "spinal-lock", "suplexes": "suplex",
}  # fmt: skip


def cell(name, age, belt, attire, ruleset):
    return LETTERS[legality(name, Division(age, belt, attire), preset(ruleset)).status]


def warnings_of(technique, division):
    """The sentences of what is doubtful in a match that ends by a technique."""
    return [
        one["because"]
        for one in score(log(start(), end(20, how="submission", by="a", technique=technique), **division))["warnings"]
    ]


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

    def test_what_is_legal_is_said_with_what_would_make_it_illegal(self):
        """By parent or family, and only where the other one is not legal in that division."""

        def neighbours(name, age, belt, attire="gi"):
            return legality(name, Division(age, belt, attire), preset("full-points")).neighbours

        self.assertEqual(
            neighbours("bow and arrow", 14, "green")[0],
            "Where the head is bent or twisted along with the choke, it is a choke with a spinal lock, which is illegal "
            "here.",
        )
        self.assertEqual(len(neighbours("bow and arrow", 30, "black")), 1, "the spinal lock alone is never legal")
        self.assertIn("which is stopped by the referee here", neighbours("single leg", 25, "white")[0])
        self.assertNotIn("referee", " ".join(neighbours("single leg", 25, "blue")))
        self.assertIn("the hands pull the head down", neighbours("mounted triangle", 14, "green")[0])
        self.assertEqual(neighbours("heel hook", 25, "white"), (), "of what is illegal itself nothing is said")
        for technique in catalogue().values():
            for turn in technique.turns:
                self.assertNotEqual(find(turn.into).id, technique.id)

    def test_common_words_of_rulebooks_are_found(self):
        for name, meant in (
            ("choke from the figure-four with the head pulled", "triangle-head-pull"),
            ("kimura that turns the neck", "spinal-lock"),
            ("kane basame", "scissor-takedown"),
            ("Tarigo Plata", "leg-wrapped-shoulder-lock"),
            ("single leg, head outside", "single-leg-head-outside"),
            ("single-leg takedown (head on the outside)", "single-leg-head-outside"),
        ):
            self.assertEqual(find(name).id, meant, name)
        for name in ("leg lock", "leglock", "leglocks", "Leg-locks"):
            self.assertIn("heel-hook", family(name), name)

    def test_close_misspellings_are_suggested(self):
        for typed, meant in (("gilotine", "guillotine"), ("omaplata", "omoplata"), ("heel hok", "heel-hook")):
            self.assertEqual(suggestions(typed)[0], meant)

    def test_every_name_is_found_in_the_plural(self):
        for technique in catalogue().values():
            for name in (technique.name, *technique.aliases):
                plural = name + ("es" if name.endswith(("x", "ss", "ch")) else "" if name.endswith("s") else "s")
                self.assertEqual(find(plural), technique, plural)

    def test_a_word_for_a_family_is_asked_about_with_what_is_barred_first(self):
        division, rules = Division(25, "blue", "gi"), preset("full-points")
        self.assertEqual([find("leg locks"), len(family("leg locks"))], [None, 7])
        self.assertEqual(family("heel hooks"), ())
        self.assertEqual(list(nearest("leg lock", division, rules).values()), ["illegal"] * 6 + ["legal"])
        self.assertIsNotNone(barred_near("leg lock", division, rules))
        self.assertEqual(list(nearest("slicers", Division(25, "brown", "gi"), rules).values()), ["legal"] * 2)
        with self.assertRaisesRegex(FaultyInput, 'leg locks" may be any of several; say which: .*heel-hook .illegal'):
            ask_legality({"technique": "leg locks", "age": 25, "belt": "blue", "attire": "gi"})

    def test_no_finish_is_believed_by_a_name_with_a_barred_one_in_it(self):
        """Together or apart, in the singular or plural, by any alias or the word of a family; in that division alone."""
        child, black = {"age": 12, "belt": "grey", "attire": "gi"}, {"age": 30, "belt": "black", "attire": "nogi"}
        barred = ("cloverleaf kneebar", "running knee bar", "Running Knee-Bars", "cloverleafkneebar", "flying leg locks",
                  "rolling inverted heel hook", "the slicer")  # fmt: skip
        for name in barred:
            with self.subTest(name):
                found = score(log(start(), end(20, how="submission", by="a", technique=name), **child))
                self.assertEqual(found["result"], {"winner": None, "method": "unfinished"})
                (warned,) = found["warnings"]
                self.assertEqual(warned["reason"], "near_barred")
                self.assertNotIn("did you mean", warned["because"])
        self.assertIn("Kneebar is legal from brown belt", warnings_of("cloverleaf kneebar", child)[0])
        for name in barred[:2]:
            found = score(log(start(), end(20, how="submission", by="a", technique=name), **black))
            self.assertEqual(found["result"]["winner"], "a")

    def test_a_barred_technique_is_never_suggested_as_the_finish(self):
        child = {"age": 12, "belt": "grey", "attire": "gi"}
        for name in ("kneebr special", "moonbeam guilotin", "armbar from the moon", "omoplatta roll"):
            for said in warnings_of(name, child):
                hint = said.partition("did you mean ")[2].partition("?")[0]
                for one in hint.split(" or ") if hint else ():
                    self.assertEqual(
                        legality(one, Division(12, "grey", "gi"), preset("full-points")).status, "legal", one
                    )

    def test_a_house_rule_s_own_name_counts_as_barred(self):
        rules = {"extends": "full-points", "title": "Ours", "barred": ["moonbeam twist"]}
        for name, winner in (("flying moonbeam twists", None), ("sunbeam twist", "a")):
            found = score(log(start(), end(20, how="submission", by="a", technique=name), ruleset=rules))
            self.assertEqual(found["result"]["winner"], winner)

    def test_of_near_names_those_that_are_barred_come_first(self):
        rules = preset("full-points")
        self.assertEqual(
            next(iter(nearest("scissor tekedown", Division(25, "black", "gi"), rules))), "scissor-takedown"
        )
        young = nearest("omaplatta", Division(12, "grey", "gi"), rules)
        self.assertEqual(next(iter(young.items())), ("omoplata", "illegal"))
        near = nearest("triangel", Division(14, "green", "gi"), rules)
        self.assertEqual(list(near.values()), sorted(near.values()))
        self.assertEqual(next(iter(near)), "arm-triangle")

    def test_dangerous_techniques_carry_a_caution(self):
        for technique in catalogue().values():
            if technique.legal_from in ("never", "brown", "brown-nogi"):
                self.assertTrue(technique.caution and technique.injures, technique.id)
