"""How a match stood all along: its chances, its windows, and what was better let go."""

import json
import subprocess
import unittest
from dataclasses import replace
from pathlib import Path

from jurata_core.adjudication import adjudicate
from jurata_core.adjudication.places import Place
from jurata_core.chance import Model, prior
from jurata_core.match_log import read_log
from jurata_core.review import Seen, errors
from jurata_core.review.prospects import prospects
from jurata_core.winnable import guessed

from .errors_made import ON_TOP, PULLED_BY_A, finish
from .making import at, end, log, seen, start, stop

ROOT = Path(__file__).resolve().parents[2]


def looked_ahead(raw, side="a", rates=None):
    read = read_log(raw)
    one = Seen(read, adjudicate(read), side)
    return prospects(one, errors(one), Model(read.ruleset, 300, rates or prior()), guessed())


class Chances(unittest.TestCase):
    def test_from_either_side_they_add_up_and_end_where_the_match_ended(self):
        raw = log(*ON_TOP, end())
        mine, theirs = looked_ahead(raw), looked_ahead(raw, "b")
        for one, other in zip(mine.chances, theirs.chances, strict=True):
            self.assertAlmostEqual(one.win, other.lose, places=5)
            self.assertAlmostEqual(one.win + one.lose, 1, places=5)
        self.assertEqual((mine.chances[-1].win, theirs.chances[-1].win), (1, 0))

    def test_a_match_won_by_a_finish_is_won_from_there_whatever_the_score(self):
        got = looked_ahead(log(*PULLED_BY_A, at(40, "mount", "b"), at(60, "guard", "b"), finish(80, "a", "triangle")))
        self.assertLess(got.chances[-2].win, 0.3)
        self.assertEqual(got.chances[-1].win, 1)

    def test_a_stop_of_the_clock_takes_no_time(self):
        got = looked_ahead(log(start(), at(10, "guard", "a"), stop(20), start(80, restart="same"), end(100)))
        self.assertEqual(len(got.moments), 41)

    def test_a_log_of_nothing(self):
        got = looked_ahead(log())
        self.assertEqual((got.moments, got.windows, got.lets), ((), (), ()))


class Windows(unittest.TestCase):
    def test_cut_where_place_or_score_changed_with_the_ways_from_there(self):
        got = looked_ahead(log(*PULLED_BY_A, at(250, "side", "b"), end()))
        self.assertEqual([(one.clock // 1000, one.stands) for one in got.windows],
                         [(0, "level"), (5, "level"), (250, "level"), (253, "behind by 3 points")])  # fmt: skip
        last = got.windows[-1]
        self.assertTrue(all(way.takes >= 3_000 for way in last.ways))
        self.assertEqual([way.closes for way in last.ways], [300_000 - way.takes for way in last.ways])
        self.assertEqual(last.as_json()["until"], 300)

    def test_who_has_the_last_sweep_is_said_in_the_last_minutes(self):
        said = {one.clock // 1000: one.turns for one in looked_ahead(log(
            *PULLED_BY_A, at(100, "guard", "a"), at(256, "guard", "b"), at(292, "guard", "a"), end())).windows}  # fmt: skip
        self.assertIsNone(said[5])
        # Eleven seconds a sweep, its three of holding included: four in 44 seconds, the first by the one below.
        self.assertEqual(
            said[256], "If they trade sweeps there is time for 4 more, and the opponent gets the last one."
        )
        self.assertEqual(said[292], "With 8 s left there is no time to score a sweep; it needs 11 s.")

    def test_before_points_open_it_is_said_when_they_do(self):
        got = looked_ahead(log(*PULLED_BY_A, at(200, "side", "b"), end(), ruleset="late-points"))
        self.assertEqual(got.windows[0].stands, "level; points start at 2:30")
        self.assertEqual(got.windows[-1].stands, "behind by 3 points")

    def test_ahead_needs_no_way(self):
        got = looked_ahead(log(*ON_TOP, end()))
        self.assertEqual(got.windows[-1].ways, ())
        self.assertEqual(got.windows[-1].stands, "ahead by 3 points")


class LettingGo(unittest.TestCase):
    def test_it_is_said_where_the_model_says_so(self):
        """Where the one below finishes often, an advantage in hand and standing is worth more than two points to come."""
        per_minute = {band: dict(events) for band, events in prior().per_minute.items()}
        for band, events in per_minute.items():
            if band.place == Place("guard", "a"):
                events.update({one: 30.0 for one in events if one.what == "finish" and one.side == "b"})
        raw = log(*PULLED_BY_A, at(280, "guard", "a"), end())
        (let,) = looked_ahead(raw, rates=replace(prior(), per_minute=per_minute)).lets
        self.assertRegex(
            let.as_json()["because"],
            r"At 4:41, letting go to standing would have given the advantage and a \d+% chance to win",
        )
        self.assertEqual(looked_ahead(raw).lets, ())


class CommandLine(unittest.TestCase):
    def test_the_errors_of_a_log(self):
        raw = log(*PULLED_BY_A, seen(20, "submission", by="a", technique="triangle", threat="attempt", until=26),
                  at(28, "side", "b"), end())  # fmt: skip
        done = subprocess.run(
            [ROOT / "bin" / "jurata", "review", "-"], input=json.dumps(raw), capture_output=True, text=True, check=True
        )
        got = json.loads(done.stdout)
        first = got["errors"][0]
        self.assertEqual(
            (first["kind"], first["cost"], first["since"], first["t"]),
            ("given", {"points": 3, "advantages": 0}, 20, 31),
        )
        self.assertEqual(first["otherwise"]["result"]["method"], "undecided")
        self.assertGreater(first["swing"], 0)
        self.assertEqual((first["side"], first["from"]), ("a", None))
        self.assertEqual(got["good"][0]["kind"], "clean")

    def test_either_side_and_many_logs(self):
        raw = log(*PULLED_BY_A, seen(12, "mark", on="b", cause="base"), at(28, "side", "b"), end())
        command = [ROOT / "bin" / "jurata", "review"]

        def got(*words):
            line = json.dumps(raw) + "\n"
            done = subprocess.run([*command, *words], input=line, capture_output=True, text=True, check=True)
            return json.loads(done.stdout)

        (other,) = got("-", "--side", "b")["errors"]
        self.assertEqual((other["kind"], other["side"], other["observations"]), ("technical", "b", [3]))
        both = got("--lines", "-", "--both")
        self.assertEqual([one["kind"] for one in both["a"]["errors"]], ["taken", "stuck", "no_attempt"])
        self.assertEqual(both["b"]["errors"], [other])
        self.assertEqual(got("--lines", "-", "--side", "b")["errors"], [other])
