"""Whose eyes a match is for: every route of the API, for every role, in one's own club and in another."""

from __future__ import annotations

import uuid
from datetime import date, timedelta
from typing import Any
from unittest import mock

from django.conf import settings
from django.contrib.auth.models import User
from django.db import transaction
from django.urls import URLPattern, URLResolver, get_resolver
from django.utils import timezone

from boards.models import Board, BoardPicture
from clubs.access import PACKAGE, ROLES, ROUTES, STAFF, Access, Right
from clubs.actions import found_club, join
from clubs.models import Club, Invitation, Membership, Role
from clubs.questions import allowed
from events.models import EventDay, Fight
from footage.models import Clip
from jobs.models import Job
from matches.actions import set_up
from matches.models import Match
from matches.standing import _kept
from matches.tests.base import LOG, CoachCase
from reviews.models import Answer, Cut, Link, Note, Report
from roster.models import Athlete
from rulebook.models import HouseRules, TechniqueName
from seasons.models import Import
from training.models import Drill, Plan, Planned

TODAY = date(2026, 11, 2)
DRILL = {"name": "x", "about": "", "minutes": 5, "kinds": [], "causes": [], "positions": []}
PLAN = {"event": "", "sessions": 1, "minutes": 30}
BOX = [[0, 0], [0.1, 0], [0.1, 0.1], [0, 0.1]]
BODIES: dict[tuple[str, str], dict[str, Any]] = {
    ("athletes", "post"): {"name": "Cilla Dorn", "birth_year": 2001, "belt": "blue"},
    ("athletes/<int:pk>", "patch"): {"name": "Thief"},
    ("matches/<uuid:match>", "patch"): {"opponent": "Thief"},
    ("matches/<uuid:match>", "post"): {"age": 9},
    ("matches/<uuid:match>/observations/<str:key>", "put"): {"t": 1, "kind": "exchange"},
    ("matches/<uuid:match>/parts", "put"): {"parts": []},
    ("matches/<uuid:match>/seconds", "post"): {"user": 0},
    ("matches/<uuid:match>/calls", "post"): {"lines": ""},
    ("matches/<uuid:match>/boards/<uuid:clip>", "put"): {"marks": [{"t": 0, "boxes": {"clock": BOX}}]},
    ("matches/<uuid:match>/boards/<uuid:clip>/look", "post"): {"t": 0},
    ("matches/<uuid:match>/what-if", "post"): {"ruleset": "late-points"},
    ("matches/<uuid:match>/errors/<str:key>", "put"): {"standing": "dismissed"},
    ("matches/<uuid:match>/chains/<str:key>", "put"): {"accepted": True},
    ("matches/<uuid:match>/notes", "post"): {"t": 1, "text": "x"},
    ("matches/<uuid:match>/notes/<int:note>", "put"): {"t": 1, "text": "x"},
    ("matches/<uuid:match>/letter", "put"): {"greeting": "x", "well": ""},
    ("matches/<uuid:match>/links", "post"): {"days": 1},
    ("matches/<uuid:match>/answers/<int:answer>", "put"): {"reply": "x"},
    ("house-rules/<uuid:rules>", "patch"): {"shared": True},
    ("causes", "put"): {"causes": ["slow"]},
    ("athletes/<int:pk>/coaches", "put"): {"user": 0, "named": True},
    ("matches/<uuid:match>/people", "put"): {"scorer": 0, "due": None},
    ("matches/<uuid:match>/sent", "put"): {"sent": True},
    ("own/reports/<uuid:match>/answers", "post"): {"text": "x"},
    ("matches/<uuid:match>/here", "put"): {"t": 1},
    ("club/data", "put"): {"months": 12},
    ("club", "patch"): {"name": "Theirs"},
    ("drills", "post"): DRILL,
    ("drills/<int:drill>", "put"): DRILL,
    ("athletes/<int:pk>/plans", "post"): {**PLAN, "start": "2026-01-01", "until": "2026-02-01"},
    ("plans/<int:plan>/link", "post"): {"days": 1},
    ("own/plans/<int:plan>/planned/<int:planned>", "put"): {"done": True},
    ("event-days", "post"): {"name": "x", "date": "2026-01-01", "ruleset": "full-points"},
    ("event-days/<int:day>", "put"): {"name": "x", "date": "2026-01-01", "ruleset": "full-points"},
    ("event-days/<int:day>/table", "post"): {"table": "athlete\n"},
    ("club/invitations", "post"): {"email": "a@dune.example", "role": "scorer"},
}
"""What is sent where something has to be sent; everywhere else an empty object."""

NOT_HERE = {
    "athletes/<int:pk>/season/<str:form>": "it is no form of a season: seasons/tests/test_files.py",
    "plans/<int:plan>/planned": "there is no such drill: training/tests",
    "imports/<uuid:taken>": "an import is seen by who asked for it: seasons/tests/test_files.py",
    "matches/<uuid:match>/people": "there is no such scorer: matches/tests/test_people.py",
    "athletes/<int:pk>/coaches": "there is no such coach: reviews/tests/test_own.py",
    "own/athletes/<int:athlete>/consent": "a guardian alone agrees: reviews/tests/test_own.py",
    "own/reports/<uuid:match>/cuts/<uuid:cut>/<str:part>": "it is not cut yet",
    "own/reports/<uuid:match>/drills/<str:key>": "there is no such drill",
    "clips/<uuid:clip>/content": "the clip has no file",
    "clips/<uuid:clip>/pictures/<str:picture>": "the clip has no file",
    "clips/<uuid:clip>/upload": "only who uploads a clip goes on with it: footage/tests",
    "matches/<uuid:match>/practice": "it is no practice match: matches/tests/test_practice.py",
    "matches/<uuid:match>/cuts": "there is no such error",
    "matches/<uuid:match>/cuts/<uuid:cut>/<str:part>": "it is not cut yet",
    "matches/<uuid:match>/errors/<str:key>": "there is no such error",
    "matches/<uuid:match>/chains/<str:key>": "there is no such error",
    "matches/<uuid:match>/questions/<str:form>": "they are not asked for as a table",
    "jobs/<uuid:job>": "a job is seen by who asked for it: jobs/tests",
    "deleted-matches/<uuid:match>": "the match was not deleted: reviews/tests/test_deleted.py",
    "matches/<uuid:match>/seconds/<uuid:second>": "a pair of scores: matches/tests/test_around.py",
}
"""Routes that answer 404 here also to those who may see the match, and why; of them only the others are looked at."""

FOR_HEAD_COACHES = {("athletes/<int:pk>", "delete"): "the athlete has a guardian and an account"}
"""What the table lets every coach ask for, and only a head coach is given here."""


def api_routes(resolver: URLResolver, prefix: str = "") -> set[str]:
    """Every pattern below ``api/``."""
    found: set[str] = set()
    for pattern in resolver.url_patterns:
        path = prefix + str(pattern.pattern)
        if isinstance(pattern, URLResolver):
            found |= api_routes(pattern, path)
        elif isinstance(pattern, URLPattern) and path.startswith("api/"):
            found.add(path.removeprefix("api/"))
    return found


def people(club, prefix):
    """A user for each role of a club."""
    found = {role: User.objects.create_user(f"{prefix}{role.value}") for role in Role}
    for role, user in found.items():
        join(club, user, role)
    return found


class Privacy(CoachCase):
    def setUp(self):
        super().setUp()
        Membership.objects.all().delete()
        again = "accounts.again.did_recently_reauthenticate"  # or some routes would ask for the password first
        self.enterContext(mock.patch(again, return_value=True))
        self.own, self.foreign = people(self.club, "own-"), people(found_club("Sound Grappling", self.other), "other-")
        self.sessions = {}
        self.stranger = User.objects.create_user("stranger")
        self.athlete.user = self.own[Role.ATHLETE]
        self.athlete.save()
        self.athlete.guardians.add(self.own[Role.GUARDIAN])
        join(self.club, self.coach, Role.HEAD_COACH)
        self.found = self.match()
        clip = Clip.objects.create(club=self.club, name="x.webm", size=1, state="ready")
        Match.objects.filter(pk=self.found.pk).update(scorer=self.own[Role.SCORER], clip=clip)
        Report.objects.create(match=self.found, sent=self.found.created)
        rules = {"extends": "full-points", "title": "Ours"}
        job = Job.objects.create(owner=self.coach, kind="cut a clip", state="done")
        drill = Drill.objects.create(club=self.club, name="Frames", minutes=5, kinds=["taken"])
        plan = Plan.objects.create(athlete=self.athlete, **{**PLAN, "start": TODAY, "until": TODAY + timedelta(days=9)})
        board = Board.objects.create(match=self.found, clip=clip, marks=[])
        day = EventDay.objects.create(club=self.club, name="Thaw Cup", date=TODAY, ruleset="full-points")
        self.values = {
            "<int:pk>": self.athlete.pk,
            "<int:athlete>": self.athlete.pk,
            "<uuid:clip>": clip.pk,
            "<uuid:match>": self.found.pk,
            "<int:member>": self.club.memberships.get(user=self.own[Role.SCORER]).pk,
            "<uuid:invitation>": Invitation.objects.create(
                club=self.club, role=Role.SCORER, digest="d", ends=self.found.created
            ).pk,
            "<uuid:rules>": HouseRules.objects.create(club=self.club, author=self.coach, version=1, body=rules).pk,
            "<int:name>": TechniqueName.objects.create(club=self.club, name="x", spelled="x", technique="armbar").pk,
            "<str:key>": "k",
            "<str:kind>": "stuck",
            "<uuid:second>": uuid.uuid4(),
            "<uuid:export>": uuid.uuid4(),
            "<int:answer>": Answer.objects.create(match=self.found, text="mine").pk,
            "<int:note>": Note.objects.create(match=self.found, t_ms=1, text="mine").pk,
            "<uuid:cut>": Cut.objects.create(match=self.found, key="k", clip=clip, start_ms=0, end_ms=1, job=job).pk,
            "<uuid:job>": job.pk,
            "<uuid:failed>": job.pk,
            "<uuid:link>": Link.objects.create(match=self.found, digest="d", ends=self.found.created).pk,
            "<int:drill>": drill.pk,
            "<int:plan>": plan.pk,
            "<int:planned>": Planned.objects.create(plan=plan, drill=drill, day=plan.start).pk,
            "<int:day>": day.pk,
            "<int:fight>": Fight.objects.create(day=day, athlete=self.athlete, opponent="Una").pk,
            "<uuid:taken>": Import.objects.create(club=self.club, asked_by=self.coach, name="x.zip").pk,
            "<str:part>": "captions",
            "<str:form>": "csv",
            "<int:moment>": BoardPicture.objects.create(board=board, t_ms=1, jpeg=b"x").t_ms,
        }

    def test_what_is_asked_at_every_key_is_what_a_list_shows(self):
        """The question about one row, whose SQL is kept, says the same as the filter that lists are made with."""
        foreign = Athlete.objects.create(
            club=Club.objects.exclude(pk=self.club.pk).latest("pk"), name="Dan Ott", birth_year=1999
        )
        child = Athlete.objects.create(club=self.club, name="Finn Aro", birth_year=timezone.now().year - 9)
        for athlete in (foreign, child):
            clip = Clip.objects.create(club=athlete.club, name="y.webm", size=1, state="ready")
            values = {
                "opponent": "Bo",
                "ruleset": "full-points",
                "age": 20,
                "belt": "blue",
                "attire": "gi",
                "clip": clip,
            }
            set_up(self.coach, {**values, "athlete": athlete, "duration_ms": 300_000, "event": "Dune Day"})
        second = Match.objects.create(
            athlete=self.athlete, scorer=self.own[Role.COACH], second_of=self.found, ruleset="full-points", age=20
        )
        self.assertEqual(Match.objects.count(), 4)
        seen = 0
        for user in [*self.own.values(), *self.foreign.values(), self.stranger, self.coach, self.other]:
            for right in ROLES:
                access = Access(user.pk, right)
                for model, condition in ((Match, Access.matches), (Clip, Access.clips)):
                    shown = set(model.objects.filter(condition(access)).values_list("pk", flat=True))
                    for row in model.objects.all():
                        with self.subTest(user=user.username, right=right, row=row.pk):
                            self.assertEqual(allowed(model, condition, access, row.pk), row.pk in shown)
                    seen += len(shown)
        self.assertGreater(seen, 50)
        self.assertFalse(allowed(Match, Access.matches, Access(self.coach.pk, Right.SCORE), uuid.uuid4()))
        self.assertTrue(allowed(Match, Access.matches, Access(second.scorer_id, Right.SCORE), second.pk))
        self.assertFalse(allowed(Match, Access.matches, Access(second.scorer_id, Right.SCORE), self.found.pk))

    def asked(self, route, method, user):
        """The status of the answer to a user, or to nobody signed in; whatever it changed is undone."""
        address = route
        for name, value in self.values.items():
            address = address.replace(name, str(value))
        self.client.cookies.clear()
        if user is not None and user not in self.sessions:
            self.client.force_login(user)
            self.sessions[user] = self.client.cookies[settings.SESSION_COOKIE_NAME].value
        elif user is not None:
            self.client.cookies[settings.SESSION_COOKIE_NAME] = self.sessions[user]
        with transaction.atomic():
            body = None if method in ("get", "head") else BODIES.get((route, method), {})
            status = self.call(method, address, body).status_code
            transaction.set_rollback(True)
        _kept.cache_clear()  # what stood at the revisions that are undone
        return status

    def cells(self):
        """Every route and method of the table that asks for a role."""
        for route, methods in ROUTES.items():
            for method, right in methods.items():
                if right in ROLES:
                    yield route, method, right

    def test_every_route_is_in_the_table_and_no_other(self):
        own = {route for route in api_routes(get_resolver()) if not route.startswith(PACKAGE)}
        self.assertEqual(own, set(ROUTES))
        self.assertEqual(set(ROLES), set(Right) - {Right.ANYONE, Right.SIGNED_IN, Right.ADMINISTER})

    def test_in_the_own_club_each_role_does_what_the_table_says(self):
        for route, method, right in self.cells():
            for role, user in self.own.items():
                with self.subTest(route=route, method=method, role=role):
                    status = self.asked(route, method, user)
                    if role not in ROLES[right] or (role != Role.HEAD_COACH and (route, method) in FOR_HEAD_COACHES):
                        self.assertIn(status, (403, 404))
                    elif route not in NOT_HERE:
                        self.assertNotIn(status, (401, 403, 404))
                    self.assertLess(status, 500)

    def test_in_another_club_there_is_nothing(self):
        for route, method, right in self.cells():
            for role, user in [*self.foreign.items(), ("in no club", self.stranger)]:
                with self.subTest(route=route, method=method, role=role):
                    status = self.asked(route, method, user)
                    if "<" in route and route != "kinds/<str:kind>":  # the kinds of errors are the same in every club
                        self.assertEqual(status, 404)
                    elif role not in ROLES[right]:
                        self.assertEqual(status, 403)
        self.client.force_login(self.foreign[Role.HEAD_COACH])
        for listing in ("athletes", "clips", "unused-clips", "deleted-matches", "house-rules", "technique-names"):
            self.assertEqual(self.call("get", listing).json(), [], listing)
        self.assertEqual(self.call("get", "matches").json()["results"], [])
        self.assertEqual(self.call("get", "remembered").json()["opponents"], [])

    def test_the_installation_is_for_administrators(self):
        for user in [*self.own.values(), self.stranger]:
            for route, method in (("journal", "get"), ("clubs", "get"), ("clubs", "post")):
                self.assertEqual(self.asked(route, method, user), 403)
        self.stranger.is_superuser = True
        self.stranger.save()
        self.assertEqual(self.asked("journal", "get", self.stranger), 200)
        self.assertEqual(self.asked("clubs", "get", self.stranger), 200)
        self.assertEqual(self.asked("matches/<uuid:match>", "get", self.stranger), 404)  # it is no club's business

    def test_nobody_signed_in_is_refused(self):
        for route, methods in ROUTES.items():
            for method, right in methods.items():
                if right is not Right.ANYONE:
                    with self.subTest(route=route, method=method):
                        self.assertEqual(self.asked(route, method, None), 403)

    def test_of_a_child_only_the_coaches_named_for_it_see_anything(self):
        Athlete.objects.filter(pk=self.athlete.pk).update(birth_year=self.found.created.year - 12)
        ROLE = {role: self.own[role] for role in STAFF}
        for route, method, right in self.cells():
            if "<uuid:match>" not in route and "<uuid:clip>" not in route:
                continue
            for role, user in ROLE.items():
                with self.subTest(route=route, method=method, role=role):
                    self.assertEqual(self.asked(route, method, user), 404)
            self.athlete.coaches.set([ROLE[Role.COACH]])
            with self.subTest(route=route, method=method, named=True):
                if route not in NOT_HERE and Role.COACH in ROLES[right]:
                    self.assertNotIn(self.asked(route, method, ROLE[Role.COACH]), (403, 404))
                self.assertEqual(self.asked(route, method, ROLE[Role.HEAD_COACH]), 404)
            self.athlete.coaches.clear()

    def test_a_scorer_sees_what_was_given_to_them_and_no_other_match(self):
        Match.objects.filter(pk=self.found.pk).update(scorer=self.coach)
        for route, method, _ in self.cells():
            if "<uuid:match>" in route or "<uuid:clip>" in route:
                with self.subTest(route=route, method=method):
                    self.assertEqual(self.asked(route, method, self.own[Role.SCORER]), 404)
        self.client.force_login(self.own[Role.SCORER])
        self.assertEqual(self.call("get", "matches").json()["results"], [])

    def test_who_left_the_club_sees_nothing_any_more(self):
        Membership.objects.filter(user=self.own[Role.COACH]).delete()
        self.assertEqual(self.asked("matches/<uuid:match>", "get", self.own[Role.COACH]), 404)
        self.assertEqual(self.asked("matches", "get", self.own[Role.COACH]), 403)

    def test_a_match_cannot_borrow_what_is_not_the_club_s(self):
        clip = Clip.objects.create(club=self.club, uploader=self.coach, name="x.webm", size=1, state="ready")
        self.client.force_login(self.foreign[Role.HEAD_COACH])
        answer = self.set_up(log=LOG, clip=str(clip.pk))
        self.assertEqual({fault["path"] for fault in answer.json()["faults"]}, {"athlete", "clip"})
        self.assertEqual(self.call("get", f"matches/{uuid.uuid4()}").status_code, 404)
