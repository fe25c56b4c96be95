"""Presets, catalogue, sentences and schemas: data that must fit the code that reads it."""

import random
import string
import unittest
from dataclasses import fields
from typing import get_args

import jsonschema

from jurata_core.adjudication import adjudicate
from jurata_core.adjudication.at_once import AT_ONCE
from jurata_core.adjudication.reasons import (
    AwardReason,
    Cause,
    Consequence,
    Doubt,
    Method,
    PaidAtOnce,
    UnpaidReason,
)
from jurata_core.adjudication.sentences import CLAIMS, PLACES
from jurata_core.divisions import BELTS, Division
from jurata_core.faults import Fault, FaultyInput
from jurata_core.formats.schema import observation_schemas
from jurata_core.match_log import read_log
from jurata_core.match_log.kinds import read_observation
from jurata_core.match_log.observations import CLAIM_KINDS, POSITIONS
from jurata_core.rulesets import preset, preset_ids, preset_settings, read_ruleset
from jurata_core.techniques import catalogue, find, lineage, spelling

from .random_logs import random_log
from .test_match_log import BROKEN

#: The presets as they are agreed on, written down a second time.
PRESETS = {
    "points": {
        "full-points": [2, 2, 2, 2, 2, 3, 4, 4], "house-warnings": [2, 2, 2, 2, 2, 3, 4, 4],
        "late-points": [2, 4, 2, 4, 2, 3, 2, 3], "submission-only": [0] * 8},
    "advantages": {"full-points": True, "house-warnings": True, "late-points": False, "submission-only": False},
    "hold_seconds": dict.fromkeys(("full-points", "house-warnings", "late-points", "submission-only"), 3),
    "points_from_fraction": {"full-points": 0, "house-warnings": 0, "late-points": 0.5, "submission-only": 0},
    "repeat": {
        "full-points": "after_recovery", "house-warnings": "every_time", "late-points": "after_recovery",
        "submission-only": "after_recovery"},
    "double_pull_top": {
        "full-points": "advantage", "house-warnings": "takedown", "late-points": "none", "submission-only": "none"},
    "double_pull_limit": {"full-points": 20, "house-warnings": 20, "late-points": 0, "submission-only": 0},
    "pull_caught": {"full-points": "takedown", "house-warnings": "takedown", "late-points": "none", "submission-only": "none"},
    "pull_cost": {"full-points": 0, "house-warnings": 0, "late-points": 1, "submission-only": 0},
    "ladder": {
        "full-points": ["none", "advantage", "two_points", "disqualify"],
        "house-warnings": ["none", "advantage", "two_points", "disqualify"],
        "late-points": ["none", "minus_point", "minus_point", "disqualify"],
        "submission-only": ["none", "none", "disqualify"]},
    "illegal": {"full-points": "disqualify", "house-warnings": "warn", "late-points": "disqualify", "submission-only": "disqualify"},
    "illegal_disqualify_on": {"full-points": 1, "house-warnings": 3, "late-points": 1, "submission-only": 1},
    "illegal_hold_blocks": dict.fromkeys(("full-points", "house-warnings", "late-points", "submission-only"), False),
    "tiebreak": {
        "full-points": ["points", "advantages", "penalties", "decision"],
        "house-warnings": ["points", "advantages", "penalties", "decision"],
        "late-points": ["points", "decision"], "submission-only": ["draw"]},
    "barred": {name: [] for name in ("full-points", "house-warnings", "late-points", "submission-only")},
}  # fmt: skip
POINT_ORDER = ("takedown", "takedown_clear", "sweep", "sweep_clear", "knee_on_belly", "guard_pass", "mount", "back")


class Presets(unittest.TestCase):
    def test_every_setting_of_every_preset(self):
        for setting, values in PRESETS.items():
            for name, value in values.items():
                with self.subTest(setting=setting, preset=name):
                    found = preset_settings(name)[setting]
                    if setting == "points":
                        found = [found[key] for key in POINT_ORDER]
                    self.assertEqual(found, value)
        self.assertEqual(set(preset_ids()), set(PRESETS["points"]))

    def test_changes_merge_points_key_by_key(self):
        faults: list[Fault] = []
        changed = read_ruleset({"extends": "late-points", "points": {"back": 9}, "note": "club day"}, "ruleset", faults)
        self.assertEqual((faults, changed.points["back"], changed.points["takedown_clear"]), ([], 9, 4))
        self.assertEqual(preset("late-points").points["back"], 3)

    def test_an_unknown_setting_is_named(self):
        changed = read_ruleset({"extends": "full-points", "pull_costs": 2, "points": {"mounts": 1}}, "ruleset", [])
        self.assertEqual(changed.unknown, ("pull_costs", "points.mounts"))

    def test_each_faulty_change_is_named(self):
        faults: list[Fault] = []
        broken = {
            "extends": "full-points", "hold_seconds": -1, "repeat": "never", "ladder": ["none", "jail"], "pull_cost": 1.5,
            "also_legal": {"from_belt": "pink"}, "barred": ["slam", 3], "points_from_fraction": 2,
        }  # fmt: skip
        read_ruleset(broken, "ruleset", faults)
        paths = {fault.path for fault in faults}
        self.assertEqual(
            paths,
            {"ruleset.hold_seconds", "ruleset.repeat", "ruleset.ladder[1]", "ruleset.pull_cost", "ruleset.also_legal.from_belt",
             "ruleset.barred[1]", "ruleset.points_from_fraction"},
        )  # fmt: skip

    def test_half_of_an_odd_length_is_exact(self):
        """0.1 of a length that binary fractions can't hold: the opening is not a millisecond late."""
        changed = read_ruleset({"extends": "late-points", "points_from_fraction": 0.1}, "ruleset", [])
        self.assertEqual((changed.opening(300_000), changed.opening(300_001)), (30_000, 30_001))


class Catalogue(unittest.TestCase):
    def test_every_name_leads_to_one_technique(self):
        """Loading refuses a name that is taken; here each is looked up in other spellings too."""
        for technique in catalogue().values():
            for name in (technique.id, technique.name, *technique.aliases):
                for spelled in (name, name.upper(), name.replace(" ", "-"), name.replace("-", "_")):
                    self.assertEqual(find(spelled).id, technique.id, spelled)

    def test_more_than_two_hundred_techniques_each_described(self):
        self.assertGreaterEqual(len(catalogue()), 200)
        for technique in catalogue().values():
            self.assertRegex(technique.about, r"^[A-Z].{10,}\.$", technique.id)
            self.assertEqual(bool(technique.injures), bool(technique.caution), technique.id)
        families = {technique.family for technique in catalogue().values()}
        self.assertGreaterEqual(len(families), 8)

    def test_variants_end_at_a_technique_of_the_rules(self):
        for technique in catalogue().values():
            self.assertIsNone(lineage(technique)[-1].parent)

    def test_spelling_folds_what_people_write_differently(self):
        for one, other in (("Mão de Vaca", "mao-de-vaca"), ("HEEL HOOK", "heelhook"), ("d’o-jimé", "Do Jime")):
            self.assertEqual(spelling(one), spelling(other))

    def test_columns_of_the_table(self):
        ages = {(12, "grey"): 0, (13, "grey"): 1, (15, "blue"): 1, (16, "white"): 2, (17, "black"): 2, (18, "white"): 2,
                (18, "orange"): 2, (18, "blue"): 3, (30, "purple"): 3, (18, "brown"): 4, (60, "black"): 4}  # fmt: skip
        for (age, belt), column in ages.items():
            self.assertEqual(Division(age, belt, "gi").column, column, (age, belt))
        self.assertEqual(len(BELTS), 9)


class Sentences(unittest.TestCase):
    def test_every_claim_and_position_has_words(self):
        self.assertLessEqual(set(CLAIM_KINDS), set(CLAIMS))
        self.assertEqual(set(POSITIONS), set(PLACES))

    def test_every_reason_given_on_random_logs_is_said_whole(self):
        rng = random.Random(3)
        given = set()
        for _ in range(1500):
            verdict = adjudicate(read_log(random_log(rng)))
            raw = verdict.as_json()
            for name in ("ledger", "missed", "open", "unpaid", "warnings"):
                for row in raw[name]:
                    given.add(row["reason"])
                    self.assertRegex(row["because"], r"^[A-Z][^{}]*[.?]$")
            self.assertRegex(raw["because"], r"^[A-Z][^{}]*\.$")
            given |= {row.consequence.code for row in verdict.illegal}
        # What random logs reach is most of what there is; the rest are results and their causes.
        rows = {code for kind in (AwardReason, UnpaidReason, Consequence, Doubt) for code in codes(kind)}
        rare = {"unknown_setting", "never_started", "held_advantage", "missed_under_submission", "near_barred",
                "technique_not_named"}  # fmt: skip
        self.assertEqual(rows - given - rare, set())

    def test_sentences_ask_for_facts_that_there_are(self):
        facts = {
            AwardReason: {"to", "n", "kind"},
            UnpaidReason: {"to", "claim", "held", "needed"},
            Consequence: set(),
            Method: {"winner", "won"},
            Cause: set(),
            Doubt: set(),
        }
        for kind, row in facts.items():
            for reason in get_args(kind):
                if reason is PaidAtOnce:
                    continue  # its sentence is its rule's, below
                asked = {field for _, field, _, _ in string.Formatter().parse(reason.sentence) if field is not None}
                own = {name for name, one in vars(reason).items() if isinstance(one, property)}
                self.assertLessEqual(asked, row | own | {field.name for field in fields(reason)}, reason)
        for rule in AT_ONCE:
            asked = {field for _, field, _, _ in string.Formatter().parse(rule.sentence) if field is not None}
            self.assertLessEqual(asked, {"to", "n", "kind"}, rule.code)

    def test_a_code_is_one_reason(self):
        for kind in (AwardReason, UnpaidReason, Consequence, Method, Cause):
            found = [reason.code for reason in get_args(kind) if reason is not PaidAtOnce]
            self.assertEqual(len(found), len(set(found)))


def codes(kind):
    """The codes that a union of reasons can give; those of the rules that pay at once among them."""
    reasons = get_args(kind)
    return {reason.code for reason in reasons if reason is not PaidAtOnce} | (
        {rule.code for rule in AT_ONCE} if PaidAtOnce in reasons else set()
    )


class Schemas(unittest.TestCase):
    """The JSON Schemas and the loader agree, in both directions; validated by the jsonschema library."""

    def validator(self, kind):
        schema = observation_schemas()[kind]
        jsonschema.Draft202012Validator.check_schema(schema)
        return jsonschema.Draft202012Validator(schema)

    def test_what_the_loader_takes_the_schema_takes(self):
        rng = random.Random(11)
        validators = {kind: self.validator(kind) for kind in observation_schemas()}
        for _ in range(200):
            for seen in random_log(rng, 15)["observations"]:
                faults: list[Fault] = []
                read_observation(seen, 0, "", faults)
                self.assertEqual(faults, [])
                validators[seen["kind"]].validate(seen)

    def test_what_the_schema_refuses_the_loader_refuses(self):
        refused = 0
        for path, seen in BROKEN.items():
            if seen["kind"] not in observation_schemas():
                continue
            if not self.validator(seen["kind"]).is_valid(seen):
                refused += 1
                faults: list[Fault] = []
                read_observation(seen, 1, "observations[1].", faults)
                self.assertIn(path, [fault.path for fault in faults])
        self.assertGreaterEqual(refused, 8)


class FaultLines(unittest.TestCase):
    def test_a_fault_is_one_line_whatever_was_written(self):
        for value in ("two\nlines", "x" * 500, "\ud800", {"a": 1}, [1], None, 10**400, float("nan")):
            try:
                read_log({"format": value})
            except FaultyInput as error:
                for fault in error.faults:
                    self.assertNotIn("\n", str(fault))
                    self.assertLess(len(str(fault)), 300)
