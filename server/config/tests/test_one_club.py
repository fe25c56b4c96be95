"""One person in two clubs: nothing of one gets into the other, and the database sees to it."""

from __future__ import annotations

import datetime
from unittest import mock

from django.db import IntegrityError, transaction
from django.utils import timezone

from boards.models import Board
from clubs.access import Access, Right
from clubs.actions import join
from clubs.models import Invitation, Membership, Role
from events.models import EventDay, Fight
from footage.models import Clip
from matches.models import FurtherClip, Match
from matches.tests.base import LOG, CoachCase
from reviews.models import Cut
from roster.models import Athlete
from seasons.models import Import
from training.models import Drill, Plan, Planned

TODAY = datetime.date(2026, 11, 2)


class InTwoClubs(CoachCase):
    """The coach of club A is a coach of club B as well."""

    def setUp(self):
        super().setUp()
        self.theirs = Membership.objects.get(user=self.other).club
        join(self.theirs, self.coach, Role.COACH)
        self.clip = Clip.objects.create(club=self.club, uploader=self.coach, name="a.webm", size=1, state="ready")
        self.athlete_b = Athlete.objects.create(club=self.theirs, name="Dan Ott", birth_year=1999, belt="blue")
        self.found = self.match()
        self.call("put", "club/chosen", {"club": self.theirs.pk})
        self.match_b = Match.objects.get(pk=self.set_up(athlete=self.athlete_b.pk, log=LOG).json()["id"])

    def faults(self, answer):
        self.assertEqual(answer.status_code, 400, answer.content)
        return [fault["path"] for fault in answer.json()["faults"]]

    def test_no_clip_gets_into_the_other_club(self):
        place = {"clip": str(self.clip.pk), "start": 0}
        found = self.call("put", f"matches/{self.match_b.pk}/parts", {"parts": [place]})
        self.assertEqual(self.faults(found), ["parts[0].clip"])
        found = self.call("patch", f"matches/{self.match_b.pk}", {"clip": str(self.clip.pk)})
        self.assertEqual(self.faults(found), ["clip"])
        self.assertEqual(self.faults(self.set_up(athlete=self.athlete_b.pk, clip=str(self.clip.pk), log=LOG)), ["clip"])
        self.client.force_login(self.other)
        for method, part in (("get", "/content"), ("delete", "")):
            self.assertEqual(self.call(method, f"clips/{self.clip.pk}{part}").status_code, 404)

    def test_no_match_moves_into_the_other_club(self):
        found = self.call("patch", f"matches/{self.found.pk}", {"athlete": self.athlete_b.pk})
        self.assertEqual(self.faults(found), ["athlete"])

    def test_the_database_refuses_it_whatever_asks(self):
        now, day = timezone.now(), EventDay.objects.create(club=self.club, name="x", date=TODAY, ruleset="full-points")
        drill = Drill.objects.create(club=self.club, name="Frames", minutes=5)
        values = {"start": TODAY, "until": TODAY + datetime.timedelta(9), "sessions": 1, "minutes": 30}
        plan = Plan.objects.create(athlete=self.athlete_b, **values)
        tries = {
            "a match's clip": lambda: Match.objects.filter(pk=self.match_b.pk).update(clip=self.clip),
            "a match's athlete": lambda: Fight.objects.create(day=day, athlete=self.athlete, match=self.match_b),
            "a second score": lambda: Match.objects.filter(pk=self.match_b.pk).update(second_of=self.found),
            "a further clip": lambda: FurtherClip.objects.create(match=self.match_b, clip=self.clip, start_ms=0),
            "a board": lambda: Board.objects.create(match=self.match_b, clip=self.clip, marks=[]),
            "a cut": lambda: Cut.objects.create(match=self.match_b, key="k", clip=self.clip, start_ms=0, end_ms=1),
            "whom a clip showed": lambda: self.clip.showed.add(self.athlete_b),
            "a planned drill": lambda: Planned.objects.create(plan=plan, drill=drill, day=TODAY),
            "a fight": lambda: Fight.objects.create(day=day, athlete=self.athlete_b, opponent="x"),
            "an invitation": lambda: Invitation.objects.create(
                club=self.club, athlete=self.athlete_b, digest="d", ends=now
            ),
            "an import": lambda: Import.objects.create(club=self.club, athlete=self.athlete_b, asked_by=self.coach),
            "an athlete": lambda: Athlete.objects.filter(pk=self.athlete.pk).update(club=self.theirs),
            "a clip": lambda: Clip.objects.filter(pk=self.clip.pk).update(club=self.theirs),
            "a drill": lambda: Drill.objects.filter(pk=drill.pk).update(club=self.theirs),
            "a day": lambda: EventDay.objects.filter(pk=day.pk).update(club=self.theirs),
        }
        for name, change in tries.items():
            with self.subTest(name), self.assertRaises(IntegrityError), transaction.atomic():
                change()


class ClipsKeepWhomTheyShowed(CoachCase):
    """A child's footage outside a match: before one is set up, when it is replaced, deleted, and removed for good."""

    def setUp(self):
        super().setUp()
        year = datetime.date.today().year - 10
        self.child = Athlete.objects.create(club=self.club, name="Finn Aro", birth_year=year, belt="grey")
        self.child.coaches.add(self.coach)
        self.second = type(self.coach).objects.create_user("second")
        join(self.club, self.second, Role.COACH)
        self.clip = Clip.objects.create(club=self.club, uploader=self.coach, name="a.webm", size=1, state="ready")
        self.client.force_login(self.coach)

    def seen_by(self, user, clip=None):
        address = f"clips/{(clip or self.clip).pk}"
        self.client.force_login(user)
        listed = any(one["id"] == str((clip or self.clip).pk) for one in self.call("get", "clips").json())
        seen = self.call("get", address).status_code == 200
        self.assertEqual(listed, seen)
        with mock.patch("footage.views.discard") as deleted:
            self.call("delete", address)
        self.assertEqual(deleted.called, seen)
        self.client.force_login(self.coach)
        return seen

    def test_before_a_match_is_set_up_it_is_its_uploader_s(self):
        self.assertEqual((self.seen_by(self.coach), self.seen_by(self.second)), (True, False))

    def test_who_uploaded_it_and_has_left_the_club_keeps_nothing_of_it(self):
        self.clip.uploader = self.second
        self.clip.save()
        self.assertTrue(self.seen_by(self.second))
        self.club.memberships.filter(user=self.second).delete()
        self.client.force_login(self.second)
        self.assertIn(self.call("get", f"clips/{self.clip.pk}").status_code, (403, 404))
        self.assertFalse(Clip.objects.filter(Access(self.second.pk, Right.SET_UP).whole_clips()).exists())

    def test_after_the_match_it_is_for_whom_it_showed(self):
        found = Match.objects.get(pk=self.set_up(athlete=self.child.pk, clip=str(self.clip.pk), log=LOG).json()["id"])
        third = type(self.coach).objects.create_user("third")
        join(self.club, third, Role.COACH)
        self.child.coaches.add(third)
        for away in (
            lambda: self.call("patch", f"matches/{found.pk}", {"clip": None}),
            lambda: self.call("delete", f"matches/{found.pk}"),
            lambda: self.call("delete", f"deleted-matches/{found.pk}"),
        ):
            self.assertIn(away().status_code, (200, 204))
            seen = [self.seen_by(user) for user in (self.coach, self.second, third)]
            self.assertEqual(seen, [True, False, True])
        self.child.coaches.remove(self.coach)  # who has uploaded it
        self.assertEqual([self.seen_by(user) for user in (self.coach, third)], [False, True])

    def test_a_clip_of_a_grown_athlete_and_a_child_is_not_deleted_by_who_may_see_the_one(self):
        body = {"clip": str(self.clip.pk), "log": LOG}
        for athlete in (self.child, self.athlete):
            self.assertEqual(self.set_up(athlete=athlete.pk, **body).status_code, 201)
        self.client.force_login(self.second)
        self.assertEqual(self.call("get", f"clips/{self.clip.pk}").status_code, 200)
        self.assertEqual(self.call("delete", f"clips/{self.clip.pk}").status_code, 404)
