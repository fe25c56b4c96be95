"""A scorer's own record and a club's season, with intervals held against statsmodels."""

from __future__ import annotations

import datetime
import unittest

import numpy as np
from statsmodels.stats.proportion import proportion_confint
from statsmodels.stats.weightstats import DescrStatsW

from jurata_core.adjudication import adjudicate
from jurata_core.match_log import read_log
from jurata_core.review import Seen
from jurata_core.season.certainty import LEVEL
from jurata_core.season.club import PlayedBy, club_of
from jurata_core.season.club import as_json as club_json
from jurata_core.season.mistakes import Mistake, Standing
from jurata_core.season.scorer import (
    Judged,
    as_json,
    average,
    read_stored,
    record_of,
    scoring_of,
    stored,
)
from jurata_core.season.words import percent

from .test_season import MATCH

CALLED = {
    **MATCH,
    "observations": [
        *MATCH["observations"][:3],
        {"t": 21, "kind": "position", "position": "guard", "top": "a"},
        {"t": 24.8, "kind": "call", "to": "a", "points": 2},
        {"t": 40, "kind": "position", "position": "guard", "top": "b", "sure": False},
        {"t": 60, "kind": "call", "to": "a", "advantages": 1},
        {"t": 80, "kind": "end", "how": "time"},
    ],
}


def scoring(raw):
    log = read_log(raw)
    return scoring_of(Seen(log, adjudicate(log)))


class OfAScorer(unittest.TestCase):
    def test_a_call_says_how_long_the_position_had_been_held(self):
        found = scoring(CALLED)
        takedown = next(one for one in found.calls if one.standing == "agreed")
        self.assertEqual((takedown.held, takedown.needed, takedown.late), (3_800, 3_000, 800))
        self.assertEqual((found.seen, found.unsure), (8, 1))
        self.assertEqual(sorted(one.standing for one in found.calls), ["agreed", "not_awarded", "not_called"])
        self.assertEqual(read_stored(stored(found)), found)
        self.assertEqual(read_stored([]).calls, ())

    def test_little_is_not_said_to_be_nothing(self):
        self.assertEqual(
            [percent(one) for one in (0, 0.0004, 0.003, 0.0099, 0.5, 0.997, 0.9996, 1)],
            ["0%", "0.04%", "0.3%", "1%", "50%", "99.7%", "99.96%", "100%"],
        )

    def test_without_calls_there_is_nothing_to_agree_on(self):
        self.assertEqual(scoring(MATCH).calls, ())

    def record(self, *lates, seconds=()):
        calls = tuple(Judged("points", "agreed", late, 3_000 + late, 3_000) for late in lates)
        return record_of([(datetime.date(2026, 5, 1), scoring(CALLED)._replace(calls=calls))], seconds)

    def test_who_is_late_is_said_with_its_interval(self):
        lates = [900, 700, 1_100, 800, 1_000]
        found = self.record(*lates)
        said = as_json(found)["officials"]
        interval = DescrStatsW(np.array(lates) / 1000).tconfint_mean(alpha=1 - LEVEL)
        np.testing.assert_allclose(found.officials.late[2:], interval, rtol=1e-6)
        self.assertIn(f"between {interval[0]:.1f} and {interval[1]:.1f} s", said["late"])
        self.assertIn("the officials gave 0.9 s later than the log", said["late"])
        self.assertIn("0.9 s longer than needed", said["held"])
        self.assertIn("too short", as_json(self.record(-900, -800, -1_000, -950))["officials"]["held"])

    def test_what_chance_may_have_done_is_not_said_to_be_late(self):
        said = as_json(self.record(-2_000, 2_500, 900, -1_000))["officials"]
        self.assertIn("No clear difference in time", said["late"])
        self.assertIn("Too few awards", as_json(self.record(900, 800))["officials"]["late"])
        self.assertIsNone(average([1.0, 2.0]))
        self.assertEqual(average([1.0, 1.0, 1.0])[1:], (1.0, 1.0, 1.0))

    def test_agreement_by_kind_and_by_quarter(self):
        lines = [Judged("points", "agreed", 100, None, None)] * 6 + [
            Judged("points", "not_called", None, None, None)
        ] * 2
        rows = [(datetime.date(2026, month, 3), scoring(MATCH)._replace(calls=tuple(lines))) for month in (2, 5, 6)]
        found = record_of(rows, [lines[:7]])
        of = found.officials.agreement["points"]
        self.assertEqual((of.done, of.of), (18, 24))
        np.testing.assert_allclose((of.low, of.high), proportion_confint(18, 24, alpha=1 - LEVEL, method="wilson"))
        self.assertEqual(
            [(one.label, one.share.of) for one in found.quarters],
            [("January to March 2026", 8), ("April to June 2026", 16)],
        )
        self.assertEqual(found.seconds.agreement["points"][:2], (6, 7))

    def test_an_average_holds_the_true_one_nine_times_in_ten(self):
        rng = np.random.default_rng(4)
        held = 0
        for _ in range(2_000):
            found = average(list(rng.normal(0.4, 0.5, int(rng.integers(3, 30)))))
            held += found.low <= 0.4 <= found.high
        self.assertTrue(0.87 <= held / 2_000 <= 0.93, held)


def error(kind, lost=0.0, points=0):
    return Standing(Mistake(f"{kind}-1", kind, "", 1, 0, 2, "guard", points, 0, (), ""), lost)


class OfAClub(unittest.TestCase):
    def setUp(self):
        self.season = club_of([
            PlayedBy(1, "blue", 24, 300_000, "won", [error("taken", 0.1, 2), error("taken", 0.1, 2)]),
            PlayedBy(1, "blue", 24, 300_000, "lost", [error("unheld", 0.05)]),
            PlayedBy(2, "white", 12, 240_000, "lost", [error("taken", 0.3, 3)]),
            PlayedBy(3, "white", 30, 0, "", []),
        ])  # fmt: skip

    def test_what_costs_most_is_first_with_those_who_share_it(self):
        first, second = self.season.kinds
        self.assertEqual((first.kind, first.n, first.matches, first.points, first.lost), ("taken", 3, 2, 7, 0.5))
        self.assertEqual(first.shared, ((2, 1), (1, 2)))  # whom it cost most, not who did it most
        self.assertEqual(second.kind, "unheld")

    def test_belts_and_ages_are_side_by_side(self):
        self.assertEqual(
            [(one.name, one.matches, one.won[:2]) for one in self.season.belts],
            [("white", 1, (0, 1)), ("blue", 2, (1, 2))],
        )
        blue = self.season.belts[1]
        self.assertEqual((blue.errors.n, blue.errors.per_ten, blue.worst), (3, 3.0, "taken"))
        self.assertEqual(sum(one.matches for one in self.season.ages), self.season.matches)

    def test_conceding_is_parted_by_the_move(self):
        """A coach drills the defence of takedowns or of passes, not of everything (common practice, no source)."""
        takedown, passed = (
            one._replace(mistake=one.mistake._replace(part=part))
            for one, part in ((error("taken", 0.3, 2), "takedown"), (error("taken", 0.1, 3), "pass"))
        )
        season = club_of([PlayedBy(1, "blue", 24, 300_000, "lost", [takedown, passed, takedown])])
        shown = club_json(season, {1: "Ada"})["kinds"]
        self.assertEqual(
            [(one["name"], one["n"]) for one in shown], [("Takedowns conceded", 2), ("Guard passes conceded", 1)]
        )

    def test_it_is_shown_with_names(self):
        shown = club_json(self.season, {1: "Ada", 2: "Bo"})
        self.assertEqual([one["name"] for one in shown["kinds"][0]["shared"]], ["Bo", "Ada"])
        self.assertEqual(club_json(club_of([]), {})["kinds"], [])
