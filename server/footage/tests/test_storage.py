"""Clips in object storage: sent, fetched where they are needed, removed, moved, and what happens when it is away."""

from __future__ import annotations

import os
import shutil
import time
from pathlib import Path
from unittest import mock

from django.conf import settings
from django.test import override_settings

from footage import moving, object_storage, store
from footage.models import Clip
from footage.object_storage import StorageAway
from footage.tasks import source_of
from footage.upkeep import remove_orphans, tidy

from .base import ClipCase, made, worked
from .storage import NOWHERE, bucket_for, names_in, place


class StorageCase(ClipCase):
    in_use = True

    def setUp(self):
        super().setUp()
        self.bucket = bucket_for(self, self.in_use)
        self.folder = Path(settings.MEDIA_ROOT)

    def uploaded(self) -> Clip:
        self.upload("phone.mp4", made("phone.mp4", "-pix_fmt", "yuv420p"))
        return Clip.objects.get()

    def prepared(self) -> Clip:
        clip = worked(self.uploaded())
        self.assertEqual(clip.job.state, "done", clip.job.trouble)
        return clip

    def empty_folder(self):
        """As another machine has it."""
        shutil.rmtree(self.folder)
        self.folder.mkdir()

    def away(self):
        return override_settings(STORAGES=place("clips", NOWHERE))


class InStorage(StorageCase):
    def test_another_machine_prepares_and_plays_what_was_uploaded_here(self):
        clip = self.uploaded()
        self.assertEqual(names_in(self.bucket), {str(clip.pk)})
        self.empty_folder()
        clip = worked(clip)
        self.assertEqual((clip.job.state, clip.played_as), ("done", "video/mp4"))
        endings = ("frames.json", "poster.jpg", "strip.jpg", "proxy.mp4")
        self.assertEqual(names_in(self.bucket), {str(clip.pk), *(f"{clip.pk}.{ending}" for ending in endings)})
        self.empty_folder()
        part = self.client.get(f"/api/clips/{clip.pk}/content", headers={"Range": "bytes=4-7"})
        self.assertEqual((part.status_code, b"".join(part.streaming_content)), (206, b"ftyp"))
        self.assertEqual(len(self.client.get(f"/api/clips/{clip.pk}/frames").json()["times"]), 10)
        self.assertEqual(self.client.get(f"/api/clips/{clip.pk}/pictures/poster").status_code, 200)

    def test_nginx_is_given_an_address_that_holds_for_a_moment(self):
        clip = self.prepared()
        with self.settings(NGINX_SENDS_FILES=True):
            sent = self.client.get(f"/api/clips/{clip.pk}/content")["X-Accel-Redirect"]
        self.assertTrue(sent.startswith(f"/stored-files/{self.bucket.name}/{clip.pk}.proxy.mp4?"), sent)
        for part in ("response-content-type=video%2Fmp4", "X-Amz-Signature=", "X-Amz-Expires=300"):
            self.assertIn(part, sent)

    def test_what_is_deleted_is_gone_from_both_places(self):
        clip = self.prepared()
        self.client.delete(f"/api/clips/{clip.pk}")
        self.assertEqual((names_in(self.bucket), list(self.folder.iterdir())), (set(), []))

    def test_what_can_t_be_removed_now_is_removed_at_night(self):
        clip = self.prepared()
        with self.away(), self.assertLogs("footage", "WARNING"):
            self.assertEqual(self.client.delete(f"/api/clips/{clip.pk}").status_code, 204)
        self.assertEqual(len(names_in(self.bucket)), 5)
        later = time.time() + 2 * 24 * 3600
        with mock.patch("footage.upkeep.time.time", return_value=later), self.assertLogs("footage", "WARNING"):
            remove_orphans()
        self.assertEqual(names_in(self.bucket), set())

    def test_the_folder_makes_room_by_what_was_used_the_longest_ago(self):
        clip = self.prepared()
        sizes = {path.name: path.stat().st_size for path in self.folder.iterdir()}
        for name, hours in ((str(clip.pk), 3), (f"{clip.pk}.proxy.mp4", 2)):
            written = (self.folder / name).stat().st_mtime
            os.utime(self.folder / name, (time.time() - hours * 3600, written))
        with self.settings(SCRATCH=sum(sizes.values()) - 1):
            store.make_room(0)
        self.assertEqual({path.name for path in self.folder.iterdir()}, set(sizes) - {str(clip.pk)})
        source_of(clip)  # it comes back when it is needed
        self.assertIn(str(clip.pk), {path.name for path in self.folder.iterdir()})

    def test_nothing_leaves_the_folder_that_is_not_in_storage(self):
        clip = self.prepared()
        self.bucket.Object(str(clip.pk)).delete()
        with self.settings(SCRATCH=0):
            store.make_room(0)
        self.assertEqual([path.name for path in self.folder.iterdir()], [str(clip.pk)])

    def test_what_nobody_used_for_a_day_leaves_the_folder(self):
        clip = self.prepared()
        with mock.patch("footage.store.time.time", return_value=time.time() + store.UNUSED_S + 1):
            tidy()
        self.assertEqual(list(self.folder.iterdir()), [])
        self.assertTrue(store.there(clip.copy))

    def test_a_file_that_comes_back_changed_is_not_taken(self):
        clip = self.prepared()
        self.empty_folder()
        damaged = {"Body": b"something", "Metadata": self.bucket.Object(str(clip.pk)).metadata}
        self.bucket.Object(str(clip.pk)).put(**damaged)
        with self.assertLogs("footage", "ERROR"), self.assertRaises(StorageAway):
            store.at_hand(clip.path)
        self.assertEqual(list(self.folder.iterdir()), [])


class Away(StorageCase):
    def test_an_upload_waits_with_all_its_bytes_and_goes_on(self):
        data = made("phone.mp4", "-pix_fmt", "yuv420p")
        with self.away(), self.assertLogs("footage", "WARNING"):
            answer = self.upload("phone.mp4", data)
        self.assertEqual((answer.status_code, answer.json()["code"]), (503, "storage_away"))
        self.assertIn("Try again in a few minutes", answer.json()["message"])
        clip = Clip.objects.get()
        self.assertEqual(clip.state, "uploading")
        asked = self.client.head(f"/api/clips/{clip.pk}/upload")  # as the browser asks where to go on
        self.assertEqual(asked["Upload-Offset"], str(len(data)))
        clip.refresh_from_db()
        self.assertEqual((clip.state, names_in(self.bucket)), ("ready", {str(clip.pk)}))

    def test_work_on_a_clip_fails_with_a_sentence_and_can_be_asked_for_again(self):
        clip = self.uploaded()
        with self.away(), self.assertLogs("footage", "WARNING"):
            clip = worked(clip)
        self.assertEqual(clip.job.state, "failed")
        self.assertIn("storage for clips does not answer", clip.job.trouble)
        self.assertEqual(names_in(self.bucket), {str(clip.pk)})
        again = self.client.post(f"/api/jobs/{clip.job.pk}", {"do": "retry"}, content_type="application/json")
        self.assertEqual(again.status_code, 200)
        self.assertEqual(worked(clip).job.state, "done")

    def test_what_is_not_in_the_folder_can_t_be_played_just_now(self):
        clip = self.prepared()
        self.empty_folder()
        with self.away(), self.assertLogs("footage", "WARNING"):
            answer = self.client.get(f"/api/clips/{clip.pk}/content")
        self.assertEqual((answer.status_code, answer.json()["code"]), (503, "storage_away"))
        self.assertEqual(object_storage.trouble(), "")
        with self.away(), self.assertLogs("footage", "WARNING"):
            self.assertIn("Could not connect", object_storage.trouble())

    def test_a_file_that_is_in_neither_place_is_gone(self):
        clip = self.prepared()
        self.empty_folder()
        for one in self.bucket.objects.all():
            one.delete()
        answer = self.client.get(f"/api/clips/{clip.pk}/content")
        self.assertEqual((answer.status_code, answer.json()["code"]), (404, "gone"))
        self.assertEqual(self.client.get(f"/api/clips/{clip.pk}/frames").json(), {"times": []})


class Moving(StorageCase):
    in_use = False

    def to_storage(self):
        said: list[str] = []
        return moving.to_storage(said.append), said

    def test_from_the_folder_to_storage_and_back(self):
        clip = self.prepared()
        sizes = {path.name: path.stat().st_size for path in self.folder.iterdir()}
        self.assertEqual(self.to_storage()[0], 5)
        self.assertEqual({one.key: one.size for one in self.bucket.objects.all()}, sizes)
        self.assertEqual(self.to_storage(), (0, []))
        self.empty_folder()
        self.assertEqual(moving.to_folder(print), 5)
        self.assertEqual({path.name: path.stat().st_size for path in self.folder.iterdir()}, sizes)
        self.assertEqual(moving.to_folder(print), 0)
        self.assertEqual(clip.path.stat().st_mode & 0o777, 0o600)

    def test_one_that_was_cut_off_goes_on_where_it_was(self):
        self.prepared()
        put = object_storage.put
        with mock.patch("footage.object_storage.put", side_effect=[None, None, StorageAway()]) as cut:
            cut.side_effect = lambda path, name: put(path, name) if cut.call_count < 3 else self.fail_away()
            with self.assertRaises(StorageAway):
                self.to_storage()
        self.assertEqual(len(names_in(self.bucket)), 2)
        self.assertEqual(self.to_storage()[0], 3)

    def fail_away(self):
        raise StorageAway

    def test_one_that_comes_back_differently_stops_it(self):
        self.prepared()
        with (
            mock.patch("footage.object_storage.sent_back", return_value="0" * 64),
            self.assertRaisesRegex(OSError, "came back from object storage other"),
        ):
            self.to_storage()

    def test_a_file_that_changed_since_is_sent_again(self):
        clip = self.prepared()
        self.to_storage()
        clip.beside("frames.json").write_text("[1]")
        sent, said = self.to_storage()
        self.assertEqual((sent, said), (1, [f"{clip.pk}.frames.json, 3 bytes"]))
