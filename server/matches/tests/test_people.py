"""Who scores a match, and who can see it."""

from __future__ import annotations

import datetime

from django.contrib.auth.models import User
from django.test import Client

from clubs.actions import join
from clubs.models import Role
from journal.models import Entry

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
