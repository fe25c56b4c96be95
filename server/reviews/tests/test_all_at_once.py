"""A change of anything a match is about is seen by every screen and file at once.

Every answer is asked for before a change and after it, and then once more with nothing kept: all must be alike.
"""

from __future__ import annotations

from matches import standing as standing_module
from matches.models import ClubLesson, Match, Summary
from reviews import learning
from reviews import queries as reading
from reviews.tests.base import PASSED, ReviewCase
from roster.models import Athlete

OWN = "own-1"
CHANGES = {
    "ruleset": {"ruleset": "submission-only"},
    "house rules": {"ruleset": {"extends": "full-points", "hold_seconds": 5}},
    "length": {"duration_ms": 100_000},
    "age": {"age": 15},
    "belt": {"belt": "white"},
    "attire": {"attire": "nogi"},
    "opponent": {"opponent": "Cleo Marr"},
    "event": {"event": "Harbour open"},
    "date": {"date": "2026-05-01"},
    "readings": {"readings": [{"t": 10, "left": 100}]},
}


class AllAtOnce(ReviewCase):
    def setUp(self):
        super().setUp()
        self.at(
            "put",
            "observations/toe",
            {"t": 95, "kind": "submission", "by": "a", "technique": "toe hold", "threat": "close"},
        )
        self.token = self.at("post", "links", {"days": 1}).json()["token"]

    def answers(self):
        """What every screen and file says of the match."""
        paths = [
            "", "outlook?t=50", "log", "revision", "attention", "audit", "review", "prospects", "notes", "cuts", "letter", "report", "questions", "questions/html", "file/csv", "file/vtt", "file/text",
        ]  # fmt: skip
        found = {path: self.at("get", path) if path else self.call("get", f"matches/{self.match_id}") for path in paths}
        found["what-if"] = self.at("post", "what-if", {"ruleset": "late-points"})
        found["list"] = self.call("get", "matches")
        found["shared"] = self.call("get", f"shared/{self.token}")
        for path, answer in found.items():
            self.assertEqual(answer.status_code, 200, (path, answer.content[:200]))
        return {path: _read(answer) for path, answer in found.items()}

    def forgotten(self):
        """The same with nothing kept from before."""
        standing_module._kept.cache_clear()
        reading._outlook.cache_clear()
        reading._spread.cache_clear()
        learning._taught.cache_clear()
        Summary.objects.all().delete()
        ClubLesson.objects.all().delete()
        return self.answers()

    def followed(self, change):
        before = self.answers()
        change()
        now = self.answers()
        self.assertNotEqual(now, before)
        afresh = self.forgotten()
        for path, content in now.items():
            self.assertEqual(content, afresh[path], path)

    def test_every_field_of_a_match(self):
        for what, change in CHANGES.items():
            with self.subTest(what):
                self.followed(lambda change=change: self.call("patch", f"matches/{self.match_id}", change))

    def test_its_athlete(self):
        other = Athlete.objects.create(club=self.club, name="Runa Holt", birth_year=2004, belt="blue")
        self.followed(lambda: self.call("patch", f"matches/{self.match_id}", {"athlete": other.pk}))
        self.followed(lambda: self.call("patch", f"athletes/{other.pk}", {"name": "Runa Sund"}))

    def test_its_log(self):
        for method, key, body in (
            ("put", "new", {"t": 70, "kind": "position", "position": "mount", "top": "b"}),
            ("put", "new", {"t": 71, "kind": "position", "position": "back", "top": "b", "sure": False}),
            ("delete", "new", None),
            ("delete", "end", None),
        ):
            with self.subTest(f"{method} {key}"):
                self.followed(lambda method=method, key=key, body=body: self.at(method, f"observations/{key}", body))

    def test_its_review(self):
        for method, key, said in (
            ("put", PASSED, {"standing": "dismissed"}),
            ("put", OWN, {"title": "Lost the grip", "since": 30, "t": 60, "points": 2}),
            ("put", OWN, {"points": 4, "since": 59.5}),
            ("delete", OWN, None),
        ):
            with self.subTest(f"{method} {key}"):
                self.followed(lambda method=method, key=key, said=said: self.at(method, f"errors/{key}", said))

    def test_what_other_matches_teach(self):
        other = self.set_up(log=Match.objects.get(pk=self.match_id) and self.at("get", "log").json()).json()["id"]
        self.followed(lambda: self.call("delete", f"matches/{other}/observations/end"))
        self.followed(lambda: self.call("delete", f"matches/{other}"))


def _read(answer):
    """What an answer says; the order of names in JSON says nothing."""
    return answer.json() if answer["Content-Type"].startswith("application/json") else answer.content
