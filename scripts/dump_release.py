"""Keep a dump of the demo of a running ./start, with what is in it, for the tests of later releases.

./start && .venv/bin/python scripts/dump_release.py     # once for each release
.venv/bin/python scripts/dump_release.py --say          # only say what is in the database
"""

from __future__ import annotations

import gzip
import json
import os
import sys
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parents[1]
sys.path[:0] = [str(ROOT / "server"), str(ROOT / "core")]
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")

import django  # noqa: E402

django.setup()

from django.conf import settings  # noqa: E402
from django.contrib.auth.models import User  # noqa: E402
from django.db import connection  # noqa: E402

from clubs.models import Membership  # noqa: E402
from footage.models import Clip  # noqa: E402
from matches.models import Match  # noqa: E402
from matches.standing import standing  # noqa: E402
from operations import snapshot  # noqa: E402
from reviews.models import Remark  # noqa: E402

RELEASES = ROOT / "server" / "operations" / "tests" / "releases"


def said() -> dict[str, Any]:
    """What is in the database: how many of everything, and the score of each match by its key."""
    scores = {
        str(match.pk): {"score": standing(match).verdict.as_json()["score"], "observations": match.observations.count()}
        for match in Match.objects.order_by("pk")
    }
    counts = {model.__name__: model._default_manager.count() for model in (User, Membership, Clip, Remark)}
    return {"counts": counts, "matches": scores}


def main() -> None:
    if "--say" in sys.argv:
        print(json.dumps(said()))
        return
    asked = [snapshot.tool("pg_dump"), "--no-owner", "--no-privileges", "--inserts", "--rows-per-insert=200"]
    leave_out = ("django_session", "cache", "procrastinate_jobs", "procrastinate_events", "procrastinate_workers")
    without = [f"--exclude-table-data={table}" for table in leave_out]
    words = snapshot.run([*asked, *without], env=snapshot.environment(connection))
    target = RELEASES / f"{settings.VERSION}.sql.gz"
    target.write_bytes(gzip.compress(words, 9, mtime=0))
    target.with_name(f"{settings.VERSION}.json").write_text(json.dumps(said(), indent=1) + "\n", "utf-8")
    print(f"{target.relative_to(ROOT)}: {target.stat().st_size / 1000:.0f} kB")


if __name__ == "__main__":
    main()
