"""The coach's athletes."""

import datetime

from django.contrib.auth.models import User
from django.test import TestCase

from clubs.actions import found_club
from roster.models import Athlete


class Athletes(TestCase):
    def setUp(self):
        self.coach = User.objects.create_user("coach", password="amber")
        found_club("Dune Grappling", self.coach)
        self.client.force_login(self.coach)

    def post(self, **body):
        return self.client.post("/api/athletes", body, content_type="application/json")

    def test_add_change_and_delete(self):
        made = self.post(name="Ada Brenn", birth_year=2010, belt="grey").json()
        address = f"/api/athletes/{made['id']}"
        self.client.patch(address, {"belt": "yellow"}, content_type="application/json")
        self.assertEqual([one["belt"] for one in self.client.get("/api/athletes").json()], ["yellow"])
        self.assertEqual(self.client.delete(address).status_code, 204)
        self.assertEqual(Athlete.objects.count(), 0)

    def test_faults_name_their_fields(self):
        this_year = datetime.date.today().year
        for body, field in (
            ({"name": "", "birth_year": 2010, "belt": "grey"}, "name"),
            ({"name": "A", "birth_year": this_year + 1, "belt": "grey"}, "birth_year"),
            ({"name": "A", "birth_year": "old", "belt": "grey"}, "birth_year"),
            ({"name": "A", "birth_year": 2010, "belt": "pink"}, "belt"),
        ):
            with self.subTest(field):
                answer = self.post(**body)
                self.assertEqual(answer.status_code, 400)
                self.assertEqual([fault["path"] for fault in answer.json()["faults"]], [field])

    def test_an_athlete_with_matches_stays(self):
        made = self.post(name="Ada Brenn", birth_year=2000, belt="blue").json()
        match = {
            "athlete": made["id"], "opponent": "Bo", "ruleset": "full-points", "duration_ms": 60_000, "age": 24,
            "belt": "blue", "attire": "gi",
        }  # fmt: skip
        self.assertEqual(self.client.post("/api/matches", match, content_type="application/json").status_code, 201)
        answer = self.client.delete(f"/api/athletes/{made['id']}")
        self.assertEqual((answer.status_code, answer.json()["code"]), (409, "in_use"))
