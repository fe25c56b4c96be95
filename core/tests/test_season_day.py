"""A day of fights out of a table, and what is known of opponents met before."""

from __future__ import annotations

import datetime
import unittest

from jurata_core.faults import FaultyInput
from jurata_core.season import Played
from jurata_core.season.day import MOST_THINGS, met, met_json, read_fights, things_of

from .test_season import MATCH, counted_in, figures

TABLE = """Time;Mat;Athlete;Opponent;Weight class;Ruleset
9:40;3;Ada Finch;Bo Calder;-70;full-points

10.05;1;Cy Dorn;;;
"""


class Reading(unittest.TestCase):
    def test_a_table_with_its_columns_in_any_order(self):
        first, second = read_fights(TABLE)
        self.assertEqual(
            (first.athlete, first.opponent, first.mat, first.ruleset), ("Ada Finch", "Bo Calder", "3", "full-points")
        )
        self.assertEqual((first.time, second.time), (datetime.time(9, 40), datetime.time(10, 5)))
        self.assertEqual((second.opponent, second.attire), ("", "gi"))

    def test_commas_tabs_and_one_column_are_read_too(self):
        self.assertEqual(read_fights('athlete,opponent\n"Finch, Ada",Bo\n')[0].athlete, "Finch, Ada")
        self.assertEqual(read_fights("athlete\tmat\nAda\t2\n")[0].mat, "2")
        self.assertEqual(len(read_fights("athlete\nAda\nBo\n")), 2)

    def test_every_fault_says_its_line_and_its_column(self):
        with self.assertRaises(FaultyInput) as found:
            read_fights("athlete,time,ruleset\nAda,late,full-points\n,9:00,\nBo,9:00,nonsense\n")
        self.assertEqual(
            [fault.path for fault in found.exception.faults], ["line 2: time", "line 3: athlete", "line 4: ruleset"]
        )

    def test_without_names_of_columns_it_says_which_there_are(self):
        for text in ("", "Ada,Bo,9:40\n", "\n\n"):
            with self.assertRaises(FaultyInput) as found:
                read_fights(text)
            self.assertIn("athlete, opponent, time", str(found.exception))


class Before(unittest.TestCase):
    def setUp(self):
        found, _ = figures(MATCH)
        self.played = Played(
            "m1", datetime.date(2026, 3, 1), "won", "submission", "Full points", found, counted_in(MATCH)
        )

    def test_what_they_tried_on_us_and_what_worked_on_them(self):
        later = self.played._replace(match="m2", date=datetime.date(2026, 4, 1))
        known = met([("Ada", self.played), ("Cy", later)])
        self.assertEqual([match.match for _, match in known.matches], ["m2", "m1"])
        ours = {one.name: (one.done, one.of) for one in known.ours}
        self.assertEqual(ours["double leg"] if "double leg" in ours else ours["double-leg"], (2, 2))
        self.assertEqual([one.done for one in known.ours], sorted((one.done for one in known.ours), reverse=True))
        self.assertEqual(
            sum(one.of for one in known.theirs), 2 * sum(one.by == "b" for one in self.played.figures.tries)
        )
        self.assertEqual(len(met_json(known)["theirs"][0]["moments"]), known.theirs[0].of)

    def test_three_things_of_the_last_match_in_the_order_they_happened(self):
        things = things_of(self.played)
        self.assertEqual(len(things), min(MOST_THINGS, len(self.played.mistakes)))
        self.assertEqual([one.moment.t for one in things], sorted(one.moment.t for one in things))
