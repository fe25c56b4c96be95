"""A log that grows and changes is adjudicated as if each state of it were the first."""

import random
import unittest
from dataclasses import replace
from unittest.mock import patch

from hypothesis import given, settings
from hypothesis import strategies as st

from jurata_core.adjudication import Adjudicator, adjudicate, outlook
from jurata_core.adjudication import growing as growing_module
from jurata_core.adjudication.common_rows import common_ends
from jurata_core.adjudication.growing import LEAST_STRIDE
from jurata_core.adjudication.rendering import numbered
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
            self.assertEqual(numbered(growing.json), adjudicate(log).as_json())
            t = rng.randrange(0, 400_000)
            self.assertEqual(growing.outlook(t), outlook(log, t))

    def change_anywhere(self, rng: random.Random, changes: int, length: int) -> int:
        """Observations that keep their number when others come before them, as a desk's do. How often the rest stood."""
        raw = random_log(rng, length)
        known = dict(enumerate(read_log(raw).observations))
        log = replace(read_log(raw), observations=tuple(known.values()))
        growing = Adjudicator(log)
        stood = 0
        for number in range(changes):
            if rng.random() < 0.3 and known:
                known.pop(rng.choice(list(known)))
            else:
                t = rng.choice(log.observations).t / 1000 if log.observations else 0
                (made,) = read_log({**raw, "observations": [random_observation(rng, t)]}).observations
                known[10_000 + number] = made
            indexed = [replace(one, index=index) for index, one in known.items()]
            log = replace(log, observations=tuple(sorted(indexed, key=lambda one: one.t)))
            with patch("jurata_core.adjudication.growing._spliced", wraps=growing_module._spliced) as spliced:
                growing.take(log)
            stood += spliced.call_count
            whole = adjudicate(log)
            self.assertEqual(growing.verdict, whole)
            self.assertEqual(numbered(growing.json), whole.as_json())
            t = rng.randrange(0, 400_000)
            self.assertEqual(growing.outlook(t), outlook(log, t))
        return stood

    @settings(max_examples=40, deadline=None, derandomize=True)
    @given(st.integers(min_value=0))
    def test_what_lies_behind_the_reach_of_a_change_stands_as_it_was(self, number):
        with patch("jurata_core.adjudication.growing.LEAST_STRIDE", 3):
            self.change_anywhere(random.Random(number), changes=12, length=60)

    def test_in_a_long_log_it_mostly_does(self):
        self.assertGreater(self.change_anywhere(random.Random(11), changes=40, length=20 * LEAST_STRIDE), 15)

    @settings(max_examples=60, deadline=None, derandomize=True)
    @given(st.integers(min_value=0))
    def test_every_change_gives_the_verdict_of_the_whole_log(self, number):
        self.follow(random.Random(number), changes=12, length=40)

    def test_a_long_log_keeps_marks_on_the_way(self):
        self.follow(random.Random(7), changes=30, length=20 * LEAST_STRIDE)


class Told(unittest.TestCase):
    def test_an_exchange_is_told_anew_only_where_its_own_rows_changed(self):
        def position(t: float, name: str, number: int) -> dict[str, object]:
            return {"id": f"{number} {name}", "t": t, "kind": "position", "position": name, "top": "ab"[number % 2]}

        seen = [
            position(4 * n + at, name, n) for n in range(1, 40) for at, name in enumerate(("side", "mount", "back"))
        ]
        start = {"id": "start", "t": 0, "kind": "clock", "action": "start"}
        raw = {**random_log(random.Random(1), 0), "ruleset": "full-points"}
        growing = Adjudicator(read_log({**raw, "observations": [start, *seen]}))
        before, rows = growing.json["exchanges"], (growing.verdict.ledger, growing.verdict.missed)
        seen[62] = {**seen[62], "t": seen[62]["t"] + 0.25}  # back control that was not held
        growing.take(read_log({**raw, "observations": [start, *seen]}))
        now = growing.json["exchanges"]
        self.assertFalse((growing.verdict.ledger, growing.verdict.missed) == rows)
        self.assertEqual(sum(one is not other for one, other in zip(now, before, strict=True)), 1)


class CommonEnds(unittest.TestCase):
    @given(st.lists(st.integers(0, 2), max_size=12), st.lists(st.integers(0, 2), max_size=12))
    def test_as_counted_row_by_row(self, rows, others):
        head, tail = common_ends(rows, others)
        shorter = min(len(rows), len(others))
        alike = [one == other for one, other in zip(rows, others, strict=False)]
        self.assertEqual(head, alike.index(False) if False in alike else shorter)
        behind = [one == other for one, other in zip(rows[::-1], others[::-1], strict=False)][: shorter - head]
        self.assertEqual(tail, behind.index(False) if False in behind else shorter - head)
