"""How long a backup and a restore of a large installation take, without its clips; the restored one is proved equal.

Run ./start first: its PostgreSQL gets two databases, which are gone afterwards.

bench/run restore [matches]
"""

from __future__ import annotations

import os
import sys
import tempfile
import time
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(ROOT), str(ROOT / "server"), str(ROOT / "core"), str(ROOT / "scripts")]
NAME = "jurata_bench"
os.environ.setdefault("JURATA_DATA", str(ROOT / "var"))
os.environ.setdefault("JURATA_DB_PORT", "54817")
os.environ["JURATA_DB_NAME"] = NAME
os.environ["DJANGO_SETTINGS_MODULE"] = "config.settings"

import django  # noqa: E402

django.setup()

import make_database  # type: ignore[import-not-found]  # noqa: E402
from bench.library import library  # noqa: E402
from django.conf import settings  # noqa: E402
from django.core.management import call_command  # noqa: E402
from django.db import connection  # noqa: E402
from psycopg import sql  # noqa: E402

from matches.models import Match, Observation  # noqa: E402
from operations import backups  # noqa: E402

BOTH = (NAME, f"{NAME}_check")


def databases(statement: str) -> None:
    """Make or drop both databases."""
    password = (make_database.FOLDER / "db-admin-password").read_text()
    for name in BOTH:
        with make_database.connect(make_database.ADMIN, password) as server:
            server.execute(sql.SQL(statement).format(name=sql.Identifier(name)))
        if statement.startswith("create"):
            with make_database.connect(make_database.ADMIN, password, name) as server:
                server.execute("alter schema public owner to jurata")


def main() -> None:
    many = int(sys.argv[1]) if len(sys.argv) > 1 else 10_000
    databases("drop database if exists {name}")
    databases("create database {name} owner jurata")
    try:
        with tempfile.TemporaryDirectory() as folder:
            measure(many, Path(folder))
    finally:
        connection.close()
        databases("drop database if exists {name} with (force)")


def measure(many: int, folder: Path) -> None:
    call_command("migrate", verbosity=0)
    settings.DATA, settings.MEDIA_ROOT = folder / "data", folder / "clips"
    settings.BACKUP_TO, settings.BACKUP_KEY_FILE = str(folder / "repository"), ""
    settings.DATA.mkdir()
    with library(many):
        print(f"{Match.objects.count()} matches with {Observation.objects.count()} observations")
        for what, verify in (("backup", False), ("another, restored and compared", True)):
            begun = time.monotonic()
            backups.back_up(lambda _: None, verify)
            size = sum(path.stat().st_size for path in (folder / "repository").rglob("*") if path.is_file())
            print(f"{what}: {time.monotonic() - begun:.1f} s; the repository has {size / 1e6:.1f} MB", flush=True)
            time.sleep(1)  # as an archive is named by its second
        Match.objects.all().update(opponent="somebody else")
        begun = time.monotonic()
        backups.restore(None, True, lambda _: None)
        print(f"restore, proved equal: {time.monotonic() - begun:.1f} s", flush=True)
        assert not Match.objects.filter(opponent="somebody else").exists()


if __name__ == "__main__":
    main()
