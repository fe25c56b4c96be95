"""What the desk offers as what can follow, and that it is what the verdict then gives."""

import random
import unittest

from jurata_core.adjudication import adjudicate, outlook
from jurata_core.adjudication.moves import CANDIDATES
from jurata_core.adjudication.places import passed_through
from jurata_core.match_log import read_log

from .making import at, log, seen, start, stop
from .random_logs import random_log

PULLED = [start(), seen(5, "pull", by="b"), at(5, "guard", "a")]

WORTH = {
    "on the feet, side control is a clear takedown": ([start()], "full-points", ("side", "a"), {"takedown": 2}),
    "late points pay it double": ([start(), seen(200, "exchange")], "late-points", ("side", "a"), {"takedown": 4}),
    "before half-time nothing pays": ([start()], "late-points", ("side", "a"), {}),
    "from guard on top, a pass": (PULLED, "full-points", ("side", "a"), {"guard_pass": 3}),
    "a pass to the mount is both": (PULLED, "full-points", ("mount", "a"), {"guard_pass": 3, "mount": 4}),
    "from guard below, a sweep": (PULLED, "full-points", ("guard", "b"), {"sweep": 2}),
    "to the back there is no sweep": (PULLED, "full-points", ("back", "b"), {"back": 4}),
    "from under the mount, nothing": ([*PULLED, at(20, "mount", "a")], "full-points", ("guard", "b"), {}),
    "after a double pull, an advantage": (
        [start(), seen(3, "pull", by="both"), at(3, "double_pull")], "full-points", ("guard", "a"), {"double_pull_top": 1}),
    "a mount that was paid is not paid again": (
        [*PULLED, at(20, "mount", "a"), at(30, "side", "a"), seen(31, "exchange")], "full-points", ("mount", "a"), {}),
    "under warnings it is": (
        [*PULLED, at(20, "mount", "a"), at(30, "side", "a"), seen(31, "exchange")], "house-warnings", ("mount", "a"), {"mount": 4}),
}  # fmt: skip


def moves_at(raw, t):
    return {(move.place.position, move.place.top): move for move in outlook(read_log(raw), t).moves}


class Worth(unittest.TestCase):
    def test_what_a_move_would_be_worth(self):
        for name, (observations, ruleset, place, expected) in WORTH.items():
            with self.subTest(name):
                raw = log(*observations, ruleset=ruleset)
                move = moves_at(raw, 1000 * observations[-1]["t"])[place]
                self.assertEqual({claim: n for claim, _, n in move.opens}, expected)
                self.assertTrue(move.because.endswith("."))

    def test_a_move_that_gives_up_a_count_says_so(self):
        move = moves_at(log(*PULLED, at(20, "side", "a")), 21_000)["guard", "a"]
        self.assertEqual((move.loses, move.because), ((("guard_pass", "a"),), "Ends the guard pass before it scores."))

    def test_before_the_start_a_position_only_sets_the_state(self):
        for move in moves_at(log(), 0).values():
            self.assertEqual((move.opens, move.because), ((), "Sets where the match starts."))

    def test_where_the_match_stands(self):
        raw = log(*PULLED, stop(20))
        for t, running, started in ((0, True, True), (19_999, True, True), (20_000, False, True)):
            now = outlook(read_log(raw), t)
            self.assertEqual((now.running, now.started, now.over), (running, started, False))
        self.assertEqual(outlook(read_log(raw), 30_000).clock, 20_000)

    def test_overtime_is_offered_where_nobody_is_ahead(self):
        rules = {"extends": "full-points", "overtime": {"seconds": 60, "golden": "points"}}
        for placed, offered in (([at(10, "standing")], True), ([at(10, "guard", "a"), at(20, "standing")], False)):
            raw = log(start(), *placed, stop(300), ruleset=rules)
            self.assertEqual(outlook(read_log(raw), 300_000).overtime, offered)

    def test_every_move_keeps_its_promise(self):
        """Logging a move and holding it for long pays what the pad said, on random logs."""
        rng = random.Random(9)
        for _ in range(120):
            raw = random_log(rng, 12, ended=False)
            raw["observations"] = [one for one in raw["observations"] if one["kind"] in ("clock", "position", "pull")]
            last = raw["observations"][-1]["t"]
            now = outlook(read_log(raw), round(last * 1000))
            if not now.running:
                continue
            for move in now.moves:
                if passed_through(move.place) or move.place.top is None:
                    continue
                place = at(last, move.place.position, move.place.top)
                longer = {**raw, "observations": [*raw["observations"], place, seen(last + 60, "exchange")]}
                found = adjudicate(read_log(longer))
                fresh = [
                    row
                    for row in found.ledger
                    if row.reason.code.startswith("held") and row.observations == (len(raw["observations"]),)
                ]
                promised = {(claim, n) for claim, _, n in move.opens}
                self.assertEqual({(row.reason.claim, row.n) for row in fresh}, promised)

    def test_every_place_is_offered_but_the_one_held(self):
        now = outlook(read_log(log(*PULLED)), 6_000)
        self.assertEqual({move.place for move in now.moves}, set(CANDIDATES) - {now.place})
