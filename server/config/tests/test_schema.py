"""Every route, signed in, with what its published schema allows and with what it does not.

No answer is a server error, and each is as declared. What is sent comes from schemathesis, a reference library.
"""

from __future__ import annotations

import os
import tempfile
import uuid
from datetime import timedelta
from functools import cache

import schemathesis
from django.conf import settings
from django.contrib.auth.models import User
from django.core.signals import request_finished, request_started
from django.core.wsgi import get_wsgi_application
from django.db import close_old_connections, transaction
from django.test import override_settings
from django.utils import timezone
from drf_spectacular.generators import SchemaGenerator
from hypothesis import HealthCheck, Phase, given
from hypothesis import settings as hypothesis_settings
from hypothesis import strategies as st
from hypothesis.errors import Unsatisfiable
from schemathesis import GenerationMode
from schemathesis.checks import not_a_server_error
from schemathesis.specs.openapi.checks import (
    content_type_conformance,
    response_schema_conformance,
    status_code_conformance,
)

from clubs.actions import digest_of, join
from clubs.models import Role
from footage.models import Clip
from reviews.models import Answer, Cut, Link, Note
from reviews.tests.base import PASSED, ReviewCase
from roster.models import Athlete
from rulebook.models import HouseRules

#: Of each route and kind of input. For a longer run: JURATA_EXAMPLES=200 ./test config.tests.test_schema
EXAMPLES = int(os.environ.get("JURATA_EXAMPLES", "3"))
CHECKS = [not_a_server_error, status_code_conformance, content_type_conformance, response_schema_conformance]
TOKEN = "a-token-that-is-known-here"


class Published(ReviewCase):
    def setUp(self):
        super().setUp()
        folder = self.enterContext(tempfile.TemporaryDirectory())
        self.enterContext(override_settings(MEDIA_ROOT=folder))
        clip = Clip.objects.create(
            club=self.club, uploader=self.coach, name="a.mp4", size=9, state="ready", duration_ms=120_000
        )
        rules = HouseRules.objects.create(
            club=self.club, author=self.coach, version=1, body={"extends": "full-points", "title": "x"}
        )
        cut = Cut.objects.create(match=self.scored, key=PASSED, clip=clip, start_ms=0, end_ms=9, captions="WEBVTT")
        Link.objects.create(match=self.scored, digest=digest_of(TOKEN), ends=timezone.now() + timedelta(days=1))
        self.known = {
            "match": str(self.scored.pk), "clip": str(clip.pk), "cut": str(cut.pk), "rules": str(rules.pk),
            "answer": Answer.objects.create(match=self.scored, text="x").pk,
            "note": Note.objects.create(match=self.scored, t_ms=1, text="x").pk, "token": TOKEN, "key": PASSED,
            "athlete": self.athlete.pk, "member": self.club.memberships.get().pk,
            "link": str(Link.objects.get().pk), "id": Athlete.objects.first().pk, "second": str(uuid.uuid4()),
            "part": "content", "picture": "poster", "form": "csv",
        }  # fmt: skip
        for signal in (request_started, request_finished):  # as Django's own test client does
            signal.disconnect(close_old_connections)
            self.addCleanup(signal.connect, close_old_connections)
        self.headers = self.signed_in(self.coach)

    def signed_in(self, user):
        self.client.force_login(user)
        session, csrf = self.client.cookies[settings.SESSION_COOKIE_NAME].value, "c" * 32
        return {"Cookie": f"sessionid={session}; csrftoken={csrf}", "X-CSRFToken": csrf}

    @staticmethod
    @cache
    def operations():
        raw = SchemaGenerator().get_schema(request=None, public=True)
        schema = schemathesis.openapi.from_dict(raw)
        schema.app = get_wsgi_application()
        return [found.ok() for found in schema.get_all_operations()]

    def test_no_route_fails_at_anything(self):
        operations = self.operations()
        self.assertGreater(len(operations), 60)
        for operation in operations:
            for mode in (GenerationMode.POSITIVE, GenerationMode.NEGATIVE):
                with self.subTest(operation.label, mode=mode.value):
                    self.try_out(operation, mode)

    def test_no_route_fails_for_any_role(self):
        for role in Role:
            user = User.objects.create_user(f"a {role.value}")
            join(self.club, user, role)
            self.headers = self.signed_in(user)
            for operation in self.operations():
                with self.subTest(operation.label, role=role):
                    self.try_out(operation, GenerationMode.POSITIVE, 1)

    def try_out(self, operation, mode, examples=EXAMPLES):
        @hypothesis_settings(
            max_examples=examples, deadline=None, derandomize=True, database=None, phases=[Phase.generate],
            suppress_health_check=list(HealthCheck),
        )  # fmt: skip
        @given(case=operation.as_strategy(generation_mode=mode), own=st.integers(0, 4))
        def one(case, own):
            if own:  # mostly something that is there
                case.path_parameters = {
                    name: self.known.get(name, value) for name, value in (case.path_parameters or {}).items()
                }
            with transaction.atomic():
                answer = case.call(headers=self.headers)
                transaction.set_rollback(True)
            case.validate_response(answer, checks=CHECKS)

        try:
            one()
        except Unsatisfiable:  # a route without parameters has no wrong ones
            self.assertEqual(mode, GenerationMode.NEGATIVE)
