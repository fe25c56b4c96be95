"""Uploading, looking into and playing clips."""

from __future__ import annotations

import subprocess
import tempfile
from pathlib import Path
from unittest import mock

from django.conf import settings
from django.contrib.auth.models import User
from django.test import TestCase, override_settings

from footage.models import Clip


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

    def upload(self, name, data, size=None):
        clip = self.announce(name, size or len(data)).json()["id"]
        return self.client.put(f"/api/clips/{clip}/content", data, content_type="application/octet-stream")

    def kept(self):
        return Clip.objects.count(), len(list(Path(settings.MEDIA_ROOT).iterdir()))


class Uploads(ClipCase):
    def test_clips_that_browsers_play(self):
        plain = ("-pix_fmt", "yuv420p")
        for name, arguments in {
            "a.webm": ("-c:v", "libvpx", *plain),
            "b.mp4": ("-c:v", "libx264", *plain),
            "c.MOV": ("-c:v", "libx264", *plain),
        }.items():
            with self.subTest(name):
                answer = self.upload(name, made(name, *arguments))
                self.assertEqual(answer.status_code, 200, answer.content)
                clip = answer.json()
                self.assertEqual((clip["state"], clip["width"], clip["height"], clip["fps"]), ("ready", 64, 48, 10))
                self.assertAlmostEqual(clip["duration_ms"], 1000, delta=100)

    def test_what_is_no_clip_is_refused_and_leaves_nothing(self):
        refused = {
            "no_video": ("notes.mp4", b"Dear diary, today nobody passed my guard. " * 50),
            "not_playable": ("old.mp4", made("old.mp4", "-c:v", "mpeg4")),
        }
        for code, (name, data) in refused.items():
            with self.subTest(code):
                answer = self.upload(name, data)
                self.assertEqual((answer.status_code, answer.json()["code"]), (422, code))
                self.assertEqual(self.kept(), (0, 0))

    def test_a_cut_upload_leaves_nothing(self):
        data = made("a.webm", "-c:v", "libvpx")
        answer = self.upload("a.webm", data[:-100], size=len(data))
        self.assertEqual((answer.status_code, answer.json()["code"]), (400, "cut_off"))
        self.assertEqual(self.kept(), (0, 0))

    def test_refused_before_a_byte_is_sent(self):
        self.assertEqual(self.announce("holiday.jpg", 9).json()["code"], "wrong_ending")
        self.assertEqual(self.announce("a.mp4", 0).json()["code"], "empty")
        self.assertEqual(self.announce("a.mp4", settings.LARGEST_CLIP + 1).json()["code"], "too_large")
        with mock.patch("footage.actions.free_space", return_value=300 * 1024**2):
            answer = self.announce("a.mp4", 100 * 1024**2)
        self.assertEqual((answer.status_code, answer.json()["code"]), (507, "no_room"))
        self.assertEqual(self.kept(), (0, 0))

    def test_a_full_disk_on_the_way_is_said_and_leaves_nothing(self):
        with mock.patch("footage.actions._write", side_effect=OSError(28, "No space left on device")):
            answer = self.upload("a.webm", made("a.webm", "-c:v", "libvpx"))
        self.assertEqual((answer.status_code, answer.json()["code"]), (507, "not_written"))
        self.assertEqual(self.kept(), (0, 0))

    def test_a_clip_is_taken_in_once(self):
        data = made("a.webm", "-c:v", "libvpx")
        clip = self.upload("a.webm", data).json()["id"]
        again = self.client.put(f"/api/clips/{clip}/content", data, content_type="application/octet-stream")
        self.assertEqual(again.json()["code"], "already_there")
        self.assertEqual(self.kept(), (1, 1))


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
