"""Uploading, looking into and playing clips."""

from __future__ import annotations

import subprocess
import tempfile
from datetime import timedelta
from pathlib import Path
from unittest import mock

from django.conf import settings
from django.contrib.auth.models import User
from django.test import TestCase, override_settings
from django.utils import timezone

from footage.convert import NotMade, Stopped
from footage.models import Clip
from footage.probe import Frames, frames_in, probe
from footage.tasks import _seeks_well, prepare


def made(name: str, *arguments: str) -> bytes:
    """A small clip made by ffmpeg."""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / name
        source = ["-f", "lavfi", "-i", "testsrc=duration=1:size=64x48:rate=10"]
        subprocess.run(["ffmpeg", "-loglevel", "error", *source, *arguments, path], check=True)
        return path.read_bytes()


class ClipCase(TestCase):
    def setUp(self):
        self.coach = User.objects.create_user("coach", password="amber")
        self.client.force_login(self.coach)
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        moved = override_settings(MEDIA_ROOT=folder.name)
        moved.enable()
        self.addCleanup(moved.disable)

    def announce(self, name, size):
        return self.client.post("/api/clips", {"name": name, "size": size}, content_type="application/json")

    def patch(self, clip, data, offset):
        more = {"content_type": "application/offset+octet-stream", "headers": {"Upload-Offset": str(offset)}}
        return self.client.patch(f"/api/clips/{clip}/upload", data, **more)

    def upload(self, name, data, size=None):
        clip = self.announce(name, size or len(data)).json()["id"]
        return self.patch(clip, data, 0)

    def kept(self):
        return Clip.objects.count(), len(list(Path(settings.MEDIA_ROOT).iterdir()))


class Uploads(ClipCase):
    """The upload follows tus 1.0.0, core protocol: HEAD tells the offset, PATCH goes on there."""

    def test_clips_that_browsers_play(self):
        plain = ("-pix_fmt", "yuv420p")
        for name, arguments in {
            "a.webm": ("-c:v", "libvpx", *plain),
            "b.mp4": ("-c:v", "libx264", *plain),
            "c.MOV": ("-c:v", "libx264", *plain),
        }.items():
            with self.subTest(name):
                data = made(name, *arguments)
                answer = self.upload(name, data)
                self.assertEqual((answer.status_code, answer["Upload-Offset"]), (204, str(len(data))), answer.content)
                clip = self.client.get(f"/api/clips/{Clip.objects.get(name=name).pk}").json()
                self.assertEqual((clip["state"], clip["width"], clip["height"], clip["fps"]), ("ready", 64, 48, 10))
                self.assertEqual(clip["work"], "waiting")
                self.assertAlmostEqual(clip["duration_ms"], 1000, delta=100)

    def test_what_is_no_clip_is_refused_and_leaves_nothing(self):
        answer = self.upload("notes.mp4", b"Dear diary, today nobody passed my guard. " * 50)
        self.assertEqual((answer.status_code, answer.json()["code"]), (422, "no_video"))
        self.assertEqual(self.kept(), (0, 0))

    def test_a_cut_upload_goes_on_where_it_stopped(self):
        data = made("a.webm", "-c:v", "libvpx")
        clip = self.announce("a.webm", len(data)).json()["id"]
        self.assertEqual(self.patch(clip, data[:1000], 0)["Upload-Offset"], "1000")
        told = self.client.head(f"/api/clips/{clip}/upload")
        self.assertEqual(
            (told["Upload-Offset"], told["Upload-Length"], told["Tus-Resumable"]), ("1000", str(len(data)), "1.0.0")
        )
        wrong = self.patch(clip, data[500:], 500)
        self.assertEqual((wrong.status_code, wrong.json()["code"]), (409, "other_offset"))
        self.assertEqual(self.announce("a.webm", len(data)).json()["id"], clip)
        self.assertEqual(self.patch(clip, data[1000:], 1000).status_code, 204)
        self.assertEqual(Clip.objects.get().path.read_bytes(), data)
        self.assertEqual(self.patch(clip, b"more", len(data)).json()["code"], "already_there")
        self.assertEqual(self.patch(clip, b"more", "far").status_code, 400)

    def test_refused_before_a_byte_is_sent(self):
        self.assertEqual(self.announce("holiday.jpg", 9).json()["code"], "wrong_ending")
        self.assertEqual(self.announce("a.mp4", 0).json()["code"], "empty")
        self.assertEqual(self.announce("a.mp4", settings.LARGEST_CLIP + 1).json()["code"], "too_large")
        with mock.patch("footage.actions.free_space", return_value=300 * 1024**2):
            answer = self.announce("a.mp4", 100 * 1024**2)
        self.assertEqual((answer.status_code, answer.json()["code"]), (507, "no_room"))
        self.assertEqual(self.kept(), (0, 0))

    def test_a_full_disk_on_the_way_is_said_and_keeps_what_came(self):
        data = made("a.webm", "-c:v", "libvpx")
        clip = self.announce("a.webm", len(data)).json()["id"]
        self.patch(clip, data[:100], 0)
        with mock.patch("footage.actions._write", side_effect=OSError(28, "No space left on device")):
            answer = self.patch(clip, data[100:], 100)
        self.assertEqual((answer.status_code, answer.json()["code"]), (507, "not_written"))
        self.assertEqual(self.client.head(f"/api/clips/{clip}/upload")["Upload-Offset"], "100")

    def test_an_upload_left_lying_is_swept_away(self):
        clip = self.announce("a.webm", 5000).json()["id"]
        self.patch(clip, b"some", 0)
        Clip.objects.update(created=timezone.now() - timedelta(days=4))
        self.announce("b.webm", 10)
        self.assertFalse(Clip.objects.filter(pk=clip).exists())


class Preparing(ClipCase):
    """The worker's task, run here; that the worker itself runs it is seen in a journey."""

    def prepared(self, name, *arguments):
        self.upload(name, made(name, *arguments))
        clip = Clip.objects.get(name=name)
        before = clip.state
        prepare(str(clip.pk))
        clip.refresh_from_db()
        return before, clip

    def test_a_clip_that_plays_gets_its_pictures_only(self):
        before, clip = self.prepared("a.mp4", "-c:v", "libx264", "-pix_fmt", "yuv420p")
        self.assertEqual((before, clip.state, clip.work, clip.proxied), ("ready", "ready", "done", False))
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
                    (before, clip.state, clip.work, clip.proxied), ("converting", "ready", "done", True), clip.trouble
                )
                path, content_type = clip.played
                self.assertTrue(probe(path).playable)
                self.assertEqual(content_type, "video/mp4")
                original, copy = frames_in(clip.path).times, frames_in(path).times
                self.assertEqual(len(original), len(copy))
                self.assertLessEqual(max(abs(t - other) for t, other in zip(original, copy, strict=True)), 2)
                answer = self.client.get(f"/api/clips/{clip.pk}/content?of=original")
                self.assertEqual(b"".join(answer), clip.path.read_bytes())

    def test_rare_keyframes_get_a_copy_with_many(self):
        source = ("-vf", "loop=loop=5:size=10,fps=10", "-c:v", "libx264", "-g", "600", "-pix_fmt", "yuv420p")
        before, clip = self.prepared("rare.mp4", *source)
        self.assertGreater(frames_in(clip.path).longest_gap, 2500)
        self.assertEqual((before, clip.proxied), ("ready", True))
        self.assertLessEqual(frames_in(clip.played[0]).longest_gap, 1300)

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
        act = f"/api/clips/{clip.pk}/work"
        cancelled = self.client.post(act, {"do": "cancel"}, content_type="application/json").json()
        self.assertEqual((cancelled["state"], cancelled["work"]), ("failed", "cancelled"))
        prepare(str(clip.pk))  # a worker that took the job at that moment finds it cancelled
        self.assertEqual(Clip.objects.get().work, "cancelled")
        again = self.client.post(act, {"do": "cancel"}, content_type="application/json")
        self.assertEqual(again.json()["code"], "not_at_work")
        retried = self.client.post(act, {"do": "retry"}, content_type="application/json").json()
        self.assertEqual((retried["state"], retried["work"]), ("converting", "waiting"))
        prepare(str(clip.pk))
        self.assertEqual(Clip.objects.get().state, "ready")

    def test_work_stops_in_the_middle_when_it_is_cancelled(self):
        self.upload("old.avi", made("old.avi", "-c:v", "mpeg4"))
        clip = Clip.objects.get()

        def cancelled_at_the_first_report(path, into, duration, widest, progress):
            Clip.objects.update(work="cancelled", state="failed")
            self.assertFalse(progress(0.5))
            raise Stopped

        with mock.patch("footage.tasks.make_proxy", cancelled_at_the_first_report):
            prepare(str(clip.pk))
        clip.refresh_from_db()
        self.assertEqual((clip.state, clip.work), ("failed", "cancelled"))

    def test_what_cannot_be_made_says_why(self):
        self.upload("old.avi", made("old.avi", "-c:v", "mpeg4"))
        clip = Clip.objects.get()
        with mock.patch("footage.tasks.make_proxy", side_effect=NotMade("moov atom not found")):
            prepare(str(clip.pk))
        told = self.client.get(f"/api/clips/{clip.pk}").json()
        self.assertEqual((told["state"], told["work"], told["trouble"]), ("failed", "failed", "moov atom not found"))


class Ranges(ClipCase):
    """Byte ranges as RFC 9110, section 14, has them."""

    def setUp(self):
        super().setUp()
        self.clip = Clip.objects.create(
            owner=self.coach, name="a.webm", size=10, state="ready", content_type="video/webm"
        )
        self.clip.path.write_bytes(b"0123456789")

    def get(self, **headers):
        return self.client.get(f"/api/clips/{self.clip.pk}/content", headers=headers)

    def test_ranges(self):
        table = {
            "bytes=0-3": (206, b"0123", "bytes 0-3/10"),
            "bytes=4-": (206, b"456789", "bytes 4-9/10"),
            "bytes=-3": (206, b"789", "bytes 7-9/10"),
            "bytes=8-99": (206, b"89", "bytes 8-9/10"),
            "bytes=-99": (206, b"0123456789", "bytes 0-9/10"),
            "bytes=10-": (416, b"", "bytes */10"),
            "bytes=-0": (416, b"", "bytes */10"),
            "bytes=5-2": (200, b"0123456789", None),
            "bytes=0-1,4-5": (200, b"0123456789", None),
            "lines=1-2": (200, b"0123456789", None),
        }
        for asked, (status, body, told) in table.items():
            with self.subTest(asked):
                answer = self.get(range=asked)
                content = b"".join(answer) if answer.streaming else answer.content
                self.assertEqual((answer.status_code, content, answer.get("Content-Range")), (status, body, told))

    def test_if_range(self):
        tag = self.get()["ETag"]
        self.assertEqual(self.get(range="bytes=0-1", **{"if-range": tag}).status_code, 206)
        self.assertEqual(self.get(range="bytes=0-1", **{"if-range": '"old"'}).status_code, 200)

    def test_a_file_that_is_gone(self):
        self.clip.path.unlink()
        self.assertEqual(self.get().json()["code"], "gone")
