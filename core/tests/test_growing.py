"""A log that grows and changes is adjudicated as if each state of it were the first."""

import random
import unittest
from dataclasses import replace

from hypothesis import given, settings
from hypothesis import strategies as st

from jurata_core.adjudication import Adjudicator, adjudicate, outlook
from jurata_core.adjudication.growing import LEAST_STRIDE
from jurata_core.match_log import read_log
from jurata_core.rulesets import preset

from .random_logs import random_log, random_observation


class Growing(unittest.TestCase):
    def follow(self, rng: random.Random, changes: int, length: int) -> None:
        raw = random_log(rng, length)
        growing = Adjudicator(read_log(raw))
        for _ in range(changes):
            observations = list(raw["observations"])
            place = rng.randrange(len(observations) + 1) if rng.random() < 0.5 else len(observations)
            change = rng.random()
            if change < 0.6 or not observations:
                before = observations[place - 1]["t"] if place else 0
                observations.insert(place, random_observation(rng, before))
            elif change < 0.8:
                observations.pop(min(place, len(observations) - 1))
            else:
                at = min(place, len(observations) - 1)
                observations[at] = {**observations[at], "sure": rng.random() < 0.5}
            raw = {**raw, "observations": observations}
            log = read_log(raw)
            if rng.random() < 0.1:
                log = replace(log, ruleset=preset(rng.choice(("full-points", "submission-only"))))
            growing.take(log)
            self.assertEqual(growing.verdict, adjudicate(log))
            self.assertEqual(growing.json, adjudicate(log).as_json())
            t = rng.randrange(0, 400_000)
            self.assertEqual(growing.outlook(t), outlook(log, t))

    @settings(max_examples=60, deadline=None, derandomize=True)
    @given(st.integers(min_value=0))
    def test_every_change_gives_the_verdict_of_the_whole_log(self, number):
        self.follow(random.Random(number), changes=12, length=40)

    def test_a_long_log_keeps_marks_on_the_way(self):
        self.follow(random.Random(7), changes=30, length=20 * LEAST_STRIDE)
