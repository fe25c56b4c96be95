"""An installation of an earlier release is brought up to this one, and nothing of it is lost.

``releases`` has a dump of the demo for each release, made by scripts/dump_release.py, with what was in it then.
"""

from __future__ import annotations

import gzip
import json
import os
import subprocess
import sys
import tempfile
from pathlib import Path
from typing import Any

from django.conf import settings
from django.db import connection
from django.test import SimpleTestCase

from operations import snapshot

RELEASES = Path(__file__).with_name("releases")
COUNTED = "scripts/dump_release.py"


class ReleasesTest(SimpleTestCase):
    databases = {"default"}

    def test_each_release_is_migrated_and_says_the_same(self):
        dumps = sorted(RELEASES.glob("*.sql.gz"))
        self.assertTrue(dumps)
        for dump in dumps:
            with self.subTest(dump.name):
                said = json.loads(dump.with_name(dump.name.replace(".sql.gz", ".json")).read_text("utf-8"))
                self.assertEqual(self.brought_up(dump), said)

    def brought_up(self, dump: Path) -> dict[str, Any]:
        """What is in a dump after the migrations of today, asked of the program of today."""
        name = f"{connection.settings_dict['NAME']}_release"
        with connection.cursor() as cursor, tempfile.TemporaryDirectory() as data:
            cursor.execute(f'drop database if exists "{name}"')
            cursor.execute(f'create database "{name}"')
            try:
                with gzip.open(dump) as packed:
                    words = packed.read()
                reach = {**snapshot.environment(connection), "PGDATABASE": name}
                asked = [snapshot.tool("psql"), "--quiet", "--set=ON_ERROR_STOP=1"]
                subprocess.run(asked, input=words, env=reach, check=True, stdout=subprocess.DEVNULL)
                environment = {
                    **os.environ,
                    "JURATA_DB_NAME": name,
                    "JURATA_DATA": data,
                    "JURATA_DB_PASSWORD": reach["PGPASSWORD"],
                }
                for command in (["server/manage.py", "migrate", "--verbosity=0"], [COUNTED, "--say"]):
                    done = subprocess.run(
                        [sys.executable, *command], cwd=settings.ROOT, env=environment, check=True, capture_output=True
                    )
                found: dict[str, Any] = json.loads(done.stdout)
                return found
            finally:
                cursor.execute(f'drop database if exists "{name}" with (force)')
