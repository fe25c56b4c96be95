"""What a body refers to goes through the same access as what a route refers to: every such field, for every role.

Three references that must not work: to what another club has, to a child of the own club that the coach is not named
for, and any of them once the role has ended. None says anything of what it refers to.
"""

from __future__ import annotations

import datetime
import uuid
from typing import Any

from django.contrib.auth.models import User
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import transaction
from drf_spectacular.generators import SchemaGenerator

from clubs.actions import join
from clubs.models import Membership, Role
from events.models import EventDay, Fight
from footage.models import Clip
from matches.models import Match
from matches.tests.base import CoachCase
from roster.models import Athlete
from rulebook.models import HouseRules
from training.models import Drill, Plan

REFUSED = (400, 403, 404, 422)
TODAY = datetime.date(2026, 11, 2)
SETTING = {"opponent": "x", "ruleset": "full-points", "duration_ms": 60_000, "age": 24, "belt": "blue", "attire": "gi"}
NO_REFERENCES = {
    "clips.size", "club.adult_age", "drill.seed", "drill.choice", "drill.who", "matches.age", "matches.duration_ms",
    "matches.opens_ms", "matches.closes_ms", "matches/{match}.age", "matches/{match}.duration_ms", "drills.minutes",
    "drills/{drill}.minutes", "athletes.birth_year", "athletes/{id}.birth_year", "athletes/{id}/plans.sessions",
    "athletes/{id}/plans.minutes", "plans/{plan}/link.days", "matches/{match}/links.days", "club/data.months",
    "matches/{match}/errors/{key}.points", "matches/{match}/errors/{key}.advantages",
    "matches/{match}/observations/{key}.points", "matches/{match}/observations/{key}.advantages",
    "matches/{match}/observations/{key}.penalties", "matches/{match}/observations/{key}.votes.a",
    "matches/{match}/observations/{key}.votes.b",
}  # fmt: skip
"""Numbers in bodies that stand for themselves, as ``route.field``."""


def numbers_in(schema: dict[str, Any], components: dict[str, Any], at: str, within: tuple[str, ...] = ()) -> set[str]:
    """Where in a schema there is a whole number or a UUID."""
    if "$ref" in schema:
        name = schema["$ref"].rsplit("/", 1)[1]
        return set() if name in within else numbers_in(components[name], components, at, (*within, name))
    kinds = schema.get("type")
    found = (
        {at}
        if "integer" in (kinds if isinstance(kinds, list) else [kinds]) or schema.get("format") == "uuid"
        else set()
    )
    for one in (*schema.get("oneOf", ()), *schema.get("anyOf", ()), *schema.get("allOf", ())):
        found |= numbers_in(one, components, at, within)
    if "items" in schema:
        found |= numbers_in(schema["items"], components, f"{at}[]", within)
    for name, one in schema.get("properties", {}).items():
        found |= numbers_in(one, components, f"{at}.{name}", within)
    return found


class References(CoachCase):
    def setUp(self):
        super().setUp()
        year = datetime.date.today().year - 10
        self.child = Athlete.objects.create(club=self.club, name="Finn Secret", birth_year=year, belt="grey")
        self.child_clip = Clip.objects.create(club=self.club, name="secret-child.webm", size=1, state="ready")
        Match.objects.create(athlete=self.child, clip=self.child_clip, **SETTING)
        theirs = Membership.objects.get(user=self.other).club
        self.foreign = Athlete.objects.create(club=theirs, name="Dan Secret", birth_year=1999, belt="blue")
        self.foreign_clip = Clip.objects.create(club=theirs, name="secret.webm", size=1, state="ready")
        self.foreign_drill = Drill.objects.create(club=theirs, name="Secret", minutes=5)
        rules = {"extends": "full-points", "title": "Secret"}
        self.foreign_rules = HouseRules.objects.create(club=theirs, author=self.other, version=1, body=rules)
        self.people = {role: User.objects.create_user(f"a-{role.value}") for role in Role}
        for role, user in self.people.items():
            join(self.club, user, role)
        self.found = self.match()
        day = EventDay.objects.create(club=self.club, name="Thaw Cup", date=TODAY, ruleset="full-points")
        plan = Plan.objects.create(
            athlete=self.athlete, start=TODAY, until=TODAY + datetime.timedelta(9), sessions=1, minutes=30
        )
        self.values = {
            "{id}": self.athlete.pk, "{match}": self.found.pk, "{day}": day.pk, "{plan}": plan.pk,
            "{fight}": Fight.objects.create(day=day, athlete=self.athlete, opponent="x").pk,
        }  # fmt: skip

    def tries(self):
        """``(field, method, body)``: each with one reference that the coach may not make."""
        athletes, clips = (self.foreign, self.child), (self.foreign_clip, self.child_clip)
        for one in athletes:
            fight = {"athlete": one.pk, "opponent": "x"}
            yield "matches.athlete", "post", {**SETTING, "athlete": one.pk}
            yield "matches/{match}.athlete", "patch", {"athlete": one.pk}
            yield "matches/{match}.athlete", "post", {"athlete": one.pk}
            yield "event-days/{day}/fights.athlete", "post", fight
            yield "event-days/{day}/fights/{fight}.athlete", "put", fight
            yield "club/invitations.athlete", "post", {"email": "x@x.example", "role": "guardian", "athlete": one.pk}
            yield "imports.athlete", "multipart", {"athlete": one.pk}
        for one in clips:
            yield "matches.clip", "post", {**SETTING, "athlete": self.athlete.pk, "clip": str(one.pk)}
            yield "matches/{match}.clip", "patch", {"clip": str(one.pk)}
            yield "matches/{match}.clip", "post", {"clip": str(one.pk)}
            yield "matches/{match}/parts.parts[].clip", "put", {"parts": [{"clip": str(one.pk), "start": 0}]}
            for method in ("put", "post"):
                yield "club/data/clips.clips[]", method, {"clips": [str(one.pk)]}
        yield "athletes/{id}/coaches.user", "put", {"user": self.other.pk, "named": True}
        yield "club/chosen.club", "put", {"club": self.foreign.club_id}
        rules = {"extends": "full-points", "title": "x"}
        yield "house-rules.family", "post", {"rules": rules, "family": str(self.foreign_rules.family)}
        yield "house-rules.family", "post", {"rules": rules, "family": str(uuid.uuid4())}
        yield "matches/{match}/people.scorer", "put", {"scorer": self.other.pk, "due": None}
        yield "matches/{match}/seconds.user", "post", {"user": self.other.pk}
        yield "plans/{plan}/planned.drill", "post", {"drill": self.foreign_drill.pk, "day": str(TODAY)}

    def asked(self, field, method, body):
        path = field.partition(".")[0]
        for name, value in self.values.items():
            path = path.replace(name, str(value))
        with transaction.atomic():
            if method == "multipart":
                files = {"files": [SimpleUploadedFile("a.json", b"{}")], **body}
                answer = self.client.post(f"/api/{path}", files)
            else:
                answer = self.call(method, path, body)
            transaction.set_rollback(True)
        return answer

    def test_every_reference_in_a_body_is_looked_at_here(self):
        raw = SchemaGenerator().get_schema(request=None, public=True)
        found = {
            f"{path.removeprefix('/api/')}{place}"
            for path, methods in raw["paths"].items() for operation in methods.values()
            for content in operation.get("requestBody", {}).get("content", {}).values()
            for place in numbers_in(content["schema"], raw["components"]["schemas"], "")
        }  # fmt: skip
        kept = {one for one in found if ".score." not in one and not one.endswith(".n")}
        self.assertEqual(kept - NO_REFERENCES, {field for field, *_ in self.tries()})

    def test_none_reaches_what_the_coach_may_not_see(self):
        for role in (Role.COACH, Role.SCORER, Role.ATHLETE, Role.GUARDIAN):
            self.client.force_login(self.people[role])
            for field, method, body in self.tries():
                with self.subTest(field, method=method, body=body, role=role):
                    answer = self.asked(field, method, body)
                    self.assertIn(answer.status_code, REFUSED, answer.content)
                    self.assertNotIn("ecret", answer.content.decode())

    def test_a_head_coach_reaches_nothing_of_another_club(self):
        self.client.force_login(self.people[Role.HEAD_COACH])
        for field, method, body in self.tries():
            said = str(body)
            if any(str(one.pk) in said for one in (self.foreign, self.foreign_clip)):
                with self.subTest(field, method=method, body=body):
                    answer = self.asked(field, method, body)
                    refused = answer.status_code in REFUSED
                    # old clips are looked for among the club's own: another's is none of them
                    self.assertTrue(refused or field == "club/data/clips.clips[]", answer.content)
                    self.assertNotIn("ecret", answer.content.decode())

    def test_nothing_is_left_of_a_role_that_has_ended(self):
        coach = self.people[Role.COACH]
        self.athlete.coaches.add(coach)
        Match.objects.filter(pk=self.found.pk).update(scorer=coach)
        self.client.force_login(coach)
        membership = self.club.memberships.get(user=coach)
        own = {
            "matches.athlete": ("post", {**SETTING, "athlete": self.athlete.pk}),
            "matches/{match}.athlete": ("patch", {"athlete": self.athlete.pk}),
            "event-days/{day}/fights.athlete": ("post", {"athlete": self.athlete.pk, "opponent": "x"}),
            "club/invitations.athlete": (
                "post",
                {"email": "x@x.example", "role": "guardian", "athlete": self.athlete.pk},
            ),
        }
        for ended in (False, True):
            if ended:
                membership.delete()
            for field, (method, body) in own.items():
                with self.subTest(field, ended=ended):
                    refused = self.asked(field, method, body).status_code in REFUSED
                    self.assertEqual(refused, ended)
