"""What is derived from a match follows every change of what it was derived from."""

from __future__ import annotations

from unittest import mock

from django.db import connection
from django.test.utils import CaptureQueriesContext

from jurata_core.lessons import Group
from matches import summaries
from matches.models import ClubLesson, Match, Summary
from matches.tasks import freshen_all
from reviews.learning import taught
from reviews.tests.base import LOG, ReviewCase

TOE_HOLD = {
    "t": 95,
    "kind": "submission",
    "by": "a",
    "technique": "toe hold",
    "threat": "attempt",
    "until": 97,
    "id": "toe",
}
OWN = "own-1"
GROUP = Group("Full points", "blue", "Adult")


class Stale(ReviewCase):
    def change(self, **values):
        answer = self.call("patch", f"matches/{self.match_id}", values)
        self.assertEqual(answer.status_code, 200, answer.content)

    def test_another_belt_age_or_attire(self):
        """A toe hold is from brown belt on: at blue it is the worst error of the match, which it ends."""
        self.at("put", "observations/toe", TOE_HOLD)
        self.change(belt="brown")
        token = self.at("post", "links", {"days": 1}).json()["token"]
        for setting in (
            {"belt": "blue"},
            {"belt": "brown"},
            {"age": 15, "belt": "green"},
            {"age": 24, "belt": "brown", "attire": "nogi"},
        ):
            with self.subTest(setting):
                self.at("get", "prospects")
                self.change(**setting)
                found = {one["key"] for one in self.review()["found"]}
                barred = "illegal-toe" in found
                self.assertEqual(barred, setting.get("belt") in ("blue", "green"))
                self.assertEqual(self.at("get", "prospects").status_code, 200)
                chained = {key for chain in self.review()["chains"] for key in chain["members"]}
                self.assertEqual(chained, found)
                self.assertEqual(self.at("get", "report").status_code, 200)
                self.assertEqual(self.at("get", "report.pdf").status_code, 200)
                self.assertEqual(self.call("get", f"shared/{token}").status_code, 200)

    def test_where_a_coach_s_own_error_began(self):
        self.remark(OWN, title="Lost the grip", since=30, t=60, points=2)

        def swing():
            return next(one["swing"] for one in self.review()["found"] if one["key"] == OWN)

        before = swing()
        self.remark(OWN, since=59.5)
        self.assertNotEqual(swing(), before)

    def test_what_a_match_teaches_follows_its_setting(self):
        rates = taught(self.club.pk, GROUP).rates
        self.assertEqual(rates.matches, 1)
        self.at("put", "observations/toe", TOE_HOLD)
        self.change(belt="brown")
        whole = taught(self.club.pk, GROUP).rates.minutes
        self.change(belt="blue")
        self.assertLess(taught(self.club.pk, GROUP).rates.minutes, whole)  # it ends at the toe hold

    def test_matches_that_are_not_over_or_empty_teach_nothing(self):
        start, *_, end = LOG["observations"]
        for observations in ([], [start], [start, end], LOG["observations"][:-1]):
            self.set_up(log={**LOG, "observations": observations})
        self.assertEqual(taught(self.club.pk, GROUP).rates.matches, 1)

    def test_a_list_scores_each_revision_once(self):
        for _ in range(3):
            self.set_up(log=LOG)
        first = self.call("get", "matches").json()
        with mock.patch("matches.summaries.adjudicate") as scored:
            self.assertEqual(self.call("get", "matches").json(), first)
        scored.assert_not_called()
        self.change(duration_ms=100_000)
        self.at("delete", "observations/sweep")
        with mock.patch("matches.summaries.adjudicate", wraps=summaries.adjudicate) as scored:
            self.call("get", "matches")
        self.assertEqual(scored.call_count, 1)

    def test_another_core_counts_again(self):
        self.set_up(log=LOG)
        self.assertEqual(taught(self.club.pk, GROUP).rates.matches, 2)
        Summary.objects.update(core="an older one")
        ClubLesson.objects.update(core="an older one")
        self.assertEqual(taught(self.club.pk, GROUP).rates.matches, 2)
        self.assertEqual(Summary.objects.filter(core="an older one").count(), 0)

    def test_a_match_that_is_deleted_teaches_nothing_any_more(self):
        other = self.set_up(log=LOG).json()["id"]
        self.assertEqual(taught(self.club.pk, GROUP).rates.matches, 2)
        self.call("delete", f"matches/{other}")
        alone = taught(self.club.pk, GROUP).rates
        self.assertEqual(alone.matches, 1)
        Summary.objects.all().delete()
        self.assertEqual(ClubLesson.objects.get().lesson, {})
        self.assertEqual(taught(self.club.pk, GROUP).rates, alone)

    def test_the_worker_brings_all_up_to_date(self):
        for _ in range(3):
            self.set_up(log=LOG)
        freshen_all()
        self.assertEqual(summaries.stale(Match.objects.all()).count(), 0)
        self.assertEqual(
            {row[0] for row in Summary.objects.get(pk=self.match_id).mistakes},
            {e["key"] for e in self.review()["found"]},
        )

    def test_a_list_asks_the_database_as_often_for_many_matches(self):
        asked = []
        for many in (2, 8):
            for _ in range(many):
                self.set_up(log=LOG)
            self.call("get", "matches")
            with CaptureQueriesContext(connection) as queries:
                self.call("get", "matches")
            asked.append(len(queries))
        self.assertEqual(asked[0], asked[1])
