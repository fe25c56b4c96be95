"""What the set-up does with an installation's data: nothing of it is ever deleted or begun again in silence."""

from __future__ import annotations

import configparser
import os
import subprocess
import sys
import tempfile
from pathlib import Path

from django.conf import settings
from django.db import connection
from django.test import SimpleTestCase, TestCase


class Database(SimpleTestCase):
    def setUp(self):
        self.data = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.data.chmod(0o755)
        self.folder = self.data / "postgres"

    def run_setup(self, commands: str):
        script = f". '{settings.ROOT}/scripts/setup.sh'; {commands}"
        environment = {"PATH": os.environ["PATH"], "JURATA_DATA": str(self.data), "HOME": "/nonexistent"}
        return subprocess.run(["bash", "-c", script], env=environment, capture_output=True, text=True, check=False)

    def start(self):
        return self.run_setup('start_database "$(database_folder postgres)" 1')

    def found(self, *names: str):
        self.folder.mkdir()
        for name in names:
            (self.folder / name).write_text("precious")

    def refused(self, done, *words: str):
        self.assertNotEqual(done.returncode, 0)
        for word in words:
            self.assertIn(word, done.stderr)

    def test_a_database_without_its_mark_is_kept(self):
        """As it stood after a restored backup: the data folder alone, and nothing else."""
        self.found("PG_VERSION", "base")
        (self.data / "db-password").write_text("secret")
        self.start()
        self.assertEqual((self.folder / "base").read_text(), "precious")
        self.assertEqual([path.name for path in self.data.glob("postgres.making*")], [])

    def test_a_database_without_its_password_is_said(self):
        self.found("PG_VERSION", "base")
        self.refused(self.start(), "db-password", "Nothing was changed")
        self.assertEqual((self.folder / "base").read_text(), "precious")

    def test_a_folder_of_something_else_is_not_overwritten(self):
        self.found("holiday.jpg")
        self.refused(self.start(), "can't be used as a database", "Nothing was changed")
        self.assertEqual((self.folder / "holiday.jpg").read_text(), "precious")

    def test_a_database_that_is_gone_is_not_begun_again(self):
        (self.data / "postgres.folder").write_text(f"{self.folder}\n")
        self.refused(self.start(), "is not there any more", "backup")
        self.assertFalse(self.folder.exists())

    def test_a_closed_data_folder_does_not_lead_to_another_database(self):
        self.found("PG_VERSION", "base")
        (self.data / "db-password").write_text("secret")
        self.data.chmod(0o700)
        self.assertEqual(self.run_setup("database_folder postgres").stdout.strip(), str(self.folder))
        if os.geteuid() == 0:  # another user than the database's owner
            self.refused(self.start(), "The user postgres can't reach", "Nothing was changed")

    def test_scripts_delete_no_folder_of_a_database(self):
        for name in ("start", "test", "scripts/setup.sh"):
            self.assertNotIn("rm -rf", (settings.ROOT / name).read_text("utf-8"), name)


class Restarts(SimpleTestCase):
    def test_whatever_ends_is_started_again_however_it_ended(self):
        """A worker whose database was killed ends with status 0."""
        programs = configparser.RawConfigParser()
        programs.read(settings.ROOT / "scripts" / "supervisord.conf")
        named = [name for name in programs.sections() if name.startswith("program:")]
        self.assertGreaterEqual(len(named), 5)
        for name in named:
            self.assertEqual(programs[name].get("autorestart"), "true", name)
        for unit in (settings.ROOT / "deploy" / "units").glob("*.service"):
            text = unit.read_text("utf-8")
            self.assertTrue("Restart=always" in text or "Type=oneshot" in text, unit.name)


class Role(TestCase):
    def test_the_server_s_own_role_rules_nothing(self):
        with connection.cursor() as cursor:
            cursor.execute("select rolsuper, rolcreaterole, rolbypassrls from pg_roles where rolname = current_user")
            self.assertEqual(cursor.fetchone(), (False, False, False))


class Secret(SimpleTestCase):
    def key(self, **environment: str) -> str:
        """The key that a program which is started with these settings has."""
        asked = [sys.executable, "-c", "from config import settings; print(settings.SECRET_KEY)"]
        seen = {**os.environ, **environment}
        folder = settings.ROOT / "server"
        return subprocess.run(asked, cwd=folder, env=seen, capture_output=True, text=True, check=True).stdout.strip()

    def test_a_key_is_itself_whatever_characters_it_has(self):
        for key in ("$HOME", "$nothing-of-this-name", "a$b", r"\$a\b", "#x=,;'\""):
            self.assertEqual(self.key(JURATA_SECRET_KEY=key), key)

    def test_an_empty_key_of_a_start_that_was_cut_off_is_made_again(self):
        with tempfile.TemporaryDirectory() as data:
            path = Path(data) / "secret-key"
            path.touch()
            keys = [self.key(JURATA_DATA=data) for _ in range(2)]
            self.assertGreater(len(keys[0]), 40)
            self.assertEqual(keys, [path.read_text()] * 2)
            self.assertEqual(path.stat().st_mode & 0o777, 0o600)
