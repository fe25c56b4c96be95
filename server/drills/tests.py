"""The drill: asked without its answer, answered with its reason, and coming back when it should."""

import datetime
from unittest import mock

from django.contrib.auth.models import User
from django.test import TestCase
from django.utils import timezone

from clubs.actions import found_club
from drills.models import Card
from roster.models import Athlete

DIVISION = "age=14&belt=green&attire=gi&ruleset=full-points"


class Drill(TestCase):
    def setUp(self):
        self.coach = User.objects.create_user("coach", password="amber")
        self.club = found_club("Dune Grappling", self.coach)
        self.other = User.objects.create_user("other", password="sea")
        self.athlete = Athlete.objects.create(club=self.club, name="Ada Brenn", birth_year=2012, belt="green")
        self.client.force_login(self.coach)

    def ask(self, **more):
        query = "&".join([DIVISION, *(f"{name}={value}" for name, value in more.items())])
        return self.client.get(f"/api/drill?{query}")

    def answer(self, item, choice, **more):
        body = {"key": item["key"], "seed": item["seed"], "choice": choice, **more}
        return self.client.post(f"/api/drill?{DIVISION}", body, content_type="application/json")

    def test_a_question_comes_without_its_answer(self):
        for topic in ("legality", "pays", "why"):
            item = self.ask(topic=topic).json()
            self.assertEqual(item["topic"], topic)
            self.assertEqual(set(item), {"key", "seed", "topic", "question", "lines", "options", "again"})
            got = self.answer(item, 0).json()
            self.assertIn(got["right"], range(len(item["options"])))
            self.assertTrue(got["because"])

    def test_a_wrong_one_comes_back_before_a_right_one(self):
        wrong, right = self.ask(topic="why").json(), self.ask(topic="pays").json()
        answers = {one["key"]: self.answer(one, 0).json()["right"] for one in (wrong, right)}
        Card.objects.all().delete()
        soon = self.answer(wrong, (answers[wrong["key"]] + 1) % 3).json()["due"]
        later = self.answer(right, answers[right["key"]]).json()["due"]
        self.assertLess(soon, later)
        after = timezone.now() + datetime.timedelta(minutes=5)
        with mock.patch("django.utils.timezone.now", return_value=after):
            again = self.ask().json()
        self.assertEqual((again["key"], again["again"]), (wrong["key"], True))

    def test_known_things_are_asked_at_growing_distances(self):
        item, now, gaps = self.ask(topic="pays").json(), timezone.now(), []
        right = self.answer(item, 0).json()["right"]
        Card.objects.all().delete()  # it may have been right already, and a sign-in ends after a month
        for _ in range(4):
            with mock.patch("django.utils.timezone.now", return_value=now):
                due = datetime.datetime.fromisoformat(self.answer(item, right).json()["due"])
            gaps.append(due - now)
            now = due
        self.assertGreater(gaps[-1], gaps[1])
        self.assertGreater(gaps[-1], datetime.timedelta(days=2))

    def test_each_person_has_their_own(self):
        item = self.ask(topic="legality").json()
        right = self.answer(item, 9).json()["right"]
        self.answer(item, right, who=self.athlete.pk)
        rows = self.client.get("/api/drill/progress").json()
        self.assertEqual(
            [(row["name"], row["right"], row["wrong"]) for row in rows], [(None, 0, 1), ("Ada Brenn", 1, 0)]
        )
        self.client.force_login(self.other)
        self.assertEqual(self.client.get("/api/drill/progress").json(), [])
        self.assertEqual(self.ask(who=self.athlete.pk).status_code, 404)
        self.assertEqual(self.answer(item, 0, who=self.athlete.pk).status_code, 404)

    def test_what_is_no_question_is_refused(self):
        faulty = self.answer({"key": "pays/nothing/held", "seed": 1}, 0)
        self.assertEqual([fault["path"] for fault in faulty.json()["faults"]], ["key"])
        none = self.client.get("/api/drill?age=14&belt=green&attire=gi&ruleset=submission-only&topic=pays")
        self.assertEqual((none.status_code, none.json()["code"]), (422, "nothing_to_ask"))
