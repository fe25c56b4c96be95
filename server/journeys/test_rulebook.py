"""The rulebook before an event: a division, a name, what changes, and two rulesets side by side."""

from __future__ import annotations

import json
import re
import tempfile
from pathlib import Path

from playwright.sync_api import expect

from matches.models import Match

from .base import TRUTH, Journey


class Rulebook(Journey):
    def test_from_an_athlete_to_the_answer(self):
        self.athlete.birth_year, self.athlete.belt = 2012, "green"
        self.athlete.save()
        self.sign_in("/athletes")
        page = self.page
        page.get_by_role("link", name="Rules", exact=True).click()
        expect(page.get_by_text("Disqualified at once.").first).to_be_visible()
        expect(page.get_by_role("combobox", name="Belt", exact=True)).to_have_value("green")
        expect(page.get_by_text("the event's own rulebook", exact=False).first).to_be_visible()
        field = page.get_by_label("Is it legal?")
        answer = page.get_by_test_id("answer")
        for typed, name in (("gilotine", "Guillotine"), ("rnc", "Rear choke"), ("kata gatame", "Arm triangle")):
            field.fill(typed)
            expect(answer).to_contain_text(f"{name}.")
        expect(answer).to_contain_text("legal from age 16")
        expect(answer.get_by_role("table", name="Gi and no-gi")).to_be_visible()
        page.get_by_label("or birth year").fill("2000")
        expect(answer).to_contain_text("This division: green belt")
        page.get_by_role("combobox", name="Belt", exact=True).select_option("blue")
        expect(answer.get_by_text("legal", exact=True).first).to_be_visible()
        field.fill("zzzzzz")
        expect(page.get_by_text("No technique by that name.")).to_be_visible()

    def test_two_rulesets_side_by_side_and_kept_in_the_address(self):
        self.sign_in("/rulebook?age=27&belt=blue&attire=nogi&ruleset=full-points")
        page = self.page
        page.get_by_role("button", name="Compare with another").click()
        other = page.get_by_role("group", name="The other division")
        other.get_by_label("Ruleset").select_option("late-points")
        row = page.get_by_role("row", name="Heel hook illegal legal", exact=True)
        expect(row).to_be_visible()
        page.reload()
        expect(row).to_be_visible()
        page.get_by_role("button", name="Close the comparison").click()
        expect(row).to_have_count(0)

    def test_the_matchs_own_rules_from_its_desk(self):
        match = self.at_desk(with_clip=False)
        self.page.get_by_role("link", name="Full points, blue belt").click()
        expect(self.page.get_by_role("heading", name="How it is scored")).to_be_visible()
        self.assertIn(f"age={match.age}", self.page.url)

    def test_a_briefing_is_held_against_the_athletes_last_event(self):
        match = self.match(TRUTH)
        match.date = "2026-10-10"
        match.save()
        self.sign_in("/rulebook?age=24&belt=blue&attire=gi&ruleset=late-points&athlete=Ada+Brenn")
        link = self.page.get_by_role("link", name="Briefing")
        expect(link).to_have_attribute("href", re.compile("other_ruleset=full-points"))
        with self.page.expect_popup() as opened:
            link.click()
        briefing = opened.value
        expect(briefing.get_by_role("heading", name="Ada Brenn")).to_be_visible()
        expect(briefing.get_by_role("heading", name="What has changed since last time")).to_be_visible()
        self.assertEqual(briefing.evaluate("getComputedStyle(document.querySelector('.note')).borderLeftWidth"), "4px")

    def test_it_can_be_read_on_a_phone(self):
        self.sign_in("/rulebook?age=14&belt=green&attire=gi&ruleset=full-points")
        self.page.set_viewport_size({"width": 390, "height": 844})
        self.page.get_by_label("Is it legal?").fill("heel hook")
        expect(self.page.get_by_test_id("answer").get_by_role("table").first).to_be_visible()
        self.assertEqual(self.page.evaluate("document.documentElement.scrollWidth"), 390)


class HouseRulesJourney(Journey):
    def test_from_a_preset_to_a_match_scored_again(self):
        match = self.match(TRUTH)
        self.sign_in("/rulebook/house")
        page = self.page
        page.get_by_label("Start from").select_option("full-points")
        page.get_by_label("Name", exact=True).fill("Harbour rules")
        page.get_by_label("Control time (seconds)").fill("2")
        page.get_by_role("combobox", name="Barred for everyone").fill("jumping armlock")
        expect(page.get_by_label("Barred for everyone: found")).to_contain_text("Flying armbar")
        page.keyboard.press("Enter")
        changes = page.get_by_label("Changes")
        expect(changes).to_contain_text("Control time (seconds): 2 instead of 3")
        expect(changes).to_contain_text("Barred for everyone: flying-armbar instead of none")
        page.get_by_role("button", name="Save", exact=True).click()
        row = page.get_by_test_id("house-rules")
        expect(row).to_contain_text("version 1")
        row.get_by_role("button", name="Try").click()
        row.get_by_label("Try it on a match").select_option(str(match.pk))
        expect(row).to_contain_text("Only under these rules.")
        self.assertEqual(Match.objects.get(pk=match.pk).ruleset, "full-points")
        row.get_by_role("button", name="Rescore this match").click()
        expect(row.get_by_role("status")).to_contain_text("is now scored under these rules")
        self.assertEqual(Match.objects.get(pk=match.pk).ruleset["hold_seconds"], 2)
        row.get_by_role("button", name="Delete").click()
        expect(page.get_by_role("alert")).to_contain_text("a match uses this version")

    def test_a_file_is_read_and_a_broken_one_is_told_field_by_field(self):
        self.sign_in("/rulebook/house")
        page = self.page
        broken = {"title": "Harbour rules", "extends": "full-points", "hold_seconds": "long", "pull_cost": -1}
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "rules.json"
            path.write_text(json.dumps(broken))
            page.get_by_label("Import house rules").set_input_files(path)
            for field in ("hold_seconds", "pull_cost"):
                expect(page.get_by_role("alert")).to_contain_text(field)
            path.write_text(json.dumps({**broken, "hold_seconds": 4, "pull_cost": 1}))
            page.get_by_label("Import house rules").set_input_files(path)
            expect(page.get_by_test_id("house-rules")).to_contain_text("Harbour rules")
            with page.expect_download() as download:
                page.get_by_role("link", name="File").click()
            written = json.loads(Path(download.value.path()).read_text())
        self.assertEqual((written["hold_seconds"], written["format"]), (4, "jurata-ruleset/1"))
        page.goto(f"{self.address}/matches/new")
        expect(page.get_by_role("combobox", name="Ruleset")).to_contain_text("Harbour rules, version 1")


class Drill(Journey):
    def test_questions_answered_with_keys_and_how_everybody_stands(self):
        self.sign_in("/rulebook?age=14&belt=green&attire=gi&ruleset=full-points")
        page = self.page
        page.get_by_role("link", name="Drill").click()
        page.get_by_role("combobox", name="Athlete").select_option(label="Ada Brenn")
        expect(page.get_by_text("Practising as Ada Brenn.")).to_be_visible()
        question = page.get_by_test_id("question")
        for topic in ("What is legal", "What a sequence scores", "Why it did not score"):
            page.get_by_role("button", name=topic).click()
            expect(question).to_contain_text(topic)
            page.keyboard.press("1")
            expect(question.get_by_role("status")).to_contain_text("You will be asked this again")
            expect(question.get_by_text("right", exact=True)).to_have_count(1)
        page.keyboard.press("Enter")
        expect(question.get_by_role("status")).to_have_count(0)
        rows = page.get_by_role("row", name="Ada Brenn")
        expect(rows).to_have_count(3)
