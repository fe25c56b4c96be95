"""The place of an athlete and of a guardian, and what protects children: named coaches, consent, first names."""

from __future__ import annotations

import datetime
from datetime import timedelta

from django.contrib.auth.models import User
from django.test import Client
from django.utils import timezone

from clubs.actions import join
from clubs.models import Club, Role
from journal.models import Entry
from matches.models import Match
from reviews.models import Link
from roster.models import Athlete, Consent

from .base import ReviewCase


class OwnCase(ReviewCase):
    def setUp(self):
        super().setUp()
        self.me = self.member("ada", Role.ATHLETE)
        Athlete.objects.filter(pk=self.athlete.pk).update(user=self.me)
        self.mine = Client()
        self.mine.force_login(self.me)

    def member(self, name, role):
        user = User.objects.create_user(name, password="amber", first_name=name.title())
        join(self.club, user, role)
        return user

    def as_child(self):
        """The athlete is twelve, and has a parent with a sign-in."""
        Athlete.objects.filter(pk=self.athlete.pk).update(birth_year=datetime.date.today().year - 12)
        self.athlete.coaches.add(self.coach)
        self.parent = self.member("parent", Role.GUARDIAN)
        self.athlete.guardians.add(self.parent)
        self.theirs = Client()
        self.theirs.force_login(self.parent)

    def own(self, client=None, path="", method="get", body=None):
        return getattr(client or self.mine, method)(f"/api/own{path}", body, content_type="application/json")

    def consent(self, method="post", client=None):
        return self.own(client or self.theirs, f"/athletes/{self.athlete.pk}/consent", method)

    def send(self, sent=True):
        return self.at("put", "sent", {"sent": sent})


class OwnPlace(OwnCase):
    def test_a_report_is_there_once_it_was_sent_and_until_it_is_taken_back(self):
        (athlete,) = self.own().json()
        self.assertEqual((athlete["name"], athlete["oneself"], athlete["child"]), ("Ada Brenn", True, False))
        self.assertEqual([one["sent"] for one in athlete["matches"]], [None])
        path = f"/reports/{self.match_id}"
        self.assertEqual(self.own(path=path).status_code, 404)
        self.send()
        self.assertIsNotNone(self.own().json()[0]["matches"][0]["sent"])
        self.assertEqual(self.own(path=path).json()["mattered"], self.at("get", "report").json()["mattered"])
        self.assertEqual(self.own(path=f"{path}/report.pdf")["Content-Type"], "application/pdf")
        self.send(False)
        self.assertEqual(self.own(path=path).status_code, 404)
        self.assertEqual(self.at("get", "letter").json()["sent"], None)

    def test_replies_and_ticks_reach_the_coach(self):
        self.send()
        path = f"/reports/{self.match_id}"
        self.accept()
        drill = self.own(path=path).json()["drills"][0]["key"]
        self.assertTrue(
            self.own(path=f"{path}/drills/{drill}", method="put", body={"done": True}).json()["drills"][0]["done"]
        )
        answered = self.own(path=f"{path}/answers", method="post", body={"text": "I was tired."})
        self.assertEqual([one["text"] for one in answered.json()["answers"]], ["I was tired."])
        self.assertEqual(self.call("get", "waiting").json()["answered"], 1)
        self.assertEqual(self.at("get", "report").json()["answers"][0]["text"], "I was tired.")

    def test_nothing_of_others(self):
        other = Athlete.objects.create(club=self.club, name="Runa Holt", birth_year=2001, belt="blue")
        Match.objects.filter(pk=self.match_id).update(athlete=other)
        self.send()
        self.assertEqual(self.own().json()[0]["matches"], [])
        self.assertEqual(self.own(path=f"/reports/{self.match_id}").status_code, 404)

    def test_the_rules_quiz_is_answered_on_the_own_sign_in(self):
        asked = self.mine.get("/api/drill?age=24&belt=blue&attire=gi&ruleset=full-points").json()
        body = {"key": asked["key"], "seed": asked["seed"], "choice": 0}
        self.mine.post(
            "/api/drill?age=24&belt=blue&attire=gi&ruleset=full-points", body, content_type="application/json"
        )
        self.assertEqual(len(self.mine.get("/api/drill/progress").json()), 1)
        self.assertEqual(self.call("get", "drill/progress").json(), [])


class Children(OwnCase):
    def setUp(self):
        super().setUp()
        self.as_child()

    def link(self, days=7):
        return self.at("post", "links", {"days": days})

    def shared(self, token):
        return Client().get(f"/api/shared/{token}")

    def test_a_link_needs_consent_and_ends_with_it(self):
        self.assertEqual(self.link().json()["code"], "no_consent")
        self.assertEqual(self.consent().status_code, 200)
        token = self.link().json()["token"]
        self.assertEqual(self.shared(token).status_code, 200)
        self.consent("delete")
        self.assertEqual(self.shared(token).status_code, 404)
        kept = Consent.objects.get()
        self.assertEqual((kept.name, kept.by), ("Parent", self.parent))
        self.assertIn("first names only", kept.text)
        self.assertIsNotNone(kept.withdrawn)
        self.consent()
        self.assertEqual(self.shared(token).status_code, 404)  # what has ended stays so
        whats = [one.what for one in Entry.objects.filter(what__startswith="consent").order_by("pk")]
        self.assertEqual(whats, ["consent given", "consent taken back", "consent given"])

    def test_a_link_ends_within_fourteen_days(self):
        self.consent()
        self.assertEqual([fault["path"] for fault in self.link(15).json()["faults"]], ["days"])
        self.assertEqual(self.link(14).status_code, 201)
        self.assertLess(Link.objects.get().ends, timezone.now() + timedelta(days=14, minutes=1))

    def test_it_shows_first_names_only_everywhere(self):
        self.consent()
        shown = self.shared(self.link().json()["token"]).content.decode()
        self.assertIn("Ada", shown)
        for name in ("Brenn", "Calder"):
            self.assertNotIn(name, shown)
        self.assertIn("Brenn", self.at("get", "report").content.decode())

    def test_only_a_guardian_agrees(self):
        self.assertEqual(self.consent(client=self.mine).status_code, 403)
        stranger = Client()
        stranger.force_login(self.other)
        self.assertEqual(self.consent(client=stranger).status_code, 404)
        self.assertEqual(self.consent(client=self.client).status_code, 404)

    def test_the_guardian_reads_what_the_child_reads(self):
        self.send()
        self.assertEqual(self.own(self.theirs, f"/reports/{self.match_id}").status_code, 200)
        (ward,) = self.own(self.theirs).json()
        self.assertEqual((ward["oneself"], ward["child"], ward["coaches"]), (False, True, ["coach"]))
        self.athlete.guardians.remove(self.parent)
        self.assertEqual(self.own(self.theirs).json(), [])
        self.assertEqual(self.own(self.theirs, f"/reports/{self.match_id}").status_code, 404)

    def test_the_club_says_until_when_somebody_is_a_child(self):
        Club.objects.update(adult_age=13)
        Athlete.objects.update(birth_year=datetime.date.today().year - 13)
        self.assertEqual(self.link().json()["code"], "no_consent")  # the birthday may still come this year
        Athlete.objects.update(birth_year=datetime.date.today().year - 14)
        self.assertEqual(self.link(60).status_code, 201)

    def test_a_head_coach_names_who_sees_it(self):
        second = self.member("second", Role.COACH)
        client = Client()
        client.force_login(second)
        self.assertEqual(client.get(f"/api/matches/{self.match_id}").status_code, 404)
        path = f"athletes/{self.athlete.pk}/coaches"
        self.assertEqual(client.get(f"/api/{path}").status_code, 404)
        self.assertEqual(self.call("get", path).json()[0]["named"], True)
        refused = client.put(f"/api/{path}", {"user": second.pk, "named": True}, content_type="application/json")
        self.assertEqual(refused.status_code, 404)
        self.call("put", path, {"user": second.pk, "named": True})
        self.assertEqual(client.get(f"/api/matches/{self.match_id}").status_code, 200)
        self.call("put", path, {"user": second.pk, "named": False})
        self.assertEqual(client.get(f"/api/matches/{self.match_id}").status_code, 404)


class Opponents(OwnCase):
    def test_consent_ends_when_the_guardian_who_gave_it_is_no_longer_one(self):
        self.as_child()
        self.consent()
        membership = self.club.memberships.get(user=self.parent)
        self.assertEqual(self.call("delete", f"club/members/{membership.pk}").status_code, 204)
        self.assertIsNotNone(Consent.objects.get().withdrawn)

    def test_they_are_initials_outside_the_club_where_it_wants_so(self):
        self.call("patch", "club", {"initials": True})
        token = self.at("post", "links", {"days": 7}).json()["token"]
        shown = Client().get(f"/api/shared/{token}").json()
        self.assertEqual((shown["athlete"], shown["opponent"]), ("Ada Brenn", "B. C."))
        self.assertNotIn("Calder", str(shown))
        self.assertEqual(self.at("get", "report").json()["opponent"], "Bo Calder")
