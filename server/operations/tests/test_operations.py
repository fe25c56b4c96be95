"""Whether the installation says truly how it is, and to whom."""

from __future__ import annotations

import json
import logging
from datetime import timedelta
from unittest import mock

from django.contrib.auth.models import User
from django.core.cache import cache
from django.db import OperationalError
from django.test import TestCase, override_settings
from django.utils import timezone
from prometheus_client.parser import text_string_to_metric_families

from clubs.actions import found_club
from config import logs
from jobs.models import Job
from jurata_core.faults import JurataError
from operations.models import Backup


class HealthTest(TestCase):
    def test_a_server_that_can_work_is_alive_and_ready(self):
        self.assertEqual(self.client.get("/api/live").json(), {"alive": True})
        answer = self.client.get("/api/ready")
        wanted = dict.fromkeys(("database", "migrations", "cache", "clips", "disk"), True)
        self.assertEqual((answer.status_code, answer.json()), (200, wanted))

    def test_without_its_database_it_lives_and_is_not_ready(self):
        gone = OperationalError("server closed the connection at 10.0.0.7")
        with mock.patch("operations.health.connection.cursor", side_effect=gone):
            self.assertEqual(self.client.get("/api/live").status_code, 200)
            answer = self.client.get("/api/ready")
        self.assertEqual((answer.status_code, answer.json()["database"]), (503, False))
        self.assertNotIn(b"10.0.0.7", answer.content)

    def test_a_full_disk_and_a_cache_that_forgets_are_said(self):
        with mock.patch("operations.figures.shutil.disk_usage", return_value=mock.Mock(free=1, total=2)):
            self.assertEqual(self.client.get("/api/ready").json()["disk"], False)
        with mock.patch.object(cache, "get", return_value=None):
            self.assertEqual(self.client.get("/api/ready").json()["cache"], False)


class MetricsTest(TestCase):
    def figures(self, **headers: str) -> dict[tuple[str, str], float]:
        answer = self.client.get("/metrics", headers=headers)
        self.assertEqual(answer.status_code, 200)
        families = text_string_to_metric_families(answer.content.decode())
        return {(one.name, ",".join(one.labels.values())): one.value for family in families for one in family.samples}

    def test_they_are_read_by_who_is_on_this_machine(self):
        self.client.get("/api/session")
        found = self.figures()
        self.assertIn(("jurata_jobs", "waiting"), found)
        self.assertGreater(found["jurata_database_bytes", ""], 1_000_000)
        self.assertGreater(found["jurata_disk_bytes", "clips"], 0)
        asked = [
            value
            for (name, labels), value in found.items()
            if name.endswith("latency_seconds_by_view_method_count") and "SessionView" in labels
        ]
        self.assertGreaterEqual(sum(asked), 1)

    def test_from_elsewhere_they_need_their_token(self):
        self.assertEqual(self.client.get("/metrics", REMOTE_ADDR="192.0.2.7").status_code, 403)
        with override_settings(METRICS_TOKEN="s3cret"):
            self.assertEqual(self.client.get("/metrics").status_code, 403)
            wrong = self.client.get("/metrics", headers={"Authorization": "Bearer wrong"})
            self.assertEqual(wrong.status_code, 403)
            self.assertIn(("jurata_jobs", "waiting"), self.figures(Authorization="Bearer s3cret"))

    def test_the_queue_is_counted(self):
        user = User.objects.create_user("coach")
        Job.objects.create(owner=user, kind="prepare a clip")
        old = Job.objects.create(owner=user, kind="prepare a clip")
        Job.objects.filter(pk=old.pk).update(created=timezone.now() - timedelta(hours=1))
        begun = timezone.now() - timedelta(seconds=40)
        Job.objects.create(
            owner=user, kind="prepare a clip", state="done", begun=begun, ended=begun + timedelta(seconds=30)
        )
        found = self.figures()
        self.assertEqual(found["jurata_jobs", "waiting"], 2)
        self.assertAlmostEqual(found["jurata_jobs_oldest_seconds", ""], 3600, delta=60)
        self.assertEqual(found["jurata_jobs_ended", "prepare a clip,done"], 1)
        self.assertAlmostEqual(found["jurata_jobs_mean_seconds", "prepare a clip"], 30, places=2)


class PageTest(TestCase):
    def setUp(self):
        self.operator = User.objects.create_superuser("operator", password="three-seconds")
        self.coach = User.objects.create_user("coach", password="three-seconds", first_name="Ada")
        found_club("Dune Grappling", self.coach)

    def page(self):
        self.client.force_login(self.operator)
        return self.client.get("/api/installation").json()

    def test_it_is_for_administrators_alone(self):
        self.client.force_login(self.coach)
        self.assertEqual(self.client.get("/api/installation").status_code, 403)
        self.assertIn("PostgreSQL", self.page()["versions"])

    def test_wrong_passwords_are_counted(self):
        for password in ("a", "b", "c", "d", "e"):
            self.client.post(
                "/api/auth/browser/v1/auth/login",
                json.dumps({"username": "coach", "password": password}),
                "application/json",
            )
        said = self.page()["sign_ins"]
        self.assertEqual((said["failed"], said["shut_out"]), (5, 1))
        self.assertEqual([(one["name"], one["tries"]) for one in said["attempts"]], [("coach", 5)])

    def test_failed_work_is_tried_again(self):
        job = Job.objects.create(
            owner=self.coach, kind="prepare a clip", state="failed", trouble="it has no end", tries=1
        )
        (shown,) = self.page()["failed"]
        self.assertEqual((shown["kind"], shown["trouble"], shown["tries"]), ("prepare a clip", "it has no end", 1))
        address = f"/api/installation/failed/{job.pk}"
        self.assertEqual(self.client.post(address).status_code, 204)
        job.refresh_from_db()
        self.assertEqual((job.state, job.trouble), ("waiting", ""))
        self.assertEqual(self.client.post(address).status_code, 404)

    def test_the_last_backups_are_shown(self):
        now = timezone.now()
        Backup.objects.create(begun=now, ended=now, archive="jurata-1", trouble="borg: no space left")
        (shown,) = self.page()["backups"]
        self.assertEqual((shown["good"], shown["trouble"]), (False, "borg: no space left"))


class LogsTest(TestCase):
    def lines(self, ask):
        handler = logging.StreamHandler(mock.Mock())
        written: list[str] = []
        handler.emit = lambda record: written.append(logs.FORMATTER["()"](
            foreign_pre_chain=logs.BEFORE, processors=logs.FORMATTER["processors"]).format(record))  # fmt: skip
        root, before = logging.getLogger(), logging.getLogger().level
        root.addHandler(handler)
        root.setLevel(logging.INFO)
        try:
            ask()
        finally:
            root.removeHandler(handler)
            root.setLevel(before)
        return [json.loads(line) for line in written]

    def test_a_line_has_its_route_and_its_request_and_nothing_of_whom_it_was_about(self):
        self.client.force_login(User.objects.create_user("coach", email="coach@dune.example"))
        asked = lambda: self.client.get("/api/matches?search=Ada+Brenn", headers={"User-Agent": "Ada's phone"})  # noqa: E731
        (line,) = [one for one in self.lines(asked) if one["event"] == "request_finished"]
        self.assertEqual(line["request"], "GET api/matches")
        self.assertRegex(line["request_id"], r"^[0-9a-f-]{32,36}$")
        written = json.dumps(line)
        for told in ("Ada", "coach", "127.0.0.1"):
            self.assertNotIn(told, written)

    def test_a_secret_in_an_address_is_not_written(self):
        (line,) = [one for one in self.lines(lambda: self.client.get("/api/shared-plans/t0ken")) if "request" in one][
            -1:
        ] or [None]
        self.assertNotIn("t0ken", json.dumps(line))

    def test_a_fault_is_one_line_with_where_it_was(self):
        def broken():
            with (
                mock.patch("clubs.session.memberships", side_effect=JurataError("odd")),
                self.assertRaises(JurataError),
            ):
                self.client.force_login(User.objects.create_user("coach"))
                self.client.get("/api/session")

        (line,) = [one for one in self.lines(broken) if one["event"] == "request_failed"]
        self.assertEqual(line["exception"][0]["exc_type"], "JurataError")
