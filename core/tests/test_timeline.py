"""The match clock through the footage: from the middle of a match, through stops and overtime."""

from __future__ import annotations

import unittest
from typing import Any

from jurata_core.adjudication import adjudicate
from jurata_core.adjudication.timeline import Timeline
from jurata_core.match_log import read_log
from jurata_core.scoreboard import Reading, check_clock

DIVISION = {"age": 24, "belt": "purple", "attire": "gi"}


def timeline(*observations: dict[str, Any], **settings: Any) -> Timeline:
    return adjudicate(read_log(log(*observations, **settings))).timeline


def log(*observations: dict[str, Any], **settings: Any) -> dict[str, Any]:
    rules = {"extends": "full-points", **settings}
    return {
        "format": "jurata-match/3", "ruleset": rules, "duration": 60, "division": DIVISION,
        "observations": list(observations),
    }  # fmt: skip


def clock(t: float, action: str, **said: Any) -> dict[str, Any]:
    return {"t": t, "kind": "clock", "action": action, **said}


class Timelines(unittest.TestCase):
    def test_footage_from_the_middle_has_what_ran_before_it_on_the_clock(self) -> None:
        found = timeline({"t": 0, "kind": "begin", "clock": 40}, clock(2, "start"), clock(12, "stop"))
        self.assertEqual([found.clock_at(t) for t in (0, 2_000, 7_000, 30_000)], [40_000, 40_000, 45_000, 50_000])
        self.assertEqual([found.left_at(t) for t in (0, 7_000)], [20_000, 15_000])
        self.assertEqual(found.footage_at(45_000), 7_000)
        self.assertEqual(found.ran(0, 30_000), 10_000)

    def test_overtime_has_its_own_time_to_go(self) -> None:
        observations = [
            clock(0, "start"), clock(60, "stop"), {"t": 65, "kind": "period"}, clock(70, "start"), clock(80, "stop"),
        ]  # fmt: skip
        overtime = {"seconds": 30, "golden": None}
        found = timeline(*observations, overtime=overtime)
        self.assertEqual([found.left_at(t) for t in (10_000, 65_000, 75_000)], [50_000, 0, 25_000])
        verdict = adjudicate(read_log(log(*observations, overtime=overtime)))
        checks = check_clock(read_log(log(*observations)), verdict, [Reading(75_000, 25_000), Reading(80_000, 20_000)])
        self.assertEqual([check.finding for check in checks], ["agrees", "agrees"])

    def test_golden_score_without_a_length_has_nothing_left_to_say(self) -> None:
        found = timeline(
            clock(0, "start"), clock(60, "stop"), {"t": 65, "kind": "period"}, clock(70, "start"),
            overtime={"seconds": None, "golden": "points"},
        )  # fmt: skip
        self.assertIsNone(found.left_at(75_000))
        self.assertEqual(found.clock_at(75_000), 65_000)
