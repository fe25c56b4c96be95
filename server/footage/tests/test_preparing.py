"""What the worker makes of a clip."""

from __future__ import annotations

import os
import time
import uuid
from unittest import mock

from django.db import connection
from procrastinate.exceptions import JobAborted

from footage import tasks
from footage.models import Clip
from footage.probe import Frames, frames_in, probe
from footage.tasks import _seeks_well
from footage.tools import Limits
from footage.upkeep import mend, remove_orphans, tidy
from jobs.actions import retry_set_aside
from jobs.models import Job
from jobs.running import NotMade, Stopped, run
from jobs.tasks import CUT_OFF, LOST, MOST_TRIES, give_up

from .base import ClipCase, made, worked


class Preparing(ClipCase):
    """The worker's task, run here; that the worker itself runs it is seen in a journey."""

    def prepared(self, name, *arguments):
        self.upload(name, made(name, *arguments))
        clip = Clip.objects.get(name=name)
        before = clip.state
        return before, worked(clip)

    def test_a_clip_that_plays_gets_its_pictures_only(self):
        before, clip = self.prepared("a.mp4", "-c:v", "libx264", "-pix_fmt", "yuv420p")
        self.assertEqual((before, clip.state, clip.job.state, clip.played_as), ("ready", "ready", "done", "video/mp4"))
        for picture in ("poster", "strip"):
            answer = self.client.get(f"/api/clips/{clip.pk}/pictures/{picture}")
            self.assertTrue(b"".join(answer).startswith(b"\xff\xd8"), picture)
        self.assertEqual(self.client.get(f"/api/clips/{clip.pk}/pictures/passport").status_code, 404)
        self.assertEqual(self.client.get(f"/api/clips/{clip.pk}/frames").json()["times"], list(range(0, 1000, 100)))

    def test_what_browsers_cannot_play_gets_a_copy_true_to_the_frame(self):
        uneven = "setpts='if(lt(N,5),N/10,0.5+(N-5)/4)/TB'"
        cases = {
            "old.avi": ("-c:v", "mpeg4"),
            "phone.mov": ("-c:v", "libx265", "-x265-params", "log-level=none", "-pix_fmt", "yuv420p"),
            "uneven.mkv": ("-vf", uneven, "-fps_mode", "vfr", "-c:v", "mpeg4"),
        }
        for name, arguments in cases.items():
            with self.subTest(name):
                before, clip = self.prepared(name, *arguments)
                self.assertEqual(
                    (before, clip.state, clip.job.state, clip.proxied),
                    ("converting", "ready", "done", True),
                    clip.job.trouble,
                )
                path, content_type = clip.played
                self.assertTrue(probe(path).playable)
                self.assertEqual(content_type, "video/mp4")
                original, copy = frames_in(clip.path, clip.demuxer).times, frames_in(path, "mov").times
                self.assertEqual(len(original), len(copy))
                self.assertLessEqual(max(abs(t - other) for t, other in zip(original, copy, strict=True)), 2)
                answer = self.client.get(f"/api/clips/{clip.pk}/content?of=original")
                self.assertEqual(b"".join(answer), clip.path.read_bytes())

    def test_rare_keyframes_get_a_copy_with_many(self):
        source = ("-vf", "loop=loop=5:size=10,fps=10", "-c:v", "libx264", "-g", "600", "-pix_fmt", "yuv420p")
        before, clip = self.prepared("rare.mp4", *source)
        self.assertGreater(frames_in(clip.path, "mov").longest_gap, 2500)
        self.assertEqual((before, clip.proxied), ("ready", True))
        self.assertLessEqual(frames_in(clip.played[0], "mov").longest_gap, 1300)

    def test_a_large_picture_needs_its_keyframes_closer(self):
        one_a_second = Frames(times=list(range(0, 4000, 33)), keys=[0, 990, 1980, 2970])
        self.assertEqual(one_a_second.longest_run, 32)  # the last one goes on to the end
        for width, height, well in ((640, 360, True), (1920, 1080, False)):
            with self.subTest(width=width):
                self.assertEqual(_seeks_well(Clip(width=width, height=height), one_a_second), well)
        closer = Frames(times=list(range(0, 4000, 40)), keys=list(range(0, 4000, 240)))
        self.assertTrue(_seeks_well(Clip(width=1920, height=1080), closer))

    def test_cancelled_and_tried_again(self):
        self.upload("old.avi", made("old.avi", "-c:v", "mpeg4"))
        clip = Clip.objects.get()
        act = f"/api/jobs/{clip.job_id}"
        cancelled = self.client.post(act, {"do": "cancel"}, content_type="application/json").json()
        self.assertEqual((cancelled["state"], Clip.objects.get().state), ("cancelled", "failed"))
        worked(clip)  # a worker that took the job at that moment finds it cancelled
        self.assertEqual(clip.job.state, "cancelled")
        again = self.client.post(act, {"do": "cancel"}, content_type="application/json")
        self.assertEqual(again.json()["code"], "not_at_work")
        retried = self.client.post(act, {"do": "retry"}, content_type="application/json").json()
        self.assertEqual((retried["state"], Clip.objects.get().state), ("waiting", "converting"))
        self.assertEqual(worked(clip).state, "ready")

    def test_work_stops_in_the_middle_when_it_is_cancelled(self):
        self.upload("old.avi", made("old.avi", "-c:v", "mpeg4"))
        clip = Clip.objects.get()
        went_on = []

        def cancelled_meanwhile(source, into, widest, progress):
            Job.objects.update(state="cancelled")
            progress.reported_at = 0  # half a second later
            went_on.append(progress(0.5))
            raise Stopped

        with mock.patch("footage.tasks.make_proxy", cancelled_meanwhile):
            worked(clip)
        self.assertEqual((went_on, clip.played_as, clip.job.state), ([False], "", "cancelled"))

    def test_a_tool_that_takes_too_long_leaves_the_clip_to_be_tried_again(self):
        self.upload("old.avi", made("old.avi", "-c:v", "mpeg4"))
        clip = Clip.objects.get()
        with mock.patch("footage.probe.TO_LIST", Limits(1 << 30, 20, -1)):
            worked(clip)
        job = clip.job
        self.assertEqual((clip.state, job.state, job.trouble), ("failed", "failed", "it did not finish in time"))
        retried = self.client.post(f"/api/jobs/{clip.job_id}", {"do": "retry"}, content_type="application/json")
        self.assertEqual(retried.json()["state"], "waiting")

    def test_work_that_the_end_of_its_worker_cuts_off_is_done_by_the_next_one(self):
        self.upload("old.avi", made("old.avi", "-c:v", "mpeg4"))
        clip = Clip.objects.get()
        with self.assertRaises(JobAborted):
            worked(clip, ending=lambda: True)
        self.assertEqual((clip.state, clip.job.state), ("converting", "waiting"))
        for _ in range(2):  # doing it twice does no harm
            worked(clip)
            self.assertEqual((clip.state, clip.job.state, clip.played_as), ("ready", "done", "video/mp4"))
        names = {"", ".frames.json", ".poster.jpg", ".strip.jpg", ".proxy.mp4"}
        self.assertEqual({path.name for path in clip.path.parent.iterdir()}, {f"{clip.pk}{name}" for name in names})

    def test_a_worker_that_seemed_dead_spoils_nothing(self):
        """It was only held up: meanwhile another one has done the same work, and then it goes on."""
        self.upload("a.mp4", made("a.mp4", "-pix_fmt", "yuv420p"))
        clip = Clip.objects.get()
        make, inside = tasks.make_pictures, []

        def held_up(*arguments):
            make(*arguments)
            if not inside:
                inside.append(1)
                run(str(clip.job_id))
                inside.append(sorted(path.name for path in clip.path.parent.iterdir()))

        with mock.patch("footage.tasks.make_pictures", held_up):
            worked(clip)
        self.assertEqual((clip.job.state, clip.job.tries, clip.played_as), ("done", 2, "video/mp4"))
        left = sorted(path.name for path in clip.path.parent.iterdir())
        self.assertEqual(left, [name for name in inside[1] if not name.endswith(".part")])
        self.assertEqual(probe(clip.copy).duration_ms, clip.duration_ms)

    def test_what_a_killed_worker_left_half_made_goes_after_some_days(self):
        self.upload("a.mp4", made("a.mp4", "-pix_fmt", "yuv420p"))
        clip = worked(Clip.objects.get())
        left, fresh = clip.beside("proxy.1.part"), clip.beside("proxy.2.part")
        for path, days in ((left, 5), (fresh, 3)):
            path.write_bytes(b"half")
            os.utime(path, (0, time.time() - days * 24 * 3600))
        tidy()
        self.assertEqual((left.exists(), fresh.exists(), clip.copy.exists()), (False, True, True))

    def test_every_minute_what_was_left_half_done_is_mended(self):
        self.upload("old.avi", made("old.avi", "-c:v", "mpeg4"))
        clip = Clip.objects.get()
        give_up()
        self.assertEqual(Job.objects.get().state, "waiting")  # it is in the queue
        Job.objects.update(state="working", queued=clip.job.queued + 1000)
        give_up()
        clip.refresh_from_db()
        self.assertEqual((clip.state, clip.job.state, clip.job.trouble), ("failed", "failed", LOST))
        # As it was before copies were always made and files were private.
        Clip.objects.update(state="ready", played_as="")
        Job.objects.update(state="done")
        clip.path.chmod(0o644)
        mend()
        tidy()
        self.assertEqual(Job.objects.get().state, "waiting")
        self.assertEqual(clip.path.stat().st_mode & 0o777, 0o600)

    def test_nothing_that_a_phone_wrote_into_a_file_is_served(self):
        """Place and device as phones write them: tags of the file and of its streams, chapters, a track of data."""
        tags = {"location": "+52.5200+013.4050/", "com.apple.quicktime.make": "Maker", "comment": "by Ada Brenn"}
        written = [word for name, value in tags.items() for word in ("-metadata", f"{name}={value}")]
        more = ["-metadata:s:v:0", "handler_name=Maker Model 9", "-movflags", "use_metadata_tags"]
        for name, encoder in {"plays.mov": "libx264", "plays-not.mov": "mpeg4"}.items():
            with self.subTest(name):
                before, clip = self.prepared(name, "-c:v", encoder, "-pix_fmt", "yuv420p", *written, *more)
                self.assertIn(b"+52.5200", clip.path.read_bytes())
                served = b"".join(self.client.get(f"/api/clips/{clip.pk}/content"))
                for word in (b"52.5200", b"Maker", b"Ada Brenn", b"Lavf"):
                    self.assertNotIn(word, served)
                self.assertEqual(before, "ready" if encoder == "libx264" else "converting")

    def test_what_cannot_be_made_says_why(self):
        self.upload("old.avi", made("old.avi", "-c:v", "mpeg4"))
        clip = Clip.objects.get()
        with mock.patch("footage.tasks.make_proxy", side_effect=NotMade("moov atom not found")):
            worked(clip)
        shown = self.client.get(f"/api/clips/{clip.pk}").json()
        self.assertEqual(
            (shown["state"], shown["job"]["state"], shown["job"]["trouble"]),
            ("failed", "failed", "moov atom not found"),
        )


class SetAside(ClipCase):
    def test_what_cut_its_worker_off_each_time_is_tried_again_by_an_operator_alone(self):
        self.upload("old.avi", made("old.avi", "-c:v", "mpeg4"))
        job = Clip.objects.get().job
        Job.objects.update(state="working")
        with connection.cursor() as cursor:
            cursor.execute(
                "update procrastinate_jobs set status = 'failed', attempts = %s where id = %s", [MOST_TRIES, job.queued]
            )
        give_up()
        job.refresh_from_db()
        self.assertEqual((job.state, job.trouble, job.set_aside), ("failed", CUT_OFF, True))
        asked = self.client.post(f"/api/jobs/{job.pk}", {"do": "retry"}, content_type="application/json")
        self.assertEqual((asked.status_code, asked.json()["code"]), (409, "set_aside"))
        retry_set_aside(job)
        job.refresh_from_db()
        self.assertEqual((job.state, job.set_aside), ("waiting", False))


class Orphans(ClipCase):
    def test_what_belongs_to_nothing_is_removed_once_it_is_old(self):
        self.upload("a.mp4", made("a.mp4", "-c:v", "libx264", "-pix_fmt", "yuv420p"))
        clip = Clip.objects.get()
        worked(clip)
        gone, fresh = uuid.uuid4(), uuid.uuid4()
        folder = clip.path.parent
        left = [folder / f"{gone}{ending}" for ending in ("", ".part", ".proxy.mp4", ".cut.mp4")]
        others = [folder / f"{fresh}.part", folder / "read-me.txt"]
        for path in [*left, *others]:
            path.write_bytes(b"x")
        kept = set(folder.iterdir()) - set(left)
        for path in folder.iterdir():
            if not path.name.startswith(str(fresh)):
                os.utime(path, (0, 0))
        remove_orphans()
        self.assertEqual(set(folder.iterdir()), kept)
