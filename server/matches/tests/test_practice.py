"""The practice match: one for each coach, which counts nowhere."""

from __future__ import annotations

from footage.models import Clip
from jurata_core.practice import practice_log
from matches.models import Match
from roster.models import Athlete

from .base import CoachCase


class Practice(CoachCase):
    def begin(self, **asked):
        return self.call("post", "practice", asked).json()["id"]

    def test_it_is_begun_once_and_found_again(self):
        begun = self.begin()
        self.assertEqual(self.begin(), begun)
        self.assertEqual((Match.objects.count(), Clip.objects.count()), (1, 1))
        desk = self.call("get", f"matches/{begun}").json()
        self.assertTrue(desk["match"]["practice"])
        self.assertEqual((desk["observations"], desk["parts"][0]["clip"]["state"]), ([], "converting"))
        self.put(Match.objects.get(), "start", t=4, kind="clock", action="start")
        self.assertNotEqual(self.begin(again=True), begun)
        self.assertEqual((Match.with_deleted.count(), Clip.objects.count()), (1, 1))
        self.assertEqual(Match.objects.get().observations.count(), 0)

    def test_it_counts_nowhere(self):
        self.begin()
        for listing in ("matches", "remembered", "waiting", "athletes"):
            self.assertNotIn("Odell", str(self.call("get", listing).json()))
        self.assertEqual(self.call("get", "matches").json()["count"], 0)
        for listing in ("clips", "unused-clips"):
            self.assertEqual(self.call("get", listing).json(), [])
        self.assertEqual([one["name"] for one in self.call("get", "athletes").json()], ["Ada Brenn"])
        self.assertEqual(self.call("get", "waiting").json()["not_scored"], 0)

    def test_it_is_set_against_what_its_clip_shows(self):
        begun = self.begin()
        for number, seen in enumerate(practice_log()["observations"]):
            self.put(Match.objects.get(), f"k{number}", **seen)
        found = self.call("get", f"matches/{begun}/practice").json()
        self.assertEqual(found["score"], found["own"])
        self.assertIn("You logged 9 of 9 moments", found["because"])
        self.assertEqual(self.call("get", f"matches/{self.match().pk}/practice").status_code, 404)

    def test_each_coach_has_one(self):
        begun = self.begin()
        self.client.force_login(self.other)
        self.assertNotEqual(self.begin(), begun)
        self.assertEqual(Athlete.objects.filter(practice=True).count(), 2)
