"""The athlete's errors: that each rule finds what it should, what an error cost, and where it came from."""

import json
import os
import random
import unittest
from collections import Counter
from dataclasses import replace
from pathlib import Path
from unittest import mock

from hypothesis import given, settings
from hypothesis import strategies as st

from jurata_core.adjudication import adjudicate
from jurata_core.adjudication.steps import take
from jurata_core.answers import review_of, score
from jurata_core.chance import Model, prior, solve_together
from jurata_core.faults import FaultyInput
from jurata_core.match_log import read_log
from jurata_core.review import (
    Decided,
    Loss,
    Seen,
    Setting,
    causes,
    chains,
    done_well,
    errors,
    in_danger,
    kinds,
    measured,
    model_of,
    offers,
    ordered,
    otherwise_json,
    own_error,
    suggested,
    swings,
    undone,
    without_it,
)
from jurata_core.review.errors import MOST_REVIEWED
from jurata_core.review.order import SAID_BY_COACH, weight
from jurata_core.review.rules import MARKED, RULES

from .cause_reader import CauseReader
from .errors_made import CASES, MADE, PULLED_BY_A, UNDER, finish, foul, grip, hold, mark, throw
from .making import at, end, log, seen, start
from .random_logs import random_log

LOGS = int(os.environ.get("JURATA_RANDOM_LOGS", "150"))
DEMO = Path(__file__).resolve().parents[2] / "server" / "demo" / "data"


def looked_at(raw, side="a") -> Seen:
    read = read_log(raw)
    return Seen(read, adjudicate(read), side)


def found_in(raw, side="a"):
    return errors(looked_at(raw, side))


class Rules(unittest.TestCase):
    def test_each_rule_has_its_words_and_its_logs(self):
        self.assertEqual(list(kinds()), [*RULES, *MARKED])
        self.assertEqual(set(MADE), set(kinds()))
        for kind, (found, not_found) in MADE.items():
            self.assertGreaterEqual(min(len(found), len(not_found)), 3, kind)
        for kind in kinds().values():
            self.assertLessEqual(set(kind.causes), set(causes()), kind.id)

    def test_each_is_found_where_it_should_be_and_only_there(self):
        for kind, number, expected, raw in CASES:
            with self.subTest(kind=kind, number=number, expected=expected):
                kinds_found = [error.kind for error in found_in(raw)]
                self.assertEqual(kind in kinds_found, expected, kinds_found)

    def test_a_row_is_told_once(self):
        """A leg lock, a lost top and a sweep are one error where they are one event."""
        observations = [
            start(),
            seen(5, "pull", by="b"),
            at(5, "guard", "a"),
            at(20, "side", "a"),
            at(30, "guard", "a"),
        ]
        sat_back = [*observations, hold(250, "a", "straight-foot-lock", 253), at(255, "guard", "b"), end()]
        self.assertEqual(
            [error.kind for error in found_in(log(*sat_back))], ["control_lost", "risk_ahead", "leg_swept"]
        )
        self.assertEqual(
            [str(error.found.loss) for error in found_in(log(*sat_back))], ["nothing", "nothing", "2 points"]
        )
        one = looked_at(log(*sat_back))
        found = errors(one)
        _, top_lost, swept = found
        self.assertEqual(suggested(one, found)[top_lost.key][0], (swept.key, "It is the same moment.", 6))

    @given(st.integers(0, 10_000))
    @settings(max_examples=80, deadline=None)
    def test_any_log_can_be_reviewed_from_either_side(self, number):
        raw = random_log(random.Random(number))
        for side in ("a", "b"):
            one = looked_at(raw, side)
            found = errors(one)
            self.assertEqual(len({error.key for error in found}), len(found))
            for error in found:
                self.assertLessEqual(error.found.since, error.found.t)
                self.assertNotIn("{", error.title + error.because)
                json.dumps(error.as_json())
                undone(one, [error])
            chains(found, {later: links[0].earlier for later, links in suggested(one, found).items()})

    def test_a_mark_joins_the_error_it_stands_beside(self):
        taken = [*PULLED_BY_A, mark(19, "a", "frames", text="elbow out"), at(20, "side", "b"), end(60)]
        (error,) = [one for one in found_in(log(*taken)) if one.kind == "taken"]
        self.assertEqual(error.causes[0], "frames")
        self.assertEqual(error.title, "Elbow out")
        self.assertNotIn("“", error.because)
        self.assertIn(3, error.found.refs)
        self.assertNotIn("technical", [one.kind for one in found_in(log(*taken))])
        alone = [*PULLED_BY_A, mark(12, "a", "frames", text="elbow out"), at(20, "side", "b"), end(60)]
        self.assertIn("technical", [one.kind for one in found_in(log(*alone))])

    def test_a_chance_with_a_move_costs_what_it_would_have_paid(self):
        early = {**mark(15, "a", "timing"), "chance": "guard_pass", "instead": "Go as soon as the hook is out."}
        on_top = [start(), at(5, "guard", "a"), early, at(40, "standing"), end(60)]
        for rules, points in (("full-points", 3), ("late-points", 0), ("submission-only", 0)):
            (error,) = [one for one in review_of(log(*on_top, ruleset=rules))["errors"] if one["kind"] == "technical"]
            self.assertEqual(error["cost"], {"points": points, "advantages": 0}, rules)
            self.assertGreater(error["swing"], 0)
            self.assertEqual(error["instead"], "Go as soon as the hook is out.")
        hold = {**early, "chance": "submission"}
        (error,) = [one for one in review_of(log(start(), hold, end(60)))["errors"] if one["kind"] == "technical"]
        self.assertEqual((error["cost"]["points"], error["swing"]), (0, None))

    def test_every_sentence_is_true(self):
        """Read again from the log as it was written, with none of the review's own questions."""
        rng = random.Random(11)
        got: Counter[str] = Counter()
        for number in range(LOGS):
            raw = random_log(rng, 45)
            verdict = score(raw)
            for side in ("a", "b"):
                one = looked_at(raw, side)
                found = errors(one)
                reader = CauseReader(raw, verdict, side)
                by_key = {error.key: error for error in found}
                for error in found:
                    got[error.kind] += 1
                    with self.subTest(number=number, side=side, said=error.because):
                        reader.read(error)
                for later, links in suggested(one, found).items():
                    for link in links:
                        got["link"] += 1
                        with self.subTest(number=number, side=side, link=link.because):
                            reader.read_link(link.because, by_key[link.earlier], by_key[later])
        rare = {"leg_swept", "retaken", "paid_pull", "dragged_out", "attempt_failed", "too_late", "no_attempt"}
        self.assertLessEqual(set(kinds()) - rare, set(got))

    def test_the_demo_matches_as_a_coach_would_list_them(self):
        """What a coach would write down for each, by the time of the footage at which it began."""
        expected = {
            "a-warning-for-the-wrist": [
                (50.6, "control_lost"), (52, "technical"), (66, "illegal"), (128, "unheld"), (170, "control_lost"),
            ],
            "before-the-points-open": [
                (40, "control_lost"), (53, "out_of_plan"), (96, "control_lost"), (176.4, "taken"), (215, "unheld"),
                (238, "technical"), (268, "control_lost"), (276, "penalty"),
            ],
            "golden-score": [
                (99, "taken"), (102, "technical"),
            ],
            "patient-passing": [
                (79, "unheld"), (101, "control_lost"), (149.4, "unheld"), (152.4, "technical"),
                (163, "control_lost"),
            ],
            "ready-to-score": [
                (55, "control_lost"), (82, "control_lost"), (133, "chance_missed"), (170, "control_lost"),
            ],
            "three-single-legs": [
                (14, "attempt_failed"), (24, "taken"), (27, "technical"), (41.6, "taken"), (118, "unheld"),
                (175, "taken"), (193.4, "control_lost"), (215, "penalty"), (262, "given"), (298, "taken"),
            ],
        }  # fmt: skip
        for name, listed in expected.items():
            with self.subTest(name):
                raw = json.loads((DEMO / f"{name}.json").read_text("utf-8"))["log"]
                found = [(error.found.since / 1000, error.kind) for error in found_in(raw)]
                self.assertEqual(found, listed)


def busy(length):
    """A match in which something is won or lost every other second."""
    places = [("guard", "b"), ("side", "b"), ("guard", "a"), ("mount", "a"), ("guard", "b"), ("turtle", "b")]
    seen_ = [at(5 + 4 * number, *places[number * 5 % 6]) for number in range(length)]
    seen_ += [hold(7 + 40 * number, "a", "armbar", 9 + 40 * number) for number in range(length // 10)]
    return log(start(), *sorted(seen_, key=lambda one: one["t"]), end(5 + 4 * length), duration=5 + 4 * length)


class Length(unittest.TestCase):
    """How long a review takes grows with the log, not with its square: counted in observations taken in, not in time."""

    def folded(self, length):
        one = looked_at(busy(length))
        found = errors(one)
        self.assertGreater(len(found), length // 8)
        one.scored_again(one.log)
        with mock.patch("jurata_core.adjudication.fold.take", wraps=take) as taken:
            for error in found:
                undone(one, [error])
        return taken.call_count / len(found)

    def test_scoring_again_costs_the_same_in_a_long_log(self):
        short, long = self.folded(300), self.folded(1_200)
        self.assertLess(long, 1.3 * short)
        self.assertLess(long, 150)

    def test_beyond_any_match_it_says_so(self):
        with self.assertRaises(FaultyInput) as caught:
            found_in(busy(MOST_REVIEWED))
        self.assertIn("a review reads a match of up to 3000", str(caught.exception))

    @given(st.integers(0, 10**9))
    @settings(max_examples=60, deadline=None)
    def test_it_comes_to_what_the_whole_log_comes_to(self, number):
        """Against the adjudication of all of the changed log."""
        random_ = random.Random(number)
        one = looked_at(random_log(random_, length=120))
        rows = list(one.log.observations)
        for _ in range(5):
            changed = [row for row in rows if random_.random() > 0.02]
            log_ = replace(one.log, observations=tuple(changed))
            self.assertEqual(one.scored_again(log_), adjudicate(log_))


class Costs(unittest.TestCase):
    def test_what_is_said_of_the_sheet(self):
        said = {
            "6 points missed (advantage given)": [*UNDER[:1], at(20, "mount", "a"), at(22, "guard", "b"), end()],
            "3 points": [*UNDER, at(40, "guard", "b"), end()],
            "1 penalty": [start(), foul(9), end()],
            "the match": [*PULLED_BY_A, finish(24, "b")],
            "1 advantage and 1 penalty": [start(), foul(9), foul(19), end()],
        }
        for cost, observations in said.items():
            with self.subTest(cost):
                self.assertIn(cost, [error.said_cost for error in found_in(log(*observations))])

    def test_scored_again_with_a_claim_held(self):
        raw = log(*UNDER, at(40, "guard", "b"), at(60, "guard", "a"), at(80, "mount", "a"), at(82, "standing"), end())
        one = looked_at(raw)
        (unheld,) = (error for error in errors(one) if error.kind == "unheld")
        now = undone(one, [unheld])
        self.assertEqual((one.verdict.score["a"]["points"], one.verdict.score["a"]["advantages"]), (2, 1))
        # Mounted from the guard: the pass and the mount, without the advantage for having come near.
        self.assertEqual((now.score["a"]["points"], now.score["a"]["advantages"]), (9, 0))
        got = otherwise_json(one, now)
        self.assertEqual((got["result"]["winner"], got["changes"], got["better"]), ("a", True, True))
        self.assertEqual(without_it(one, now), "Without it, the athlete would have won on points.")

    def test_scored_again_without_a_foul_the_ladder_is_climbed_again(self):
        one = looked_at(log(start(), foul(9), foul(19), foul(29), end()))
        first = next(error for error in errors(one) if error.kind == "penalty")
        self.assertEqual(one.verdict.score["b"], {"points": 2, "advantages": 1, "penalties": 0})
        self.assertEqual(undone(one, [first]).score["b"], {"points": 0, "advantages": 1, "penalties": 0})

    def test_without_the_finish_the_match_goes_on(self):
        one = looked_at(log(*PULLED_BY_A, hold(20, "b", "triangle", 24), finish(24, "b", "triangle")))
        (error,) = errors(one)
        got = otherwise_json(one, undone(one, [error]))
        self.assertEqual((got["result"]["method"], got["changes"]), ("unfinished", True))
        self.assertEqual(got["because"], "The match would have continued.")
        self.assertEqual(without_it(one, undone(one, [error])), "Without it, the match would have continued.")
        self.assertIsNone(without_it(one, undone(one, [])))

    def test_two_errors_of_one_row_turn_it_once(self):
        one = looked_at(log(*PULLED_BY_A, grip(10, 60), at(62, "side", "b"), end()))
        both = [error for error in errors(one) if error.kind in ("grip_unbroken", "taken")]
        self.assertEqual(len(both), 2)
        self.assertEqual(undone(one, both).score["b"]["points"], 0)

    def test_the_swing_is_larger_the_later_it_is(self):
        """Three points conceded from level: with ten seconds left they cost more than with almost all of the match."""
        lost = []
        for t in (20, 285):
            one = looked_at(log(*PULLED_BY_A, at(t, "side", "b"), at(t + 5, "guard", "b"), end()))
            found = [error for error in errors(one) if error.kind == "taken"]
            model = Model(one.log.ruleset, 300, prior())
            ((swing,),) = solve_together(model, swings(one, found, model))
            lost.append(swing.lost)
        self.assertGreater(lost[1], lost[0] + 0.1)
        self.assertGreater(lost[0], 0.05)

    def test_after_a_finish_nothing_is_left_and_before_it_something_was(self):
        one = looked_at(log(*PULLED_BY_A, hold(20, "b", "triangle", 24), finish(24, "b", "triangle")))
        model = Model(one.log.ruleset, 300, prior())
        ((swing,),) = solve_together(model, swings(one, errors(one), model))
        self.assertEqual(swing.was.win, 0)
        self.assertGreater(swing.otherwise.win, 0.2)


class Signs(unittest.TestCase):
    def test_no_error_is_shown_that_helped(self):
        """What the review prints never says that the match was worse without an error."""
        rng = random.Random(3)
        for _ in range(5):
            raw = random_log(rng, 45)
            for side in ("a", "b"):
                for error in review_of(raw, side)["errors"]:
                    self.assertGreaterEqual(error["swing"] or 0, 0)

    def test_what_was_got_out_of_again_was_conceded_all_the_same(self):
        """From under side control into the mount and back to the guard: worth an advantage to the other, and no gain."""
        one = looked_at(log(*UNDER, at(40, "mount", "b"), at(42, "guard", "b"), end()))
        near = next(error for error in errors(one) if error.title == "Mount nearly conceded")
        model = model_of(one, prior())
        ((swing,),) = solve_together(model, swings(one, [near], model))
        self.assertGreater(swing.lost, 0.005)
        self.assertFalse(swing.helped)


class Roots(unittest.TestCase):
    RAW = log(
        *PULLED_BY_A, grip(10, 60), at(62, "side", "b"), at(70, "turtle", "b"), at(75, "back", "b"),
        hold(90, "b", "rear choke", 100), finish(100, "b"),
    )  # fmt: skip

    def test_likely_earlier_links(self):
        one = looked_at(self.RAW)
        found = errors(one)
        kind = {error.key: error.kind for error in found}
        at_ = {error.key: error.found.happened // 1000 for error in found}
        likely = {(kind[later], at_[later]): links for later, links in suggested(one, found).items()}
        # The pass came under the grip; the choke came from where the hooks went in.
        self.assertEqual(kind[likely["taken", 62][0].earlier], "grip_unbroken")
        self.assertEqual(at_[likely["submitted", 90][0].earlier], 75)
        self.assertEqual(likely["submitted", 90][0].because, "It led to back control; this began from there.")

    def test_nothing_is_suggested_because_of_the_time_alone(self):
        """Two errors seconds apart, with the athlete back on the feet between them."""
        raw = log(
            *PULLED_BY_A, at(20, "side", "b"), at(26, "standing"), at(28, "side", "b"), at(34, "standing"), end()
        )  # fmt: skip
        one = looked_at(raw)
        found = errors(one)
        self.assertGreaterEqual(len([error for error in found if error.kind == "taken"]), 2)
        self.assertEqual(suggested(one, found), {})

    def test_a_mark_is_the_root_of_what_began_in_the_same_place(self):
        posture = mark(30, "a", "posture", text="Head low")
        one = looked_at(log(*PULLED_BY_A, posture, at(40, "side", "b"), at(60, "mount", "b"), end()))
        found = errors(one)
        likely = suggested(one, found)
        (marked,) = [error for error in found if error.kind == "technical"]
        passed = next(error for error in found if error.kind == "taken")
        self.assertEqual(likely[passed.key][0], (marked.key, "The coach had marked it at 0:30.", 4))

    def test_what_mattered_most_is_first_and_begins_at_its_root(self):
        one = looked_at(self.RAW)
        found = errors(one)
        model = model_of(one, prior())
        (swung,) = solve_together(model, swings(one, found, model))
        by_key = {error.key: swing for error, swing in zip(found, swung, strict=True) if swing}
        linked = {later: links[0].earlier for later, links in suggested(one, found).items()}
        lessons, first = ordered(one, found, chains(found, linked), by_key)
        kind = {error.key: error.kind for error in found}
        # The choke ended the match; the story begins at the grip, a minute before.
        self.assertEqual(kind[lessons[0].chains[0].root], "grip_unbroken")
        self.assertIn("submitted", [kind[key] for key in lessons[0].errors])
        self.assertLessEqual(first, 5)

    def test_what_the_coach_marked_weighs_something_though_it_is_on_no_sheet(self):
        one = looked_at(log(start(), mark(12, "a", "plan", text="Sat down"), end()))
        (marked,) = errors(one)
        self.assertEqual(weight(one, [marked], {}).lost, SAID_BY_COACH)

    def test_chains_by_the_coachs_links(self):
        found = found_in(self.RAW)
        keys = [error.key for error in found]
        self.assertEqual([chain.members for chain in chains(found, {})], [(key,) for key in keys])
        linked = dict(zip(keys[1:], keys, strict=False))
        (chain,) = chains(found, linked)
        self.assertEqual((chain.root, chain.members), (keys[0], tuple(keys)))
        self.assertEqual(len(chains(found, {keys[1]: "gone"})), len(keys))
        with self.assertRaisesRegex(ValueError, "from itself"):
            chains(found, {keys[0]: keys[1], keys[1]: keys[0]})

    def test_the_coachs_own_error(self):
        one = looked_at(self.RAW)
        own = own_error(
            one, "own-1", "Stopped breathing", "Held the breath.", "Breathe.", 30_000, 31_000, Loss(2, 0, 0)
        )
        self.assertEqual((own.said_cost, own.start, own.end, own.clock), ("2 points", 26_000, 33_000, 31_000))
        self.assertEqual(undone(one, [own]).score["a"]["points"], 2)


class WrongFacts(unittest.TestCase):
    def test_without_the_only_score_of_overtime_nobody_had_won(self):
        golden = {"extends": "full-points", "overtime": {"seconds": 120, "golden": "points"}}
        rows = [start(), seen(100, "clock", action="stop"), seen(100, "period"), start(110), at(120, "guard", "b")]
        one = looked_at({**log(*rows, at(126, "standing"), end(130), ruleset=golden), "duration": 100})
        (taken,) = [error for error in errors(one) if error.kind == "taken"]
        self.assertEqual(one.verdict.result.method, "golden_score")
        found = otherwise_json(one, undone(one, [taken]))
        self.assertEqual((found["result"]["winner"], found["better"]), (None, True))

    def test_a_lead_that_nobody_catches_up_with_is_not_risked(self):
        far = [start(), at(5, "mount", "a"), at(10, "back", "a"), at(20, "mount", "a")]
        lost = [hold(280, "a", "armbar", 284), at(285, "guard", "b"), end()]
        kept = [error.kind for error in found_in(log(*far, *lost))]
        self.assertNotIn("risk_ahead", kept)

    def test_what_the_other_did_alone_was_no_risk(self):
        ahead = [start(), at(5, "guard", "a"), at(285, "guard", "b"), end()]
        self.assertNotIn("risk_ahead", [error.kind for error in found_in(log(*ahead))])

    def test_behind_is_said_of_one_who_was_behind_all_along(self):
        """At 2-2 by the sweep of that very position nobody is behind; nor once an advantage is given on the way."""
        behind = [start(), at(5, "guard", "b"), at(60, "guard", "a"), at(120, "standing"), end()]
        self.assertNotIn("dragged_out", [error.kind for error in found_in(log(*behind))])
        passed = [start(), at(5, "guard", "b"), at(30, "side", "b"), at(60, "guard", "a"), at(120, "standing"), end()]
        (found,) = [error for error in found_in(log(*passed)) if error.kind == "dragged_out"]
        self.assertEqual((found.found.since, found.found.t), (60_000, 120_000))
        self.assertIn("while behind by 5 points", found.because)

    def test_nobody_got_out_of_the_hold_that_ended_the_match(self):
        for until, name, well in ((59, "armbar", 0), (55, "armbar", 1), (55, "triangle", 0)):
            hold_ = [start(), at(5, "guard", "a"), hold(50, "b", "triangle", until)]
            finished = log(*hold_, end(60, how="submission", by="b", technique=name))
            self.assertEqual(sum(one.kind == "defended" for one in done_well(looked_at(finished))), well)

    def test_nothing_is_praised_that_left_the_side_under_control(self):
        under = [start(), at(5, "side", "b"), hold(50, "b", "americana", 55), at(90, "guard", "b"), end()]
        self.assertNotIn("defended", [one.kind for one in done_well(looked_at(log(*under)))])


class Habits(unittest.TestCase):
    """Numbers of the product's own: three dismissals, three quarters of what was decided."""

    def made(self, *lengths, kind="grip_unbroken", dismissed=True):
        return [Decided(kind, dismissed, length and length * 1000) for length in lengths]

    def test_an_offer_after_three_of_four(self):
        self.assertEqual(offers(self.made(21, 22), {}, {}), [])
        (offer,) = offers([*self.made(21, 22, 33), *self.made(50, dismissed=False)], {}, {})
        self.assertEqual((offer.dismissed, offer.decided, offer.least), (3, 4, 35_000))
        mixed = [*self.made(21, 22, 33), *self.made(50, 51, dismissed=False)]
        self.assertEqual(offers(mixed, {}, {}), [])

    def test_no_limit_that_would_hide_what_was_accepted(self):
        (offer,) = offers([*self.made(30, 31, 32), *self.made(25, dismissed=False)], {}, {})
        self.assertIsNone(offer.least)

    def test_kinds_without_a_limit_can_only_be_turned_off_and_some_are_never_offered(self):
        (offer,) = offers(self.made(None, None, None, kind="retaken"), {}, {})
        self.assertEqual((offer.kind, offer.least), ("retaken", None))
        for kind in ("illegal", "technical", "submitted", "a kind of another time"):
            self.assertEqual(offers(self.made(None, None, None, kind=kind), {}, {}), [])

    def test_what_is_turned_down_already_is_not_counted(self):
        self.assertEqual(offers(self.made(21, 22, 23), {"grip_unbroken": Setting(limits={"least": 25_000})}, {}), [])
        self.assertEqual(offers(self.made(21, 22, 23), {"grip_unbroken": Setting(off=True)}, {}), [])
        self.assertEqual(offers(self.made(21, 22, 23, 24), {}, {"grip_unbroken": 3}), [])

    def test_a_limit_or_a_kind_that_is_off_changes_what_is_found(self):
        raw = log(*PULLED_BY_A, grip(10, 40), at(60, "side", "b"), at(80, "standing"), throw(250), end())
        kinds_found = [error.kind for error in errors(looked_at(raw))]
        self.assertEqual(kinds_found, ["grip_unbroken", "taken"])
        self.assertEqual(measured(errors(looked_at(raw))[0]), 30_000)
        longer = {"grip_unbroken": Setting(limits={"least": 31_000})}
        self.assertEqual([error.kind for error in errors(looked_at(raw), longer)], ["taken"])
        self.assertEqual(
            [error.kind for error in errors(looked_at(raw), {"taken": Setting(off=True)})], ["grip_unbroken"]
        )


class Danger(unittest.TestCase):
    def test_where_nothing_scores_the_cost_is_the_danger_of_being_finished(self):
        raw = log(*PULLED_BY_A, at(60, "side", "b"), at(80, "mount", "b"), end(), ruleset="submission-only")
        one = looked_at(raw)
        self.assertTrue(in_danger(one.log.ruleset))
        passed, mounted = [error for error in errors(one) if error.kind == "worth_zero"]
        model = model_of(one, prior())
        first, second = solve_together(model, swings(one, [passed, mounted], model))[0]
        for swing in (first, second):
            self.assertGreater(swing.was.lose, swing.otherwise.lose)
            self.assertAlmostEqual(
                swing.lost, (swing.was.lose - swing.otherwise.lose + swing.otherwise.win - swing.was.win) / 2
            )

    def test_a_decision_over_the_distance_is_nobodys(self):
        """The danger is of being finished, whoever the judges would choose."""
        zero = {"extends": "submission-only", "title": "Judged", "tiebreak": ["decision"]}
        one = looked_at(log(*PULLED_BY_A, at(60, "side", "b"), end(), ruleset=zero))
        self.assertEqual(model_of(one, prior()).ruleset.tiebreak, ("draw",))


class DoneWell(unittest.TestCase):
    def test_the_most_telling_first(self):
        on_top = [start(), at(10, "guard", "a"), at(30, "side", "a"), hold(50, "b", "triangle", 55), end()]
        self.assertEqual(
            [one.because for one in done_well(looked_at(log(*on_top)))],
            ["Guard pass at 0:33, held for 3 points.", "Takedown at 0:13, held for 2 points.",
             "Out of the triangle of 0:50 after 5 s.",
             "Ahead, and 270 s of control from 0:30 on with nothing given.",
             "Ahead in the last minute, and stayed on top to the end."],
        )  # fmt: skip
        finished = log(start(), at(10, "guard", "a"), finish(40, "a", "armbar"))
        self.assertEqual(done_well(looked_at(finished))[0].because, "Finished the match by armbar.")
        (clean,) = done_well(looked_at(log(*PULLED_BY_A, end())))
        self.assertEqual((clean.kind, clean.because), ("clean", "Not a single penalty."))
        self.assertEqual(done_well(looked_at(log(start(), foul(9), end()))), [])
