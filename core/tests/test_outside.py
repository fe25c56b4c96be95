"""The presets against what is published about the sport.

Source: International Brazilian Jiu-Jitsu Federation, Rules Book, the articles on
scoring and on penalties; quoted from memory.
"""

import unittest

from jurata_core.rulesets import preset

from .making import at, end, seen, sheet, start


class PublishedRules(unittest.TestCase):
    def test_point_values(self):
        """Takedown, sweep and knee on belly 2; guard pass 3; mount and back control 4. From memory."""
        points = preset("full-points").points
        self.assertEqual({points[name] for name in ("takedown", "sweep", "knee_on_belly")}, {2})
        self.assertEqual(points["guard_pass"], 3)
        self.assertEqual({points["mount"], points["back"]}, {4})

    def test_three_seconds_of_control(self):
        """Points are given for three seconds of control of the position. From memory."""
        self.assertEqual(preset("full-points").hold_seconds, 3)

    def test_serial_penalties(self):
        """First penalty marked only, second an advantage, third two points, fourth disqualification. From memory."""
        expected = ["0/0/0", "0/1/0", "2/1/0"]
        for count, sheet_of_other in enumerate(expected, 1):
            fouls = [seen(10 * number, "foul", by="a", foul="stalling") for number in range(1, count + 1)]
            self.assertEqual(sheet(start(), *fouls, end())[1], sheet_of_other)
        fouls = [seen(10 * number, "foul", by="a", foul="stalling") for number in range(1, 5)]
        self.assertEqual(sheet(start(), *fouls, end())[2:], ("b", "disqualification"))

    def test_a_pass_to_mount_pays_both(self):
        """Points add up where one move leads through several positions, each held: 3 + 4. From memory."""
        pulled = [start(), seen(5, "pull", by="b"), at(5, "guard", "a")]
        self.assertEqual(sheet(*pulled, at(40, "side", "a"), at(43, "mount", "a"), end())[0], "7/0/0")

    def test_both_pulling_guard_first_on_top_gets_an_advantage(self):
        """After a double pull the athlete who comes up on top gets an advantage, not two points. From memory."""
        pulled = [start(), seen(5, "pull", by="both"), at(5, "double_pull")]
        self.assertEqual(sheet(*pulled, at(15, "guard", "b"), end())[1], "0/1/0")

    def test_twenty_seconds_of_double_pull(self):
        """Both seated for twenty seconds without coming up: a penalty for each. From memory."""
        pulled = [start(), seen(5, "pull", by="both"), at(5, "double_pull")]
        self.assertEqual(sheet(*pulled, end(60))[:2], ("0/0/1", "0/0/1"))
