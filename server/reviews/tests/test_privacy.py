"""Whose eyes a match is for: every route of the API."""

from __future__ import annotations

import uuid

from django.urls import URLPattern, URLResolver, get_resolver

from footage.models import Clip
from jobs.models import Job
from matches.models import Match
from matches.tests.base import LOG, CoachCase
from reviews.models import Cut, Link, Note
from rulebook.models import HouseRules, TechniqueName


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


# Routes of what is a coach's own, with calls that would look at it or change it.
OWN = {
    "athletes/<int:pk>": [("get", {}), ("patch", {"name": "Thief"}), ("put", {}), ("delete", {})],
    "clips/<uuid:clip>": [("get", {}), ("delete", {})],
    "clips/<uuid:clip>/upload": [("head", {}), ("patch", {})],
    "jobs/<uuid:job>": [("get", None), ("post", {"do": "cancel"})],
    "clips/<uuid:clip>/frames": [("get", {})],
    "clips/<uuid:clip>/content": [("get", {})],
    "clips/<uuid:clip>/pictures/<str:picture>": [("get", {})],
    "matches/<uuid:match>": [("get", {}), ("patch", {"opponent": "Thief"}), ("post", {"age": 9}), ("delete", {})],
    "matches/<uuid:match>/observations/<str:key>": [("put", {"t": 1, "kind": "exchange"}), ("delete", {})],
    "matches/<uuid:match>/outlook": [("get", {})],
    "matches/<uuid:match>/parts": [("put", {"parts": []})],
    "matches/<uuid:match>/log": [("get", {})],
    "matches/<uuid:match>/practice": [("get", {})],
    "matches/<uuid:match>/revision": [("get", {})],
    "matches/<uuid:match>/history": [("get", {})],
    "matches/<uuid:match>/attention": [("get", {})],
    "matches/<uuid:match>/audit": [("get", {})],
    "matches/<uuid:match>/seconds": [("get", {}), ("post", {"name": "other"})],
    "matches/<uuid:match>/calls": [("post", {"lines": ""})],
    "matches/<uuid:match>/finished": [("post", {})],
    "matches/<uuid:match>/what-if": [("post", {"ruleset": "late-points"})],
    "deleted-matches/<uuid:match>": [("post", {}), ("delete", {})],
    "technique-names/<int:name>": [("delete", {})],
    "house-rules/<uuid:rules>": [("patch", {"shared": True}), ("delete", {})],
    "house-rules/<uuid:rules>/file": [("get", {})],
    "matches/<uuid:match>/seconds/<uuid:second>": [("get", {})],
    "matches/<uuid:match>/review": [("get", {})],
    "matches/<uuid:match>/prospects": [("get", {})],
    "matches/<uuid:match>/prospects/spread": [("get", {})],
    "matches/<uuid:match>/errors/<str:key>": [("put", {"standing": "dismissed"}), ("delete", {})],
    "matches/<uuid:match>/chains/<str:key>": [("put", {"accepted": True})],
    "matches/<uuid:match>/notes": [("get", {}), ("post", {"t": 1, "text": "x"})],
    "matches/<uuid:match>/notes/<int:note>": [("put", {"t": 1, "text": "x"}), ("delete", {})],
    "matches/<uuid:match>/cuts": [("get", {}), ("post", {"key": "k"})],
    "matches/<uuid:match>/cuts/<uuid:cut>": [("delete", {})],
    "matches/<uuid:match>/cuts/<uuid:cut>/<str:part>": [("get", {})],
    "matches/<uuid:match>/letter": [("get", {}), ("put", {"greeting": "x", "well": ""})],
    "matches/<uuid:match>/report": [("get", {})],
    "matches/<uuid:match>/report.pdf": [("get", {})],
    "matches/<uuid:match>/links": [("get", {}), ("post", {"days": 1})],
    "matches/<uuid:match>/links/<uuid:link>": [("delete", {})],
    "matches/<uuid:match>/questions": [("get", {})],
    "matches/<uuid:match>/questions/<str:form>": [("get", {})],
    "matches/<uuid:match>/file/<str:form>": [("get", {})],
}
# Routes of what is every user's, or each user's own by itself.
SHARED = {
    "athletes": "get",
    "clips": "get",
    "unused-clips": "get",
    "deleted-matches": "get",
    "matches": "get",
    "rulesets": "get",
    "legality": "get",
    "techniques": "get",
    "house-rules": "get",
    "technique-names": "get",
    "division": "get",
    "drill": "get",
    "drill/progress": "get",
    "division/length": "get",
    "division/technique": "get",
    "division/differences": "get",
    "division/briefing": "get",
    "preferences": "get",
    "table": "get",
    "remembered": "get",
    "waiting": "get",
    "practice": "post",
    "key-card": "post",
    "causes": "get",
    "kinds": "get",
    "kinds/<str:kind>": "put",
}


class Privacy(CoachCase):
    """Each coach sees only their own data: every route, for a stranger and for somebody not signed in."""

    def routes(self):
        match, clip = self.match(), Clip.objects.create(owner=self.coach, name="x.webm", size=1, state="ready")
        rules = HouseRules.objects.create(owner=self.coach, version=1, body={"extends": "full-points", "title": "Ours"})
        job = Job.objects.create(owner=self.coach, kind="cut a clip", state="done")
        values = {
            "<int:pk>": self.athlete.pk,
            "<uuid:clip>": clip.pk,
            "<uuid:match>": match.pk,
            "<uuid:rules>": rules.pk,
            "<int:name>": TechniqueName.objects.create(owner=self.coach, name="x", spelled="x", technique="armbar").pk,
            "<str:key>": "k",
            "<str:kind>": "stuck",
            "<uuid:second>": uuid.uuid4(),
            "<int:note>": Note.objects.create(match=match, t_ms=1, text="mine").pk,
            "<uuid:cut>": Cut.objects.create(match=match, key="k", clip=clip, start_ms=0, end_ms=1, job=job).pk,
            "<uuid:job>": job.pk,
            "<uuid:link>": Link.objects.create(match=match, digest="d", ends=match.created).pk,
            "<str:part>": "captions",
            "<str:form>": "csv",
        }

        def filled(route):
            for name, value in values.items():
                route = route.replace(name, str(value))
            return route

        return OWN, SHARED, filled

    def test_every_route_is_looked_at(self):
        own, shared, _ = self.routes()
        routes = {route for route in api_routes(get_resolver()) if not route.startswith("shared/")}
        self.assertEqual(
            routes, {*own, *shared, "session", "health"}
        )  # what a link shows: reviews/tests/test_sharing.py

    def test_a_stranger_finds_nothing(self):
        own, _, filled = self.routes()
        self.client.force_login(self.other)
        for route, calls in own.items():
            for method, body in calls:
                with self.subTest(route=route, method=method):
                    self.assertEqual(self.call(method, filled(route), body).status_code, 404)
        for listing in ("athletes", "clips", "matches"):
            shown = self.call("get", listing).json()
            self.assertEqual(shown["results"] if listing == "matches" else shown, [])
        self.assertTrue(Match.objects.filter(opponent="Bo Calder").exists())

    def test_nobody_signed_in_is_refused(self):
        own, shared, filled = self.routes()
        self.client.logout()
        for route, calls in own.items():
            for method, body in calls:
                with self.subTest(route=route, method=method):
                    self.assertEqual(self.call(method, filled(route), body).status_code, 403)
        for route in shared:
            self.assertEqual(self.call(shared[route], route).status_code, 403)

    def test_a_match_cannot_borrow_what_is_not_ones_own(self):
        clip = Clip.objects.create(owner=self.coach, name="x.webm", size=1, state="ready")
        self.client.force_login(self.other)
        answer = self.set_up(log=LOG, clip=str(clip.pk))
        self.assertEqual({fault["path"] for fault in answer.json()["faults"]}, {"athlete", "clip"})
        self.assertEqual(self.call("get", f"matches/{uuid.uuid4()}").status_code, 404)
