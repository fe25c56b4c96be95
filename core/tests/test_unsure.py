"""The range of a verdict, against scoring every way of taking the unsure observations by itself."""

import itertools
import random
import unittest

from jurata_core.adjudication import adjudicate
from jurata_core.match_log import read_log
from jurata_core.unsure import MOST_EXACT, range_of

from .making import at, end, log, start, tried
from .random_logs import random_log


def found(raw):
    checked = read_log(raw)
    return range_of(checked, adjudicate(checked))


def brute_force(raw):
    """The standings of all ways, each scored as a log of its own."""
    unsure = [index for index, seen in enumerate(raw["observations"]) if seen.get("sure") is False]
    standings = []
    for kept in itertools.product((True, False), repeat=len(unsure)):
        gone = {index for index, keep in zip(unsure, kept, strict=True) if not keep}
        verdict = adjudicate(
            read_log(
                {**raw, "observations": [seen for index, seen in enumerate(raw["observations"]) if index not in gone]}
            )
        )
        a, b = verdict.score["a"], verdict.score["b"]
        won = {"a": 1, None: 0, "b": -1}[verdict.result.winner]
        standings.append(
            (won, a["points"] - b["points"], a["advantages"] - b["advantages"], b["penalties"] - a["penalties"])
        )
    return standings


class Range(unittest.TestCase):
    def test_every_way_of_random_logs(self):
        rng = random.Random(7)
        for number in range(120):
            raw = random_log(rng, 35)
            for seen in rng.sample(raw["observations"], rng.randrange(0, 8)):
                seen["sure"] = False
            with self.subTest(number=number):
                ways, standings = found(raw), brute_force(raw)
                self.assertTrue(ways.exact)
                self.assertEqual((ways.worst.standing, ways.best.standing), (min(standings), max(standings)))
                self.assertEqual((ways.all.standing, ways.none.standing), (standings[0], standings[-1]))

    def test_the_subset_named_leads_to_the_outcome_named(self):
        rng = random.Random(8)
        for _ in range(60):
            raw = random_log(rng, 30)
            for number, seen in enumerate(raw["observations"]):
                seen["id"] = f"o{number}"
            for seen in rng.sample(raw["observations"], 6):
                seen["sure"] = False
            ways = found(raw)
            for outcome in (ways.worst, ways.best, ways.none):
                kept = [seen for seen in raw["observations"] if seen["id"] not in outcome.left_out]
                self.assertEqual(adjudicate(read_log({**raw, "observations": kept})).score, outcome.score)

    def test_one_observation_that_decides(self):
        """A sweep nobody could see well is all there is between the two."""
        raw = log(
            start(), at(10, "guard", "b"), at(15, "standing"), at(20, "guard", "a"), at(30, "standing"),
            at(40, "guard", "b", id="late", sure=False), at(50, "standing"), end(),
        )  # fmt: skip
        ways = found(raw)
        self.assertEqual([(row.observation, row.winner, row.without) for row in ways.deciding], [("late", "b", None)])
        self.assertIn("0:40", ways.deciding[0].as_json()["because"])
        self.assertIn("at best no one has won, at worst the opponent wins", ways.because)

    def test_a_single_judgement_that_decides(self):
        near = tried(20, "b", "sweep", outcome="near")
        close = {"t": 30, "kind": "submission", "by": "a", "technique": "darce", "threat": "close", "until": 33}
        decided = found(log(start(), tried(9, "b", "takedown", outcome="near"), end())).deciding
        self.assertEqual([(one.winner, one.without) for one in decided], [("b", None)])
        self.assertEqual(
            decided[0].because,
            "One judgement decides the match, that the opponent's takedown at 0:09 of the footage very nearly "
            "worked: with it the opponent wins, without it no one has won.",
        )
        both = found(log(start(), near, close, end())).deciding
        self.assertEqual([one.observation for one in both], [1, 2])
        self.assertIn("that the athlete's brabo choke at 0:30 of the footage was close", both[1].because)
        won = found(log(start(), at(10, "guard", "a"), near, close, end())).deciding
        self.assertEqual(won, ())

    def test_two_that_only_decide_together_are_not_said_to_decide(self):
        raw = log(
            start(), at(10, "mount", "a", sure=False), at(20, "standing"), at(30, "mount", "a", sure=False), end()
        )
        ways = found(raw)
        self.assertEqual(ways.deciding, ())
        self.assertIsNone(ways.worst.result.winner)

    def test_all_sure(self):
        ways = found(log(start(), at(10, "mount", "a"), end()))
        self.assertEqual((ways.unsure, ways.exact, ways.because), ((), True, "Nothing is marked as unsure."))

    def test_many_more_than_can_be_followed_are_said_not_to_be_exact(self):
        positions = [("guard", "a"), ("side", "a"), ("standing", None), ("guard", "b"), ("mount", "b"), ("turtle", "a")]
        seen = [at(5 + 4 * n, *positions[n % 6], sure=False) for n in range(60)]
        ways = found(log(start(), *seen, end(600)))
        self.assertGreater(len(ways.unsure), MOST_EXACT)
        self.assertFalse(ways.exact)
        self.assertIn("not every combination was scored", ways.because)
        self.assertLessEqual(ways.worst.standing, ways.all.standing)
        self.assertGreaterEqual(ways.best.standing, ways.all.standing)
