"""Clips that the simulated camera films in the background."""

from __future__ import annotations

import copy
from unittest import mock

from footage import filming
from footage.filming import film, have_filmed, kept
from footage.models import Clip
from jobs.actions import cancel
from jobs.models import Job
from jurata_core.practice import practice_log

from .base import ClipCase, committed_at_once, worked


def short_log():
    log = copy.deepcopy(practice_log())
    log["observations"] = [{"t": 0.2, "kind": "clock", "action": "start"}, {"t": 0.4, "kind": "end", "how": "time"}]
    return log


class Filming(ClipCase):
    def setUp(self):
        super().setUp()
        self.log = short_log()
        kept(self.log).unlink(missing_ok=True)
        self.addCleanup(lambda: kept(self.log).unlink(missing_ok=True))

    def test_it_can_be_played_once_it_was_filmed_and_is_filmed_once(self):
        with mock.patch.object(filming, "film", side_effect=film) as filmed, committed_at_once():
            for _ in range(2):
                clip = have_filmed(self.club.pk, self.coach.pk, "drawn.webm", self.log)
                self.assertEqual((clip.state, clip.job.kind), ("converting", "film a clip"))
                ordered = clip.job_id
                clip = worked(clip)
                self.assertEqual((clip.state, clip.content_type), ("ready", "video/webm"))
                self.assertFalse(Job.objects.filter(pk=ordered).exists())
                self.assertEqual(worked(clip).job.state, "done")  # its pictures and frames, as after an upload
        self.assertEqual(filmed.call_count, 1)
        answer = self.client.get(f"/api/clips/{clip.pk}/content")
        self.assertEqual(b"".join(answer)[:4], b"\x1a\x45\xdf\xa3")

    def test_a_camera_that_fails_says_so_and_can_be_asked_again(self):
        clip = have_filmed(self.club.pk, self.coach.pk, "drawn.webm", self.log)
        with mock.patch.object(filming, "render", side_effect=RuntimeError("ffmpeg could not write it")):
            clip = worked(clip)
        self.assertEqual((clip.state, clip.job.state), ("failed", "failed"))
        self.assertIn("ffmpeg could not write it", clip.job.trouble)
        again = self.client.post(f"/api/jobs/{clip.job_id}", {"do": "retry"}, content_type="application/json")
        self.assertEqual(again.status_code, 200)
        with committed_at_once():
            self.assertEqual(worked(clip).state, "ready")

    def test_a_filming_that_is_cancelled_leaves_nothing_behind(self):
        clip = have_filmed(self.club.pk, self.coach.pk, "drawn.webm", self.log)

        def render(log, path, progress):
            path.write_bytes(b"half of it")
            cancel(Job.objects.get(pk=clip.job_id))
            progress(0.5)

        with mock.patch.object(filming, "render", side_effect=render):
            clip = worked(clip)
        self.assertEqual((clip.state, clip.job.state), ("failed", "cancelled"))
        self.assertEqual(list(kept(self.log).parent.glob(f"{kept(self.log).stem}*")), [])
        self.assertEqual(Clip.objects.count(), 1)
