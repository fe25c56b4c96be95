"""The athlete's errors, read off a verdict."""

import unittest

from jurata_core.adjudication import adjudicate
from jurata_core.match_log import read_log
from jurata_core.review import findings

from .making import at, end, log, seen, start, stop

PULLED_BY_A = [start(), seen(5, "pull", by="a"), at(5, "guard", "b")]

FOUND = {
    "a pass not held": (
        [start(), seen(5, "pull", by="b"), at(5, "guard", "a"), at(20, "side", "a"), at(22.5, "guard", "a"), end()],
        [("miss", "Guard pass not held", "3 points not taken", 2500)]),
    "a count that a choke kept from beginning": (
        [start(), at(20, "guard", "a"), seen(20, "submission", by="b", technique="triangle", threat="attempt", until=30), at(29, "standing"), end()],
        [("miss", "Takedown not held", "2 points not taken", 0)]),
    "points conceded": ([*PULLED_BY_A, at(20, "side", "b"), end()], [("concession", "Guard pass conceded", "3 points", None)]),
    "an advantage conceded": (
        [*PULLED_BY_A, at(20, "side", "b"), at(21, "guard", "b"), end()], [("concession", "Advantage conceded", "1 advantage", None)]),
    "caught and got out": (
        [*PULLED_BY_A, seen(20, "submission", by="b", technique="armbar", threat="close"), end()],
        [("concession", "Caught, and got out", "1 advantage", None)]),
    "a penalty and what it led to": (
        [start(), *(seen(t, "foul", by="a", foul="stalling") for t in (9, 19)), end()],
        [*[("penalty", "Penalty", "1 penalty", None)] * 2,
         ("concession", "Advantage by penalty", "1 advantage", None)]),
    "an illegal technique": (
        [start(), seen(9, "technique", by="a", technique="slam")], [("illegal", "slam", "the match", None)]),
    "what the opponent did wrong is no error of the athlete": (
        [start(), seen(9, "foul", by="b", foul="stalling"), at(20, "guard", "b"), at(21, "standing"), end()],
        [("concession", "Advantage conceded", "1 advantage", None)]),
    "a ruling is no error": ([start(), seen(9, "ruling", to="b", points=2), end()], []),
    "leaving for something higher is none": (
        [start(), seen(5, "pull", by="b"), at(5, "guard", "a"), at(20, "knee_on_belly", "a"), at(21, "mount", "a"), end()], []),
}  # fmt: skip


class Findings(unittest.TestCase):
    def test_what_is_found(self):
        for name, (observations, expected) in FOUND.items():
            with self.subTest(name):
                found = findings(adjudicate(read_log(log(*observations))))
                self.assertEqual([(one.kind, one.title, one.cost, one.held) for one in found], expected)

    def test_a_warning_is_not_the_match(self):
        raw = log(start(), seen(9, "technique", by="a", technique="slam"), end(), ruleset="house-warnings")
        (found,) = findings(adjudicate(read_log(raw)))
        self.assertEqual(found.cost, "a warning")

    def test_a_point_paid_for_a_pull(self):
        raw = log(start(), seen(200, "pull", by="a"), at(200, "guard", "b"), end(), ruleset="late-points")
        (found,) = findings(adjudicate(read_log(raw)))
        self.assertEqual((found.kind, found.title, found.cost), ("penalty", "Paid for the pull", "1 point"))

    def test_the_clip_begins_before_it_happened(self):
        """Four seconds before the position was reached, not before it was lost or paid."""
        raw = log(*PULLED_BY_A, at(20, "side", "b"), at(40, "guard", "a"), at(41, "standing"), stop(50), end())
        found = findings(adjudicate(read_log(raw)))
        self.assertEqual([one.start for one in found], [16_000])
        near_start = log(start(), at(1, "guard", "a"), at(2, "standing"), end())
        self.assertEqual(findings(adjudicate(read_log(near_start)))[0].start, 0)

    def test_for_the_other_side_it_is_mirrored(self):
        raw = log(*PULLED_BY_A, at(20, "side", "b"), at(21, "guard", "b"), end())
        (found,) = findings(adjudicate(read_log(raw)), "b")
        self.assertEqual((found.kind, found.held), ("miss", 1000))
