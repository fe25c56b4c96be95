"""What a board proposes for a log, and how it is held against what was logged."""

import unittest

from jurata_core.adjudication import adjudicate
from jurata_core.audit import audit
from jurata_core.board import Rule, Seen, only_logged, proposals, understand, with_calls
from jurata_core.match_log import read_log

from .making import at, end, log, seen, start, stop
from .test_board import run_of


def board(*readings, end_t=60_000, **figures):
    shown = {name.replace("_", ".", 1): seen for name, seen in figures.items()}
    return understand({"clock": list(readings), **shown}, 0, end_t, [Rule("down")])


def proposed(found, raw):
    read = read_log(raw)
    return proposals(found.course, found.figures, read, adjudicate(read))


ONE_STOP = [
    Seen(0, 2_900, "5:00", 1.0),
    *run_of(299, 285, 3_000),
    Seen(18_000, 24_900, "4:44", 1.0),
    *run_of(283, 250, 25_000),
]
"""Started at 2.0, stopped within a second after 18.0, and started again seven seconds later."""


def figure_of(*steps, until=60_000):
    """A figure that showed each number from its time on."""
    times = [t for t, _ in steps[1:]] + [until]
    return [Seen(t, then - 100, str(number), 0.97) for (t, number), then in zip(steps, times, strict=True)]


class Proposed(unittest.TestCase):
    def test_the_clock_as_starts_and_stops(self):
        found = proposed(board(*ONE_STOP), log())
        self.assertEqual([one.body["kind"] for one in found], ["clock"] * 3)
        self.assertEqual([one.body["action"] for one in found], ["start", "stop", "start"])
        self.assertAlmostEqual(found[0].t, 2_000, delta=100)
        self.assertEqual({one.standing for one in found}, {"new"})
        self.assertEqual(found[0].because, "The scoreboard's clock starts at 5:00, give or take 0.5 s.")

    def test_taking_all_of_it_is_a_log_that_agrees(self):
        found = proposed(board(*ONE_STOP, a_points=figure_of((0, 0), (30_000, 2))), log())
        taken = log(*[{**one.body, "id": one.key} for one in found])
        again = proposed(board(*ONE_STOP, a_points=figure_of((0, 0), (30_000, 2))), taken)
        self.assertEqual([one.standing for one in again], ["logged"] * 4)
        self.assertEqual([one.logged for one in again], [one.key for one in found])

    def test_a_logged_start_that_is_off(self):
        raw = log({**start(4.0), "id": "mine"})
        first = proposed(board(*ONE_STOP), raw)[0]
        self.assertEqual((first.standing, first.logged), ("differs", "mine"))
        self.assertAlmostEqual(first.off, 2_000, delta=100)

    def test_a_logged_stop_that_the_board_runs_through(self):
        found = board(*ONE_STOP)
        raw = log(start(2), {**stop(40), "id": "mine"})
        read = read_log(raw)
        rows = only_logged(found.course, proposals(found.course, found.figures, read, adjudicate(read)), read)
        self.assertEqual([one["logged"] for one in rows], ["mine"])
        self.assertIn("runs through", rows[0]["because"])

    def test_a_restart_is_asked_about_where_they_were_on_the_ground(self):
        standing, ground = (proposed(board(*ONE_STOP), log(start(2), *more)) for more in ((), (at(10, "guard", "a"),)))
        self.assertEqual([one.asks for one in standing], [False, False, False])
        self.assertEqual([one.asks for one in ground], [False, False, True])

    def test_a_restart_that_was_taken_before_is_asked_about_until_it_is_said(self):
        """The clock was taken from the board first, and the positions were logged later."""
        taken = [{**one.body, "id": one.key} for one in proposed(board(*ONE_STOP), log())]
        later = proposed(board(*ONE_STOP), log(*taken, at(10, "guard", "a")))
        self.assertEqual([(one.standing, one.asks) for one in later], [("logged", False)] * 2 + [("logged", True)])
        said = [*taken[:2], {**taken[2], "restart": "standing"}]
        found = board(*ONE_STOP)
        read = read_log(log(*said, at(10, "guard", "a")))
        answered = proposals(found.course, found.figures, read, adjudicate(read), {said[2]["id"]})
        self.assertEqual([one.asks for one in answered], [False] * 3)

    def test_calls_with_their_side(self):
        figures = {
            "a_points": figure_of((0, 0), (30_000, 2), (40_000, 0)),
            "b_penalties": figure_of((0, 0), (45_000, 1)),
        }
        found = [one for one in proposed(board(*ONE_STOP, **figures), log()) if one.part]
        bodies = [{name: value for name, value in one.body.items() if name not in ("t", "kind")} for one in found]
        self.assertEqual(bodies, [{"to": "a", "points": 2}, {"to": "a", "points": -2}, {"to": "b", "penalties": 1}])
        self.assertEqual(found[0].because, "The scoreboard gives 2 points to the athlete: 0 becomes 2.")
        self.assertEqual(found[1].because, "The scoreboard takes 2 points from the athlete: 2 becomes 0.")

    def test_a_call_that_was_logged_late_is_the_same_call(self):
        figures = {"a_points": figure_of((0, 0), (30_000, 2))}
        raw = log(start(2), {**seen(35, "call", to="a", points=2), "id": "mine"})
        (one,) = [one for one in proposed(board(*ONE_STOP, **figures), raw) if one.part]
        self.assertEqual((one.standing, one.logged), ("logged", "mine"))
        other = log(start(2), seen(35, "call", to="b", points=2))
        (one,) = [one for one in proposed(board(*ONE_STOP, **figures), other) if one.part]
        self.assertEqual(one.standing, "new")

    def test_what_the_table_cleared_before_the_match_is_no_call(self):
        figures = {"a_points": figure_of((0, 7), (1_000, 0), (30_000, 2))}
        found = [one for one in proposed(board(*ONE_STOP, **figures), log()) if one.part]
        self.assertEqual([one.body.get("points") for one in found], [2])

    def test_footage_that_starts_inside_the_match(self):
        figures = {"b_points": figure_of((0, 4))}
        found = proposed(board(*run_of(200, 170, 0), end_t=31_000, **figures), log())
        begin, begun = found[:2]
        self.assertEqual(begin.body["kind"], "begin")
        self.assertAlmostEqual(begin.body["clock"], 100, delta=1.1)
        self.assertEqual(begin.body["score"]["b"]["points"], 4)
        self.assertEqual(begun.body["action"], "start")
        taken = log(*[one.body for one in found])
        self.assertEqual(adjudicate(read_log(taken)).score["b"]["points"], 4)

    def test_the_end_of_time(self):
        readings = [*run_of(20, 1, 0), Seen(20_000, 26_000, "0:00", 1.0)]
        found = proposed(board(*readings, end_t=26_000), log(start(0)))
        self.assertEqual(found[-1].body["kind"], "end")
        self.assertAlmostEqual(found[-1].t, 20_000, delta=150)

    def test_overtime_where_the_rules_have_it(self):
        readings = [*run_of(20, 1, 0), Seen(20_000, 25_000, "0:00", 1.0), Seen(25_100, 29_900, "1:00", 1.0)]
        readings += run_of(59, 40, 30_000)
        overtime = {"extends": "full-points", "overtime": {"seconds": 60, "golden": "points"}}
        with_it = proposed(board(*readings, end_t=50_000), log(ruleset=overtime))
        self.assertEqual([one.body["kind"] for one in with_it][-3:], ["clock", "period", "clock"])
        without = proposed(board(*readings, end_t=50_000), log())
        self.assertEqual(without[-1].body["kind"], "end")

    def test_a_stop_that_the_table_forgot(self):
        """The table gave five seconds back while the clock stood: it should have been stopped five seconds earlier."""
        readings = [*run_of(300, 281, 0), Seen(20_000, 25_000, "4:40", 1.0), Seen(25_200, 29_900, "4:45", 1.0)]
        found = proposed(board(*readings, *run_of(284, 270, 30_000), end_t=45_000), log(start(0)))
        stopped = next(one for one in found if one.body.get("action") == "stop")
        self.assertAlmostEqual(stopped.t, 15_500, delta=1_100)

    def test_the_audit_has_the_calls_that_the_log_lacks(self):
        figures = {"a_points": figure_of((0, 0), (30_000, 2))}
        raw = read_log(log(start(2), at(10, "guard", "a"), end(59)))
        verdict = adjudicate(raw)
        found = board(*ONE_STOP, **figures)
        shown = with_calls(raw, proposals(found.course, found.figures, raw, verdict))
        calls = [line.call.observations for line in audit(shown, verdict).lines if line.call]
        self.assertEqual(calls, [("board-a.points-30000",)])

    def test_a_board_that_cant_be_read_proposes_no_clock(self):
        found = board(Seen(0, 100, "4:00", 1.0))
        self.assertEqual(proposed(found, log()), [])
