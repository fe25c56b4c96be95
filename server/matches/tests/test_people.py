"""Who scores a match, and who can see it."""

from __future__ import annotations

import datetime
import uuid
from unittest import mock

from django.contrib.auth.models import User
from django.db import connection
from django.test import Client
from django.utils import timezone

from clubs.actions import join
from clubs.models import Role
from journal.models import Entry
from matches.actions import PRESENT_FOR
from matches.models import Presence

from .base import CoachCase


class People(CoachCase):
    def setUp(self):
        super().setUp()
        self.found = self.match()
        self.ines = self.member("ines", Role.SCORER)

    def member(self, name, role):
        user = User.objects.create_user(name, password="amber", first_name=name.title())
        join(self.club, user, role)
        return user

    def people(self):
        return self.call("get", f"matches/{self.found.pk}/people").json()

    def seen_by(self):
        return {one["name"]: one["does"] for one in self.people()["seen_by"]}

    def give(self, user, due=None):
        return self.call("put", f"matches/{self.found.pk}/people", {"scorer": user.pk, "due": due})

    def test_it_is_given_to_a_scorer_by_a_day(self):
        theirs = Client()
        theirs.force_login(self.ines)
        self.assertEqual(theirs.get(f"/api/matches/{self.found.pk}").status_code, 404)
        self.assertEqual(self.give(self.ines, "2026-12-03").status_code, 200)
        self.assertEqual(theirs.get("/api/matches").json()["results"][0]["due"], "2026-12-03")
        self.assertEqual(Entry.objects.get(what="match given").about, "Ada Brenn against Bo Calder, to Ines")
        self.assertEqual(self.give(self.other).status_code, 404)  # of another club
        self.give(self.coach)
        self.assertEqual(theirs.get(f"/api/matches/{self.found.pk}").status_code, 404)

    def test_who_can_see_it(self):
        self.assertEqual(self.seen_by(), {"coach": "watches, scores and reviews"})
        self.give(self.ines)
        self.member("dorn", Role.COACH)
        seen = {
            "Dorn": "watches, scores and reviews",
            "Ines": "watches and scores",
            "coach": "watches, scores and reviews",
        }
        self.assertEqual(self.seen_by(), seen)
        self.athlete.birth_year = datetime.date.today().year - 10
        self.athlete.save()
        self.athlete.coaches.set([self.coach])
        self.athlete.guardians.add(self.member("sol", Role.GUARDIAN))
        self.assertEqual(self.seen_by(), {name: does for name, does in seen.items() if name != "Dorn"})
        self.call("put", f"matches/{self.found.pk}/sent", {"sent": True})
        self.assertEqual(self.seen_by()["Sol"], "reads the report")

    def test_those_at_one_desk_see_each_other(self):
        self.give(self.ines)
        theirs = Client()
        theirs.force_login(self.ines)

        def here(client, t):
            answer = client.put(f"/api/matches/{self.found.pk}/here", {"t": t}, content_type="application/json")
            return answer.json()

        self.assertEqual(here(self.client, 9.5), [])
        self.assertEqual(here(theirs, 12), [{"name": "coach", "t": 9.5}])
        self.assertEqual(here(self.client, 10.25), [{"name": "Ines", "t": 12.0}])
        self.assertEqual(here(theirs, 12), [{"name": "coach", "t": 10.25}])
        Presence.objects.filter(user=self.coach).update(at=timezone.now() - PRESENT_FOR)
        self.assertEqual(here(theirs, 13), [])  # not heard of for a while
        self.assertEqual(here(self.client, -1)["faults"][0]["path"], "t")

    def test_a_match_that_is_removed_just_then_is_not_found(self):
        with connection.cursor() as cursor:
            cursor.execute("set constraints all immediate")  # otherwise asked at the commit, which a test has none of
        with mock.patch("matches.views.people.check_own"):
            answer = self.call("put", f"matches/{uuid.uuid4()}/here", {"t": 1})
        self.assertEqual(answer.status_code, 404)

    def test_who_scores_blind_is_not_seen_at_the_first_score(self):
        theirs = Client()
        theirs.force_login(self.ines)
        second = self.call("post", f"matches/{self.found.pk}/seconds", {"user": self.ines.pk}).json()["match"]
        theirs.put(f"/api/matches/{second}/here", {"t": 1}, content_type="application/json")
        mine = self.call("put", f"matches/{self.found.pk}/here", {"t": 1})
        self.assertEqual((mine.status_code, mine.json()), (200, []))
