"""The audit: pairing, standings and figures; the figures against reference libraries."""

import itertools
import random
import unittest

import krippendorff
import numpy as np
from sklearn.metrics import cohen_kappa_score
from statsmodels.stats.proportion import proportion_confint

from jurata_core.adjudication import adjudicate
from jurata_core.answers import score
from jurata_core.audit import audit, compare, compare_all, questions, shown_on_boards
from jurata_core.audit.agreement import alpha, kappa, share
from jurata_core.audit.entries import Entry
from jurata_core.audit.pairing import MOST_ENTRIES, OFFICIALS, pairs
from jurata_core.faults import FaultyInput
from jurata_core.match_log import read_log

from .making import at, end, log, seen, start
from .random_logs import random_log


def entry(t, n=2, to="a", kind="points"):
    return Entry(round(t * 1000), to, kind, n, "", ())


def standings(*observations):
    checked = read_log(log(start(), *observations, end()))
    return [(line.standing, line.kind) for line in audit(checked).lines]


def anything(one, other):
    return True


class Pairing(unittest.TestCase):
    def test_the_best_overall_pairing_not_the_first_found(self):
        """Taking the nearest for the first award would leave the second without a call."""
        awards, calls = [entry(10), entry(20)], [entry(21), entry(24.9)]
        self.assertEqual(pairs(awards, calls, OFFICIALS, anything), [(0, 0), (1, 1)])

    def test_window(self):
        for late, paired in ((-2.1, 0), (-2, 1), (0, 1), (15, 1), (15.1, 0)):
            self.assertEqual(len(pairs([entry(50)], [entry(50 + late)], OFFICIALS, anything)), paired, late)

    def test_equal_numbers_are_paired_before_near_ones(self):
        awards, calls = [entry(10, 2), entry(12, 3)], [entry(13, 3), entry(14, 2)]
        self.assertEqual(pairs(awards, calls, OFFICIALS, anything), [(0, 1), (1, 0)])

    def test_against_trying_every_pairing(self):
        """The most pairs, then the least cost: found by going through all permutations."""
        rng = random.Random(4)
        for _ in range(150):
            awards = [entry(rng.uniform(0, 40), 2) for _ in range(rng.randrange(1, 6))]
            calls = [entry(rng.uniform(0, 50), 2) for _ in range(rng.randrange(1, 6))]
            found = pairs(awards, calls, OFFICIALS, anything)
            best = (0, 0)
            slots = [*range(len(calls)), *[None] * len(awards)]
            for order in set(itertools.permutations(slots, len(awards))):
                chosen = [
                    (one, other) for one, other in enumerate(order)
                    if other is not None and OFFICIALS.holds(awards[one], calls[other])
                ]  # fmt: skip
                late = sum(abs(awards[one].t - calls[other].t) for one, other in chosen)
                best = min(best, (-len(chosen), late)) if best != (0, 0) else (-len(chosen), late)
            self.assertEqual((-len(found), sum(abs(awards[one].t - calls[other].t) for one, other in found)), best)

    def test_too_many_to_compare(self):
        with self.assertRaises(FaultyInput):
            pairs([entry(1)] * (MOST_ENTRIES + 1), [entry(1)], OFFICIALS, anything)


def at_mount(t):
    return at(t, "mount", "a"), at(t + 10, "standing")


class Officials(unittest.TestCase):
    MOUNT = (at(10, "mount", "a"), at(20, "standing"))  # 13.0: takedown 2 and mount 4

    def test_each_standing(self):
        cases = [
            ((seen(15, "call", to="a", points=2), seen(15, "call", to="a", points=4)), ["agreed", "agreed"]),
            ((), []),  # nothing is known of what the officials gave
            ((seen(60, "call", to="b", points=9),), ["not_awarded"]),  # one call says nothing of the rest
            ((seen(15, "call", to="a", points=2), seen(15, "call", to="a", points=3)), ["agreed", "differently"]),
            ((seen(15, "call", to="b", points=2), seen(15, "call", to="a", points=4)), ["differently", "agreed"]),
            ((seen(15, "call", to="a", advantages=1), seen(15, "call", to="a", points=4)), ["differently", "agreed"]),
        ]
        for calls, expected in cases:
            with self.subTest(calls=calls):
                self.assertEqual(sorted(standing for standing, _ in standings(*self.MOUNT, *calls)), sorted(expected))
        self.assertEqual(standings(seen(30, "call", to="b", points=2)), [("not_awarded", "points")])

    def test_one_call_for_two_kinds_makes_two_lines(self):
        self.assertEqual(
            standings(seen(5, "foul", by="a", foul="stalling"), seen(6, "call", to="a", penalties=1, points=1)),
            [("agreed", "penalties"), ("not_awarded", "points")],
        )

    def test_the_reason_and_the_held_time_are_told(self):
        call = seen(90, "call", to="b", points=2)
        lines = audit(
            read_log(log(start(), at(10, "guard", "b"), at(12.4, "standing"), call, end())), complete=True
        ).lines
        self.assertIn("2.4 s of 3 s", lines[0].because)

    def test_without_calls_nothing_is_said_of_the_officials(self):
        """Nor what was carried in, nor a penalty that the referee was seen to give: kappa of nothing is nothing."""
        found = audit(read_log(log(start(), *self.MOUNT, end()))).as_json()
        self.assertEqual((found["lines"], found["kappa"], found["exchanges"]), ([], None, []))
        self.assertEqual(found["agreement"]["points"]["share"], None)
        carried = seen(0, "begin", clock=60, score={"a": {"points": 4, "penalties": 1}})
        foul, call = seen(20, "foul", by="b", foul="stalling"), seen(36, "call", to="a", points=4)
        found = audit(read_log(log(carried, start(), foul, *at_mount(30), call, end()))).lines
        self.assertEqual({(line.standing, line.kind, line.award and line.award.n) for line in found},
                         {("not_called", "points", 2), ("agreed", "points", 4)})  # fmt: skip

    def test_figures(self):
        calls = (seen(15, "call", to="a", points=2), seen(15, "call", to="a", points=3))
        said = audit(read_log(log(start(), *self.MOUNT, *calls, end()))).as_json()
        self.assertEqual(said["agreement"]["points"]["agreed"], 1)
        self.assertEqual(said["agreement"]["points"]["share"], 0.5)
        self.assertEqual(said["exchanges"][1], {"awarded": "a 6 points", "called": "a 5 points"})

    def test_every_award_and_call_of_random_logs_has_one_line(self):
        rng = random.Random(12)
        for _ in range(100):
            checked = read_log(random_log(rng, 40))
            verdict = adjudicate(checked)
            lines = audit(checked, verdict, complete=True).lines
            tallies = ("points", "advantages", "penalties")
            shown = [one for one in checked.raw["observations"] if one["kind"] == "call"]
            given = [row for row in verdict.ledger if row.reason.code != "carried_in" and row.kind != "penalties"]
            lined = [line for line in lines if line.award is not None and line.award.kind != "penalties"]
            called = any(one.get(name) for one in shown for name in tallies)
            self.assertEqual(len(lined), len(given) if called else 0)
            self.assertEqual(
                sum(line.call is not None for line in lines),
                sum(bool(one.get(name)) for one in shown for name in tallies),
            )

    def test_only_what_the_calls_around_show_was_not_given(self):
        """Not given: with calls before and after, at the same moment, or by a look at the scoreboard."""
        rows = (at(10, "guard", "a"), at(30, "side", "a"), at(60, "mount", "a"))  # 2, 3 and 4
        first, last = seen(14, "call", to="a", points=2), seen(64, "call", to="a", points=4)
        cases: list[tuple[tuple, list[int]]] = [
            ((first,), []),
            ((last,), []),
            ((first, last), [3]),
            ((first, seen(80, "board", score={"a": {"points": 9}})), []),
            ((first, seen(80, "board", score={"a": {"points": 6}})), [3]),
            ((first, seen(80, "board", score={"a": {"points": 2}})), [3, 4]),
        ]
        for calls, expected in cases:
            with self.subTest(calls=calls):
                lines = audit(read_log(log(start(), *rows, *calls, end()))).lines
                self.assertEqual([one.award.n for one in lines if one.standing == "not_called"], expected)
        lines = audit(read_log(log(start(), *rows, first, end())), complete=True).lines
        self.assertEqual([one.award.n for one in lines if one.standing == "not_called"], [3, 4])

    def test_kappa_is_of_the_exchanges_in_which_something_is_known(self):
        rows = (at(10, "guard", "a"), at(40, "standing"), at(60, "guard", "b"), at(90, "standing"))
        call = seen(14, "call", to="a", points=2)
        partly = audit(read_log(log(start(), *rows, call, end())))
        self.assertNotIn("b 2 points", [label for pair in partly.exchanges for label in pair])
        self.assertIn("b 2 points", audit(read_log(log(start(), *rows, call, end())), complete=True).exchanges[3])


class Boards(unittest.TestCase):
    """Looks at the scoreboard, typed by the scorer."""

    ROWS = (at(10, "guard", "a"), at(30, "side", "a"), at(60, "mount", "a"), at(62, "side", "a"))  # 2, 3, an advantage

    def shown(self, *observations):
        read = read_log(log(start(), *self.ROWS, *observations, end()))
        return shown_on_boards(read, adjudicate(read))

    def test_an_agreeing_look_says_so(self):
        (one,) = self.shown(seen(50, "board", score={"a": {"points": 5}}))
        self.assertTrue(one.agrees)
        self.assertEqual(one.because, "At 0:50 of the footage the scoreboard shows 5 to 0: the log agrees.")

    def test_the_smallest_sets_that_explain_a_difference_with_their_times(self):
        agreed, off = seen(20, "board", score={"a": {"points": 2}}), seen(80, "board", score={"a": {"points": 2}})
        _, one = self.shown(agreed, {**off, "score": {"a": {"points": 2, "advantages": 1}}})
        self.assertEqual([[(change.t, change.n) for change in found] for found in one.sets], [[(33_000, -3)]])
        self.assertIn(
            "Up to 0:20 they agreed. It comes out if the 3 points of 0:33 to the athlete were not", one.because
        )
        (points,) = self.shown({**off, "score": {"a": {"points": 9}}})
        self.assertEqual([[change.n for change in found] for found in points.sets], [[4]], "advantages are not known")
        (both,) = self.shown({**off, "score": {"a": {"points": 9, "advantages": 0}}})
        self.assertEqual({tuple(change.n for change in found) for found in both.sets}, {(-1, 4)})
        self.assertIn("the mount of 1:00 to the athlete, held 2 s, was given: 4 points", both.because)

    def test_what_no_award_explains_is_said_as_a_difference(self):
        (one,) = self.shown(seen(80, "board", score={"a": {"points": 5, "advantages": 1}, "b": {"points": 2}}))
        self.assertEqual(one.sets, ())
        self.assertTrue(
            one.because.endswith("No award of the log explains it: the officials gave 2 points more to the opponent.")
        )

    def test_what_was_just_given_may_not_be_on_the_board_yet(self):
        (one,) = self.shown(seen(40, "board", score={"a": {"points": 2}}))
        self.assertIn("were not on the board yet", one.because)

    def test_every_set_makes_the_score_of_the_board_on_random_logs(self):
        rng = random.Random(5)
        explained = 0
        for _ in range(200):
            raw = random_log(rng, 40)
            raw["observations"] = [one for one in raw["observations"] if one["kind"] != "board"]
            ledger = score(raw)["ledger"]
            given = [row for row in ledger if row["reason"] != "carried_in"]
            if not given:
                continue
            left_out = rng.choice(given)
            shown = {side: dict.fromkeys(("points", "advantages", "penalties"), 0) for side in "ab"}
            for row in ledger:
                shown[row["to"]][row["kind"]] += 0 if row is left_out else row["n"]
            if any(n < 0 for side in shown.values() for n in (side["advantages"], side["penalties"])):
                continue  # no board shows that
            t = max(one["t"] for one in raw["observations"])
            checked = read_log({**raw, "observations": [*raw["observations"], seen(t, "board", score=shown)]})
            (one,) = shown_on_boards(checked, adjudicate(checked))
            if one.agrees:
                continue  # a row of nothing
            self.assertTrue(any(len(found) == 1 for found in one.sets), one.because)
            for found in one.sets:
                after = dict(one.verdict)
                for change in found:
                    after[change.to, change.kind] += change.n
                self.assertEqual(after, one.board)
            explained += 1
        self.assertGreater(explained, 100)


class Scorers(unittest.TestCase):
    def verdict(self, *observations):
        return adjudicate(read_log(log(start(), *observations, end())))

    def test_two_scorers_with_a_hesitating_second(self):
        first = self.verdict(at(10, "guard", "a"), at(30, "side", "a"))
        second = self.verdict(at(11, "guard", "a"), at(28.5, "side", "a"))
        self.assertEqual([line.standing for line in compare(first, second).lines], ["agreed", "agreed"])

    def test_themselves_they_agree_with(self):
        rng = random.Random(2)
        for _ in range(30):
            verdict = adjudicate(read_log(random_log(rng)))
            lines = compare(verdict, verdict).lines
            self.assertEqual({line.standing for line in lines} - {"agreed"}, set())

    def test_three_scorers(self):
        one = self.verdict(at(10, "guard", "a"), at(40, "standing"), at(50, "guard", "b"))
        other = self.verdict(at(10, "guard", "a"), at(40, "standing"), at(50, "scramble"))
        said = compare_all([one, one, other])
        self.assertEqual(len(said["against_first"]), 2)
        labels = [["nothing", "a 2 points", "nothing", "b 2 points"]] * 2 + [
            ["nothing", "a 2 points", "nothing", "nothing"]
        ]
        self.assertAlmostEqual(said["alpha"], alpha(labels))


class Figures(unittest.TestCase):
    """Against scikit-learn (Cohen's kappa), krippendorff (alpha) and statsmodels (Wilson's interval)."""

    def test_kappa(self):
        rng = random.Random(1)
        for _ in range(200):
            n = rng.randrange(1, 30)
            first, second = ([rng.choice("abcd") for _ in range(n)] for _ in range(2))
            found = kappa(first, second)
            if len(set(first) | set(second)) == 1:
                self.assertIsNone(found)
            else:
                self.assertAlmostEqual(found, cohen_kappa_score(first, second), places=12)

    def test_alpha(self):
        rng = random.Random(3)
        for _ in range(200):
            units, scorers = rng.randrange(2, 20), rng.randrange(2, 5)
            data = [[rng.choice([0, 1, 2, None]) for _ in range(units)] for _ in range(scorers)]
            found = alpha(data)
            numbers = np.array([[np.nan if label is None else label for label in row] for row in data], dtype=float)
            paired = [column for column in numbers.T if np.count_nonzero(~np.isnan(column)) > 1]
            used = {value for column in paired for value in column if not np.isnan(value)}
            if len(used) < 2:
                self.assertIsNone(found)
            else:
                expected = krippendorff.alpha(reliability_data=numbers, level_of_measurement="nominal")
                self.assertAlmostEqual(found, expected, places=10)

    def test_a_worked_example_of_alpha(self):
        """The four observers and twelve units of Krippendorff's textbook example; nominal alpha 0.743. From memory."""
        data = [
            [1, 2, 3, 3, 2, 1, 4, 1, 2, None, None, None],
            [1, 2, 3, 3, 2, 2, 4, 1, 2, 5, None, 3],
            [None, 3, 3, 3, 2, 3, 4, 2, 2, 5, 1, None],
            [1, 2, 3, 3, 2, 4, 4, 1, 2, 5, 1, None],
        ]
        self.assertAlmostEqual(alpha(data), 0.743, places=3)

    def test_wilson(self):
        for n in (1, 3, 10, 200):
            for agreed in {0, 1, n // 2, n}:
                low, high = proportion_confint(agreed, n, alpha=0.05, method="wilson")
                part, found_low, found_high = share(agreed, n)
                self.assertAlmostEqual(part, agreed / n)
                self.assertAlmostEqual(found_low, low, places=9)
                self.assertAlmostEqual(found_high, high, places=9)
        self.assertIsNone(share(0, 0))


class Questions(unittest.TestCase):
    def asked(self, *observations):
        checked = read_log(log(start(), *observations, end()))
        verdict = adjudicate(checked)
        return [
            (one.clock // 1000, one.text) for one in questions(checked, verdict, audit(checked, verdict, complete=True))
        ]

    def test_with_the_rule_the_held_time_and_the_hold_that_was_off(self):
        choke = seen(20, "submission", by="b", technique="guillotine", threat="attempt", until=24)
        rows = [at(20.4, "guard", "a"), choke, at(28.4, "standing"), seen(40, "call", to="a", points=0)]
        ((clock, text),) = self.asked(
            *rows[:3], seen(60, "call", to="b", points=0, penalties=1), seen(59, "foul", by="b", foul="grip")
        )
        self.assertEqual(clock, 27)
        self.assertEqual(
            text,
            "0:27 We scored 2 points to the athlete for the takedown, held 4.4 s; "
            "the guillotine was already off at 0:24. It was not given: what was missing?",
        )

    def test_called_differently_and_what_was_not_seen(self):
        found = self.asked(
            at(20, "guard", "a"), seen(25, "call", to="a", points=4), at(60, "standing"), seen(90, "call", to="b", points=2)
        )  # fmt: skip
        self.assertEqual(
            [text for _, text in found],
            ["0:23 4 points to the athlete given; we scored 2 points to the athlete for the takedown, held 40 s. "
             "Which is right, and why?",
             "1:30 2 points to the opponent: we have nothing there. What was it for?"],
        )  # fmt: skip

    def test_where_both_agree_there_is_nothing_to_ask(self):
        self.assertEqual(self.asked(at(20, "guard", "a"), seen(25, "call", to="a", points=2)), [])
