"""The board's clock and figures from readings that are missing or wrong."""

import itertools
import random
import unittest

import numpy as np

from jurata_core.board import (
    Course,
    Figure,
    Rule,
    Seen,
    Step,
    Understood,
    course_of,
    read_understood,
    steps_of,
    understand,
)
from jurata_core.board.counters import OTHERWISE, UP, _best, merged
from jurata_core.board.paths import (
    RUNS,
    SET_BY_TABLE,
    STANDS,
    START,
    STOP,
    Reward,
    Walk,
    margins,
)
from jurata_core.board.readings import clock_values, figure

from .made_boards import made_series, text

SPAN = 300
"""Milliseconds by which a moment may lie outside the span that was found: readings come every 200."""


def run_of(first, last, begin, step=-1, sure=1.0):
    """A clock read without a gap while it runs, one second after the other."""
    seconds = range(first, last + step, step)
    return [Seen(begin + n * 1000, begin + n * 1000 + 900, text(one), sure) for n, one in enumerate(seconds)]


class Texts(unittest.TestCase):
    def test_what_a_clock_may_stand_for(self):
        rows = [
            ("4:05", Rule("down"), (244_001, 245_000)),
            ("4:05", Rule("up"), (245_000, 245_999)),
            ("4:05", Rule("down", "zero"), (245_000, 245_999)),
            ("0:00", Rule("down"), (0, 0)),
            ("4.05", Rule("down"), (244_001, 245_000)),
            ("405", Rule("down"), (244_001, 245_000)),
            ("9.4", Rule("down"), (9_400, 9_499)),
            ("4:75", Rule("down"), None),
            ("12", Rule("down"), None),
            ("", Rule("down"), None),
        ]
        for said, rule, wanted in rows:
            with self.subTest(said=said, rule=rule):
                found = clock_values(Seen(0, 0, said, 1.0), rule)
                self.assertEqual(found and (found.low, found.high), wanted)

    def test_a_clock_without_its_colon_is_less_sure(self):
        values = clock_values(Seen(0, 0, "405", 0.8), Rule("down"))
        self.assertLess(values.sure, 0.8)

    def test_figures(self):
        self.assertEqual(
            [figure(Seen(0, 0, said, 1.0)) for said in ("7", "12", "", "1:0", "123")], [7, 12, None, None, None]
        )


def score_of(path, rewards, sign):
    """The score of a path by the weights in the module's words; None for one that can't be."""
    total = 0.0
    for tick, (mode, value) in enumerate(path):
        total += sum(one.by for one in rewards[tick] if one.low <= value <= one.high)
        if tick == 0:
            continue
        before, was = path[tick - 1]
        ran = was + sign
        ways = [-SET_BY_TABLE]
        if before == STANDS and value == was:
            ways.append(0.0 if mode == STANDS else -START)
        if before == RUNS and value == ran:
            ways.append(-STOP if mode == STANDS else 0.0)
            if sign < 0 and value == 0 and mode == STANDS:
                ways.append(0.0)
        total += max(ways)
    return None if sign < 0 and any(mode == RUNS and value == 0 for mode, value in path[1:]) else total


class BruteForce(unittest.TestCase):
    """Small cases, in which every path can be tried."""

    def cases(self):
        rng = random.Random(4)
        for _ in range(25):
            size, ticks, sign = rng.choice((3, 4)), rng.choice((3, 4)), rng.choice((-1, 1))
            rewards = []
            for _ in range(ticks):
                low = rng.randrange(size)
                rewards.append([Reward(low, min(size - 1, low + rng.randrange(2)), rng.uniform(0, 12))])
            states = list(itertools.product((STANDS, RUNS), range(size)))
            scored = {}
            for path in itertools.product(states, repeat=ticks):
                total = score_of(path, rewards, sign)
                if total is not None:
                    scored[path] = total
            yield rewards, size, sign, scored

    def test_the_best_path_is_the_best_of_all(self):
        for rewards, size, sign, scored in self.cases():
            found = Walk(rewards, size, sign).best()
            path = tuple(zip(found.modes.tolist(), found.values.tolist(), strict=True))
            best = max(scored.values())
            self.assertAlmostEqual(found.score, best, places=3)
            self.assertAlmostEqual(scored[path], best, places=3)

    def test_the_margin_is_that_of_all_paths(self):
        for rewards, size, sign, scored in self.cases():
            ticks = range(len(rewards))
            found = margins(rewards, size, sign, ticks)
            for tick in ticks:
                stands = max(one for path, one in scored.items() if path[tick][0] == STANDS)
                runs = max(one for path, one in scored.items() if path[tick][0] == RUNS)
                self.assertAlmostEqual(found[tick], stands - runs, places=3)

    def test_the_best_figures_are_the_best_of_all(self):
        rng = random.Random(6)
        for _ in range(20):
            rewards = [[(rng.randrange(6), rng.uniform(0, 15))] for _ in range(5)]
            best = max(
                sum(
                    by
                    for number, (one,) in zip(path, rewards, strict=True)
                    for by in [one[1] if one[0] == number else 0]
                )
                - sum(0 if b == a else UP if 1 <= b - a <= 4 else OTHERWISE for a, b in itertools.pairwise(path))
                for path in itertools.product(range(6), repeat=5)
            )
            path = _best(rewards).tolist()
            total = sum(one[0][1] for number, one in zip(path, rewards, strict=True) if one[0][0] == number)
            total -= sum(0 if b == a else UP if 1 <= b - a <= 4 else OTHERWISE for a, b in itertools.pairwise(path))
            self.assertAlmostEqual(total, best, places=3)


class MadeSeries(unittest.TestCase):
    def test_starts_and_stops_are_found_in_what_is_missing_and_wrong(self):
        """30 % of the readings missing, 10 % wrong: every start and stop within its span, and no false one."""
        rng = random.Random(11)
        wrong, moments, right = [], 0, 0
        for number in range(60):
            made = made_series(rng)
            course = course_of(made.readings, 0, made.length)
            found = [(one.since - SPAN, one.until + SPAN) for one in course.moments]
            fits = len(found) == len(made.changes) and all(
                since <= t <= until for t, (since, until) in zip(made.changes, found, strict=True)
            )
            if not fits or course.rule.counts != made.rule.counts:
                wrong.append(number)
            for t in range(0, made.length, 500):
                value, shown = course.value_at(t), made.rule.shown(made.value(t))
                moments += 1
                right += value is not None and any(
                    made.rule.shown(max(0, value + by)) == shown for by in (-250, 0, 250)
                )
        self.assertLessEqual(len(wrong), 1, wrong)
        self.assertGreaterEqual(right / moments, 0.99)

    def test_nonsense_is_no_clock(self):
        rng = random.Random(2)
        readings = [Seen(t, t, text(rng.randrange(600)), rng.uniform(0.3, 0.9)) for t in range(0, 60_000, 500)]
        course = course_of(readings, 0, 60_000)
        self.assertFalse(course.readable)
        self.assertEqual(course.moments, ())
        self.assertIn("can't be read", course.because)


class Courses(unittest.TestCase):
    def test_a_stop_lies_within_the_second_after_its_last_change(self):
        readings = [Seen(0, 2_900, "5:00", 1.0), *run_of(299, 290, 3_000), Seen(13_000, 20_900, "4:49", 1.0)]
        readings += run_of(288, 270, 21_000)
        course = course_of(readings, 0, 40_000)
        start, stop, again = course.moments
        self.assertEqual([one.action for one in course.moments], ["start", "stop", "start"])
        self.assertAlmostEqual(start.t, 2_000, delta=100)
        self.assertLessEqual(abs(stop.since - 13_000), 150)
        self.assertLessEqual(abs(stop.until - 14_000), 150)
        # What the clock had not run when it was stopped, it ran after the restart.
        self.assertAlmostEqual(again.t - stop.t, 7_000, delta=150)
        self.assertGreater(min(one.sure for one in course.moments), 0.95)

    def test_a_hidden_stop_lies_anywhere_in_what_is_hidden(self):
        readings = [*run_of(300, 280, 0), *run_of(270, 250, 35_000)]
        stop, again = [one for one in course_of(readings, 0, 56_000).moments if one.t > 1_000]
        self.assertLess(stop.since, 22_500)
        self.assertGreater(stop.until, 28_000)
        self.assertAlmostEqual(again.t - stop.t, 5_000, delta=150)

    def test_a_single_misread_second_changes_nothing(self):
        readings = run_of(300, 260, 0)
        readings[20] = Seen(readings[20].t, readings[20].until, "4:48", 1.0)
        course = course_of(readings, 0, 41_000)
        self.assertEqual([one.action for one in course.moments], [])

    def test_a_clock_that_counts_up(self):
        course = course_of([Seen(0, 4_900, "0:00", 1.0), *run_of(1, 40, 5_000, step=1)], 0, 45_000)
        self.assertEqual(course.rule.counts, "up")
        self.assertAlmostEqual(course.moments[0].t, 4_000, delta=100)
        self.assertAlmostEqual(course.value_at(30_000), 26_000, delta=100)

    def test_the_table_sets_the_clock(self):
        """It stood at 4:40, and the table gave five seconds back before it went on."""
        readings = [*run_of(300, 281, 0), Seen(20_000, 25_000, "4:40", 1.0), Seen(25_200, 29_900, "4:45", 1.0)]
        readings += run_of(284, 270, 30_000)
        course = course_of(readings, 0, 45_000)
        (setting,) = course.settings
        self.assertAlmostEqual(setting.by, 5_000, delta=1_000)
        self.assertTrue(20_000 <= setting.since <= setting.until <= 30_000)

    def test_tenths_are_read_as_tenths(self):
        readings = [
            *run_of(20, 10, 0),
            *(Seen(11_000 + n * 100, 11_000 + n * 100, f"{(90 - n) / 10:.1f}", 1.0) for n in range(60)),
        ]
        self.assertAlmostEqual(course_of(readings, 0, 17_000).value_at(15_000), 5_000, delta=150)


class Figures(unittest.TestCase):
    def test_steps_up_and_back(self):
        shown = [(0, "0"), (10, "2"), (20, "5"), (30, "3"), (40, "3")]
        readings = [Seen(t * 1000, t * 1000 + 9_900, said, 0.95) for t, said in shown]
        found = steps_of(readings, 0, 50_000)
        self.assertEqual(found.first, 0)
        self.assertEqual([(one.before, one.after) for one in found.steps], [(0, 2), (2, 5), (5, 3)])
        self.assertEqual([round(one.t / 1000) for one in found.steps], [10, 20, 30])
        self.assertEqual([found.at(t) for t in (5_000, 25_000, 45_000)], [0, 5, 3])

    def test_what_is_read_behind_a_head_is_no_step(self):
        """The clock is hidden from 10 s to 16 s, and half a figure reads as another one meanwhile."""
        readings = [Seen(0, 10_000, "0", 0.9), Seen(10_100, 16_000, "1", 0.9), Seen(16_100, 30_000, "0", 0.9)]
        clear = [(0, 10_000), (16_100, 30_000)]
        self.assertEqual(steps_of(readings, 0, 30_000, clear).steps, ())

    def test_a_step_behind_a_head_is_seen_when_the_head_is_gone(self):
        readings = [Seen(0, 10_000, "0", 0.9), Seen(10_100, 16_000, "4", 0.4), Seen(16_100, 30_000, "2", 0.95)]
        (step,) = steps_of(readings, 0, 30_000, [(0, 10_000), (16_100, 30_000)]).steps
        self.assertLessEqual(step.since, 10_000)
        self.assertGreaterEqual(step.until, 16_000)
        self.assertEqual(step.t, step.until)

    def test_nothing_can_be_said_of_noise(self):
        rng = random.Random(1)
        readings = [Seen(t, t, str(rng.randrange(10)), 0.5) for t in range(0, 30_000, 300)]
        self.assertIsNone(steps_of(readings, 0, 30_000).first)

    def test_presses_that_follow_at_once_are_one_step(self):
        steps = [Step(900, 1_000, 0, 1, 1.0), Step(1_400, 1_500, 1, 2, 0.9), Step(9_000, 9_100, 2, 3, 1.0)]
        self.assertEqual([(one.before, one.after) for one in merged(steps)], [(0, 2), (2, 3)])
        back = [Step(900, 1_000, 0, 2, 1.0), Step(1_400, 1_500, 2, 0, 0.9)]
        self.assertEqual(merged(back), [])


class Kept(unittest.TestCase):
    def test_what_was_understood_is_read_as_it_was_written(self):
        readings = {
            "clock": run_of(300, 260, 0),
            "a.points": [Seen(0, 9_900, "0", 1.0), Seen(10_000, 40_000, "2", 1.0)],
        }
        readings["a.points"].append(Seen(40_100, 40_900, "2", 1.0))
        found = understand(readings, 0, 41_000, [Rule("down")])
        self.assertEqual(read_understood(found.written()), found)
        moved = found.moved(7_000)
        self.assertEqual(moved.figures["a.points"].steps[0].until, found.figures["a.points"].steps[0].until + 7_000)
        self.assertEqual(moved.course.value_at(17_000), found.course.value_at(10_000))

    def test_a_board_without_a_clock(self):
        found = understand({"a.points": []}, 0, 1_000, [Rule("down")])
        self.assertEqual(found, Understood(None, {"a.points": Figure(None, ())}))
        self.assertEqual(read_understood(found.written()), found)

    def test_the_whole_is_plain_data(self):
        self.assertIsInstance(course_of(run_of(300, 260, 0), 0, 41_000), Course)
        self.assertTrue(np.isfinite(course_of(run_of(300, 260, 0), 0, 41_000).seen))
