"""What holds exactly at a limit, one step before it and one after: where a slip of the pen changes a match."""

import unittest

from jurata_core.adjudication import Adjudicator, adjudicate
from jurata_core.adjudication.claims import NEAR_WINDOW
from jurata_core.adjudication.holds import SHORTEST_SHIELD
from jurata_core.match_log import read_log
from jurata_core.review import Seen
from jurata_core.scoreboard import TOLERANCE, Reading, check_clock
from jurata_core.season.figures import figures_of

from .making import at, end, log, seen, sheet, start, tried


def warned(*observations: dict) -> list[str]:
    verdict = adjudicate(read_log(log(*observations)))
    return [one.reason.code for one in verdict.warnings]


class Near(unittest.TestCase):
    """A near attempt so close to a lost claim of its kind is probably the same event."""

    def test_before_and_after_the_claim_was_lost(self):
        lost = [at(19, "side", "a"), at(20, "standing")]
        for apart in (NEAR_WINDOW / 1000, -NEAR_WINDOW / 1000):
            for off, said in ((apart, ["near_already_shown"]), (apart * 1.001, [])):
                with self.subTest(off=off):
                    near = tried(20 + off, "a", "takedown", outcome="near")
                    self.assertEqual(warned(start(), *sorted([near, *lost], key=lambda one: one["t"]), end()), said)

    def test_of_another_kind_it_is_another_event(self):
        rows = [start(), at(5, "side", "a"), at(6, "standing"), tried(7, "a", "sweep", outcome="near")]
        self.assertEqual(warned(*rows, end()), [])


class Shield(unittest.TestCase):
    def test_a_submission_that_is_on_just_long_enough_keeps_a_count_waiting(self):
        """Mounted again at 10, paid at 13 unless the count waits for a submission from below."""
        shortest = SHORTEST_SHIELD / 1000
        for lasts, points in ((shortest, "6/1/0"), (shortest - 0.001, "10/0/0")):
            with self.subTest(lasts=lasts):
                hold = seen(12, "submission", by="b", technique="triangle", threat="attempt", until=12 + lasts)
                rows = [
                    start(),
                    at(5, "mount", "a"),
                    at(9, "side", "a"),
                    at(10, "mount", "a"),
                    hold,
                    at(13.5, "guard", "b"),
                ]
                self.assertEqual(
                    sheet(*rows, end(), ruleset={"extends": "full-points", "repeat": "every_time"})[0], points
                )


class Ladder(unittest.TestCase):
    def test_a_penalty_that_the_coach_gives_is_a_step_of_the_ladder(self):
        """With one on the sheet already, the next foul costs what a second one does: an advantage to the opponent."""
        foul = seen(20, "foul", by="b", foul="stalling")
        self.assertEqual(sheet(start(), foul, end())[:2], ("0/0/0", "0/0/1"))
        given = seen(10, "ruling", to="b", penalties=1)
        self.assertEqual(sheet(start(), given, foul, end())[:2], ("0/1/0", "0/0/2"))


class Scoreboard(unittest.TestCase):
    def test_so_much_may_be_between_the_two_clocks(self):
        match = read_log(log(start(), end()))
        for off, finding in (
            (0, "agrees"), (TOLERANCE, "agrees"), (-TOLERANCE, "agrees"),
            (TOLERANCE + 1, "start_early"), (-TOLERANCE - 1, "start_late"),
        ):  # fmt: skip
            with self.subTest(off=off):
                (check,) = check_clock(match, adjudicate(match), [Reading(100_000, 200_000 + off)])
                self.assertEqual(check.finding, finding)


class Thirds(unittest.TestCase):
    def test_what_is_given_as_a_third_ends_belongs_to_it(self):
        """A match of 300 s: the second third begins at 100 s. Two points given at 100.000 are of the first."""
        for clock, third in ((99.9, 0), (100, 0), (100.001, 1), (200, 1), (200.001, 2)):
            with self.subTest(clock=clock):
                match = read_log(log(start(), seen(clock, "ruling", to="a", points=2), end()))
                figures = figures_of(Seen(match, adjudicate(match)))
                self.assertEqual([one.third for one in figures.given], [third])
                self.assertEqual([part.points_a for part in figures.thirds], [2 if n == third else 0 for n in range(3)])
                self.assertEqual([part.lasted for part in figures.thirds], [100_000] * 3)


class Mercy(unittest.TestCase):
    """A match that a large lead ends, kept up as its log changes far before that."""

    RULES = {"extends": "full-points", "mercy": 6}

    def long_match(self, first: dict) -> dict:
        moves = [at(20 + 2 * n, "guard", "ab"[n % 2]) for n in range(100)]
        late = [at(240, "guard", "b"), at(250, "mount", "a"), at(254, "side", "a"), end()]
        return log(start(), first, *moves, *late, ruleset=self.RULES)

    def test_a_change_long_before_decides_whether_a_lead_ends_it(self):
        for before, after in ((2, 0), (0, 2)):
            first, then = (seen(1, "ruling", to="a", points=n) if n else seen(1, "exchange") for n in (before, after))
            growing = Adjudicator(read_log(self.long_match(first)))
            changed = read_log(self.long_match(then))
            growing.take(changed)
            whole = adjudicate(changed)
            self.assertEqual(growing.verdict, whole)
            self.assertEqual(whole.result.method, "mercy" if after else "points")
