"""How long a club keeps clips: what is proposed, kept longer, and deleted by the worker."""

from __future__ import annotations

from datetime import date, timedelta

from django.utils import timezone

from accounts.models import Notice
from footage.models import Clip
from jobs.running import run
from owndata.models import Retention
from owndata.retention import give_notice, old_clips

from .base import OwnDataCase

TODAY = date(2026, 5, 31)


class OldClips(OwnDataCase):
    def setUp(self):
        super().setUp()
        self.old = self.clip("old.mp4", filmed=date(2024, 5, 30))
        self.new = self.clip("new.mp4", filmed=date(2024, 6, 1))
        self.undated = self.clip("undated.mp4")
        Clip.objects.filter(pk=self.undated.pk).update(created=timezone.now() - timedelta(days=365 * 9))
        self.filmed = self.clip("filmed.webm", filmed=date(2020, 1, 1), script={})  # the simulated camera's

    def proposed(self, months, today=TODAY):
        Retention.objects.update_or_create(club=self.club, defaults={"months": months})
        return {clip.name for clip in old_clips(self.club, today)}

    def test_those_are_proposed_that_are_older_than_the_club_keeps_them(self):
        self.assertEqual(self.proposed(None), set())
        self.assertEqual(self.proposed(24), {"old.mp4", "undated.mp4"})
        self.assertEqual(self.proposed(24, date(2026, 6, 2)), {"old.mp4", "new.mp4", "undated.mp4"})
        self.assertEqual(self.proposed(25), {"undated.mp4"})

    def test_the_worker_deletes_what_a_head_coach_confirms_and_reports_it(self):
        self.scored.clip = self.old
        self.scored.save()
        shown = self.ask("put", "club/data", {"months": 24}).json()
        self.assertEqual({one["name"]: one["matches"] for one in shown["old"]}["old.mp4"], 1)
        young = self.clip("young.mp4")
        asked = self.ask("post", "club/data/clips", {"clips": [str(self.old.pk), str(young.pk)]}).json()
        run(asked["clearings"][0]["job"]["id"])
        done = self.ask("get", "club/data").json()["clearings"][0]
        self.assertEqual((done["deleted"], done["freed"]), (1, len(b"a picture") + len(b"small")))
        self.assertEqual([self.old.path.exists(), young.path.exists()], [False, True])  # only what is old is deleted
        self.scored.refresh_from_db()
        self.assertIsNone(self.scored.clip)
        self.assertEqual(self.scored.observations.count(), 11)  # the log is kept
        self.assertIn("1 old clip was deleted", Notice.objects.filter(kind="made").get().text)

    def test_a_clip_can_be_kept_longer(self):
        self.ask("put", "club/data", {"months": 12})
        kept = self.ask("put", "club/data/clips", {"clips": [str(self.undated.pk)]}).json()
        self.assertNotIn("undated.mp4", {one["name"] for one in kept["old"]})
        later = timezone.localdate() + timedelta(days=370)
        self.assertIn("undated.mp4", {clip.name for clip in old_clips(self.club, later)})

    def test_head_coaches_get_notice_once_a_month(self):
        Retention.objects.create(club=self.club, months=24)
        for today, notices in ((TODAY, 1), (TODAY + timedelta(days=29), 1), (TODAY + timedelta(days=30), 2)):
            give_notice(today)
            self.assertEqual(Notice.objects.filter(user=self.coach, kind="old_clips").count(), notices, today)
        self.assertIn("2 clips are older", Notice.objects.filter(kind="old_clips").last().text)

    def test_wrong_values_name_their_field(self):
        self.assertEqual(self.ask("put", "club/data", {"months": 0}).json()["faults"][0]["path"], "months")
        self.assertEqual(self.ask("post", "club/data/clips", {"clips": []}).json()["faults"][0]["path"], "clips")
