"""What was done well, each found where a coach would praise it and not where a coach would not: common practice, no source."""

import random
import unittest

from jurata_core.adjudication import adjudicate
from jurata_core.match_log import read_log
from jurata_core.review import Seen, done_well, found_well
from jurata_core.review.well.rows import ORDER

from .errors_made import PULLED_BY_A, PULLED_BY_B, finish, grip, hold
from .making import at, end, log, start, tried
from .random_logs import random_log


def praised(*observations, side="a", **more):
    """The kinds of what was done well, with the moments of it in seconds."""
    read = read_log(log(*observations, end(300), **more))
    return [(one.kind, one.since // 1000, one.t // 1000) for one in found_well(Seen(read, adjudicate(read), side))]


class Kinds(unittest.TestCase):
    def test_stopped_tries_of_one_stay_together(self):
        shots = [tried(t, "b", "takedown") for t in (10, 20, 40)]
        self.assertIn(("stopped", 10, 40), praised(start(), *shots))

    def test_what_came_off_a_little_later_was_not_stopped(self):
        self.assertNotIn(
            "stopped", [kind for kind, *_ in praised(start(), tried(10, "b", "takedown"), at(25, "guard", "b"))]
        )

    def test_what_was_tried_with_a_grip_that_led_there_was_not_stopped(self):
        swept = [*PULLED_BY_B, grip(10, 50), tried(15, "b", "sweep"), at(50, "guard", "b")]
        self.assertNotIn("stopped", [kind for kind, *_ in praised(*swept)])

    def test_a_grip_that_was_gone_at_once(self):
        self.assertIn(("freed", 10, 16), praised(*PULLED_BY_A, grip(10, 16)))
        for until, then in ((25, "guard"), (16, "side")):
            kinds = [kind for kind, *_ in praised(*PULLED_BY_A, grip(10, until), at(until + 1, then, "b"))]
            self.assertNotIn("freed", kinds)

    def test_a_grip_that_led_to_something(self):
        own = {**grip(10, 30), "by": "a"}
        self.assertIn(("gripped", 10, 30), praised(*PULLED_BY_A, own, at(30, "guard", "a")))
        self.assertNotIn("gripped", [kind for kind, *_ in praised(*PULLED_BY_A, own, at(50, "guard", "a"))])

    def test_an_attack_that_lost_nothing(self):
        on_top = [start(), at(5, "side", "a"), hold(20, "a", "kimura", 25)]
        self.assertIn(("attacked", 20, 25), praised(*on_top))
        self.assertNotIn("attacked", [kind for kind, *_ in praised(*on_top, at(35, "guard", "a"))])

    def test_an_attack_that_is_not_allowed_is_no_credit(self):
        child = [start(), at(5, "guard", "b"), hold(20, "a", "guillotine", 25)]
        kinds = [kind for kind, *_ in praised(*child, age=10, belt="yellow", ruleset="house-warnings")]
        self.assertNotIn("attacked", kinds)

    def test_a_better_position_that_scored_nothing(self):
        up = [*PULLED_BY_A, at(30, "standing")]
        self.assertIn(("moved", 5, 30), praised(*up))
        passed = [start(), at(5, "guard", "a"), at(30, "side", "a")]
        self.assertIn("moved", [kind for kind, *_ in praised(*passed, ruleset="submission-only")])
        self.assertNotIn(("moved", 5, 30), praised(*passed))  # it was paid, and is praised as held

    def test_a_position_reached_inside_a_hold_is_none(self):
        caught = [start(), at(5, "guard", "a"), hold(28, "b", "triangle", 40), at(30, "side", "a")]
        self.assertNotIn(("moved", 5, 30), praised(*caught, ruleset="submission-only"))

    def test_out_again_before_it_scored(self):
        down = [start(), at(10, "guard", "b"), at(11.5, "standing")]
        self.assertIn("denied", [kind for kind, *_ in praised(*down)])
        self.assertNotIn("denied", [kind for kind, *_ in praised(start(), at(10, "guard", "b"), at(20, "standing"))])

    def test_patience_is_for_the_one_ahead(self):
        self.assertIn("patient", [kind for kind, *_ in praised(start(), at(5, "guard", "a"), at(20, "side", "a"))])
        level = praised(start(), at(5, "side", "a"), ruleset="submission-only")
        self.assertNotIn("patient", [kind for kind, *_ in level])

    def test_the_finish(self):
        read = read_log(log(start(), at(5, "mount", "a"), hold(20, "a", "armbar", 29), finish(30, "a", "armbar")))
        (first, *_) = done_well(Seen(read, adjudicate(read), "a"))
        self.assertEqual((first.kind, first.since, first.t), ("finished", 20_000, 30_000))


class OnRandomLogs(unittest.TestCase):
    def test_each_lies_in_the_match_and_none_is_of_a_hold_that_ended_it(self):
        rng = random.Random(31)
        found = set()
        for _ in range(150):
            read = read_log(random_log(rng, 45))
            verdict = adjudicate(read)
            for side in "ab":
                one = Seen(read, verdict, side)
                for good in found_well(one):
                    found.add(good.kind)
                    self.assertTrue(0 <= good.since <= good.t, good)
                    self.assertTrue(good.t <= one.over or good.kind == "finished", good)
                    self.assertTrue(good.because.endswith("."), good)
        self.assertLessEqual({"stopped", "defended", "attacked", "escaped", "held", "moved"}, found)
        self.assertLessEqual(found, set(ORDER))
