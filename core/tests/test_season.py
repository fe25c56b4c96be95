"""Seasons: what a match adds, how sure a figure is, and whether something changed, against statsmodels and made seasons."""

from __future__ import annotations

import datetime
import json
import random
import unittest
from unittest import mock

import numpy as np
from statsmodels.stats.proportion import proportion_confint
from statsmodels.stats.rates import confint_poisson

from jurata_core.adjudication import adjudicate
from jurata_core.chance import fit, solve_together
from jurata_core.lessons import seen_in
from jurata_core.match_log import read_log
from jurata_core.review import Decision, Seen, errors, model_of, swings
from jurata_core.season import Played, costs_of, counted, figures_of, mistakes_of, season_of, spread_of
from jurata_core.season.athlete import as_json as season_json
from jurata_core.season.certainty import LEVEL, change, rate, share, shrunk
from jurata_core.season.figures import NOTHING, as_json, from_json
from jurata_core.season.mistakes import Asked, Cost, Said
from jurata_core.season.mistakes import as_json as mistakes_json
from jurata_core.season.mistakes import from_json as mistakes_from_json

from .random_logs import random_log

MATCH = {
    "format": "jurata-match/3",
    "ruleset": "full-points",
    "duration": 90,
    "division": {"age": 24, "belt": "blue", "attire": "gi"},
    "observations": [
        {"t": 10, "kind": "clock", "action": "start"},
        {"t": 12, "kind": "attempt", "by": "a", "move": "takedown", "technique": "single-leg", "until": 14},
        {"t": 20, "kind": "attempt", "by": "a", "move": "takedown", "technique": "double-leg", "outcome": "done", "until": 21},
        {"t": 21, "kind": "position", "position": "guard", "top": "a", "detail": "half"},
        {"t": 30, "kind": "position", "position": "side", "top": "a"},
        {"t": 31, "kind": "position", "position": "guard", "top": "a"},
        {"t": 40, "kind": "position", "position": "guard", "top": "b", "detail": "closed"},
        {"t": 50, "kind": "position", "position": "mount", "top": "b"},
        {"t": 60, "kind": "position", "position": "guard", "top": "b"},
        {"t": 70, "kind": "submission", "by": "a", "technique": "triangle", "threat": "attempt", "until": 75},
        {"t": 80, "kind": "submission", "by": "a", "technique": "armbar", "threat": "close", "until": 85},
        {"t": 85, "kind": "end", "how": "submission", "by": "a", "technique": "armbar"},
    ],
}  # fmt: skip


def figures(raw):
    log = read_log(raw)
    seen = Seen(log, adjudicate(log))
    return figures_of(seen), seen.verdict


def counted_in(raw, costs=None, said=None):
    log = read_log(raw)
    seen = Seen(log, adjudicate(log))
    return counted(mistakes_of(seen, errors(seen)), costs, said or {})


class OfAMatch(unittest.TestCase):
    def test_what_was_tried_and_came_off(self):
        found, _ = figures(MATCH)
        tries = [(one.move, one.by, one.done, one.technique, one.detail) for one in found.tries]
        self.assertEqual(
            tries,
            [
                ("takedown", "a", False, "single-leg", None),
                ("takedown", "a", True, "double-leg", None),
                ("guard_pass", "a", False, None, "half"),
                ("sweep", "b", True, None, "guard"),
                ("guard_pass", "b", True, None, "closed"),
                ("escape", "a", True, None, "mount"),
                ("submission", "a", False, "triangle", "guard"),
                ("submission", "a", True, "armbar", "guard"),
            ],
        )
        self.assertEqual((found.length, found.feet, found.top, found.below), (75_000, 11_000, 19_000, 45_000))
        self.assertEqual(found.scored["takedown"], (2, 0, 0, 0))
        self.assertEqual(found.scored["guard_pass"][2:], (3, 0))

    def test_a_moment_shows_the_move_from_its_beginning(self):
        found, _ = figures(MATCH)
        double = found.tries[1]
        self.assertEqual((double.start, double.t, double.clock), (16_000, 21_000, 11_000))

    def test_time_and_points_add_up_whatever_happened(self):
        rng = random.Random(20)
        for number in range(300):
            raw = random_log(rng)
            with self.subTest(number):
                found, verdict = figures(raw)
                self.assertEqual(found.top + found.below + found.feet, found.length)
                self.assertEqual(sum(part.lasted for part in found.thirds), found.length)
                self.assertEqual(sum(part.lasted for part in found.states.values()), found.length)
                points = (verdict.score["a"]["points"], verdict.score["b"]["points"])
                carried = [sum(sums[place] for sums in found.scored.values()) for place in (0, 2)]
                for parts in (found.thirds, found.states.values()):
                    sums = (sum(part.points_a for part in parts), sum(part.points_b for part in parts))
                    self.assertEqual(sums, tuple(carried))
                if not any(one.get("kind") == "begin" for one in raw["observations"]):
                    self.assertEqual(tuple(carried), points)
                self.assertEqual(from_json(json.loads(json.dumps(as_json(found)))), found)

    def test_a_match_without_anything_adds_nothing(self):
        found, _ = figures({**MATCH, "observations": []})
        self.assertEqual((found, from_json({})), (NOTHING, NOTHING))


class Costs(unittest.TestCase):
    """What errors cost of the chance of winning, and which of them count."""

    def setUp(self):
        self.rates = fit(seen_in({}))

    def asked(self, raw):
        log = read_log(raw)
        seen = Seen(log, adjudicate(log))
        return Asked(seen, errors(seen), self.rates)

    def test_matches_asked_together_cost_what_each_costs_alone(self):
        rng = random.Random(7)
        shorter = {**MATCH, "duration": 60, "observations": MATCH["observations"][:8]}
        rows = [self.asked(raw) for raw in (MATCH, shorter, *(random_log(rng) for _ in range(4)), MATCH)]
        together = costs_of(rows)
        for number, row in enumerate(rows):
            alone = costs_of([row])[0]
            self.assertEqual(alone.keys(), together[number].keys())
            for key, cost in alone.items():
                self.assertAlmostEqual(cost.lost, together[number][key].lost, delta=0.0002)
        self.assertGreater(sum(cost.lost for cost in together[0].values()), 0.1)

    def test_they_are_those_of_the_review(self):
        row = self.asked(MATCH)
        model = model_of(row.seen, self.rates)
        swung = solve_together(model, swings(row.seen, row.errors, model))[0]
        costs = costs_of([row])[0]
        for error, one in zip(row.errors, swung, strict=True):
            if one is not None:
                self.assertAlmostEqual(costs[error.key].lost, one.lost, delta=0.0001)

    def test_a_coach_s_word_decides_what_counts(self):
        every = counted_in(MATCH)
        first = every[0].mistake.key
        self.assertEqual({one.lost for one in every}, {None})
        dismissed = counted_in(MATCH, said={first: Said(Decision(False, True, None), ())})
        self.assertEqual(len(dismissed), len(every) - 1)
        named = counted_in(MATCH, said={first: Said(Decision(True, False, None), ("base",))})
        self.assertEqual(named[0].mistake.causes, ("base",))

    def test_what_helped_is_no_error_unless_the_coach_says_so(self):
        key = counted_in(MATCH)[0].mistake.key
        costs = {key: Cost(0.0, True)}
        self.assertNotIn(key, [one.mistake.key for one in counted_in(MATCH, costs)])
        accepted = counted_in(MATCH, costs, {key: Said(Decision(True, False, None), ())})
        self.assertIn(key, [one.mistake.key for one in accepted])

    def test_errors_are_gathered_under_their_root(self):
        every = counted_in(MATCH)
        first, last = every[0].mistake.key, every[-1].mistake.key
        linked = counted_in(MATCH, said={last: Said(Decision(False, False, first), ())})
        self.assertEqual(linked[-1].root, linked[0].root)
        apart = counted_in(MATCH, said={last: Said(Decision(False, False, ""), ())})
        self.assertEqual(apart[-1].root, last)

    def test_they_are_stored_and_read_again(self):
        found = mistakes_of(self.asked(MATCH).seen, self.asked(MATCH).errors)
        self.assertEqual(mistakes_from_json(json.loads(json.dumps(mistakes_json(found)))), found)


class Certainty(unittest.TestCase):
    def test_shares_and_rates_are_as_statsmodels_has_them(self):
        for done, of in ((0, 3), (3, 3), (6, 14), (1, 9), (40, 61)):
            found = share(done, of)
            wilson = proportion_confint(done, of, alpha=1 - LEVEL, method="wilson")
            np.testing.assert_allclose((found.low, found.high), wilson, atol=1e-9)
        for n, minutes in ((1, 30.0), (6, 84.0), (25, 61.5)):
            found = rate(n, minutes)
            jeffreys = confint_poisson(n, minutes / 10, method="jeff", alpha=1 - LEVEL)
            np.testing.assert_allclose((found.low, found.high), jeffreys, rtol=1e-6)

    def test_nothing_seen_says_nothing(self):
        self.assertEqual(share(0, 0)[2:], (0.5, 0.0, 1.0))
        self.assertEqual(rate(0, 0.0)[3:5], (0.0, float("inf")))
        for before, since in (([], []), ([(2, 5.0)], []), ([(0, 5.0)], [(0, 5.0)]), ([(4, 5.0)], [(0, 5.0)])):
            self.assertEqual(change(before, since).word, "no difference", (before, since))

    def test_intervals_hold_the_true_value_nine_times_in_ten(self):
        """2,000 made seasons of each kind."""
        rng = np.random.default_rng(3)
        held = {"share": 0, "rate": 0, "ratio": 0}
        with mock.patch("jurata_core.season.certainty.RESAMPLES", 1):
            for _ in range(2_000):
                true, of = rng.uniform(0.1, 0.9), int(rng.integers(3, 60))
                found = share(int(rng.binomial(of, true)), of)
                held["share"] += found.low <= true <= found.high
                true, minutes = rng.uniform(0.5, 8), rng.uniform(20, 200)
                often = rate(int(rng.poisson(true * minutes / 10)), minutes)
                held["rate"] += often.low <= true <= often.high
                factor = rng.choice([0.5, 1.0, 1.5])
                found = change(*made_season(rng, 2.0, factor))
                held["ratio"] += found.low <= factor <= found.high
        for name, times in held.items():
            self.assertTrue(0.87 <= times / 2_000 <= 0.93, (name, times / 2_000))

    def test_few_tries_are_moved_towards_the_club_s_share(self):
        rng = np.random.default_rng(5)
        held = total = 0
        for _ in range(40):
            shares, of = rng.beta(4, 6, 25), rng.integers(1, 25, 25)
            done = rng.binomial(of, shares)
            spread = spread_of([(int(d), int(n)) for d, n in zip(done, of, strict=True)])
            self.assertAlmostEqual(spread.mean, done.sum() / of.sum(), delta=0.1)
            for true, d, n in zip(shares, done, of, strict=True):
                found = shrunk(int(d), int(n), spread)
                raw = d / n
                self.assertLessEqual(abs(found.estimate - spread.mean), abs(raw - spread.mean) + 1e-9)
                held += found.low <= true <= found.high
                total += 1
        self.assertTrue(0.87 <= held / total <= 0.93, held / total)
        self.assertEqual(spread_of([]), (1.0, 1.0))

    def test_half_as_many_errors_are_noticed_and_chance_is_not_called_better(self):
        """Seasons of 30 matches with two errors a match, and matches that differ by more than chance."""
        rng = np.random.default_rng(11)
        with mock.patch("jurata_core.season.certainty.RESAMPLES", 199):
            halved = [change(*made_season(rng, 2.0, 0.5)).word for _ in range(400)]
            same = [change(*made_season(rng, 2.0, 1.0)).word for _ in range(400)]
        noticed = sum(word in ("better", "probably better") for word in halved) / 400
        self.assertGreaterEqual(noticed, 0.8)
        self.assertLessEqual(same.count("better") / 400, 0.05)
        self.assertEqual(halved.count("worse"), 0)


def made_season(rng, errors_a_match, factor):
    """Thirty matches of three to seven minutes; in the second half the rate of errors is another."""
    minutes = rng.uniform(3, 7, 30)
    wild = rng.gamma(4, 1 / 4, 30)
    counts = rng.poisson(errors_a_match * minutes / 5 * wild * np.where(np.arange(30) < 15, 1, factor))
    rows = [(int(n), float(m)) for n, m in zip(counts, minutes, strict=True)]
    return rows[:15], rows[15:]


class OfAnAthlete(unittest.TestCase):
    def setUp(self):
        found, _ = figures(MATCH)
        self.played = [
            Played(f"m{day}", datetime.date(2026, 1, day), "won", "submission", "Full points", found, counted_in(MATCH))
            for day in range(1, 7)
        ]

    def season(self, split=None):
        return season_of(self.played, {}, split)

    def test_every_figure_has_the_moments_behind_it(self):
        season = self.season()
        takedown = next(one for one in season.moves if (one.move, one.by) == ("takedown", "a"))
        self.assertEqual(takedown.whole.share[:2], (6, 12))
        self.assertEqual([moment.match for moment in takedown.whole.done], [one.match for one in self.played])
        self.assertEqual(
            [(one.name, one.share[:2]) for one in takedown.techniques], [("double-leg", (6, 6)), ("single-leg", (0, 6))]
        )
        for row in season.coming_back.kinds:
            self.assertEqual(len(row.moments), row.n)
        self.assertEqual(season.record, {"Full points": {"won": 6, "won submission": 6}})
        self.assertEqual(season.length, 6 * 75_000)
        json.dumps(season_json(season))

    def test_errors_are_told_apart_by_the_day(self):
        for split, before in ((None, 3), (datetime.date(2026, 1, 2), 1), (datetime.date(2027, 1, 1), 6)):
            row = self.season(split).coming_back.kinds[0]
            self.assertEqual(row.change.before.minutes, before * 1.25, split)
            self.assertEqual(row.change.before.n + row.change.since.n, row.n)

    def test_a_tiny_season_says_nothing_false(self):
        for number in range(4):
            season = season_of(self.played[:number], {})
            self.assertEqual({row.change.word for row in season.coming_back.kinds} - {"no difference"}, set())
            for one in season.moves:
                self.assertLess(one.whole.share.low, max(one.whole.share.estimate, 0.01))
        empty = season_json(season_of([], {}))
        self.assertEqual((empty["matches"], empty["kinds"], empty["split"]), (0, [], None))

    def test_a_match_that_nothing_is_logged_of_counts_as_unscored(self):
        season = season_of([*self.played, Played("new", None, "", "", "Full points", NOTHING)], {})
        self.assertEqual((season.matches, season.unscored), (7, 1))


class SmallSeasons(unittest.TestCase):
    """Small seasons say something useful and nothing false."""

    def said(self, *matches):
        played = [
            Played(str(n), datetime.date(2026, n + 1, 1), "lost", "points", "", *one) for n, one in enumerate(matches)
        ]
        return [row["change"]["said"] for row in season_json(season_of(played, {}))["kinds"]]

    def setUp(self):
        self.match = (figures(MATCH)[0], counted_in(MATCH))

    def test_of_one_match_it_says_how_often(self):
        for said in self.said(self.match):
            self.assertRegex(said, r"^\d+ in 1 match \(\d+\.\d in ten minutes\)$")

    def test_of_three_it_does_not_say_that_nothing_changed(self):
        for said in self.said(*[self.match] * 3):
            self.assertTrue(said.endswith("too few to say whether it changes"), said)

    def test_of_eight_it_does(self):
        for said in self.said(*[self.match] * 8):
            self.assertTrue(said.endswith("since: no difference to be seen"), said)


class Given(unittest.TestCase):
    def test_everything_that_was_given_opens_its_moment(self):
        found, verdict = figures(MATCH)
        season = season_json(
            season_of([Played("m", datetime.date(2026, 1, 1), "won", "submission", "Full points", found)], {})
        )
        rows = [row for row in verdict.ledger if row.kind == "points"]
        for parts in (season["scored"], season["thirds"], season["states"]):
            cells = [part[name] for part in parts for name in ("points_a", "points_b")]
            self.assertEqual(sum(cell["n"] for cell in cells), sum(row.n for row in rows))
            self.assertEqual(sum(len(cell["moments"]) for cell in cells), len(rows))
        took = next(part["points_a"] for part in season["scored"] if part["what"] == "takedown")
        self.assertEqual(took["moments"], [{"match": "m", "t": 24, "start": 17, "end": 28}])
