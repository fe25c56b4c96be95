"""A thousand questions: each has exactly one right answer, and every sequence is a log the rules can score."""

import random
import unittest

from jurata_core.adjudication import adjudicate
from jurata_core.adjudication.reasons import claims_of
from jurata_core.answers import ask_legality
from jurata_core.divisions import Division
from jurata_core.drill import TOPICS, _length, _log, _observations, keys, make
from jurata_core.rulebook import follows
from jurata_core.rulesets import preset, preset_ids

DIVISIONS = [
    Division(9, "grey", "gi"),
    Division(14, "green", "nogi"),
    Division(25, "white", "gi"),
    Division(30, "brown", "nogi"),
]


class Drill(unittest.TestCase):
    def items(self, many):
        rng = random.Random(41)
        for _ in range(many):
            division, ruleset = rng.choice(DIVISIONS), preset(rng.choice(preset_ids()))
            topic = rng.choice([topic for topic in TOPICS if keys(ruleset)[topic]])
            key, seed = rng.choice(keys(ruleset)[topic]), rng.randrange(10**6)
            yield make(key, seed, division, ruleset), division, ruleset

    def test_one_right_answer_each(self):
        for item, division, ruleset in self.items(1_000):
            with self.subTest(item=item):
                self.assertEqual(len(set(item.options)), len(item.options))
                self.assertGreaterEqual(len(item.options), 3)
                self.assertIn(item.right, range(len(item.options)))
                self.assertTrue(item.because and item.question)
                self.assertEqual(make(item.key, item.seed, division, ruleset), item)
                if item.topic == "legality":
                    name = item.key.removeprefix("legality/")
                    asked = {"technique": name, "ruleset": ruleset.id, "age": division.age, "belt": division.belt}
                    got = ask_legality({**asked, "attire": division.attire})
                    self.assertEqual(item.options[item.right], follows(got["status"], ruleset))

    def test_no_sequence_breaks_the_rules_and_its_answer_is_the_cores(self):
        rng = random.Random(42)
        for item, division, ruleset in self.items(1_000):
            if item.topic == "legality":
                continue
            _, claim, twist = item.key.split("/")
            rng = random.Random(f"{item.key} {item.seed}")
            side = rng.choice("ab")
            seen = _observations(claim, twist, side, division, ruleset, rng)
            verdict = adjudicate(_log(seen, division, ruleset))
            with self.subTest(item=item):
                self.assertEqual(verdict.warnings, ())
                self.assertLess(seen[-1]["t"] * 1000, _length(division))
                paid = [row for row in verdict.ledger if claim in claims_of(row.reason) and row.kind == "points"]
                self.assertEqual(len(paid), 1 if twist == "held" else 0)
                lost = [row for row in verdict.missed if row.claim == claim]
                self.assertEqual(len(lost), 0 if twist == "held" else 1)
                if item.topic == "pays":
                    points = " to ".join(str(verdict.score[one]["points"]) for one in "ab")
                    self.assertTrue(item.options[item.right].startswith(f"{points} on points"))

    def test_nothing_is_asked_about_points_where_there_are_none(self):
        self.assertEqual(
            {topic: bool(known) for topic, known in keys(preset("submission-only")).items()},
            {"legality": True, "pays": False, "why": False},
        )
        with self.assertRaises(KeyError):
            make("pays/mount/held", 1, DIVISIONS[0], preset("submission-only"))
