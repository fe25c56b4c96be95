"""Exports: what is in them, what is not, and who gets them."""

from __future__ import annotations

import csv
import io
import json
import zipfile
from datetime import timedelta
from unittest import mock

from django.test import Client
from django.utils import timezone
from procrastinate.exceptions import JobAborted

from clubs.models import Role
from jobs.running import run
from jurata_core.adjudication import adjudicate
from jurata_core.match_log import read_log
from owndata.models import Export
from owndata.upkeep import forget_old
from reviews.models import Report
from reviews.tests.base import LOG
from roster.models import Athlete, give_consent

from .base import OwnDataCase


class ExportCase(OwnDataCase):
    def written(self, path, client=None):
        """Ask for an export, let the worker write it, and open what is downloaded."""
        asked = self.ask("post", path, client=client).json()["exports"][0]
        run(asked["job"]["id"])
        answer = self.ask("get", f"exports/{asked['id']}/file", client=client)
        self.assertEqual((answer.status_code, answer["Content-Type"]), (200, "application/zip"))
        return zipfile.ZipFile(io.BytesIO(b"".join(answer.streaming_content)))

    def rows(self, archive, name):
        return list(csv.DictReader(io.StringIO(archive.read(name).decode())))

    def folder_of(self, archive, match, inside=""):
        return next(name.rpartition("/")[0] for name in archive.namelist() if f"{match.pk}/log.json" in name)


class OfAClub(ExportCase):
    def test_it_has_everything_in_open_formats(self):
        clip = self.clip()
        self.scored.clip = clip
        self.scored.save()
        self.remark("taken-pass", standing="accepted", title="=1+1", because="", instead="", causes=[])
        archive = self.written("club/data/exports")
        self.assertIsNone(archive.testzip())
        folder = self.folder_of(archive, self.scored)
        log = json.loads(archive.read(f"{folder}/log.json"))
        self.assertEqual(adjudicate(read_log(log)).summary(), adjudicate(read_log(LOG)).summary())
        kept = json.loads(archive.read(f"{folder}/match.json"))
        self.assertEqual((kept["opponent"], kept["errors"][0]["title"]), ("Bo Calder", "=1+1"))
        self.assertEqual(kept["clips"], [str(clip.pk)])
        clips = self.rows(archive, "clips.csv")
        self.assertEqual([row["name"] for row in clips], ["final.mp4"])
        self.assertEqual(archive.read(f"clips/final-{clip.pk}.mp4"), b"a picture")
        self.assertEqual([row["name"] for row in self.rows(archive, "athletes.csv")], ["Ada Brenn", "Ilya Marsh"])
        roles = {(row["email"], row["role"]) for row in self.rows(archive, "people.csv")}
        self.assertEqual(roles, {("coach@dune.example", "head_coach"), ("sol@dune.example", "guardian")})
        self.assertIn("export asked for", {row["what"] for row in self.rows(archive, "journal.csv")})
        readme = archive.read("README.txt").decode()
        for name in {name.partition("/")[0] for name in archive.namelist()}:
            if name not in ("README.txt", "rulesets"):
                self.assertIn(name, readme)

    def test_of_a_child_it_has_what_the_named_coaches_may_see(self):
        match = self.match_of(self.child, self.clip("child.mp4"))
        archive = self.written("club/data/exports")
        self.assertNotIn(str(match.pk), " ".join(archive.namelist()))
        self.assertNotIn("child", " ".join(archive.namelist()))
        self.assertIn("1 match of children are not here", archive.read("README.txt").decode())
        self.child.coaches.add(self.coach)
        archive = self.written("club/data/exports")
        self.assertTrue(self.folder_of(archive, match))
        self.assertNotIn("are not here", archive.read("README.txt").decode())

    def test_words_that_a_spreadsheet_would_run_are_only_words(self):
        Athlete.objects.filter(pk=self.athlete.pk).update(name="=HYPERLINK(1)")
        names = [row["name"] for row in self.rows(self.written("club/data/exports"), "athletes.csv")]
        self.assertIn("'=HYPERLINK(1)", names)


class OfAPerson(ExportCase):
    def test_a_guardian_gets_what_is_kept_about_the_child(self):
        clip = self.clip("child.mp4")
        sent, unsent = self.match_of(self.child, clip), self.match_of(self.child)
        Report.objects.create(match=sent, sent=timezone.now(), greeting="Well done")
        Report.objects.create(match=unsent, greeting="Not yet")
        give_consent(self.child, self.parent)
        archive = self.written("own-data/exports", self.theirs)
        names = archive.namelist()
        inside = f"ilya-marsh-{self.child.pk}"
        about = json.loads(archive.read(f"{inside}/athlete.json"))
        self.assertEqual((about["name"], about["consents"][0]["name"]), ("Ilya Marsh", "sol"))
        self.assertIn(f"{inside}/clips/child-{clip.pk}.mp4", names)
        reports = [name for name in names if name.endswith("report.json")]
        self.assertEqual([str(sent.pk) in name for name in reports], [True])
        everything = b"".join(archive.read(name) for name in names).decode(errors="replace")
        self.assertNotIn("Not yet", everything)  # it was not sent
        self.assertNotIn("Ada Brenn", everything)  # nothing of others
        self.assertNotIn("Calder", everything)  # outside of the club opponents of children have first names
        self.assertEqual(json.loads(archive.read("account.json"))["roles"][0]["role"], "guardian")

    def test_it_is_for_who_asked_for_it(self):
        asked = self.ask("post", "own-data/exports").json()["exports"][0]
        self.assertEqual(self.ask("get", f"exports/{asked['id']}/file").status_code, 404)  # not written yet
        run(asked["job"]["id"])
        self.assertEqual(self.ask("get", f"exports/{asked['id']}/file", client=self.theirs).status_code, 404)

    def test_a_head_coach_who_left_does_not_get_the_club_s(self):
        asked = self.ask("post", "club/data/exports").json()["exports"][0]
        run(asked["job"]["id"])
        self.member("next", Role.HEAD_COACH)
        self.club.memberships.filter(user=self.coach).delete()
        self.assertEqual(self.ask("get", f"exports/{asked['id']}/file").status_code, 404)

    def test_who_is_no_guardian_any_more_does_not_get_the_child_s(self):
        answer = self.ask("post", "own-data/exports", client=self.theirs)
        made = Export.objects.get(pk=answer.json()["exports"][0]["id"])
        run(made.job_id)
        made.refresh_from_db()
        self.assertEqual(made.covers, [self.child.pk])
        self.assertEqual(self.theirs.get(f"/api/exports/{made.pk}/file").status_code, 200)
        self.child.guardians.remove(self.parent)
        self.assertEqual(self.theirs.get(f"/api/exports/{made.pk}/file").status_code, 404)

    def test_a_head_coach_who_is_no_longer_named_for_a_child_does_not_get_its_matches(self):
        self.child.coaches.add(self.coach)
        answer = self.ask("post", "club/data/exports")
        made = Export.objects.get(pk=answer.json()["exports"][0]["id"])
        run(made.job_id)
        self.assertEqual(self.client.get(f"/api/exports/{made.pk}/file").status_code, 200)
        self.child.coaches.remove(self.coach)
        self.assertEqual(self.client.get(f"/api/exports/{made.pk}/file").status_code, 404)


class Asking(ExportCase):
    def test_it_needs_the_password_again(self):
        self.client = Client()
        self.client.force_login(self.coach)
        for path in ("own-data/exports", "club/data/exports", "own-data/deletion", "club/data/deletion"):
            answer = self.ask("post", path)
            self.assertEqual((answer.status_code, answer.json()["code"]), (401, "ask_again"), path)

    def test_one_at_a_time_and_a_new_one_takes_the_place_of_the_last(self):
        first = self.ask("post", "own-data/exports").json()["exports"][0]
        self.assertEqual(self.ask("post", "own-data/exports").json()["code"], "at_work")
        run(first["job"]["id"])
        path = Export.objects.get().path
        self.assertTrue(path.exists())
        self.assertEqual(path.stat().st_mode & 0o777, 0o600)
        self.ask("post", "own-data/exports")
        self.assertEqual(Export.objects.count(), 1)
        self.assertFalse(path.exists())

    def test_without_room_it_says_how_much_it_needs(self):
        with mock.patch("owndata.actions.free_space", return_value=0):
            answer = self.ask("post", "own-data/exports")
        self.assertEqual((answer.status_code, answer.json()["code"]), (507, "no_room"))
        self.assertIn("needs about 1 MB", answer.json()["message"])

    def test_a_cancelled_one_leaves_no_file(self):
        asked = self.ask("post", "own-data/exports").json()["exports"][0]
        with mock.patch("jobs.running.REPORT_EVERY_S", 0), self.assertRaises(JobAborted):
            run(asked["job"]["id"], lambda: True)  # the worker ends at the first look
        made = Export.objects.get()
        self.assertEqual(
            (made.size, bool(list(made.path.parent.glob("*.part"))), made.path.exists()), (None, False, False)
        )

    def test_it_ends_after_a_week(self):
        asked = self.ask("post", "own-data/exports").json()["exports"][0]
        run(asked["job"]["id"])
        path = Export.objects.get().path
        Export.objects.update(created=timezone.now() - timedelta(days=6, hours=23))
        forget_old()
        self.assertTrue(path.exists())
        Export.objects.update(created=timezone.now() - timedelta(days=7, hours=1))
        forget_old()
        self.assertFalse(path.exists() or Export.objects.exists())
