"""What brought an error about, what was stopped, what referees weigh, and what a coach speaks of first."""

import json
import random
import unittest

from jurata_core.adjudication import adjudicate
from jurata_core.answers import review_both, review_of, score
from jurata_core.match_log import read_log
from jurata_core.review import Seen, cause_of, decision_ahead, decision_json, errors, stopped_by, stopped_said
from jurata_core.season import figures_of

from .cause_reader import CauseReader
from .errors_made import PULLED_BY_A, grip, hold
from .making import at, end, log, seen, start, tried
from .random_logs import random_log

LOGS = 120


def seen_from(raw, side="a"):
    read = read_log(raw)
    return Seen(read, adjudicate(read), side)


def cause(kind, *observations, side="a", **more):
    """The cause of the first error of a kind."""
    found = [one for one in review_of(log(*observations, **more), side)["errors"] if one["kind"] == kind]
    return found[0]["cause"]


class Causes(unittest.TestCase):
    PASSED = at(20, "side", "b")

    def test_the_grip_that_was_on(self):
        found = cause("taken", *PULLED_BY_A, grip(10, 19), self.PASSED, end(60))
        self.assertEqual(found["because"], "The opponent had the cross collar grip from 0:10.")
        self.assertEqual(found["observations"], [3])

    def test_a_grip_let_go_long_before_is_none(self):
        self.assertIsNone(cause("taken", *PULLED_BY_A, grip(8, 12), self.PASSED, end(60)))
        missed = {**grip(10, 19), "outcome": "failed"}
        self.assertIsNone(cause("taken", *PULLED_BY_A, missed, self.PASSED, end(60)))

    def test_the_own_attempt_that_failed_and_what_was_on_with_it(self):
        tries = tried(16, "a", "sweep")
        found = cause("taken", *PULLED_BY_A, grip(10, 19), tries, self.PASSED, end(60))
        self.assertEqual(
            found["because"],
            "The athlete's own sweep at 0:16 failed before that. The opponent had the cross collar grip from 0:10.",
        )
        self.assertEqual(found["observations"], [4, 3])
        self.assertIsNone(cause("taken", *PULLED_BY_A, tried(8, "a", "sweep"), at(40, "side", "b"), end(60)))

    def test_the_hold_it_came_out_of_and_the_contest_before(self):
        out_of = cause("taken", *PULLED_BY_A, hold(12, "b", until=18), self.PASSED, end(60))
        self.assertIn("It came out of the opponent's", out_of["because"])
        lost = seen(14, "contest", **{"for": "underhook"}, until=17, won="b")
        found = cause("taken", *PULLED_BY_A, lost, self.PASSED, end(60))
        self.assertEqual(found["because"], "The opponent had won the underhook at 0:17.")
        self.assertIsNone(cause("taken", *PULLED_BY_A, {**lost, "won": "a"}, self.PASSED, end(60)))

    def test_the_legs(self):
        caught = seen(12, "legs", by="b", knee="caught", heel="exposed")
        found = cause("taken", *PULLED_BY_A, caught, self.PASSED, end(60))
        self.assertEqual(found["because"], "The opponent had the knee and the heel since 0:12.")
        self.assertIsNone(
            cause("taken", *PULLED_BY_A, {**caught, "knee": "free", "heel": "hidden"}, self.PASSED, end(60))
        )

    def test_legs_that_were_freed_again_are_none(self):
        caught, freed = seen(8, "legs", by="b", knee="caught"), seen(12, "legs", by="b", knee="free")
        self.assertIsNone(cause("taken", *PULLED_BY_A, caught, freed, self.PASSED, end(60)))

    def test_no_restart_lies_between(self):
        stopped = [seen(17, "clock", action="stop"), start(18, restart="placed", position="guard", top="b")]
        self.assertIsNone(cause("taken", *PULLED_BY_A, grip(10, 16), *stopped, self.PASSED, end(60)))

    def test_every_sentence_is_true_on_random_logs(self):
        """Read again from the log as it was written."""
        rng = random.Random(17)
        said = 0
        for _ in range(LOGS):
            raw = random_log(rng, 45)
            for side in "ab":
                one, reader = seen_from(raw, side), CauseReader(raw, score(raw), side)
                for error in errors(one):
                    found = cause_of(one, error.found)
                    if found is not None:
                        said += 1
                        reader.read_cause(found.because, error)
                        json.dumps(found.as_json())
        self.assertGreater(said, 100)


class Stopped(unittest.TestCase):
    def test_what_was_stopped_and_what_came_off(self):
        shots = [tried(t, "b", "takedown") for t in (5, 10, 15)]
        found = review_of(log(start(), *shots, at(30, "guard", "b"), end(60)))
        self.assertEqual(found["stopped"], {"takedown": [3, 4]})
        self.assertEqual(review_of(log(start(), *shots, end(60)), "b")["stopped"], {})

    def test_it_is_what_a_season_counts_of_the_other_side(self):
        rng = random.Random(19)
        for _ in range(LOGS):
            one = seen_from(random_log(rng, 40))
            theirs = [tried for tried in figures_of(one).tries if tried.by == "b"]
            for found in stopped_by(one):
                own = [tried.done for tried in theirs if tried.move == found.move]
                self.assertEqual((len(found.tries), found.of), (len(own) - sum(own), len(own)))

    def test_the_grip_under_which_it_was_stopped(self):
        shots = [tried(t, "b", "takedown") for t in (5, 10, 25)]
        collar = {**grip(3, 12), "by": "a", "grip": "collar"}
        (found,) = stopped_by(seen_from(log(start(), collar, *shots, end(60))))
        self.assertEqual(found.under, {"collar": 2})
        self.assertEqual(stopped_said([found]), "Stopped 3 of 3 takedowns.")
        self.assertIsNone(stopped_said([]))


class Weighed(unittest.TestCase):
    def test_a_worked_example(self):
        """Ten seconds of a hold, a second of a shot, 20 s on top past the guard; the last minute by itself."""
        rows = [
            start(), tried(10, "a", "takedown", outcome="near"), hold(20, "b", until=30, threat="close"),
            at(40, "guard", "a"), at(200, "side", "a"), at(220, "guard", "a"), tried(290, "b", "sweep", until=292),
        ]  # fmt: skip
        found = review_of(log(*rows, end(300)))["decision"]
        self.assertEqual((found["near"], found["submissions"]), ({"a": 1, "b": 1}, {"a": 0, "b": 1}))
        self.assertEqual((found["attacking"], found["on_top"]), ({"a": 1, "b": 12}, {"a": 20, "b": 0}))
        last = found["last_minute"]
        self.assertEqual((last["near"], last["attacking"], last["on_top"]),
                         ({"a": 0, "b": 0}, {"a": 0, "b": 2}, {"a": 0, "b": 0}))  # fmt: skip

    def test_nobody_has_more_than_the_time_there_was(self):
        rng = random.Random(23)
        for _ in range(LOGS):
            one = seen_from(random_log(rng, 40))
            found, ran = decision_json(one), (one.clock(one.over) - one.verdict.timeline.clock_at_start) / 1000
            self.assertLessEqual(found["on_top"]["a"] + found["on_top"]["b"], ran + 0.001)
            for part in (found, found["last_minute"]):
                for side in "ab":
                    self.assertLessEqual(part["attacking"][side], ran + 0.001)
            for name in ("near", "submissions", "attacking", "on_top"):
                for side in "ab":
                    self.assertLessEqual(found["last_minute"][name][side], found[name][side] + 0.001)


class Ahead(unittest.TestCase):
    def test_in_the_last_minute_of_a_level_match_alone(self):
        level = seen_from(log(start(), tried(200, "a", "takedown", outcome="near"), end(300), ruleset="late-points"))
        found = decision_ahead(level, 270_000)
        self.assertEqual((found["quiet_for"], found["tipped_by"]), (70, ["2 points"]))
        self.assertEqual(
            found["said"], "Level, and for 70 s nothing has scored or come near. 2 points would decide it."
        )
        for t in (100_000, 300_000):
            self.assertIsNone(decision_ahead(level, t))
        ahead = seen_from(log(start(), at(200, "guard", "a"), end(300)))
        self.assertIsNone(decision_ahead(ahead, 270_000))


class Planned(unittest.TestCase):
    def test_what_was_tried_of_it_and_what_was_not(self):
        single, crotch = (
            {**tried(t, "a", "takedown"), "technique": name} for t, name in ((10, "single leg"), (20, "osoto gari"))
        )
        pulled = [start(), single, crotch, seen(30, "pull", by="a"), at(31, "guard", "b"), end(60)]
        found = review_of({**log(*pulled), "plan": "Single leg first, else pull and sweep; no armbar."})["planned"]
        said = {one["what"]: [(each["clock"], each["done"]) for each in one["tries"]] for one in found}
        self.assertEqual(said, {"single leg": [(10, False)], "guard pull": [(30, True)], "sweep": [], "armbar": []})
        self.assertEqual(review_of({**log(*pulled), "plan": "Stay calm."})["planned"], [])
        self.assertEqual(review_of(log(*pulled))["planned"], [])


class Printed(unittest.TestCase):
    def test_the_lessons_the_plan_and_how_often(self):
        twice = [*PULLED_BY_A, at(20, "side", "b"), at(30, "guard", "b"), at(40, "side", "b"), end(60)]
        found = review_of({**log(*twice), "plan": "Stay on the feet."})
        passes = [one for one in found["errors"] if one["kind"] == "taken"]
        self.assertEqual([one["times"] for one in passes], [2, 2])
        self.assertEqual(found["plan"], "Stay on the feet.")
        self.assertTrue(1 <= len(found["first"]) <= 5)
        keys = {one["key"] for one in found["errors"]}
        for lesson in found["first"]:
            self.assertLessEqual(set(lesson["errors"]), keys)
            self.assertTrue(lesson["title"] and lesson["drill"])

    def test_of_both_sides_all_is_printed(self):
        both = review_both(log(*PULLED_BY_A, at(20, "side", "b"), end(60)))
        self.assertEqual(both["a"], review_of(log(*PULLED_BY_A, at(20, "side", "b"), end(60))))
        self.assertEqual(
            set(both["b"]), {"errors", "first", "patterns", "good", "stopped", "plan", "planned", "decision"}
        )
