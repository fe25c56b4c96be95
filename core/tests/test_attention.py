"""Prompts, and the clock against a scoreboard."""

import unittest

from jurata_core.adjudication import adjudicate
from jurata_core.match_log import read_log
from jurata_core.prompts import prompts
from jurata_core.scoreboard import Reading, check_clock

from .making import at, end, log, seen, start, stop


def prompted(*observations):
    checked = read_log(log(start(), *observations))
    return prompts(checked, adjudicate(checked))


def got(*observations):
    """What is prompted, but for the end by time of these short matches."""
    return [(prompt.kind, prompt.t / 1000) for prompt in prompted(*observations) if prompt.kind != "time_left"]


def checks(readings, *observations):
    checked = read_log(log(*observations))
    found = check_clock(
        checked, adjudicate(checked), [Reading(round(t * 1000), round(left * 1000)) for t, left in readings]
    )
    return [(check.finding, check.off / 1000) for check in found]


class Prompts(unittest.TestCase):
    def test_an_end_by_time_with_time_left(self):
        for t, how, expected in ((290, "time", 1), (298, "time", 0), (300, "time", 0), (290, "stoppage", 0)):
            found = [one for one in prompted(end(t, how=how, by="a")) if one.kind == "time_left"]
            self.assertEqual(len(found), expected, (t, how))
        (first,) = [one for one in prompted(end(290)) if one.kind == "time_left"]
        self.assertIn("with 0:10 left on the clock", first.because)

    def test_twenty_seconds_without_progress(self):
        cases = [
            ((at(5, "side", "a"), at(25, "mount", "a"), end(40)), [("idle", 25)]),
            ((at(5, "side", "a"), at(24.9, "mount", "a"), end(40)), []),
            ((at(5, "guard", "a"), at(60, "side", "a"), end(70)), []),  # in the guard the referee looks at both
            ((at(5, "side", "a"), stop(15), start(60, restart="same"), at(66, "mount", "a"), end(70)), []),
            ((at(5, "side", "a"), seen(10, "submission", by="a", technique="kimura", threat="attempt", until=40), end(55)), []),
            ((at(5, "side", "a"), seen(40, "foul", by="a", foul="stalling"), end(50)), []),
            ((at(5, "side", "a"), seen(15, "call", to="a", points=3), at(30, "mount", "a"), end(40)), [("idle", 25)]),
        ]  # fmt: skip
        for observations, expected in cases:
            with self.subTest(observations=observations):
                self.assertEqual(got(*observations), expected)

    def test_what_settles_it_can_be_logged(self):
        checked = read_log(log(start(), at(5, "mount", "b"), end(60)))
        prompt = prompts(checked, adjudicate(checked))[0]
        self.assertEqual(prompt.take, {"t": 25, "kind": "foul", "by": "b", "foul": "stalling"})
        self.assertIn("Was the opponent stalling", prompt.because)
        read_log(log(start(), prompt.take))

    def test_an_entanglement_logged_by_who_attacks(self):
        """The attacker lies back for the lock: with the attacker logged as up, that pays the other a sweep."""
        lock = seen(12, "submission", by="a", technique="straight ankle lock", threat="attempt", until=15)
        up, below = at(10, "entangled", "a"), at(16, "guard", "b")
        self.assertEqual(got(up, lock, below, end(30)), [("up_and_attacking", 10)])
        said = prompted(up, lock, below, end(30))[0].because
        self.assertIn("On top is whoever is up, not whoever attacks", said)
        for other in (
            (at(10, "entangled"), lock, below),
            (up, {**lock, "technique": "armbar"}, below),
            (up, {**lock, "by": "b"}, below),
            (up, lock, at(16, "side", "a")),
        ):
            self.assertEqual(got(*other, end(30)), [])

    def test_a_scoreboard_that_shows_something_else(self):
        guard, after = at(10, "guard", "a"), at(41, "standing")
        self.assertEqual(got(guard, seen(40, "board", score={}), after, end(60)), [("board", 40)])
        self.assertEqual(got(guard, seen(40, "board", score={"a": {"points": 2}}), after, end(60)), [])

    def test_nothing_is_asked_of_what_was_not_watched(self):
        held = (at(5, "side", "a"), at(40, "mount", "a"), end(50))
        self.assertEqual(got(*held), [("idle", 25)])
        self.assertEqual(got(*held, seen(10, "unwatched", until=38)), [])

    def test_a_position_that_cannot_follow(self):
        cases = [
            ((at(5, "side", "a"), at(9, "mount", "b"), end(12)), [("leap", 9)]),
            ((at(5, "side", "a"), at(8, "scramble"), at(9, "mount", "b"), end(12)), []),
            ((at(5, "side", "a"), at(8, "guard", "a"), at(9, "mount", "b"), end(12)), []),
            ((at(5, "side", "a"), at(9, "mount", "a"), end(12)), []),
        ]
        for observations, expected in cases:
            with self.subTest(observations=observations):
                self.assertEqual(got(*observations), expected)


class Scoreboard(unittest.TestCase):
    def test_readings(self):
        whole = (start(10), end(310))
        stopped = (start(10), stop(60), start(80, restart="same"), end(330))
        cases = [
            (whole, [(40, 270)], [("agrees", 0)]),
            (whole, [(40, 270.9)], [("agrees", 0.9)]),
            (whole, [(40, 275)], [("start_early", 5)]),
            (whole, [(40, 265)], [("start_late", -5)]),
            (whole, [(40, 270), (100, 230)], [("agrees", 0), ("stop_missing", 20)]),
            (stopped, [(40, 270), (100, 230)], [("agrees", 0), ("agrees", 0)]),
            (stopped, [(40, 270), (100, 215)], [("agrees", 0), ("stop_too_long", -15)]),
            (whole, [(100, 230), (40, 270)], [("agrees", 0), ("stop_missing", 20)]),
            ((), [(40, 270)], []),
        ]
        for observations, readings, expected in cases:
            with self.subTest(readings=readings, observations=observations):
                self.assertEqual(checks(readings, *observations), expected)

    def test_the_sentence_says_where(self):
        checked = read_log(log(start(10), end(310)))
        found = check_clock(checked, adjudicate(checked), [Reading(40_000, 270_000), Reading(100_000, 230_000)])
        self.assertEqual(found[1].because, "A stop of 20 s is missing between 0:40 and 1:40 of the footage.")

    def test_the_clock_of_an_unfinished_log_runs_on(self):
        verdict = adjudicate(read_log(log(start(10), at(12, "mount", "a"))))
        self.assertEqual(verdict.clock_at(40_000), 30_000)
        self.assertEqual(verdict.clock_at(5_000), 0)
