"""What is logged without any effect on the score: legs, contests, the board, what was not watched, left and right."""

import copy
import json
import random
import unittest

from jurata_core.adjudication import adjudicate
from jurata_core.answers import score
from jurata_core.match_log import read_log, write_log
from jurata_core.match_log.observations import Contest, Legs
from jurata_core.review import Seen, done_well, errors

from .errors_made import UNDER, grip
from .making import at, end, log, seen, start, stop, tried
from .random_logs import SIDED_KINDS, SILENT_KINDS, random_log, silent_observation


def kinds_found(raw, side="a"):
    read = read_log(raw)
    return [one.kind for one in errors(Seen(read, adjudicate(read), side))]


def without_references(verdict):
    """A verdict without the places in the file by which it cites observations."""
    if isinstance(verdict, dict):
        cited = ("observations", "observation", "unsure", "left_out")
        return {name: without_references(one) for name, one in verdict.items() if name not in cited}
    return [without_references(one) for one in verdict] if isinstance(verdict, list) else verdict


class NoEffect(unittest.TestCase):
    def test_no_silent_observation_changes_a_verdict(self):
        """Added anywhere before the last observation, whose time is that of the end where none is logged."""
        rng = random.Random(3)
        for number in range(300):
            raw = random_log(rng, 30)
            before = without_references(score(raw))
            more = copy.deepcopy(raw)
            last = max(one["t"] for one in raw["observations"])
            for kind in (*SILENT_KINDS, *SILENT_KINDS):
                place = rng.randrange(len(more["observations"]))
                t = round(rng.uniform(0, last), 1)
                more["observations"].insert(place, silent_observation(rng, t, kind))
            for one in more["observations"]:
                if one["kind"] in SIDED_KINDS:
                    one["own"] = "left"
            # A close submission is given once the log goes beyond it; an observation of any kind does that.
            ends = [one.get("until", 0) for one in raw["observations"] if one.get("threat") == "close"]
            if any(end >= last for end in ends):
                continue
            with self.subTest(number=number):
                self.assertEqual(without_references(score(more)), before)

    def test_nothing_is_said_of_them_after_the_end(self):
        after = [silent_observation(random.Random(1), 70, kind) for kind in SILENT_KINDS]
        self.assertEqual(score(log(start(), end(60), *after))["warnings"], [])


class Format(unittest.TestCase):
    def test_they_are_read_and_written_again(self):
        raw = log(
            start(),
            seen(4, "legs", by="b", knee="caught", leg="right"),
            seen(5, "contest", **{"for": "underhook"}, until=9, won="a", own="left"),
            seen(20, "board", score={"a": {"points": 2}}),
            seen(30, "unwatched", until=40),
            end(60),
        )
        read = read_log(raw)
        legs, contest, board = read.observations[1:4]
        self.assertEqual((type(legs), legs.by, legs.knee, legs.heel, legs.leg), (Legs, "b", "caught", None, "right"))
        self.assertEqual((type(contest), contest.aim, contest.until, contest.won), (Contest, "underhook", 9000, "a"))
        self.assertEqual(board.score, {"a": {"points": 2}, "b": {"points": 0}})
        self.assertEqual(json.loads(write_log(read)), raw)

    def test_a_log_of_the_version_before_is_the_same_with_another_format(self):
        raw = log(start(), at(10, "mount", "a"), end(60))
        older = {**raw, "format": "jurata-match/2"}
        self.assertEqual(json.loads(write_log(read_log(older))), raw)
        self.assertEqual(score(older), score(raw))


class Review(unittest.TestCase):
    """What the review makes of them."""

    def test_a_grip_that_was_missed_is_no_grip(self):
        held = [start(), grip(5, 50), end(60)]
        self.assertIn("grip_unbroken", kinds_found(log(*held)))
        missed = [start(), {**grip(5, 50), "outcome": "failed"}, end(60)]
        self.assertNotIn("grip_unbroken", kinds_found(log(*missed)))

    def test_a_grip_ends_where_it_was_let_go_at_a_restart(self):
        for restart, unbroken in (({"grips": "kept"}, True), ({"grips": "let_go"}, False), ({}, True)):
            again = {**start(12), "restart": "same", **restart}
            found = kinds_found(log(start(), grip(5, 50), stop(10), again, end(60)))
            self.assertEqual("grip_unbroken" in found, unbroken, restart)
        found = kinds_found(log(start(), grip(5, 50), stop(10), start(12), end(60)))
        self.assertNotIn("grip_unbroken", found, "on the feet again, nobody has a grip")

    def test_nothing_is_concluded_from_what_nobody_watched(self):
        under = [*UNDER, end(120)]
        self.assertIn("stuck", kinds_found(log(*under)))
        self.assertNotIn("stuck", kinds_found(log(*under, seen(20, "unwatched", until=110))))
        tries = [tried(t, "a", "sweep", technique="scissor sweep") for t in (10, 18, 26)]
        failed = [start(), at(5, "guard", "b"), *tries, end(120)]
        self.assertIn("attempt_failed", kinds_found(log(*failed)))
        self.assertNotIn("attempt_failed", kinds_found(log(*failed, seen(20, "unwatched", until=24))))

    def test_nobody_is_praised_for_what_was_not_watched(self):
        plain = log(start(), end(60))
        praised = [one.kind for one in done_well(Seen(read_log(plain), adjudicate(read_log(plain))))]
        self.assertEqual(praised, ["clean"])
        unseen = read_log(log(start(), seen(10, "unwatched", until=20), end(60)))
        self.assertEqual(done_well(Seen(unseen, adjudicate(unseen))), [])
