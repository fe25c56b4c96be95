"""A club with a scored match, an adult and a child, and a password that was just shown again."""

from __future__ import annotations

import datetime
import tempfile

from django.contrib.auth.models import User
from django.core.cache import cache
from django.test import Client, override_settings

from clubs.actions import join
from clubs.models import Role
from footage.models import Clip
from matches.models import Match
from reviews.tests.base import ReviewCase
from roster.models import Athlete

PASSWORD = "amber-on-the-mat"


class OwnDataCase(ReviewCase):
    def setUp(self):
        super().setUp()
        cache.clear()
        self.folder = self.enterContext(tempfile.TemporaryDirectory())
        self.enterContext(override_settings(MEDIA_ROOT=self.folder))
        User.objects.filter(pk=self.coach.pk).update(email="coach@dune.example")
        self.coach.refresh_from_db()
        self.again(self.client, self.coach)
        this_year = datetime.date.today().year
        self.child = Athlete.objects.create(club=self.club, name="Ilya Marsh", birth_year=this_year - 11, belt="grey")
        self.parent = self.member("sol", Role.GUARDIAN)
        self.child.guardians.add(self.parent)
        self.theirs = Client()
        self.again(self.theirs, self.parent)

    def member(self, name, role):
        user = User.objects.create_user(name, password="amber", email=f"{name}@dune.example")
        join(self.club, user, role)
        return user

    def again(self, client, user):
        """Sign in, and enter the password once more, as before anything that can't be undone."""
        user.set_password(PASSWORD)
        user.save()
        client.force_login(user)
        shown = client.post("/api/auth/browser/v1/auth/reauthenticate", {"password": PASSWORD}, "application/json")
        self.assertEqual(shown.status_code, 200, shown.content)

    def ask(self, method, path, body=None, client=None):
        return getattr(client or self.client, method)(f"/api/{path}", body, content_type="application/json")

    def clip(self, name="final.mp4", **more):
        made = Clip.objects.create(club=self.club, name=name, size=9, state="ready", **more)
        made.path.write_bytes(b"a picture")
        made.beside("poster.jpg").write_bytes(b"small")
        return made

    def match_of(self, athlete, clip=None):
        return Match.objects.create(
            athlete=athlete, scorer=self.coach, opponent="Bo Calder", ruleset="full-points", duration_ms=120_000, age=11,
            belt="grey", attire="gi", clip=clip,
        )  # fmt: skip
