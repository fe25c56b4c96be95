"""One log under several rulesets: every difference between two ledgers is listed with its reason."""

import random
import unittest
from dataclasses import replace

from jurata_core.adjudication import adjudicate
from jurata_core.match_log import read_log
from jurata_core.rulesets import preset, preset_ids, read_ruleset
from jurata_core.whatif import changed_settings, what_if

from .making import at, end, log, seen, start
from .random_logs import random_log


def under(changes, *observations, **more):
    """Differences of a log under full points with changes, as (reason of the row, the sentence)."""
    ruleset = read_ruleset({"extends": "full-points", **changes}, "ruleset", [])
    column = what_if(read_log(log(*observations, **more)), [ruleset])[1]
    return [((row.here or row.there).reason.code, row.because) for row in column.differences]


class WhatIf(unittest.TestCase):
    def test_all_presets_in_one_call(self):
        columns = what_if(read_log(log(start(), at(10, "mount", "a"), end())), [preset(name) for name in preset_ids()])
        self.assertEqual([column.verdict.score["a"]["points"] for column in columns], [6, 6, 6, 0, 0])

    def test_why(self):
        mount, sweep = at(10, "mount", "a"), at(10, "guard", "b")
        again = (mount, at(20, "side", "a"), at(30, "mount", "a"))
        slam = seen(5, "technique", by="a", technique="slam")
        lost = (sweep, at(12, "standing"))
        seated = (seen(1, "pull", by="both"), at(1, "double_pull"))
        fouls = (seen(3, "foul", by="a", foul="grip"), seen(4, "foul", by="a", foul="grip"))
        cases = [
            ({"points": {"mount": 5}}, (mount,), [("held", "gives 5 points for it, Full points 4 points")]),
            ({"points": {"takedown": 0}}, (sweep,), [("held", "gives nothing for this takedown")]),
            ({"hold_seconds": 4}, (sweep, at(13.5, "standing")), [("held", "held only 3.5 s of 4 s"), ("lost", "was not lost")]),
            ({"hold_seconds": 4}, (sweep,), [("held", "asks for 4 s, Full points for 3 s")]),
            ({"advantages": False}, lost, [("lost", "has no advantages")]),
            ({"repeat": "every_time"}, again, [("held", "already scored; it scores again")]),
            ({"illegal": "warn", "illegal_disqualify_on": 3}, (slam, sweep), [("held", "the match is over before that")]),
            ({"points_from_fraction": 0.5}, (sweep,), [("held", "points only start at 2:30")]),
            ({"double_pull_limit": 0}, seated, [("penalty", "sets no limit"), ("penalty", "sets no limit")]),
            ({"double_pull_top": "none"}, (*seated, sweep), [("held_advantage", "gives nothing for coming up on top")]),
            ({"pull_cost": 1}, (seen(1, "pull", by="a"), at(2, "guard", "b")), [("pull_cost", "pulling guard costs nothing")]),
            ({"ladder": ["none", "none"]}, fouls, [("rung_advantage", "its penalties go")]),
        ]  # fmt: skip
        for changes, observations, expected in cases:
            with self.subTest(changes=changes):
                found = under(changes, start(), *observations, end())
                self.assertEqual([reason for reason, _ in found], [reason for reason, _ in expected], found)
                for (_, because), (_, part) in zip(found, expected, strict=True):
                    self.assertIn(part, because)

    def test_the_differences_account_for_the_scores(self):
        """What is here and not there, minus the other way, is the difference of the scores."""
        rng = random.Random(41)
        for _ in range(150):
            checked = read_log(random_log(rng))
            for column in what_if(checked, [preset(name) for name in preset_ids()]):
                self.assertEqual(column.verdict.score, adjudicate(column_log(checked, column)).score)
                for side in "ab":
                    for tally in ("points", "advantages", "penalties"):
                        moved = sum(
                            (row.here.n if row.here else 0) - (row.there.n if row.there else 0)
                            for row in column.differences
                            if ((row.here or row.there).to, (row.here or row.there).kind) == (side, tally)
                        )
                        own = adjudicate(checked).score[side][tally]
                        self.assertEqual(column.verdict.score[side][tally] - own, moved)
                for row in column.differences:
                    self.assertRegex(row.because, r"^[A-Z].*\.$")

    def test_settings_that_differ(self):
        found = {name for name, _, _ in changed_settings(preset("full-points"), preset("late-points"))}
        self.assertLessEqual({"points.takedown_clear", "advantages", "ladder", "tiebreak", "pull_cost"}, found)
        self.assertEqual(changed_settings(preset("full-points"), preset("full-points")), ())


def column_log(checked, column):
    return replace(checked, ruleset=column.ruleset)
