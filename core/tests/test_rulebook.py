"""The page of a division says what the rules say, and nothing of its own."""

import unittest

from jurata_core.answers import ask_legality
from jurata_core.divisions import BELTS, Division, allowed_belts
from jurata_core.rulebook import (
    DANGER,
    FALLING,
    ahead,
    bands,
    differences,
    entries,
    follows,
    page,
    scoring,
    technique_page,
)
from jurata_core.rulesets import preset, preset_ids, read_ruleset
from jurata_core.techniques import catalogue

DIVISIONS = [
    Division(9, "yellow", "gi"), Division(14, "green", "nogi"), Division(16, "blue", "gi"), Division(25, "white", "gi"),
    Division(25, "blue", "nogi"), Division(40, "black", "nogi"),
]  # fmt: skip


def topics(division, ruleset):
    return {rule.topic: rule.text for rule in scoring(division, ruleset)}


class Page(unittest.TestCase):
    def test_every_answer_is_the_one_of_the_command_line(self):
        for division in DIVISIONS:
            for name in preset_ids():
                for row in entries(division, preset(name)):
                    asked = {"technique": row.technique.id, "ruleset": name, "age": division.age}
                    got = ask_legality({**asked, "belt": division.belt, "attire": division.attire})
                    said = " ".join((row.because, *row.neighbours))
                    self.assertEqual((row.status, said), (got["status"], got["because"]))

    def test_what_follows(self):
        full, warned = preset("full-points"), preset("house-warnings")
        self.assertEqual(follows("illegal", full), "Disqualified at once.")
        self.assertEqual(follows("illegal", warned), "Stopped with a warning; the third warning disqualifies.")
        self.assertEqual(follows("stop", full), "Stopped and restarted, with no penalty.")

    def test_a_variant_is_answered_by_way_of_its_parent(self):
        row = technique_page(catalogue()["anaconda"], Division(14, "green", "gi"), preset("full-points"))
        self.assertEqual((row["status"], row["lineage"]), ("illegal", ["Anaconda choke", "Arm triangle"]))
        self.assertIn("a variant of Arm triangle", row["because"])
        self.assertIn("no defence", row["argued"])

    def test_how_it_is_scored(self):
        teen = Division(14, "green", "gi")
        got = topics(teen, preset("late-points"))
        self.assertEqual(got["Length"], "4 minutes.")
        self.assertEqual(got["Points start"], "Only what starts after half-time (2:00 of the match clock) scores.")
        self.assertEqual(
            got["Pulling guard"],
            "Costs 1 point once points have started, except straight into a submission.",
        )
        self.assertIn("takedown 2 (4 landing past the guard)", got["Points"].lower())
        self.assertEqual(topics(teen, preset("submission-only"))["A tie"], "A draw.")
        faults = []
        changed = read_ruleset({"extends": "full-points", "hold_seconds": 2.5, "ladder": ["disqualify"]}, "", faults)
        self.assertIn("2.5 s", topics(teen, changed)["Held"])
        self.assertEqual(topics(teen, changed)["Penalties"], "Disqualification; the last repeats.")

    def test_every_page_defers_to_the_event_and_to_medical_staff(self):
        for division in DIVISIONS:
            got = page(division, preset("full-points"))
            self.assertIn("referees", got["deference"])
            self.assertIn("medical staff", got["deference"])

    def test_variants_carry_the_caution_of_what_they_are(self):
        rows = {row["id"]: row for row in page(Division(25, "blue", "gi"), preset("full-points"))["techniques"]}
        for technique in catalogue().values():
            if technique.parent and catalogue()[technique.parent].injures:
                self.assertTrue(rows[technique.id]["injures"], technique.id)
        self.assertEqual(rows["inside-heel-hook"]["injures"], rows["heel-hook"]["injures"])


class Cautions(unittest.TestCase):
    def test_nobody_taps_out_of_a_fall(self):
        """A throw is practised by its fall, a lock by the tap (common practice, no source)."""
        rows = {row["id"]: row for row in page(Division(25, "black", "gi"), preset("full-points"))["techniques"]}
        self.assertEqual(rows["double-leg"]["danger"], FALLING)
        self.assertEqual(rows["armbar"]["danger"], DANGER)
        self.assertIn("ask", rows["guard-jump"]["caution"])


class Ahead(unittest.TestCase):
    def test_a_child_of_fifteen_next_year(self):
        step = ahead(Division(15, "green", "gi"), preset("full-points"))[0].as_json()
        self.assertEqual(step["when"], "Next year")
        self.assertIn("Guillotine", step["opened"])
        self.assertEqual(step["length"], "Matches last 5 minutes instead of 4 minutes.")

    def test_a_belt_that_ends_at_that_age_is_doubted(self):
        """A green belt is a child's; at 16 there is no such division (common practice, no source)."""
        step = ahead(Division(15, "green", "gi"), preset("full-points"))[0].as_json()
        self.assertTrue(any("reen belt" in one for one in step["doubts"]), step["doubts"])
        adult = ahead(Division(25, "white", "gi"), preset("full-points"))[0].as_json()
        self.assertEqual(adult["doubts"], [])

    def test_where_next_year_changes_nothing_the_year_that_does_is_said(self):
        steps = ahead(Division(10, "grey", "gi"), preset("full-points"))
        self.assertEqual(
            [(step.when, step.changes) for step in steps[:2]], [("Next year", False), ("From age 13", True)]
        )

    def test_the_next_belt(self):
        steps = {step.when: step.as_json() for step in ahead(Division(25, "white", "gi"), preset("full-points"))}
        self.assertIn("Wrist lock", steps["With a blue belt"]["opened"])


class Map(unittest.TestCase):
    def test_the_map_is_the_table_over_all_ages_and_belts(self):
        for name in preset_ids():
            for technique in catalogue().values():
                for attire in ("gi", "nogi"):
                    found = bands(technique, attire, preset(name))
                    self.assertEqual(found[0].youngest, 4)
                    for band in found:
                        for age in {band.youngest, band.oldest or 60}:
                            division = {"age": age, "attire": attire, "technique": technique.id, "ruleset": name}
                            for belt in set(allowed_belts(age)) & set(band.statuses):
                                got = ask_legality({**division, "belt": belt})["status"]
                                self.assertEqual(band.statuses[belt], got, (technique.id, age, belt, attire, name))

    def test_a_rulesets_own_age_is_an_edge_of_the_map(self):
        changes = {"techniques": ["heel-hook"], "from_age": 21, "from_belt": "purple"}
        faults = []
        ruleset = read_ruleset({"extends": "full-points", "also_legal": changes}, "", faults)
        found = bands(catalogue()["heel-hook"], "nogi", ruleset)
        self.assertEqual([(band.youngest, band.oldest) for band in found][-2:], [(18, 20), (21, None)])
        self.assertEqual([band.statuses["purple"] for band in found[-2:]], ["illegal", "legal"])
        self.assertTrue(set(found[-1].statuses) <= set(BELTS))


class Differences(unittest.TestCase):
    def test_only_what_is_not_common(self):
        division = Division(27, "blue", "gi")
        full = (division, preset("full-points"))
        self.assertEqual(
            {key: differences(full, full)[key] for key in ("scoring", "techniques")}, {"scoring": [], "techniques": []}
        )
        found = differences(full, (division, preset("late-points")))
        self.assertIn("Advantages", [row["topic"] for row in found["scoring"]])
        self.assertIn({"id": "heel-hook", "name": "Heel hook", "statuses": ["illegal", "legal"]}, found["techniques"])
