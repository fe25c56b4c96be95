"""A coach with an athlete and a match, and what a browser makes of a change."""

from __future__ import annotations

from django.contrib.auth.models import User
from django.test import TestCase

from clubs.actions import found_club
from jurata_core.adjudication import adjudicate
from jurata_core.match_log import read_log
from matches.models import Match
from roster.models import Athlete

LOG = {
    "format": "jurata-match/1",
    "ruleset": "full-points",
    "duration": 300,
    "division": {"age": 24, "belt": "blue", "attire": "gi"},
    "observations": [
        {"t": 0, "kind": "clock", "action": "start"},
        {"t": 9, "kind": "position", "position": "side", "top": "a", "seat": "north stand"},
        {"t": 300, "kind": "end", "how": "time"},
    ],
}


def verdict_on(log):
    """What the core says of a log by itself."""
    return adjudicate(read_log(log)).as_json()


def numbered(exchanges):
    """Exchanges with their rows numbered through the match."""
    first, found = {"ledger_rows": 0, "missed_rows": 0}, []
    for one in exchanges:
        rows = {name: list(range(first[name], first[name] + len(one[name]))) for name in first}
        first = {name: first[name] + len(one[name]) for name in first}
        found.append({**one, **rows})
    return found


def pieced(before, change):
    """What the browser makes of a change: the log and verdict before it with the splices done."""

    def done(was, now):
        if not (isinstance(now, dict) and set(now) == {"start", "remove", "add"}):
            return now
        end = now["start"] + now["remove"]
        return [*was[: now["start"]], *now["add"], *was[end:]]

    if change["base"] is None:
        before = {"observations": [], "revisions": {}, "verdict": {name: [] for name in change["verdict"]}}
    verdict = {name: done(before["verdict"][name], part) for name, part in change["verdict"].items()}
    verdict["exchanges"] = numbered(verdict["exchanges"])
    return {
        "observations": done(before["observations"], change["observations"]),
        "revisions": {**before["revisions"], **change["revisions"]},
        "revision": change["revision"],
        "verdict": verdict,
    }


class CoachCase(TestCase):
    def setUp(self):
        self.coach = User.objects.create_user("coach", password="amber")
        self.other = User.objects.create_user("other", password="sea")
        self.club = found_club("Dune Grappling", self.coach)
        found_club("Tide Grappling", self.other)
        self.client.force_login(self.coach)
        self.athlete = Athlete.objects.create(club=self.club, name="Ada Brenn", birth_year=2000, belt="blue")

    def call(self, method, path, body=None, **more):
        return getattr(self.client, method)(f"/api/{path}", body, content_type="application/json", **more)

    def set_up(self, **more):
        body = {"athlete": self.athlete.pk, "opponent": "Bo Calder", "event": "", "date": None, **more}
        return self.call("post", "matches", body)

    def match(self):
        return Match.objects.get(pk=self.set_up(log=LOG).json()["id"])

    def put(self, match, key, **body):
        return self.call("put", f"matches/{match.pk}/observations/{key}", body)
