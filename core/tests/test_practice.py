"""The practice match and what is said of a first score of it."""

from __future__ import annotations

import copy
import unittest

from jurata_core.adjudication import adjudicate
from jurata_core.match_log import read_log
from jurata_core.practice import look_back, practice_log


def looked_back(change=lambda rows: rows):
    log = copy.deepcopy(practice_log())
    log["observations"] = change(log["observations"])
    read = read_log(log)
    return look_back(read, adjudicate(read))


def moved(rows, number, seconds):
    rows[number]["t"] += seconds
    return rows


class Practice(unittest.TestCase):
    def test_what_the_clip_comes_to(self):
        """Two for a takedown, three for each pass that is held for three seconds, an advantage for one that is not
        (common practice, no source)."""
        log = read_log(practice_log())
        self.assertLessEqual(max(one.t for one in log.observations), 90_000)
        verdict = adjudicate(log)
        rows = [(row.kind, row.n) for row in verdict.ledger]
        self.assertEqual(rows, [("points", 2), ("points", 3), ("advantages", 1), ("points", 3)])
        self.assertEqual((verdict.result.winner, verdict.result.method), ("a", "submission"))

    def test_all_logged_at_the_right_moment(self):
        found = looked_back()
        self.assertEqual({one.because for one in found.moments}, {"Logged at the right moment."})
        self.assertEqual(found.score, found.own)
        self.assertIn("You logged 9 of 9 moments, and your score is what the clip comes to", found.because)

    def test_late_early_and_missed(self):
        late = looked_back(lambda rows: moved(rows, 3, 1.2)).moments[2]
        self.assertEqual((late.logged, late.because[:17]), (31_200, "Logged 1.2 s late"))
        self.assertIn("0.9 s early", looked_back(lambda rows: moved(rows, 7, -0.9)).moments[6].because)
        missed = looked_back(lambda rows: rows[:3])
        self.assertEqual([one.logged is None for one in missed.moments], [False, False, *[True] * 7])
        self.assertIn("It is at 0:30 in the clip", missed.moments[2].because)
        self.assertIn("You logged 2 of 9 moments. What is missing", missed.because)

    def test_each_observation_answers_one_moment_only(self):
        """A position logged twice does not stand for the next one of the same name."""
        doubled = looked_back(lambda rows: [*rows[:4], {**rows[3], "t": 30.5}])
        self.assertEqual(
            [one.logged for one in doubled.moments if "control" in one.what],
            [30_000, None, None, None],
        )
