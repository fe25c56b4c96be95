"""Age classes, belts and match lengths against what is published about the sport.

Source: International Brazilian Jiu-Jitsu Federation, General System of Graduation
(ages of the belts) and Rules Book (length of matches); both from memory.
"""

import unittest

from jurata_core.answers import score
from jurata_core.divisions import BELTS, Division, age_class, age_in, allowed_belts, doubts, match_length
from jurata_core.divisions.ages import age_classes

from .making import end, log, start

#: Minutes by age (rows) and belt, None where the belt is not worn at that age. From memory.
LENGTHS = {
    5: {"white": 2, "grey": 2},
    8: {"white": 3, "yellow": 3},
    11: {"white": 4, "orange": 4},
    14: {"white": 4, "green": 4},
    16: {"white": 5, "blue": 5},
    17: {"blue": 5, "purple": 5},
    24: {"white": 5, "blue": 6, "purple": 7, "brown": 8, "black": 10},
    33: {"white": 5, "blue": 5, "purple": 6, "brown": 6, "black": 6},
    38: {"white": 5, "blue": 5, "purple": 5, "brown": 5, "black": 5},
    65: {"white": 5, "black": 5},
}
#: Youngest and oldest age of each belt. From memory.
AGES = {
    "grey": (4, 15), "yellow": (7, 15), "orange": (10, 15), "green": (13, 15), "blue": (16, None), "purple": (16, None),
    "brown": (18, None), "black": (19, None),
}  # fmt: skip


class Divisions(unittest.TestCase):
    def test_match_lengths(self):
        for age, belts in LENGTHS.items():
            for belt, minutes in belts.items():
                with self.subTest(age=age, belt=belt):
                    self.assertEqual(match_length(Division(age, belt, "gi")), minutes * 60_000)

    def test_ages_of_belts(self):
        for age in range(4, 70):
            worn = {belt for belt, (low, high) in AGES.items() if low <= age and (high is None or age <= high)}
            self.assertEqual(set(allowed_belts(age)), worn | {"white"}, age)

    def test_the_year_counts_not_the_birthday(self):
        """The age reached in the year of the event is the athlete's age all year. From memory."""
        self.assertEqual(age_in(2026, 2010), 16)
        self.assertEqual(age_class(age_in(2026, 2010)).id, "juvenile")

    def test_classes_leave_no_age_out(self):
        ages = [found.youngest for found in age_classes()]
        ends = [found.oldest for found in age_classes()]
        self.assertEqual([end + 1 for end in ends[:-1]], ages[1:])
        self.assertIsNone(ends[-1])
        self.assertIsNone(age_class(3))

    def test_a_division_that_can_hardly_exist_is_a_warning_and_is_scored(self):
        for age, belt, said in (
            (10, "blue", "starts at age 16"),
            (20, "green", "ends at age 15"),
            (2, "white", "no age class"),
        ):
            warnings = score(log(start(), end(), age=age, belt=belt))["warnings"]
            self.assertEqual([row["reason"] for row in warnings], ["odd_division"])
            self.assertIn(said, warnings[0]["because"])
        for age in range(4, 80):
            for belt in BELTS:
                self.assertEqual(bool(doubts(Division(age, belt, "gi"))), belt not in allowed_belts(age))
