"""A deleted match can be restored for a while, and is then removed with all that belongs to it."""

from __future__ import annotations

from datetime import timedelta

from django.contrib.auth.models import User
from django.utils import timezone

from clubs.actions import join
from clubs.models import Role
from matches.models import ClubLesson, Match, Observation
from matches.summaries import known_by
from matches.tasks import remove_old
from matches.tests.base import CoachCase
from matches.tests.test_list import LOST
from reviews.actions import make_link


class Deleted(CoachCase):
    def setUp(self):
        super().setUp()
        self.kept = Match.objects.get(pk=self.set_up(log=LOST).json()["id"])

    def deleted(self):
        return self.call("get", "deleted-matches").json()

    def test_it_is_gone_from_everywhere_and_comes_back_whole(self):
        _, token = make_link(self.kept, 5)
        before = self.call("get", f"matches/{self.kept.pk}").json()
        self.assertEqual(self.call("delete", f"matches/{self.kept.pk}").status_code, 204)
        self.assertEqual(self.call("get", f"matches/{self.kept.pk}").status_code, 404)
        self.assertEqual(self.call("get", "matches").json()["count"], 0)
        self.assertEqual(self.client.get(f"/api/shared/{token}").status_code, 404)
        (row,) = self.deleted()
        self.assertEqual((row["opponent"], row["athlete_name"]), ("Bo Calder", "Ada Brenn"))
        self.assertEqual(self.call("post", f"deleted-matches/{self.kept.pk}").status_code, 204)
        self.assertEqual(self.call("get", f"matches/{self.kept.pk}").json(), before)
        self.assertEqual(self.client.get(f"/api/shared/{token}").status_code, 200)
        self.assertEqual(self.deleted(), [])

    def test_it_teaches_nothing_until_it_is_back(self):
        taught = known_by(self.club.pk).lesson
        self.call("delete", f"matches/{self.kept.pk}")
        self.assertNotEqual(ClubLesson.objects.get(club=self.club).lesson, taught)
        self.call("post", f"deleted-matches/{self.kept.pk}")
        self.assertEqual(known_by(self.club.pk).lesson, taught)

    def test_second_scores_go_and_come_with_it(self):
        join(self.club, self.other, Role.SCORER)
        self.call("post", f"matches/{self.kept.pk}/seconds", {"user": self.other.pk})
        second = Match.objects.get(second_of=self.kept)
        self.call("delete", f"matches/{self.kept.pk}")
        self.assertFalse(Match.objects.exists())
        self.assertEqual([one["id"] for one in self.deleted()], [str(self.kept.pk)])  # the other comes back with it
        self.client.force_login(self.other)
        self.assertEqual(self.call("post", f"deleted-matches/{second.pk}").status_code, 404)
        self.client.force_login(self.coach)
        self.call("post", f"deleted-matches/{self.kept.pk}")
        self.assertEqual(set(Match.objects.all()), {self.kept, second})

    def test_it_is_removed_after_thirty_days_and_not_before(self):
        self.call("delete", f"matches/{self.kept.pk}")
        for days, left in ((29, 1), (31, 0)):
            Match.with_deleted.update(deleted=timezone.now() - timedelta(days=days))
            remove_old()
            self.assertEqual(Match.with_deleted.count(), left)
        self.assertFalse(Observation.objects.exists())

    def test_it_is_removed_at_once_if_that_is_asked_for(self):
        self.call("delete", f"matches/{self.kept.pk}")
        refused = self.call("delete", f"athletes/{self.athlete.pk}")
        self.assertEqual(refused.status_code, 409)
        self.assertIn("can still be restored", refused.json()["message"])
        self.assertEqual(self.call("delete", f"deleted-matches/{self.kept.pk}").status_code, 204)
        self.assertFalse(Match.with_deleted.exists())
        self.assertEqual(self.call("delete", f"athletes/{self.athlete.pk}").status_code, 204)

    def test_what_was_not_deleted_can_be_neither_restored_nor_removed(self):
        for method in ("post", "delete"):
            self.assertEqual(self.call(method, f"deleted-matches/{self.kept.pk}").status_code, 404)
        self.call("delete", f"matches/{self.kept.pk}")
        self.client.force_login(User.objects.get(username="other"))
        for method in ("post", "delete"):
            self.assertEqual(self.call(method, f"deleted-matches/{self.kept.pk}").status_code, 404)
        self.assertEqual(Match.with_deleted.count(), 1)
