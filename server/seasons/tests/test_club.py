"""A club's season and a scorer's own record over HTTP."""

from __future__ import annotations

from collections import Counter
from unittest import mock

from django.contrib.auth.models import User
from django.utils import timezone

from clubs.actions import join
from clubs.models import Role
from jobs.running import run
from matches.actions import ask_second, finish_second, locked, record
from matches.models import GroupLesson, Match, Summary
from reviews.models import Remark
from roster.models import Athlete
from seasons.pricing import price

from .test_season import SeasonCase


class OfTheClub(SeasonCase):
    def shown(self, query=""):
        return self.call("get", f"club/season{query}").json()

    def test_what_costs_most_and_who_shares_it(self):
        self.shown()
        price()
        kinds = self.shown()["season"]["kinds"]
        self.assertEqual(kinds[0]["shared"], [{"id": self.athlete.pk, "name": self.athlete.name, "n": kinds[0]["n"]}])
        self.assertEqual(sorted((row["lost"] for row in kinds), reverse=True), [row["lost"] for row in kinds])
        mine = {row["id"]: row["n"] for row in self.season().json()["season"]["kinds"]}
        counted: Counter[str] = Counter()
        for row in kinds:  # what was conceded is parted by the move
            counted[row["kind"]] += row["n"]
        self.assertEqual(counted, mine)

    def test_what_waits_is_listed(self):
        empty = self.set_up(
            date="2026-10-20",
            opponent="Una Vale",
            ruleset="full-points",
            duration_ms=300_000,
            age=24,
            belt="blue",
            attire="gi",
        ).json()["id"]
        found = self.shown()
        self.assertEqual((found["not_scored"]["n"], found["not_scored"]["first"][0]["id"]), (1, empty))
        self.assertEqual(found["not_reviewed"]["n"], 3)
        Remark.objects.create(match=self.scored, key="x", standing="accepted")
        self.assertEqual(self.shown()["not_reviewed"]["n"], 2)

    def test_a_day_leaves_out_what_was_before(self):
        self.assertEqual(self.shown("?since=2026-10-05")["season"]["matches"], 1)
        self.assertEqual(self.shown("?since=soon")["faults"][0]["path"], "since")

    def test_children_of_others_are_not_in_it(self):
        child = Athlete.objects.create(
            club=self.club, name="Pip", birth_year=timezone.localdate().year - 8, belt="grey"
        )
        Match.objects.filter(date="2026-10-03").update(athlete=child)
        self.assertEqual(self.shown()["season"]["matches"], 2)

    def test_what_an_older_core_made_is_said_to_wait(self):
        self.shown()
        Summary.objects.filter(match=self.match_id).update(core="older", revision=1)
        Match.objects.filter(pk=self.match_id).update(revision=1)
        with mock.patch("seasons.club.freshen"):
            self.assertEqual((self.shown()["working"], self.shown()["season"]["matches"]), (1, 2))

    def test_the_number_of_statements_does_not_grow_with_the_matches(self):
        self.shown()
        with self.assertNumQueries(13):
            self.shown()


class OfAScorer(SeasonCase):
    def shown(self):
        return self.call("get", "scorer-record").json()

    def test_it_is_held_against_the_officials(self):
        found = self.shown()
        self.assertEqual((found["matches"], found["unsure"]["done"]), (3, 0))
        self.assertEqual(found["officials"]["matches"], 3)
        self.assertTrue(found["quarters"])
        self.assertRegex(found["officials"]["agreement"][0]["share"]["said"], r"^\d+ of \d+: between ")

    def test_and_against_second_scores_from_either_side(self):
        other = User.objects.create_user("hale")
        join(self.club, other, Role.SCORER)
        second = ask_second(self.scored, other)
        for number, body in enumerate(self.call("get", f"matches/{self.match_id}/log").json()["observations"]):
            record(locked(second.pk), f"second-{number}", body, other)
        second.refresh_from_db()
        finish_second(second)
        found = self.shown()["seconds"]
        self.assertEqual(found["matches"], 1)
        self.assertEqual({row["share"]["done"] == row["share"]["of"] for row in found["agreement"]}, {True})
        self.client.force_login(other)
        self.assertEqual(self.shown()["seconds"]["matches"], 1)
        self.assertEqual(self.shown()["matches"], 1)


class OfTheModel(SeasonCase):
    def test_the_chances_are_held_against_what_happened_by_the_worker(self):
        self.assertEqual(self.call("get", "club/calibration").json(), {"at": None, "found": None, "job": None})
        log = self.call("get", f"matches/{self.match_id}/log").json()
        for number in range(10):
            self.set_up(log=log, round=str(number))
        self.shown_once()
        asked = self.call("post", "club/calibration")
        self.assertEqual((asked.status_code, asked.json()["job"]["state"]), (201, "waiting"))
        self.assertEqual(self.call("post", "club/calibration").json()["code"], "at_work")
        run(asked.json()["job"]["id"])
        found = self.call("get", "club/calibration").json()
        self.assertEqual((found["job"]["state"], found["found"]["matches"]), ("done", 13))
        self.assertEqual(sum(one["won"]["of"] for one in found["found"]["bins"]), 13)
        self.assertEqual(self.call("post", "club/calibration").status_code, 201)

    def by_belt(self):
        return {row.group[1]: row.lesson["matches"] for row in GroupLesson.objects.all() if row.lesson}

    def shown_once(self):
        self.call("get", "club/season")

    def test_a_match_goes_with_its_belt_to_another_group(self):
        self.shown_once()
        before = self.by_belt()
        self.assertEqual(self.call("patch", f"matches/{self.match_id}", {"belt": "purple"}).status_code, 200)
        self.shown_once()
        after = self.by_belt()
        self.assertEqual((sum(before.values()), sum(after.values()), after["purple"]), (3, 3, 1))
        self.assertEqual(self.call("delete", f"matches/{self.match_id}").status_code, 204)
        self.assertNotIn("purple", self.by_belt())
