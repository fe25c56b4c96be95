"""The chance model by groups of matches, and its predictions held against what happened."""

from __future__ import annotations

import random
import unittest
from unittest import mock

import numpy as np
from sklearn.metrics import brier_score_loss

from jurata_core.adjudication import adjudicate
from jurata_core.chance import fit
from jurata_core.lessons import Group, fitted, group_of, lesson_of, seen_in
from jurata_core.match_log import read_log
from jurata_core.review import Seen
from jurata_core.season import calibration
from jurata_core.season.calibration import LEAST_MATCHES, Predicted, Trial, as_json, calibrated, predictions

from .random_logs import random_log
from .test_season import MATCH

BLUE, WHITE = Group("Full points", "blue", "Adult"), Group("Full points", "white", "Adult")
LATE = Group("Late points", "blue", "Adult")


def lesson(rate, minutes):
    """A lesson in which the back is taken from the guard so often a minute."""
    return {
        "matches": max(1, round(minutes / 5)),
        "stay|guard|a|late": round(minutes * 60_000),
        "event|guard|a|late|move|back|a|": round(rate * minutes),
    }


def rate_of(rates):
    band = next(
        band for band in rates.per_minute if (band.place.position, band.place.top, band.early) == ("guard", "a", False)
    )
    return next(
        rate
        for event, rate in rates.per_minute[band].items()
        if event.to and event.to.position == "back" and event.to.top == "a"
    )


class ByGroups(unittest.TestCase):
    def test_a_match_belongs_to_its_rules_belt_and_age_class(self):
        found = group_of(read_log(MATCH), "Full points")
        self.assertEqual((found.ruleset, found.belt), ("Full points", "blue"))
        self.assertIn("blue belts", found.said)

    def test_where_there_is_much_a_group_has_its_own_rates(self):
        lessons = {BLUE: lesson(2.0, 500), WHITE: lesson(0.5, 500), LATE: lesson(1.0, 500)}
        self.assertAlmostEqual(rate_of(fitted(lessons, BLUE).rates), 2.0, delta=0.1)
        self.assertAlmostEqual(rate_of(fitted(lessons, WHITE).rates), 0.5, delta=0.1)

    def test_where_there_is_little_it_has_those_of_the_nearest(self):
        lessons = {BLUE: lesson(2.0, 2), WHITE: lesson(0.5, 500), LATE: lesson(3.0, 500)}
        own = rate_of(fitted(lessons, BLUE).rates)
        self.assertTrue(0.5 < own < 1.0, own)
        self.assertAlmostEqual(rate_of(fitted({LATE: lesson(3.0, 500)}, BLUE).rates), 3.0, delta=0.1)

    def test_without_any_it_has_the_prior_s(self):
        self.assertEqual(rate_of(fitted({}, BLUE).rates), rate_of(fit(seen_in({}))))

    def test_it_says_what_it_learned_from(self):
        found = fitted({BLUE: lesson(2.0, 10), WHITE: lesson(0.5, 20), LATE: lesson(1.0, 30)}, BLUE)
        self.assertEqual([(one.name, one.matches, one.minutes) for one in found.layers], [
            ("other rulesets", 6, 30.0), ("Full points, other divisions", 4, 20.0), (BLUE.said, 2, 10.0)
        ])  # fmt: skip
        self.assertEqual((found.rates.matches, found.rates.minutes), (12, 60.0))


class HeldAgainstResults(unittest.TestCase):
    def test_no_match_is_predicted_by_what_it_taught_itself(self):
        rng = random.Random(5)
        trials = []
        for number in range(60):
            log = read_log(random_log(rng))
            seen = Seen(log, adjudicate(log))
            trials.append(Trial(f"m{number}", group_of(log, log.ruleset.title), lesson_of(log, seen.verdict), seen))
        over = [one for one in trials if one.won is not None and one.lesson]
        learned: list[int] = []

        def watched(lessons, group):
            learned.append(sum(one["matches"] for one in lessons.values()))
            return fitted(lessons, group)

        with mock.patch.object(calibration, "fitted", watched):
            parts = list(predictions(trials))
        self.assertEqual(len(parts), calibration.FOLDS)
        self.assertTrue(all(matches < len(over) for matches in learned))
        found = [one for part in parts for one in part]
        self.assertGreater(len(found), len(over) * 0.8)
        self.assertTrue(all(0 <= one.chance <= 1 and one.won in (0, 0.5, 1) for one in found))

    def test_what_comes_true_is_seen_to(self):
        """The score is as scikit-learn has it; G. W. Brier, "Verification of forecasts expressed in terms of
        probability", 1950."""
        rng = np.random.default_rng(8)
        held = total = 0
        for _ in range(60):
            chances = rng.uniform(0, 1, 150)
            rows = [Predicted(float(chance), float(rng.random() < chance)) for chance in chances]
            found = calibrated(rows)
            self.assertLess(found.score, found.usual)
            self.assertAlmostEqual(found.score, brier_score_loss([one.won for one in rows], chances))
            held += sum(one.won.low <= one.predicted <= one.won.high for one in found.bins)
            total += len(found.bins)
        self.assertTrue(0.85 <= held / total <= 0.95, held / total)

    def test_what_does_not_is_seen_too(self):
        rows = [Predicted(0.9, float(number % 10 < 3)) for number in range(100)]
        found = calibrated(rows)
        self.assertGreater(found.score, found.usual)
        self.assertLess(found.bins[0].won.high, found.bins[0].predicted)

    def test_of_few_matches_nothing_is_said(self):
        self.assertIsNone(calibrated([Predicted(0.5, 1.0)] * (LEAST_MATCHES - 1)))
        self.assertIsNone(as_json(None))
        self.assertEqual(list(predictions([])), [[]] * calibration.FOLDS)
