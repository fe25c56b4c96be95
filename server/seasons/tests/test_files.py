"""Many matches in, and seasons out as files."""

from __future__ import annotations

import csv
import io
import json
import zipfile
from unittest import mock

from django.contrib.auth.models import User
from django.core.files.uploadedfile import SimpleUploadedFile

from accounts.models import Notice
from clubs.actions import join
from clubs.models import Role
from jobs.models import Job
from jobs.running import run
from matches.models import Match, Summary
from matches.tests.base import LOG
from reviews.tests.base import ReviewCase
from roster.models import Athlete
from seasons import importing
from seasons.models import Import

from .test_season import SeasonCase

ABOUT = {"athlete": "Ada Finch", "opponent": "Ulla Vexley", "event": "Thaw Cup", "date": "2026-03-14"}


class Importing(ReviewCase):
    def setUp(self):
        super().setUp()
        self.athlete.name = "Ada Finch"
        self.athlete.save()

    def send(self, *files, **wanted):
        uploads = [SimpleUploadedFile(name.rsplit("/", 1)[-1], content) for name, content in files]
        names = "\n".join(name for name, _ in files)
        return self.client.post("/api/imports", {"files": uploads, "names": names, **wanted})

    def lines(self, *rows):
        return ("season.jsonl", "\n".join(one if isinstance(one, str) else json.dumps(one) for one in rows).encode())

    def done(self, *files, **wanted):
        answer = self.send(*files, **wanted)
        self.assertEqual(answer.status_code, 201, answer.content)
        made = Import.objects.get(pk=answer.json()["id"])
        run(made.job_id)
        made.refresh_from_db()
        return made

    def test_matches_are_taken_in_with_what_each_comes_to(self):
        made = self.done(self.lines(*({**ABOUT, "round": str(n), "log": LOG} for n in range(3))))
        self.assertEqual((made.made, made.known, made.refused, made.job.state), (3, 0, 0, Job.State.DONE))
        match = Match.objects.filter(opponent="Ulla Vexley").first()
        self.assertEqual((match.athlete, str(match.date), match.event), (self.athlete, "2026-03-14", "Thaw Cup"))
        self.assertEqual(match.observations.count(), len(LOG["observations"]))
        self.assertEqual(Summary.objects.filter(match__opponent="Ulla Vexley").count(), 3)
        self.assertIn("3 matches taken in", Notice.objects.get(user=self.coach, kind="made").text)
        self.assertFalse(made.path.exists())

    def test_the_same_again_adds_nothing(self):
        rows = self.lines({**ABOUT, "log": LOG}, {**ABOUT, "log": LOG})
        self.assertEqual((self.done(rows).made, self.done(rows).known), (1, 2))

    def test_what_is_wrong_with_one_keeps_that_one_out(self):
        broken = {**LOG, "ruleset": "no such rules"}
        made = self.done(
            self.lines({**ABOUT, "log": LOG}, "{", {**ABOUT, "log": broken}, {**ABOUT, "athlete": "Nobody", "log": LOG})
        )
        self.assertEqual((made.made, made.refused), (1, 3))
        said = {row["where"]: row["faults"][0] for row in made.faults}
        self.assertIn("is not JSON", said["season.jsonl, line 2"])
        self.assertIn("log.ruleset", said["season.jsonl, line 3"])
        self.assertEqual(said["season.jsonl, line 4"], 'athlete: "Nobody" is not an athlete of the club')

    def test_athletes_are_added_where_that_is_asked_for(self):
        made = self.done(self.lines({**ABOUT, "athlete": "Cy Dorn", "log": LOG}), add_athletes=True)
        self.assertEqual((made.made, made.added), (1, ["Cy Dorn"]))
        added = Athlete.objects.get(name="Cy Dorn")
        self.assertEqual((added.belt, added.birth_year), (LOG["division"]["belt"], 2026 - LOG["division"]["age"]))
        self.assertEqual(list(added.coaches.all()), [self.coach])

    def test_a_log_alone_is_of_the_athlete_who_was_chosen(self):
        self.assertEqual(self.done(("a.json", json.dumps(LOG).encode())).refused, 1)
        made = self.done(("a.json", json.dumps(LOG).encode()), athlete=self.athlete.pk)
        self.assertEqual((made.made, Match.objects.filter(opponent="Unknown").count()), (1, 1))

    def test_a_folder_comes_with_its_paths(self):
        log, about = json.dumps(LOG).encode(), json.dumps(ABOUT).encode()
        made = self.done(("x/one/log.json", log), ("x/one/match.json", about), ("x/notes.txt", b"?"))
        self.assertEqual((made.made, made.name), (1, "2 files.zip"))

    def test_every_file_that_was_chosen_is_taken_in_or_named(self):
        """Browsers send line breaks in a form as CRLF."""
        log = json.dumps({**ABOUT, "log": LOG}).encode()
        again = json.dumps({**ABOUT, "round": "final", "log": LOG}).encode()
        files = [("a.json", log), ("photo.jpg", b"?"), ("b.json", again), ("damaged.zip", b"PK"), ("a.json", b"{")]
        uploads = [SimpleUploadedFile(name, content) for name, content in files]
        names = "\r\n".join(name for name, _ in files)
        answer = self.client.post("/api/imports", {"files": uploads, "names": names})
        made = Import.objects.get(pk=answer.json()["id"])
        run(made.job_id)
        made.refresh_from_db()
        self.assertEqual(made.made, 2)
        self.assertEqual([row["where"] for row in made.faults], ["photo.jpg", "3/a.json", "damaged.zip"])

    def test_one_wrong_file_is_named(self):
        self.assertIn("photo.png: no match log", self.send(("photo.png", b"x")).json()["message"])

    def test_who_has_left_the_club_takes_nothing_in(self):
        """Neither by work that was asked for before, nor by asking for it again; and nobody sees it any more."""
        made = Import.objects.get(pk=self.send(self.lines({**ABOUT, "log": LOG})).json()["id"])
        membership = self.club.memberships.get(user=self.coach)
        membership.delete()
        run(made.job_id)
        made.job.refresh_from_db()
        self.assertEqual((made.job.state, made.job.trouble), (Job.State.FAILED, "Your role no longer includes this."))
        for method, body in (("get", None), ("post", {"do": "retry"})):
            self.assertEqual(self.call(method, f"jobs/{made.job_id}", body).status_code, 404)
        self.assertEqual(Match.objects.filter(opponent="Ulla Vexley").count(), 0)

    def test_a_right_that_ends_on_the_way_ends_the_import(self):
        rows = self.lines(*({**ABOUT, "round": str(n), "log": LOG} for n in range(5)))
        made = Import.objects.get(pk=self.send(rows).json()["id"])
        taken = importing._Taking.in_

        def leaves(takes, batch):
            taken(takes, batch)
            self.club.memberships.filter(user=self.coach).delete()

        with mock.patch.object(importing, "AT_ONCE", 2), mock.patch.object(importing._Taking, "in_", leaves):
            run(made.job_id)
        made.refresh_from_db()
        self.assertEqual((made.made, made.job.state), (2, Job.State.FAILED))

    def test_what_is_done_is_not_done_again(self):
        made = self.done(self.lines({**ABOUT, "log": LOG}))
        self.assertEqual(self.call("post", f"jobs/{made.job_id}", {"do": "retry"}).json()["code"], "done")
        Job.objects.filter(pk=made.job_id).update(state=Job.State.WAITING)  # as from before that rule
        run(made.job_id)
        made.job.refresh_from_db()
        self.assertNotIn("/", made.job.trouble)

    def test_a_child_of_others_is_not_written_to(self):
        child = Athlete.objects.create(club=self.club, name="Pip", birth_year=2018, belt="grey")
        made = self.done(self.lines({**ABOUT, "athlete": "pip", "log": LOG}), add_athletes=True)
        self.assertEqual((made.made, made.refused, child.matches.count()), (0, 1, 0))

    def test_what_was_cut_off_goes_on_where_it_was(self):
        rows = self.lines(*({**ABOUT, "round": str(n), "log": LOG} for n in range(5)))
        answer = self.send(rows)
        made = Import.objects.get(pk=answer.json()["id"])
        with (
            mock.patch.object(importing, "AT_ONCE", 2),
            mock.patch("jobs.running.Reporter.__call__", side_effect=[True, False]),
        ):
            run(made.job_id, lambda: False)
        made.refresh_from_db()
        self.assertEqual((made.made, made.reached), (4, 4))
        Job.objects.filter(pk=made.job_id).update(state=Job.State.WAITING)
        run(made.job_id)
        made.refresh_from_db()
        self.assertEqual((made.made, made.known, made.job.state), (5, 0, Job.State.DONE))

    def test_what_holds_no_logs_is_refused_at_once(self):
        self.assertEqual(self.send(("photo.png", b"x")).json()["code"], "wrong_ending")
        with mock.patch.object(importing, "LARGEST", 1):
            self.assertEqual(self.send(self.lines(LOG)).status_code, 413)
        answer = self.send(("broken.zip", b"PK no zip"))
        made = Import.objects.get(pk=answer.json()["id"])
        run(made.job_id)
        made.refresh_from_db()
        self.assertEqual((made.refused, "is not JSON" in str(made.faults)), (1, True))

    def test_an_import_is_its_own_coach_s(self):
        made = self.done(self.lines({**ABOUT, "log": LOG}))
        other = User.objects.create_user("third")
        join(self.club, other, Role.COACH)
        self.client.force_login(other)
        self.assertEqual(self.call("get", "imports").json(), [])
        self.assertEqual(self.call("get", f"imports/{made.pk}").status_code, 404)
        self.client.force_login(self.coach)
        self.assertEqual(self.call("get", f"imports/{made.pk}").json()["made"], 1)
        self.assertEqual(self.call("delete", f"imports/{made.pk}").status_code, 204)
        self.assertEqual(Match.objects.filter(opponent="Ulla Vexley").count(), 1)


class Exports(SeasonCase):
    def test_an_athlete_s_season_as_tables_json_and_pdf(self):
        at = f"athletes/{self.athlete.pk}/season"
        with zipfile.ZipFile(io.BytesIO(self.call("get", f"{at}/tables").content)) as archive:
            rows = list(csv.DictReader(io.StringIO(archive.read("matches.csv").decode())))
            self.assertIn("dictionary.csv", archive.namelist())
        self.assertEqual([row["date"] for row in rows], ["2026-09-01", "2026-10-03", "2026-10-10"])
        shown = json.loads(self.call("get", f"{at}/json").content)
        self.assertEqual(shown["season"]["matches"], 3)
        self.assertTrue(self.call("get", f"{at}/pdf").content.startswith(b"%PDF"))
        self.assertEqual(self.call("get", f"{at}/docx").status_code, 404)

    def test_the_club_s_tables_leave_out_children_of_others(self):
        child = Athlete.objects.create(club=self.club, name="Pip", birth_year=2018, belt="grey")
        Match.objects.filter(date="2026-10-03").update(athlete=child)
        with zipfile.ZipFile(io.BytesIO(self.call("get", "club/season/tables").content)) as archive:
            rows = list(csv.DictReader(io.StringIO(archive.read("matches.csv").decode())))
        self.assertEqual(len(rows), 2)
