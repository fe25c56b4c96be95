"""The one page, its protection, and that the README's commands do what it says."""

import os
import re
import shlex
import subprocess
import sys
from unittest import mock

from django.conf import settings
from django.contrib.auth.models import User
from django.db import OperationalError
from django.test import SimpleTestCase, TestCase


class Page(TestCase):
    def test_every_address_of_the_front_end_is_the_page(self):
        for path in ("/", "/matches/new", "/no/such/view"):
            answer = self.client.get(path)
            self.assertEqual(answer.status_code, 200)
            self.assertContains(answer, '<div id="app">')

    def test_nothing_from_elsewhere_may_run(self):
        policy = self.client.get("/")["Content-Security-Policy"]
        self.assertIn("default-src 'self'", policy)
        self.assertNotIn("unsafe", policy)
        self.assertIn("frame-ancestors 'none'", policy)

        self.assertIn("form-action 'self'", policy)
        self.assertIn("camera=()", self.client.get("/")["Permissions-Policy"])

    def test_behind_tls_cookies_are_for_tls_alone(self):
        names = ("SESSION_COOKIE_SECURE", "CSRF_COOKIE_SECURE", "SECURE_HSTS_SECONDS")
        asked = f"from config import settings; print(*(getattr(settings, name) for name in {names}))"
        got = [
            subprocess.run(
                [sys.executable, "-c", asked], cwd=settings.ROOT / "server", env={**os.environ, "JURATA_TLS": tls},
                capture_output=True, text=True, check=True,
            ).stdout.split()
            for tls in ("1", "0")
        ]  # fmt: skip
        self.assertEqual(got, [["True", "True", "31536000"], ["False", "False", "0"]])

    def test_a_database_that_is_away_is_no_fault_of_what_was_asked(self):
        self.client.force_login(User.objects.create_user("coach"))
        with mock.patch("clubs.session.memberships", side_effect=OperationalError("server closed the connection")):
            answer = self.client.get("/api/session")
        self.assertEqual((answer.status_code, answer.json()["code"]), (503, "away"))

    def test_an_address_of_the_api_that_is_none(self):
        answer = self.client.get("/api/no-such-thing")
        self.assertEqual((answer.status_code, answer.json()["code"]), (404, "not_found"))


class Documents(SimpleTestCase):
    PAGES = [settings.ROOT / "README.md", settings.ROOT / "CONTRIBUTING.md", *(settings.ROOT / "docs").glob("*.md")]

    def test_the_commands_run(self):
        text = (settings.ROOT / "docs" / "command-line.md").read_text("utf-8")
        commands = re.findall(r"^    (bin/jurata .+)$", text, re.MULTILINE)
        self.assertGreaterEqual(len(commands), 7)
        for command in commands:
            done = subprocess.run(shlex.split(command), cwd=settings.ROOT, capture_output=True, text=True, check=False)
            self.assertEqual((done.returncode, done.stderr), (0, ""), command)

    def test_what_they_point_to_is_there(self):
        found = set()
        for page in self.PAGES:
            text = page.read_text("utf-8")
            found |= {page.parent / link for link in re.findall(r"\]\(([^)#:]+)(?:#[^)]*)?\)", text)}
            found |= {
                settings.ROOT / path for path in re.findall(r"`((?:core|server|web|bench|scripts|bin)/[\w./-]*)`", text)
            }
        self.assertGreater(len(found), 40)
        for path in found:
            self.assertTrue(path.exists(), path)
