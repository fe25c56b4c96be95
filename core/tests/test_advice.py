"""What to do instead: rows of data that fit the case, and sentences that are made of them."""

import json
import random
import re
import unittest
from pathlib import Path

import jurata_core.review.advice as advice_package
from jurata_core.adjudication import adjudicate
from jurata_core.match_log import read_log
from jurata_core.review import Seen, errors
from jurata_core.review.advice import _fits, _rows, _said
from jurata_core.review.why import mechanisms

from .errors_made import PULLED_BY_A, finish, grip, hold, mark
from .making import at, end, log, seen, start
from .random_logs import random_log

FOLDER = Path(advice_package.__file__).parent
FACTS = {"technique": "armbar", "place": "mount", "grip": "collar grip", "aim": "the underhook"}
PASSED = at(20, "side", "b")


def of(kind, *observations, side="a", **more):
    """The first error of a kind."""
    read = read_log(log(*observations, **more))
    return next(error for error in errors(Seen(read, adjudicate(read), side)) if error.kind == kind)


class Rows(unittest.TestCase):
    def test_each_row_has_its_sentences_and_can_be_filled(self):
        for name in ("causes", "steps"):
            for row in _rows(name):
                with self.subTest(name=name, when=row.when):
                    said = _said(row, FACTS)
                    for text in said:
                        self.assertTrue(text[0].isupper() and text.endswith("."), text)
                        self.assertNotRegex(text, r"[{}]")

    def test_no_row_stands_behind_one_that_takes_all_of_its_cases(self):
        for name in ("causes", "steps"):
            rows = _rows(name)
            for number, row in enumerate(rows):
                case = {condition: may[0] for condition, may in row.when.items()}
                first = next(one for one in rows if _fits(one.when, case))
                self.assertIs(first, row, f"{name} {number}: {row.when}")

    def test_the_conditions_are_those_that_the_file_names(self):
        for name in ("causes", "steps"):
            data = json.loads((FOLDER / f"{name}.json").read_text("utf-8"))
            for row in data["rows"]:
                self.assertLessEqual(set(row["when"]), set(re.findall(r"[a-z]+", data["about"])))


class Cases(unittest.TestCase):
    """What a coach would say of each: common practice, no source."""

    def test_the_grip_that_was_on_and_the_guard_that_was_passed(self):
        guard = [start(), seen(5, "pull", by="a"), at(6, "guard", "b", detail="half")]
        found = of("taken", *guard, {**grip(10, 19), "grip": "underhook"}, PASSED, end(60))
        self.assertIn("Pummel the arm back inside", found.instead)
        self.assertIn("In the half guard", found.instead)
        self.assertIn("underhook", found.drill)

    def test_the_own_hold_that_gave_the_position_away(self):
        found = of(
            "control_lost", start(), at(5, "mount", "a"), hold(20, "a", "armbar", 25), at(27, "guard", "a"), end(60)
        )
        self.assertIn("Finish the armbar from mount only", found.instead)

    def test_a_leg_attack_from_the_top(self):
        top = [
            start(),
            seen(5, "pull", by="b"),
            at(6, "guard", "a"),
            hold(30, "a", "toe-hold", 33),
            at(34, "guard", "b"),
        ]
        found = of("leg_swept", *top, end(60), belt="brown", age=30)
        self.assertIn("do not sit back for the toe hold", found.instead)

    def test_what_is_not_allowed_is_never_drilled(self):
        choke = [
            start(),
            seen(5, "pull", by="a"),
            at(6, "guard", "b"),
            hold(15, "a", "guillotine", 22),
            at(20, "side", "b"),
        ]
        found = of("given", *choke, end(60), age=10, belt="yellow", ruleset="house-warnings")
        self.assertIn("stop using it", found.instead)
        self.assertIn("You may not do the guillotine yet.", found.young.instead)
        self.assertNotIn("guillotine", found.drill.lower())

    def test_what_the_other_may_not_do_is_not_advised_against(self):
        caught = [
            start(),
            seen(5, "pull", by="b"),
            at(6, "guard", "a"),
            hold(15, "b", "guillotine", 22),
            at(24, "guard", "b"),
        ]
        found = of("taken", *caught, end(60), age=10, belt="yellow", ruleset="house-warnings")
        self.assertNotIn("stop using it", found.instead)

    def test_how_the_match_was_lost(self):
        for name, said in (
            ("heel-hook", "hide the heel"),
            ("armbar", "elbows at the ribs"),
            ("rear-choke", "choking arm"),
        ):
            found = of(
                "submitted",
                *PULLED_BY_A,
                hold(20, "b", name, 30),
                finish(30, "b", name),
                belt="black",
                age=30,
                attire="nogi",
            )
            self.assertIn(said, found.instead)
            self.assertNotIn("neck", found.instead if name == "heel-hook" else "")

    def test_what_was_marked(self):
        found = of("technical", start(), mark(12, "a", "safety", text="Jumps with the neck in"), end(60))
        self.assertIn("Stop this", found.instead)
        own = of("technical", start(), {**mark(12, "a", "frames", text="Late"), "instead": "Frame first."}, end(60))
        self.assertEqual(own.instead, "Frame first.")

    def test_penalties_by_what_was_done(self):
        foul = {"t": 20, "kind": "foul", "by": "a", "foul": "fleeing", "avoiding": "takedown"}
        self.assertIn("edge", of("penalty", start(), foul, end(60)).instead)

    def test_a_beginner_is_asked_for_less(self):
        lost = [start(), at(5, "mount", "a"), at(27, "guard", "a"), end(60)]
        self.assertIn("ten seconds", of("control_lost", *lost, belt="white").instead)
        self.assertNotIn("ten seconds", of("control_lost", *lost, belt="brown").instead)

    def test_no_two_of_different_cause_have_the_same_advice(self):
        """Random matches; the cause is the kind of error with what brought it about and the step that was taken."""
        rng = random.Random(29)
        compared = 0
        for _ in range(150):
            read = read_log(random_log(rng, 45))
            one = Seen(read, adjudicate(read), "a")
            by_advice = {}
            for error in errors(one):
                had = tuple(each.kind for each in mechanisms(one, error.found))[:1]
                by_advice.setdefault(error.instead, set()).add(had or (error.kind in ("technical", "out_of_plan"),))
                compared += 1
            for instead, causes in by_advice.items():
                self.assertLessEqual(len({cause for cause in causes if cause not in ((True,), ("mark",))}), 1, instead)
        self.assertGreater(compared, 300)
