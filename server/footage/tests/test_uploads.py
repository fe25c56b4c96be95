"""Uploading clips, piece by piece, through cuts and crashes."""

from __future__ import annotations

from datetime import timedelta
from unittest import mock

from django.conf import settings
from django.utils import timezone

from footage.actions import KEEPS_ROOM, promised
from footage.models import Clip
from footage.tools import MEBI
from footage.upkeep import mend

from .base import ClipCase, made, worked


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
                self.assertEqual(clip["job"]["state"], "waiting")
                self.assertAlmostEqual(clip["duration_ms"], 1000, delta=100)

    def test_what_is_no_clip_is_refused_and_leaves_nothing(self):
        answer = self.upload("notes.mp4", b"Dear diary, today nobody passed my guard. " * 50)
        self.assertEqual((answer.status_code, answer.json()["code"]), (422, "no_video"))
        self.assertEqual(self.kept(), (0, 0))

    def test_a_cut_upload_goes_on_where_it_stopped(self):
        data = made("a.webm", "-c:v", "libvpx")
        clip = self.announce("a.webm", len(data)).json()["id"]
        self.assertEqual(self.patch(clip, data[:1000], 0)["Upload-Offset"], "1000")
        got = self.client.head(f"/api/clips/{clip}/upload")
        self.assertEqual(
            (got["Upload-Offset"], got["Upload-Length"], got["Tus-Resumable"]), ("1000", str(len(data)), "1.0.0")
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

    def test_a_server_that_ended_at_the_last_byte_leaves_nothing_hanging(self):
        """It ended before the clip was looked into, or right after its file had got its name."""
        data = made("a.webm", "-c:v", "libvpx")
        ways = {
            "announced again": lambda clip: self.announce("a.webm", len(data)),
            "asked how far it came": lambda clip: self.client.head(f"/api/clips/{clip}/upload"),
            "sent nothing more": lambda clip: self.patch(clip, b"", len(data)),
            "left alone": lambda clip: mend(),
        }
        for named in (False, True):
            for what, goes_on in ways.items():
                with self.subTest(what, named=named):
                    clip = Clip.objects.get(pk=self.announce("a.webm", len(data)).json()["id"])
                    clip.beside("part").write_bytes(data)
                    if named:
                        clip.path.hardlink_to(clip.beside("part"))
                    goes_on(clip.pk)
                    clip.refresh_from_db()
                    self.assertEqual((clip.state, clip.job.state), ("ready", "waiting"))
                    self.assertEqual(clip.path.read_bytes(), data)
                    self.assertEqual([path.name for path in clip.path.parent.iterdir()], [str(clip.pk)])
                    self.client.delete(f"/api/clips/{clip.pk}")

    def test_room_is_promised_once(self):
        """Each upload under way keeps the room for what it has still to bring."""
        begun = self.announce("a.mp4", 400 * MEBI).json()["id"]
        self.patch(begun, bytes(MEBI), 0)
        room = mock.patch("footage.actions.free_space", return_value=1000 * MEBI)
        with room, mock.patch("footage.actions.SHARE", 1):
            self.assertEqual(self.announce("b.mp4", 340 * MEBI).status_code, 201)
            answer = self.announce("c.mp4", 10 * MEBI)
        self.assertEqual((answer.status_code, answer.json()["code"]), (507, "no_room"))
        with mock.patch("footage.actions.MOST_UNFINISHED", 2):
            self.assertEqual(self.announce("d.mp4", 10).json()["code"], "too_many")

    def test_what_is_only_announced_blocks_nobody(self):
        """Seventeen announced clips promise a part of the room at most, and none of it for long."""
        with mock.patch("footage.actions.free_space", return_value=68_000 * MEBI):
            said = [self.announce(f"{n}.mp4", 4_000 * MEBI) for n in range(17)]
            self.assertEqual([one.status_code for one in said], [201] * 4 + [507] * 13)
            self.assertEqual(said[-1].json()["code"], "too_much_at_once")
        Clip.objects.update(created=timezone.now() - KEEPS_ROOM - timedelta(seconds=1))
        self.assertEqual(promised(), 0)
        begun = said[0].json()["id"]
        self.patch(begun, bytes(MEBI), 0)
        self.assertEqual(promised(), 3_999 * MEBI)

    def test_files_are_for_the_server_alone(self):
        self.upload("a.webm", made("a.webm", "-c:v", "libvpx"))
        clip = Clip.objects.get()
        worked(clip)
        folder = clip.path.parent
        self.assertEqual(folder.stat().st_mode & 0o777, 0o700)
        modes = {path.name: path.stat().st_mode & 0o777 for path in folder.iterdir()}
        self.assertEqual(len(modes), 5)
        self.assertEqual(set(modes.values()), {0o600}, modes)
