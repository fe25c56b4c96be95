"""Rulesets and legality over HTTP give the core's own answers."""

import html
import io
import json
import re
import subprocess

import pypdf
from django.conf import settings
from django.contrib.auth.models import User
from django.test import TestCase

from clubs.actions import found_club, join
from clubs.models import Club, Role
from jurata_core.rulesets import preset_ids
from jurata_core.techniques import catalogue

DIVISION = {"age": "14", "belt": "green", "attire": "gi"}


class Rulebook(TestCase):
    def setUp(self):
        coach = User.objects.create_user("coach", password="amber")
        found_club("Dune Grappling", coach)
        self.client.force_login(coach)

    def test_how_long_a_match_of_a_division_is(self):
        """Five minutes for an adult white belt, six for blue: common practice, no source."""
        for belt, length in {"white": 300, "blue": 360}.items():
            got = self.client.get(f"/api/division/length?age=25&belt={belt}&attire=gi").json()
            self.assertEqual((got["age_class"], got["match_length"]), ("Adult", length))
        self.assertEqual(self.client.get("/api/division/length?age=25&belt=plaid&attire=gi").status_code, 400)

    def test_rulesets(self):
        self.assertEqual([one["id"] for one in self.client.get("/api/rulesets").json()], list(preset_ids()))

    def test_one_technique_is_answered_as_by_the_command_line(self):
        for technique in ("Guillotine", "bow and arrow", "single leg head outside", "banana split"):
            asked = {**DIVISION, "technique": technique, "ruleset": "late-points"}
            flags = [part for name, value in asked.items() for part in (f"--{name}", value)]
            got = subprocess.run(
                [settings.ROOT / "bin" / "jurata", "legality", *flags], capture_output=True, check=True
            )
            self.assertEqual(self.client.get("/api/legality", asked).json(), json.loads(got.stdout))

    def test_a_name_that_is_none_gets_the_nearest(self):
        answer = self.client.get("/api/legality", {**DIVISION, "technique": "gilotine"})
        self.assertEqual(answer.status_code, 400)
        self.assertIn("guillotine", answer.json()["faults"][0]["message"])

    def test_the_whole_catalogue_for_a_division(self):
        rows = {row["id"]: row for row in self.client.get("/api/techniques", DIVISION).json()}
        self.assertEqual(set(rows), set(catalogue()))
        self.assertEqual(
            [rows[name]["status"] for name in ("armbar", "omoplata", "single-leg-head-outside")],
            ["legal", "illegal", "stop"],
        )

    def test_a_changed_ruleset_is_looked_up_too(self):
        changed = json.dumps({"extends": "full-points", "barred": ["armbar"]})
        rows = {
            row["id"]: row["status"]
            for row in self.client.get("/api/techniques", {**DIVISION, "ruleset": changed}).json()
        }
        self.assertEqual((rows["armbar"], rows["flying-armbar"], rows["triangle"]), ("illegal", "illegal", "legal"))

    def test_faults_name_their_fields(self):
        answer = self.client.get("/api/techniques", {"age": "young", "belt": "pink", "attire": "gi", "ruleset": "none"})
        self.assertEqual({fault["path"] for fault in answer.json()["faults"]}, {"age", "belt", "ruleset"})

    def test_the_page_of_a_division(self):
        page = self.client.get("/api/division", {**DIVISION, "ruleset": "house-warnings"}).json()
        rows = {row["id"]: row for row in page["techniques"]}
        self.assertEqual(set(rows), set(catalogue()))
        for row in self.client.get("/api/techniques", {**DIVISION, "ruleset": "house-warnings"}).json():
            self.assertEqual((rows[row["id"]]["status"], rows[row["id"]]["because"]), (row["status"], row["because"]))
        self.assertEqual(page["age_class"], "Teens 13 to 15")
        self.assertIn("medical staff", page["deference"])

    def test_one_technique_over_all_ages_by_any_name(self):
        found = self.client.get("/api/division/technique", {**DIVISION, "technique": "Kata Gatame"}).json()
        self.assertEqual((found["id"], found["status"]), ("arm-triangle", "illegal"))
        self.assertEqual([band["from"] for band in found["map"]["gi"]], [4, 13, 16, 18])
        none = self.client.get("/api/division/technique", {**DIVISION, "technique": "gilotine"})
        self.assertIn("guillotine", none.json()["faults"][0]["message"])

    def test_differences_between_two_divisions(self):
        other = {f"other_{name}": value for name, value in {**DIVISION, "age": "16", "belt": "blue"}.items()}
        found = self.client.get("/api/division/differences", {**DIVISION, **other}).json()
        self.assertIn("Guillotine", [row["name"] for row in found["techniques"]])
        faulty = self.client.get("/api/division/differences", {**DIVISION, **other, "other_age": "old"})
        self.assertEqual([fault["path"] for fault in faulty.json()["faults"]], ["other_age"])

    def test_the_briefing_is_one_page_the_same_on_paper(self):
        """Read back by pypdf."""
        for asked in (DIVISION, {"age": "27", "belt": "purple", "attire": "nogi", "ruleset": "late-points"}):
            other = {f"other_{name}": value for name, value in {**DIVISION, "ruleset": "house-warnings"}.items()}
            query = {**asked, **other, "athlete": "Ada <b>Brenn"}
            page = self.client.get("/api/division/briefing", query).content.decode()
            self.assertIn("Ada &lt;b&gt;Brenn", page)
            answer = self.client.get("/api/division/briefing", {**query, "form": "pdf"})
            self.assertEqual(answer["Content-Disposition"], 'inline; filename="briefing-ada-bbrenn.pdf"')
            sheets = pypdf.PdfReader(io.BytesIO(answer.content)).pages
            self.assertEqual(len(sheets), 1)
            words = set(re.sub(r"<[^>]*>", " ", html.unescape(page[page.index("<h1>") :]).replace("<b>B", "B")).split())
            printed = sheets[0].extract_text()
            self.assertEqual([word for word in words if word not in printed], [])


class House(TestCase):
    RULES = {"title": "Harbour rules", "extends": "full-points", "hold_seconds": 4, "note": "as told at the weigh-in"}

    def setUp(self):
        self.coach = User.objects.create_user("coach", password="amber")
        self.other = User.objects.create_user("other", password="sea")
        self.club = found_club("Dune Grappling", self.coach)
        found_club("Tide Grappling", self.other)
        self.client.force_login(self.coach)

    def save(self, rules=RULES, **more):
        return self.client.post("/api/house-rules", {"rules": rules, **more}, content_type="application/json")

    def test_a_version_is_never_changed_but_followed(self):
        first = self.save().json()
        second = self.save({**self.RULES, "hold_seconds": 5}, family=first["family"]).json()
        self.assertEqual((first["version"], second["version"]), (1, 2))
        listed = self.client.get("/api/house-rules").json()
        self.assertEqual([(one["version"], one["settings"]["hold_seconds"]) for one in listed], [(2, 5), (1, 4)])
        self.assertEqual(listed[0]["body"], {**self.RULES, "hold_seconds": 5, "version": 2})

    def test_what_has_no_effect_is_said(self):
        saved = self.save({**self.RULES, "advantages": False, "tiebreak": ["advantages", "draw"]}).json()
        self.assertTrue(any("tiebreak by advantages" in said for said in saved["without_effect"]), saved)

    def test_a_file_goes_round(self):
        saved = self.save().json()
        answer = self.client.get(f"/api/house-rules/{saved['id']}/file")
        self.assertIn('filename="harbour-rules-1.json"', answer["Content-Disposition"])
        again = self.save(answer.json()).json()
        self.assertEqual(again["body"], saved["body"])
        self.assertNotEqual(again["family"], saved["family"])

    def test_a_broken_file_is_refused_with_every_fault(self):
        broken = self.save({"extends": "full-points", "hold_seconds": "long", "mystery": 1, "ladder": "steep"})
        self.assertEqual({fault["path"] for fault in broken.json()["faults"]}, {"title", "hold_seconds", "ladder"})
        self.assertEqual(self.client.get("/api/house-rules").json(), [])

    def test_a_shared_file_is_for_who_may_have_one_of_their_own_club(self):
        saved = self.save().json()
        self.client.patch(f"/api/house-rules/{saved['id']}", {"shared": True}, content_type="application/json")
        for role, status in ((None, 404), (Role.ATHLETE, 404), (Role.SCORER, 404), (Role.COACH, 200)):
            user = User.objects.create_user(f"a {role}")
            if role:
                join(Club.objects.create(name="Elsewhere"), user, role)
            self.client.force_login(user)
            self.assertEqual(self.client.get(f"/api/house-rules/{saved['id']}/file").status_code, status, role)

    def test_the_club_sees_what_is_shared_and_changes_nothing(self):
        saved = self.save().json()
        path = f"/api/house-rules/{saved['id']}"
        self.client.force_login(self.other)
        self.assertEqual(self.client.get("/api/house-rules").json(), [])
        self.client.force_login(self.coach)
        self.client.patch(path, {"shared": True}, content_type="application/json")
        self.client.force_login(self.other)
        seen = self.client.get("/api/house-rules").json()
        self.assertEqual(
            [(one["own"], one["owner"], one["title"]) for one in seen], [(False, "Dune Grappling", "Harbour rules")]
        )
        self.assertEqual(self.client.get(f"{path}/file").status_code, 200)
        self.assertEqual(self.client.patch(path, {"shared": False}, content_type="application/json").status_code, 404)
        self.assertEqual(self.client.delete(path).status_code, 404)
        self.assertEqual(self.save(family=saved["family"]).status_code, 404)


class OwnNames(TestCase):
    def setUp(self):
        coach = User.objects.create_user("coach")
        found_club("Dune Grappling", coach)
        self.client.force_login(coach)

    def add(self, name, technique="omoplata"):
        body = {"name": name, "technique": technique}
        return self.client.post("/api/technique-names", body, content_type="application/json")

    def names(self, technique):
        rows = self.client.get("/api/techniques", DIVISION).json()
        return next(row["aliases"] for row in rows if row["id"] == technique)

    def test_an_own_name_is_found_with_the_others_until_it_is_taken_away(self):
        made = self.add(" Harbour lock ").json()
        self.assertEqual((made["name"], made["technique"]), ("Harbour lock", "omoplata"))
        self.assertIn("Harbour lock", self.names("omoplata"))
        page = self.client.get("/api/division", DIVISION).json()
        self.assertIn("Harbour lock", next(row["aliases"] for row in page["techniques"] if row["id"] == "omoplata"))
        self.assertEqual(self.client.delete(f"/api/technique-names/{made['id']}").status_code, 204)
        self.assertNotIn("Harbour lock", self.names("omoplata"))

    def test_it_is_nobody_else_s(self):
        made = self.add("Harbour lock").json()
        coach = User.objects.create_user("other")
        found_club("Dune Grappling", coach)
        self.client.force_login(coach)
        self.assertNotIn("Harbour lock", self.names("omoplata"))
        self.assertEqual(self.client.get("/api/technique-names").json(), [])
        self.assertEqual(self.client.delete(f"/api/technique-names/{made['id']}").status_code, 404)

    def test_a_name_has_one_meaning(self):
        self.add("Harbour lock")
        for name, technique, said in (
            ("harbour-lock", "kimura", "a name of your club already"),
            ("Heel Hooks", "omoplata", "a name of Heel hook already"),
            ("--", "omoplata", "needs a letter"),
            ("pier lock", "no-such-thing", "not in the catalogue"),
        ):
            answer = self.add(name, technique)
            self.assertEqual(answer.status_code, 400, name)
            self.assertIn(said, str(answer.json()))
