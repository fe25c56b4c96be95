"""The simulated scoreboard table, and reading what it calls."""

import json
import unittest

from jurata_core.adjudication import adjudicate
from jurata_core.audit import audit, read_calls
from jurata_core.faults import FaultyInput
from jurata_core.match_log import read_log
from jurata_simulation.table import EARLIEST, LATEST, calls, running

from .making import at, end, log, start, stop


def long_match():
    rounds = [at(5 + 10 * n, *(("guard", "a"), ("side", "a"), ("standing", None))[n % 3]) for n in range(27)]
    return read_log(log(start(2), *rounds, stop(280), start(300, restart="same"), end(310)))


class Table(unittest.TestCase):
    def test_calls_are_late_and_a_few_are_wrong(self):
        checked = long_match()
        verdict = adjudicate(checked)
        given = calls(checked)
        self.assertEqual(given, calls(checked))
        self.assertNotEqual(given, calls(checked, seed=2))
        self.assertLess(len(given), len(verdict.ledger) + 1)
        self.assertGreater(len(given), len(verdict.ledger) * 0.7)
        right = {(row.clock, row.to, row.kind, row.n) for row in verdict.ledger}
        late = [
            min(
                (clock - at_ for at_, to, kind, n in right if call["to"] == to and call.get(kind) == n and clock > at_),
                default=0,
            )
            for clock, call in given
        ]
        self.assertGreater(sum(EARLIEST <= one < LATEST for one in late), len(late) * 0.7)

    def test_what_it_calls_can_be_read_back(self):
        checked = long_match()
        verdict = adjudicate(checked)
        read = read_calls("\n".join(running(checked, 0)), verdict)
        self.assertEqual(len(read), len(calls(checked)))
        with_calls = read_log({**checked.raw, "observations": [*checked.raw["observations"], *read]})
        standings = [line.standing for line in audit(with_calls).lines]
        self.assertGreater(standings.count("agreed"), len(standings) * 0.7)
        self.assertTrue({"not_called", "differently"} & set(standings))

    def test_the_match_clock_becomes_footage(self):
        verdict = adjudicate(long_match())
        cases = {0: 2_000, 10_000: 12_000, 278_000: 280_000, 279_000: 301_000, 288_000: 310_000, 290_000: 312_000}
        for clock, t in cases.items():
            self.assertEqual(verdict.footage_at(clock), t, clock)

    def test_calls_without_a_clock(self):
        with self.assertRaises(FaultyInput):
            read_calls(json.dumps({"clock": 1, "to": "a", "points": 2}), adjudicate(read_log(log())))
