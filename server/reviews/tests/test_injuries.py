"""Who reads of an injury: the head coach, the coaches named for the athlete, the guardians; nobody through a link."""

from __future__ import annotations

import json

from django.contrib.auth.models import User

from clubs.actions import join
from clubs.models import Role
from matches.models import Match

from .base import ReviewCase

MARK = {"t": 40, "kind": "mark", "on": "a", "cause": "safety", "text": "Knee turned in.", "hurt": "left knee"}


class Injuries(ReviewCase):
    def setUp(self):
        super().setUp()
        self.people = {}
        for name, role in (
            ("named", Role.COACH),
            ("coach2", Role.COACH),
            ("scorer", Role.SCORER),
            ("mother", Role.GUARDIAN),
        ):
            self.people[name] = User.objects.create_user(name, password="sea")
            join(self.club, self.people[name], role)
        self.athlete.coaches.add(self.people["named"])
        self.athlete.guardians.add(self.people["mother"])
        self.put("m1", MARK)

    def put(self, key, body):
        return self.at("put", f"observations/{key}", body)

    def seen(self):
        """Whether the log, its file and its history name the injury for whoever is signed in."""
        answers = [self.call("get", f"matches/{self.match_id}"), self.at("get", "log"), self.at("get", "history")]
        self.assertEqual([one.status_code for one in answers], [200] * 3)
        return ["left knee" in one.content.decode() for one in answers]

    def stored(self):
        return self.scored.observations.get(key="m1").body

    def test_who_sees_it_in_the_log(self):
        self.assertEqual(self.seen(), [True] * 3)
        for name, sees in (("named", True), ("coach2", False)):
            self.client.force_login(self.people[name])
            self.assertEqual(self.seen(), [sees] * 3, name)
        Match.objects.filter(pk=self.match_id).update(scorer=self.people["scorer"])
        self.client.force_login(self.people["scorer"])
        self.assertEqual(self.seen(), [False] * 3)

    def test_whose_role_has_ended_sees_it_no_more(self):
        self.club.memberships.filter(user=self.people["named"]).update(role=Role.SCORER)
        Match.objects.filter(pk=self.match_id).update(scorer=self.people["named"])
        self.client.force_login(self.people["named"])
        self.assertEqual(self.seen(), [False] * 3)

    def test_the_answer_to_a_change_says_no_more_than_the_log(self):
        self.client.force_login(self.people["coach2"])
        answer = self.put("m2", {**MARK, "t": 50, "hurt": "right elbow"})
        self.assertEqual(answer.status_code, 200)
        self.assertNotIn("right elbow", answer.content.decode())
        self.assertNotIn("left knee", answer.content.decode())

    def test_who_can_not_see_it_keeps_it_when_changing_the_mark(self):
        self.client.force_login(self.people["coach2"])
        shown = {name: value for name, value in MARK.items() if name != "hurt"}
        self.assertEqual(self.put("m1", {**shown, "text": "Knee in."}).status_code, 200)
        self.assertEqual((self.stored()["text"], self.stored()["hurt"]), ("Knee in.", "left knee"))
        self.put("m1", {**shown, "hurt": None})
        self.assertEqual(self.stored()["hurt"], "left knee")
        self.client.force_login(self.coach)
        self.put("m1", shown)
        self.assertNotIn("hurt", self.stored(), "who sees it can take it back")

    def test_in_the_report_for_the_guardian_and_through_no_link(self):
        self.at("put", "sent", {"sent": True})
        token = self.at("post", "links", {"days": 7}).json()["token"]
        self.client.logout()
        for path in ("", "/report.pdf"):
            self.assertNotIn(b"left knee", self.call("get", f"shared/{token}{path}").content)
        self.assertEqual(self.call("get", f"shared/{token}").json()["injuries"], [])
        self.client.force_login(self.people["mother"])
        shown = self.call("get", f"own/reports/{self.match_id}").json()["injuries"]
        self.assertEqual([one["part"] for one in shown], ["left knee"])
        athlete = User.objects.create_user("ada", password="sea")
        join(self.club, athlete, Role.ATHLETE)
        self.athlete.user = athlete
        self.athlete.save()
        self.client.force_login(athlete)
        self.assertEqual(self.call("get", f"own/reports/{self.match_id}").json()["injuries"], [])

    def test_no_sentence_of_the_review_names_it(self):
        self.assertNotIn("left knee", json.dumps(self.review()["found"]))
