"""Backups with the real borg and PostgreSQL: what comes back is what was there, and what is damaged is found out."""

from __future__ import annotations

import hashlib
import io
import os
import tempfile
from pathlib import Path
from unittest import mock

from django.contrib.auth.models import User
from django.core.cache import cache
from django.core.management import CommandError, call_command
from django.db import connection, transaction
from django.test import TransactionTestCase, override_settings
from django.utils import timezone

from clubs.actions import found_club, invite, join
from clubs.models import Invitation, Role
from footage import store
from footage.files import clips_folder
from footage.models import Clip
from footage.tests.storage import NOWHERE, bucket_for, place
from matches.actions import locked, record, set_up
from matches.models import Match, Observation, Summary
from matches.standing import _kept
from operations import backups, snapshot
from operations.models import Backup
from reviews.actions import make_link, open_link
from roster.models import Athlete, give_consent
from training.actions import make_link as make_plan_link
from training.actions import open_link as open_plan_link
from training.models import Plan

SHORT = {
    "format": "jurata-match/3",
    "ruleset": "full-points",
    "duration": 300,
    "division": {"age": 24, "belt": "blue", "attire": "gi"},
}
SEEN = [{"t": 1, "kind": "clock", "action": "start"}, {"t": 3, "kind": "position", "position": "mount", "top": "a"}]


class BackupCase(TransactionTestCase):
    def setUp(self):
        with connection.cursor() as cursor:  # threads of other tests' servers may still hold theirs
            cursor.execute(
                "select pg_terminate_backend(pid) from pg_stat_activity "
                "where datname = current_database() and pid <> pg_backend_pid() and backend_type = 'client backend'"
            )
        folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.to, data = folder / "backups", folder / "data"
        data.mkdir()
        (data / "secret-key").write_text("kept")
        self.data = data
        self.enterContext(
            override_settings(MEDIA_ROOT=folder / "clips", DATA=data, BACKUP_TO=str(self.to), BACKUP_KEY_FILE="")
        )
        coach = User.objects.create_user("coach")
        club = found_club("Dune Grappling", coach)
        athlete = Athlete.objects.create(club=club, name="Ada Brenn", birth_year=2000, belt="blue")
        self.clip = Clip.objects.create(club=club, uploader=coach, name="phone.mp4", size=9, state="ready")
        clips_folder()
        self.clip.path.write_bytes(b"a picture")
        values = {"athlete": athlete, "opponent": "Bo Castel", "event": "Dune Day", "date": None, "clip": self.clip}
        self.match = set_up(coach, values, {**SHORT, "observations": SEEN})

    def tearDown(self):
        with connection.cursor() as cursor:
            cursor.execute(f'drop database if exists "{connection.settings_dict["NAME"]}_check"')

    def back_up(self, **more) -> Backup:
        return backups.back_up(lambda _: None, **more)

    def at(self, hour: int) -> Backup:
        """One that is named by another hour, as if it were made then."""
        now = timezone.now().replace(hour=hour)
        with mock.patch("operations.backups.timezone.now", return_value=now):
            return self.back_up(verify=False)

    def restore(self, archive=None, replace=True):
        return backups.restore(archive, replace, lambda _: None)


class Backups(BackupCase):
    def test_what_was_deleted_and_changed_comes_back(self):
        made = self.back_up()
        self.assertTrue(made.good and made.verified)
        self.assertEqual((made.matches, made.clips, made.clip_bytes), (1, 1, 9))
        self.match.delete()
        Match.with_deleted.all().delete()
        self.clip.path.write_bytes(b"something")
        User.objects.update(username="somebody")
        (self.data / "secret-key").write_text("other")
        self.restore()
        self.assertEqual(Match.objects.get().opponent, "Bo Castel")
        self.assertEqual(Observation.objects.count(), 2)
        self.assertEqual(User.objects.get().username, "coach")
        self.assertEqual(self.clip.path.read_bytes(), b"a picture")
        self.assertEqual((self.data / "secret-key").read_text(), "kept")

    def test_the_newest_is_brought_back_or_the_one_that_is_named(self):
        first = self.at(9)
        Match.objects.update(opponent="Dan Ott")
        second = self.at(10)
        Match.objects.update(opponent="Eli Vance")
        self.assertEqual(backups.repository().archives(), [first.archive, second.archive])
        self.restore()
        self.assertEqual(Match.objects.get().opponent, "Dan Ott")
        self.restore(first.archive)
        self.assertEqual(Match.objects.get().opponent, "Bo Castel")

    def test_nobody_is_let_in_by_it_and_it_says_what_came_back(self):
        """Sessions and links of the backup end; roles, consents and passwords of it are named."""
        ines, club = User.objects.create_user("ines", password="before"), self.match.athlete.club
        join(club, ines, Role.COACH)
        child = Athlete.objects.create(club=club, name="Finn Aro", birth_year=2016, belt="grey")
        give_consent(child, ines)
        session = self.client
        session.force_login(ines)
        token = make_link(self.match, 30)[1]
        invite(club, ines, {"head_coach"}, {"email": "x@dune.example", "role": "scorer"}, "http://x/")
        plan = Plan.objects.create(
            athlete=self.match.athlete, start="2026-01-01", until="2026-02-01", sessions=1, minutes=30
        )
        plan_token = make_plan_link(plan, 30)
        self.back_up(verify=False)
        club.memberships.filter(user=ines).delete()
        child.end_consent()
        ines.set_password("after")
        ines.save()
        said = []
        backups.restore(None, True, said.append)
        cache.clear()
        self.assertIsNone(session.get("/api/session").json()["name"])
        self.assertIsNone(open_link(token))
        self.assertIsNone(open_plan_link(plan_token))
        self.assertFalse(Invitation.objects.exists())
        text = "\n".join(said)
        for words in (
            "Everybody is signed out. 2 links and 1 invitations have ended",
            "roles: ines as coach of Dune Grappling",
            "consents: ines for Finn Aro (Dune Grappling)",
            "passwords: ines",
        ):
            self.assertIn(words, text)
        self.assertNotIn("coach as head coach", text)

    def test_revisions_after_it_were_never_given_before(self):
        """A tab that was open all the while has a revision that is none any more, whatever was logged since."""
        coach = self.match.scorer
        body = {"t": 0.1, "kind": "exchange"}

        def log(key):
            with transaction.atomic():
                record(locked(self.match.pk), key, body, coach)
            return Match.objects.get().revision

        self.back_up(verify=False)
        known = {log(f"k{n}") for n in range(4)}
        for _ in range(2):  # twice from the same backup
            self.restore()
            _kept.cache_clear()
            now = {Match.objects.get().revision, *(log(f"n{n}") for n in range(5))}
            self.assertGreater(min(now), max(known))
            known |= now
        self.assertEqual(Summary.objects.filter(revision__gt=Match.objects.get().revision).count(), 0)
        rows = list(Observation.objects.order_by("sequence").values_list("key", flat=True))
        self.assertEqual(rows[-5:], [f"n{n}" for n in range(5)])
        self.assertLess(max(known), 2**53)  # a browser counts that far

    def test_matches_are_not_replaced_unless_that_is_said_and_are_kept_then(self):
        self.back_up(verify=False)
        Match.objects.update(opponent="Dan Ott")
        with self.assertRaisesRegex(CommandError, "--replace"):
            call_command("restore", stdout=io.StringIO())
        self.assertEqual(Match.objects.get().opponent, "Dan Ott")
        self.restore(replace=True)
        self.assertEqual(len(list(self.data.glob("before-restore-*.dump"))), 1)

    def test_with_a_key_nobody_reads_it_without(self):
        key = self.data / "key"
        key.write_text("amber, sand, and a long night\n")
        with self.settings(BACKUP_KEY_FILE=str(key)):
            self.back_up()
        written = b"".join(path.read_bytes() for path in self.to.rglob("*") if path.is_file())
        self.assertNotIn(b"a picture", written)
        with self.assertRaises(snapshot.Failed):
            self.restore()
        with self.settings(BACKUP_KEY_FILE=str(key)):
            self.restore()

    def test_a_second_one_keeps_only_what_is_new(self):
        self.clip.path.write_bytes(os.urandom(3_000_000))
        sizes = []
        for hour in (9, 10):
            self.at(hour)
            sizes.append(sum(path.stat().st_size for path in self.to.rglob("*") if path.is_file()))
        self.assertLess(sizes[1] - sizes[0], 1_000_000)

    def test_a_clip_that_is_deleted_meanwhile_is_still_in_it(self):
        dump = snapshot.dump

        def slow(*arguments):
            self.clip.path.unlink()
            dump(*arguments)

        with mock.patch("operations.snapshot.dump", slow):
            self.assertEqual(self.back_up().clips, 1)
        self.restore()
        self.assertEqual(self.clip.path.read_bytes(), b"a picture")

    def test_a_row_that_is_changed_meanwhile_is_in_neither_dump_nor_sums(self):
        dump = snapshot.dump

        def slow(*arguments):
            Match.objects.update(opponent="Dan Ott")
            dump(*arguments)

        with mock.patch("operations.snapshot.dump", slow):
            self.assertTrue(self.back_up().verified)
        self.restore()
        self.assertEqual(Match.objects.get().opponent, "Bo Castel")

    def test_a_dump_that_lacks_a_row_is_found_out(self):
        dump = snapshot.dump

        def later(database, name, into):
            Observation.objects.all().delete()
            with snapshot.held(database_of()) as (now, _):
                dump(database, now, into)

        with (
            mock.patch("operations.snapshot.dump", later),
            self.assertRaisesRegex(snapshot.Failed, "matches_observation has 0 rows in place of 2"),
        ):
            self.back_up()
        self.assertIn("matches_observation", Backup.objects.get().trouble)
        self.assertIsNone(backups.last_good())

    def test_a_damaged_repository_is_said_and_what_is_there_stays(self):
        made = self.back_up()
        for path in (self.to / "data").rglob("*"):
            if path.is_file():
                blob = bytearray(path.read_bytes())
                blob[len(blob) // 3 : len(blob) // 3 + 200] = bytes(200)
                path.write_bytes(blob)
        with self.assertRaises(snapshot.Failed):
            backups.check(backups.repository(), made.archive)
        with self.assertRaises(CommandError):
            call_command("restore", "--replace", stdout=io.StringIO())
        self.assertEqual(Match.objects.get().opponent, "Bo Castel")

    def test_one_without_a_key_file_of_its_own_is_restored_too(self):
        (self.data / "secret-key").unlink()
        self.back_up()
        self.restore()
        self.assertFalse((self.data / "secret-key").exists())

    def test_where_nothing_is_set_it_says_what_to_set(self):
        with self.settings(BACKUP_TO=""), self.assertRaisesRegex(CommandError, "JURATA_BACKUP_TO"):
            call_command("backup", stdout=io.StringIO())


def database_of():
    from django.db import connections

    return connections.create_connection("default")


class InStorage(BackupCase):
    """Clips that are in object storage stay there; a backup says which ones belong to it."""

    def setUp(self):
        super().setUp()
        self.bucket = bucket_for(self)
        store.send(self.clip.path, self.clip.path.name)

    def test_the_database_comes_back_and_the_clips_are_there(self):
        made = self.back_up()
        self.assertEqual((made.good, made.verified, made.clips, made.clip_bytes), (True, True, 1, 9))
        manifest = backups.manifest_of(backups.repository(), made.archive)
        self.assertEqual(manifest.clips[str(self.clip.pk)][2], hashlib.sha256(b"a picture").hexdigest())
        Match.objects.update(opponent="Dan Ott")
        self.restore()
        self.assertEqual(Match.objects.get().opponent, "Bo Castel")

    def test_a_clip_that_storage_lost_is_said(self):
        made = self.back_up()
        self.bucket.Object(str(self.clip.pk)).delete()
        for asked in (lambda: backups.check(backups.repository(), made.archive), self.restore):
            with self.assertRaisesRegex(snapshot.Failed, f"1 files of clips .* {self.clip.pk} first"):
                asked()

    def test_without_the_storage_it_is_not_restored(self):
        self.back_up()
        with self.settings(CLIPS_IN_STORAGE=False), self.assertRaisesRegex(snapshot.Failed, "set JURATA_CLIPS_IN"):
            self.restore()

    def test_clips_of_an_archive_of_before_are_put_into_storage(self):
        with self.settings(CLIPS_IN_STORAGE=False):
            self.back_up()
        self.bucket.Object(str(self.clip.pk)).delete()
        self.clip.path.unlink()
        self.restore()
        self.assertEqual(self.bucket.Object(str(self.clip.pk)).content_length, 9)

    def test_while_storage_is_away_it_fails_with_a_reason(self):
        with (
            override_settings(STORAGES=place("clips", NOWHERE)),
            self.assertLogs("footage", "WARNING"),
            self.assertRaisesRegex(CommandError, "storage for clips does not answer"),
        ):
            call_command("backup", stdout=io.StringIO())
        self.assertIn("does not answer", Backup.objects.get().trouble)
