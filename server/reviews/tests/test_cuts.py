"""Clips of errors: cut to the frame, with their captions, by the worker."""

from __future__ import annotations

import json
import subprocess
import tempfile
from pathlib import Path

import numpy as np
from django.db import transaction
from django.test import override_settings
from PIL import Image, ImageDraw

from footage.actions import prepare
from footage.convert import Source
from footage.models import Clip
from footage.tests.base import stored, worked
from jobs.running import run
from matches.actions import remove_for_good
from matches.models import Match
from matches.parts import Part, lay_out
from reviews.actions import cut_out
from reviews.cuts import cut
from reviews.models import Cut

from .base import MOUNTED, PASSED, ReviewCase

FPS, SECONDS, CELLS, CELL = 25, 70, 12, 16


def numbered(path: Path) -> None:
    """A clip in which every frame carries its number as a row of light and dark cells: it can be read back for sure."""
    size = (CELLS * CELL, 48)
    encoder = ["-c:v", "libx264", "-preset", "ultrafast", "-g", "250", "-pix_fmt", "yuv420p", "-f", "mp4", str(path)]
    command = ["ffmpeg", "-v", "error", "-y", "-f", "rawvideo", "-pix_fmt", "rgb24", "-s", f"{size[0]}x{size[1]}"]
    with subprocess.Popen([*command, "-r", str(FPS), "-i", "-", *encoder], stdin=subprocess.PIPE) as process:
        for number in range(FPS * SECONDS):
            picture = Image.new("RGB", size, (20, 20, 20))
            draw = ImageDraw.Draw(picture)
            for cell in range(CELLS):
                if number >> cell & 1:
                    draw.rectangle([cell * CELL, 0, (cell + 1) * CELL - 1, 47], fill=(235, 235, 235))
            process.stdin.write(picture.tobytes())
        process.stdin.close()


def numbers_in(path: Path) -> list[int]:
    """The numbers of the frames of a clip, read off the pictures."""
    raw = subprocess.run(
        ["ffmpeg", "-v", "error", "-i", str(path), "-f", "rawvideo", "-pix_fmt", "gray", "-"],
        capture_output=True,
        check=True,
    ).stdout
    frames = np.frombuffer(raw, np.uint8).reshape(-1, 48, CELLS * CELL)
    cells = frames[:, 4:20, :].reshape(len(frames), 16, CELLS, CELL)[:, :, :, 4:12].mean(axis=(1, 3)) > 128
    return [int(sum(1 << cell for cell in range(CELLS) if row[cell])) for row in cells]


def streams(path: Path) -> list[dict]:
    command = ["ffprobe", "-v", "error", "-show_streams", "-of", "json", str(path)]
    return json.loads(subprocess.run(command, capture_output=True, check=True).stdout)["streams"]


class Cuts(ReviewCase):
    @classmethod
    def setUpClass(cls):
        super().setUpClass()
        folder = tempfile.TemporaryDirectory()
        cls.addClassCleanup(folder.cleanup)
        moved = override_settings(MEDIA_ROOT=folder.name)
        moved.enable()
        cls.addClassCleanup(moved.disable)
        cls.footage = Path(folder.name) / "numbered.mp4"
        numbered(cls.footage)

    def clip(self):
        return stored(self.coach, self.footage)

    def done(self, key, style="plain"):
        made = self.at("post", "cuts", {"key": key, "style": style})
        self.assertEqual(made.status_code, 201, made.content)
        run(made.json()["job"]["id"])
        return Cut.objects.get(pk=made.json()["id"])

    def test_begins_and_ends_within_a_frame_of_what_was_asked(self):
        """Read off the frames themselves: the first and the last one that the cut shows."""
        into = self.footage.with_name("cut.mp4")
        source = Source(self.footage, "mov", SECONDS * 1000, CELLS * CELL * 48)
        for start, end in ((0, 2_000), (10_000, 13_000), (10_020, 12_970), (33_333, 37_777), (61_001, 69_999)):
            with self.subTest(start=start, end=end):
                cut(source, into, start, end, "plain", "WEBVTT\n", lambda share: True)
                shown = numbers_in(into)
                self.assertLessEqual(abs(shown[0] - start * FPS / 1000), 1)
                self.assertLessEqual(abs(shown[-1] + 1 - end * FPS / 1000), 1)
                self.assertEqual(shown, list(range(shown[0], shown[-1] + 1)))
                lasted = float(streams(into)[0]["duration"])
                self.assertLessEqual(abs(lasted - (end - start) / 1000), 1 / FPS + 1e-3)

    def test_the_clip_of_an_error_with_clips_in_a_row(self):
        """The match's footage begins twenty seconds before its clip: times of the log are of the whole footage."""
        lay_out(self.scored, [Part(self.clip(), 20_000)])
        made = self.done(PASSED)
        # The pass is seen coming at 38 and was paid at 45; the clip shows four seconds before and two after.
        self.assertEqual((made.job.state, made.start_ms, made.end_ms), ("done", 14_000, 27_000))
        shown = numbers_in(made.path)
        self.assertLessEqual(abs(shown[0] - 14 * FPS), 1)
        self.assertIn("0:45 Guard pass conceded", made.captions)
        self.assertIn("00:00:11.000", made.captions)

    def test_captions_as_a_track_or_in_the_picture(self):
        lay_out(self.scored, [Part(self.clip(), 0)])
        captioned = self.done(PASSED, "captions")
        self.assertEqual({stream["codec_type"] for stream in streams(captioned.path)}, {"video", "subtitle"})
        plain = numbers_in(captioned.path)
        burnt = self.done(PASSED, "burnt")
        self.assertEqual([stream["codec_type"] for stream in streams(burnt.path)], ["video"])
        self.assertEqual(len(numbers_in(burnt.path)), len(plain))
        self.assertFalse(captioned.path.exists())
        self.assertEqual(self.at("get", f"cuts/{burnt.pk}/captions").content, burnt.captions.encode())
        self.assertEqual(self.at("get", f"cuts/{burnt.pk}/content").status_code, 200)

    def test_cancelled_or_without_footage(self):
        self.assertEqual(self.at("post", "cuts", {"key": PASSED}).json()["code"], "no_footage")
        lay_out(self.scored, [Part(self.clip(), 0)])
        self.assertEqual(self.at("post", "cuts", {"key": "nothing"}).json()["code"], "no_error")
        made = self.at("post", "cuts", {"key": MOUNTED}).json()
        job = made["job"]
        self.assertEqual(job["state"], "waiting")
        self.assertEqual(self.call("post", f"jobs/{job['id']}", {"do": "cancel"}).json()["state"], "cancelled")
        run(job["id"])
        self.assertFalse(Cut.objects.get(pk=made["id"]).path.exists())
        self.assertEqual(self.call("post", f"jobs/{job['id']}", {"do": "cancel"}).status_code, 409)

    def test_footage_that_is_broken_is_said_and_can_be_cut_again(self):
        clip = self.clip()
        lay_out(self.scored, [Part(clip, 0)])
        clip.path.unlink()
        clip.path.write_bytes(b"no video")
        made = self.done(PASSED)
        self.assertEqual(made.job.state, "failed")
        self.assertTrue(made.job.trouble)
        clip.path.unlink()
        clip.path.hardlink_to(self.footage)
        self.assertEqual(self.done(PASSED).job.state, "done")

    def gone(self):
        """Delete the whole club; its matches first, since an athlete with matches stays."""
        Match.with_deleted.all().delete()
        self.club.delete()

    def test_whatever_is_deleted_leaves_no_file(self):
        """Over all kinds: each with a clip that is prepared, cuts of it, and an upload under way."""
        cut_row = lambda: Cut.objects.filter(match=self.scored).get()  # noqa: E731
        kinds = {
            "a cut": (lambda: self.at("delete", f"cuts/{cut_row().pk}"), {"cut"}),
            "what was said of its error": (lambda: cut_out(self.scored, PASSED, "plain", self.coach.pk), {"cut"}),
            "the match": (lambda: remove_for_good(Match.with_deleted.filter(pk=self.match_id)), {"cut"}),
            "all matches at once": (lambda: Match.objects.all().delete(), {"cut"}),
            "the clip": (lambda: self.call("delete", f"clips/{Clip.objects.get(state='ready').pk}"), {"cut", "clip"}),
            "all clips at once": (lambda: Clip.objects.all().delete(), {"cut", "clip", "part"}),
            "the club": (self.gone, {"cut", "clip", "part"}),
        }
        for what, (delete, gone) in kinds.items():
            with self.subTest(what), transaction.atomic():
                clip = self.clip()
                lay_out(self.scored, [Part(clip, 0)])
                prepare(clip)
                worked(clip)
                made = self.done(PASSED)
                begun = Clip.objects.create(club=self.club, uploader=self.coach, name="b.mp4", size=10)
                begun.beside("part").write_bytes(b"12345")
                kept = {"clip": f"{clip.pk}*", "cut": f"{made.pk}*", "part": f"{begun.pk}*"}
                if what == "the match":
                    self.call("delete", f"matches/{self.match_id}")
                delete()
                folder = clip.path.parent
                left = {name for name, pattern in kept.items() if list(folder.glob(pattern))}
                self.assertEqual(left, set(kept) - gone)
                for path in folder.iterdir():
                    if path != self.footage:
                        path.unlink()
                transaction.set_rollback(True)
            self.client.force_login(self.coach)
