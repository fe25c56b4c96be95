"""Plans: which drills are proposed, that they fit the sessions and come back in growing intervals, and what changed."""

from __future__ import annotations

import datetime
import unittest
from itertools import pairwise

from jurata_core.review import causes, kinds
from jurata_core.season import Played
from jurata_core.season.figures import NOTHING
from jurata_core.season.mistakes import PART_NAMES, Counted, Mistake, parts_of
from jurata_core.season.plan import MOST_DRILLS, MOST_NEW, Drill, days_of, effects, examples, proposed, wanted
from jurata_core.vocabulary import vocabulary

DAY = datetime.date(2026, 3, 2)
"""A Monday."""


def error(kind, cause="", lost=0.0, points=0, position="guard"):
    mistake = Mistake(f"{kind}-1", kind, "", 1, 0, 2, position, points, 0, (cause,) if cause else (), "")
    return Counted(mistake, f"{kind}-1", lost)


def match(day, *errors):
    return Played(str(day), day, "lost", "points", "Full points", NOTHING._replace(length=300_000), errors)


def drill(name, minutes=5, kinds=(), causes=(), positions=()):
    return Drill(name, name, "", minutes, kinds, causes, positions)


class Choosing(unittest.TestCase):
    def test_what_costs_most_and_comes_most_often_is_first(self):
        drills = [
            drill("grips", kinds=("grip_unbroken",)),
            drill("hold", kinds=("unheld",)),
            drill("never", kinds=("penalty",)),
        ]
        found = wanted(drills, [match(DAY, error("unheld", lost=0.3), error("grip_unbroken", lost=0.1))])
        self.assertEqual([one.drill.name for one in found], ["hold", "grips"])
        often = wanted(
            drills, [match(DAY, error("unheld", lost=0.3)), *[match(DAY, error("grip_unbroken", lost=0.1))] * 4]
        )
        self.assertEqual(often[0].drill.name, "grips")
        self.assertEqual(often[0].because, "4 errors it is for: Grip not broken")

    def test_a_drill_for_the_cause_beats_one_for_the_kind_alone(self):
        drills = [drill("kind", kinds=("taken",)), drill("both", kinds=("taken",), causes=("frames",))]
        found = wanted(drills, [match(DAY, *[error("taken", "frames")] * 3)])
        self.assertEqual(found[0].drill.name, "both")

    def test_each_move_that_was_conceded_has_its_own_drill(self):
        """Nobody learns to keep their feet by a drill for the guard (common practice, no source)."""
        drills = [drill(part, kinds=(part,)) for part in parts_of("taken")]
        for part in PART_NAMES:
            swept = error("taken")
            swept = swept._replace(mistake=swept.mistake._replace(part=part))
            self.assertEqual([one.drill.name for one in wanted(drills, [match(DAY, swept)])], [f"taken:{part}"])
        whole = wanted([drill("all", kinds=("taken",))], [match(DAY, swept)])
        self.assertEqual([one.drill.name for one in whole], ["all"])

    def test_a_drill_in_the_guard_is_not_for_a_mount_lost_from_the_top(self):
        guard = drill("guard", kinds=("given",), positions=("guard", "side"))
        self.assertEqual(wanted([guard], [match(DAY, error("given", position="mount"))]), [])
        self.assertEqual(wanted([guard], [match(DAY, error("given"))])[0].drill.name, "guard")

    def test_one_for_everything_is_for_nothing_in_particular(self):
        drills = [drill("all", kinds=tuple(kinds())), drill("one", kinds=("taken",))]
        self.assertEqual(wanted(drills, [match(DAY, error("taken"), error("unheld"))])[0].drill.name, "one")

    def test_without_errors_nothing_is_proposed(self):
        self.assertEqual(wanted(examples(), [match(DAY)]), [])

    def test_the_examples_are_for_what_there_is(self):
        for one in examples():
            known = {part for kind in kinds() for part in (kind, *parts_of(kind))}
            self.assertLessEqual(set(one.kinds), known, one.name)
            self.assertLessEqual(set(one.causes), set(causes()), one.name)
            self.assertLessEqual(set(one.positions), set(vocabulary()["positions"]), one.name)


class Spacing(unittest.TestCase):
    def setUp(self):
        drills = [drill(f"d{number}", 6 + number % 3, kinds=("taken",)) for number in range(9)]
        self.wanted = wanted(drills, [match(DAY, error("taken"))])

    def plan(self, sessions=3, weeks=8, minutes=20):
        days = days_of(DAY, DAY + datetime.timedelta(weeks=weeks), sessions)
        return days, proposed(self.wanted, days, minutes)

    def test_so_many_sessions_a_week_and_none_on_the_day_itself(self):
        for sessions in range(1, 8):
            days, _ = self.plan(sessions, 4)
            self.assertEqual(len(days), 4 * sessions)
        self.assertNotIn(DAY, days_of(DAY, DAY, 7))

    def test_each_session_fits_its_minutes_and_brings_few_new_ones(self):
        minutes = {one.drill.id: one.drill.minutes for one in self.wanted}
        for length in (6, 13, 20, 60):
            days, placed = self.plan(minutes=length)
            seen: set[str] = set()
            for day in days:
                here = [one.drill for one in placed if one.day == day]
                self.assertLessEqual(sum(minutes[one] for one in here), length)
                self.assertEqual(len(here), len(set(here)))
                self.assertLessEqual(len(set(here) - seen), MOST_NEW)
                seen |= set(here)
            self.assertLessEqual(len(seen), MOST_DRILLS)

    def test_a_drill_comes_back_in_growing_intervals(self):
        """Spaced repetition: N. J. Cepeda and others, "Distributed practice in verbal recall tasks", 2006, find that
        what is to last longer is repeated at longer intervals; that intervals grow is common practice."""
        _, placed = self.plan(sessions=7, weeks=20, minutes=60)
        first = [one.day for one in placed if one.drill == self.wanted[0].drill.id]
        gaps = [(later - earlier).days for earlier, later in pairwise(first)]
        self.assertGreaterEqual(len(gaps), 3)
        self.assertEqual(gaps, sorted(gaps))
        self.assertGreater(gaps[-1], gaps[0])

    def test_what_is_longer_than_a_session_is_left_out(self):
        self.assertEqual(self.plan(minutes=5)[1], [])


class Afterwards(unittest.TestCase):
    def test_the_errors_of_a_drill_are_counted_before_and_since(self):
        before = [match(DAY - datetime.timedelta(days=n), *[error("unheld")] * 3, error("taken")) for n in range(1, 9)]
        since = [match(DAY + datetime.timedelta(days=n), error("taken")) for n in range(8)]
        held, taken = effects(
            [drill("hold", kinds=("unheld",)), drill("frame", kinds=("taken",))], [*since, *before], DAY
        )
        self.assertEqual((held.change.before.n, held.change.since.n, held.change.word), (24, 0, "better"))
        self.assertEqual((taken.change.before.n, taken.change.since.n, taken.change.word), (8, 8, "no difference"))

    def test_without_matches_since_nothing_is_said(self):
        found = effects([drill("hold", kinds=("unheld",))], [match(DAY, error("unheld"))], DAY)
        self.assertEqual(found[0].change.word, "no difference")
