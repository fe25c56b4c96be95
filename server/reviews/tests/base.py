"""A coach's scored match with a few errors in it."""

from __future__ import annotations

from footage.tests.base import committed_at_once
from matches.models import Match
from matches.tests.base import CoachCase

LOG = {
    "format": "jurata-match/1",
    "ruleset": "full-points",
    "duration": 120,
    "division": {"age": 24, "belt": "blue", "attire": "gi"},
    "observations": [
        {"t": 0, "kind": "clock", "action": "start", "id": "start"},
        {"t": 5, "kind": "pull", "by": "a", "id": "pull"},
        {"t": 5, "kind": "position", "position": "guard", "top": "b", "id": "guard"},
        {"t": 8, "kind": "grip", "by": "b", "grip": "cross collar", "until": 40, "id": "grip"},
        {"t": 42, "kind": "position", "position": "side", "top": "b", "id": "pass"},
        {"t": 46, "kind": "call", "to": "b", "points": 3, "id": "call"},
        {"t": 60, "kind": "position", "position": "mount", "top": "b", "id": "mount"},
        {"t": 62, "kind": "position", "position": "guard", "top": "b", "id": "half"},
        {"t": 80, "kind": "position", "position": "guard", "top": "a", "id": "sweep"},
        {"t": 82.2, "kind": "position", "position": "standing", "id": "up"},
        {"t": 120, "kind": "end", "how": "time", "id": "end"},
    ],
}
GRIPPED, PASSED, MOUNTED, UNHELD = "grip_unbroken-grip", "taken-pass", "taken-mount", "unheld-sweep"


class ReviewCase(CoachCase):
    def setUp(self):
        super().setUp()
        self.enterContext(committed_at_once())
        made = self.set_up(log=LOG).json()
        self.match_id = made["id"]
        self.scored = Match.objects.get(pk=self.match_id)

    def at(self, method, path, body=None, **more):
        """A call below the match."""
        return self.call(method, f"matches/{self.match_id}/{path}", body, **more)

    def review(self):
        return self.at("get", "review").json()

    def remark(self, key, **said):
        return self.at("put", f"errors/{key}", said)

    def accept(self, *keys):
        """Accept some errors, or all: what is accepted is shown in the report."""
        for key in keys or [error["key"] for error in self.review()["found"]]:
            self.remark(key, standing="accepted")
