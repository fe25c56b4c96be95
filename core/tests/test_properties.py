"""What must hold for every log, however carelessly it was scored."""

import copy
import json
import random
import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from jurata_core.adjudication import adjudicate, outlook
from jurata_core.match_log import read_log, write_log
from jurata_core.times import to_millis

from .random_logs import random_log

logs = st.integers(min_value=0).map(lambda number: random_log(random.Random(number)))
checked = settings(max_examples=300, deadline=None, derandomize=True)


def verdict(log):
    return adjudicate(read_log(log)).as_json()


def mirrored(value, key=None):
    """The log with the two sides swapped."""
    if isinstance(value, dict):
        if value and set(value) <= {"a", "b"}:
            return {{"a": "b", "b": "a"}[side]: mirrored(inner) for side, inner in value.items()}
        return {name: mirrored(inner, name) for name, inner in value.items()}
    if isinstance(value, list):
        return [mirrored(inner) for inner in value]
    return {"a": "b", "b": "a"}.get(value, value) if key in ("top", "by", "on", "to", "won", "winner") else value


def rows(found):
    """The ledger without its sentences, which name the sides, in an order that no side decides."""
    kept = ("t", "to", "kind", "n", "reason")
    return sorted(tuple(str(row[name]) for name in kept) for row in found["ledger"])


class Properties(unittest.TestCase):
    @checked
    @given(logs)
    def test_adjudication_is_pure(self, log):
        before = copy.deepcopy(log)
        self.assertEqual(verdict(log), verdict(log))
        self.assertEqual(log, before)

    @checked
    @given(logs)
    def test_mirrored_sides_mirror_the_verdict(self, log):
        found, swapped = verdict(log), verdict(mirrored(log))
        self.assertEqual(mirrored(found["score"]), swapped["score"])
        self.assertEqual(mirrored(found["result"]), swapped["result"])
        self.assertEqual(rows(mirrored(found)), rows(swapped))

    @checked
    @given(logs, st.integers(1, 5000))
    def test_a_shift_in_time_shifts_the_verdict(self, log, by):
        later = copy.deepcopy(log)
        for seen in later["observations"]:
            seen["t"] = round(seen["t"] + by, 3)
            if "until" in seen:
                seen["until"] = round(seen["until"] + by, 3)
        found, shifted = verdict(log), verdict(later)
        self.assertEqual(found["score"], shifted["score"])
        self.assertEqual(found["result"], shifted["result"])
        moved = [(to_millis(row["t"]) + by * 1000, row["clock"], row["reason"]) for row in found["ledger"]]
        self.assertEqual(moved, [(to_millis(row["t"]), row["clock"], row["reason"]) for row in shifted["ledger"]])

    @checked
    @given(logs, st.integers(0, 60))
    def test_a_prefix_of_the_log_gives_a_prefix_of_the_ledger(self, log, cut):
        log["observations"].sort(key=lambda seen: seen["t"])
        cut = min(cut, len(log["observations"]) - 1)
        head = {**log, "observations": log["observations"][: cut + 1]}
        ledger = verdict(head)["ledger"]
        self.assertEqual(ledger, verdict(log)["ledger"][: len(ledger)])

    @checked
    @given(logs, st.randoms(use_true_random=False))
    def test_the_order_of_what_touches_nothing_at_one_moment_does_not_matter(self, log, rng):
        """Grips, calls, titles and votes together with anything else: the same ledger, whichever was logged first."""
        for number, seen in enumerate(log["observations"]):
            seen["id"] = f"o{number}"
        silent = {"grip", "call", "exchange"}
        t = rng.choice(log["observations"])["t"]
        added = [
            {"t": t, "kind": "grip", "by": "a", "grip": "sleeve", "id": "grip"},
            {"t": t, "kind": "call", "to": "b", "points": 2, "id": "call"},
            {"t": t, "kind": "exchange", "title": "again", "id": "exchange"},
        ]
        loud = [seen for seen in log["observations"] if seen["kind"] not in silent]
        orders = []
        for _ in range(3):
            mixed = list(loud)
            for seen in rng.sample(added, len(added)):
                mixed.insert(rng.randrange(len(mixed) + 1), seen)
            orders.append(verdict({**log, "observations": mixed}))
        for other in orders[1:]:
            for name in ("score", "result", "ledger", "missed", "open", "unpaid"):
                self.assertEqual(orders[0][name], other[name])

    @checked
    @given(logs)
    def test_the_score_is_the_sum_of_the_ledger(self, log):
        found = verdict(log)
        total = {side: {"points": 0, "advantages": 0, "penalties": 0} for side in "ab"}
        for row in found["ledger"]:
            total[row["to"]][row["kind"]] += row["n"]
            if row["n"] < 0:
                self.assertIn(row["reason"], ("rung_minus_point", "pull_cost", "ruling"))
        self.assertEqual(total, found["score"])
        filed = sorted(index for exchange in found["exchanges"] for index in exchange["ledger_rows"])
        self.assertEqual(filed, list(range(len(found["ledger"]))))
        adjudicated = adjudicate(read_log(log))
        numbers = [n for n, one in enumerate(found["exchanges"]) for _ in one["ledger_rows"]]
        if found["exchanges"]:
            self.assertEqual(adjudicated.exchanges_of_awards(), numbers)
            rows = [row for _, awards, _ in adjudicated.by_exchange() for row in awards]
            self.assertEqual(rows, list(adjudicated.ledger))

    @checked
    @given(logs)
    def test_what_was_missed_was_not_held_long_enough(self, log):
        for row in verdict(log)["missed"]:
            # What is paid as soon as it is reached can only be missed where it never counted.
            self.assertLess(row["held"], row["needed"] or 0.001)

    @checked
    @given(logs)
    def test_a_log_survives_being_written(self, log):
        log["observations"][0]["camera"] = {"seat": "north stand"}
        again = read_log(json.loads(write_log(read_log(log))))
        self.assertEqual(again.raw, log)

    @checked
    @given(logs)
    def test_the_outlook_at_the_end_agrees_with_the_verdict(self, log):
        checked_log = read_log(log)
        last = checked_log.observations[-1].t
        self.assertEqual(outlook(checked_log, last).score, adjudicate(checked_log).score)
