"""How the installation is, in figures: what waits for the workers, how long work takes, room on the disks, sign-ins.

The operator's page and the metrics show the same figures, so they are worked out here once.
"""

from __future__ import annotations

import shutil
from datetime import datetime, timedelta
from pathlib import Path
from typing import NamedTuple

from axes.models import AccessAttempt
from django.conf import settings
from django.db import connection
from django.db.models import Avg, Count, DurationField, ExpressionWrapper, F, Max, Min, Sum
from django.utils import timezone

from accounts.guessing import cooloff_minutes
from footage.files import clips_folder
from jobs.models import Job

DAY = timedelta(days=1)
TOLD_ATTEMPTS = 20
"""So many of the sign-ins that failed are shown one by one."""


class Waiting(NamedTuple):
    """What the workers have before them. ``oldest_s`` is for how long the longest has waited, in seconds."""

    waiting: int
    working: int
    oldest_s: float


class Times(NamedTuple):
    """How long one kind of work took in the last day, in seconds, and how it ended."""

    kind: str
    done: int
    failed: int
    mean_s: float
    longest_s: float


class Room(NamedTuple):
    """What is free on a disk, in bytes."""

    name: str
    free: int
    total: int


class Attempt(NamedTuple):
    """Wrong passwords for one account from one address."""

    name: str
    address: str
    tries: int
    last: datetime


class SignIns(NamedTuple):
    """Sign-ins that failed in the last day; ``shut_out`` says how many accounts are locked out right now."""

    failed: int
    shut_out: int
    attempts: list[Attempt]


def waiting() -> Waiting:
    """What the workers have before them."""
    counted = dict(Job.objects.values_list("state").annotate(Count("pk")).order_by())
    oldest = Job.objects.filter(state=Job.State.WAITING).aggregate(Min("created"))["created__min"]
    waited = 0.0 if oldest is None else max(0.0, (timezone.now() - oldest).total_seconds())
    return Waiting(counted.get(Job.State.WAITING, 0), counted.get(Job.State.WORKING, 0), waited)


def times() -> list[Times]:
    """How long each kind of work took in the last day."""
    ended = Job.objects.filter(ended__gt=timezone.now() - DAY).exclude(begun=None)
    took = ExpressionWrapper(F("ended") - F("begun"), DurationField())
    rows = ended.annotate(took=took).values("kind", "state").annotate(Count("pk"), Avg("took"), Max("took")).order_by()
    found: dict[str, Times] = {}
    for row in rows:
        one = found.get(row["kind"], Times(row["kind"], 0, 0, 0, 0))
        if row["state"] == Job.State.DONE:
            mean, longest = row["took__avg"].total_seconds(), row["took__max"].total_seconds()
            one = one._replace(done=row["pk__count"], mean_s=mean, longest_s=longest)
        elif row["state"] == Job.State.FAILED:
            one = one._replace(failed=row["pk__count"])
        found[one.kind] = one
    return [found[kind] for kind in sorted(found)]


def failed_jobs() -> list[Job]:
    """Work that failed in the last month, the newest first."""
    found = Job.objects.filter(state=Job.State.FAILED, created__gt=timezone.now() - 30 * DAY)
    return list(found.select_related("owner").order_by("-created")[:50])


def rooms() -> list[Room]:
    """What is free where clips lie and where everything else of this machine lies."""
    folders = {"clips": clips_folder(), "data": Path(settings.DATA)}
    return [Room(name, *_free_of(folder)) for name, folder in folders.items()]


def _free_of(folder: Path) -> tuple[int, int]:
    usage = shutil.disk_usage(folder)
    return usage.free, usage.total


def database_bytes() -> int:
    """How much the database takes on its own disk."""
    with connection.cursor() as cursor:
        cursor.execute("select pg_database_size(current_database())")
        (size,) = cursor.fetchone() or (0,)
    return int(size)


def sign_ins() -> SignIns:
    """The sign-ins that failed in the last day and were not followed by a right one."""
    recent = AccessAttempt.objects.filter(attempt_time__gt=timezone.now() - DAY)
    cooling = timezone.now() - timedelta(minutes=cooloff_minutes())
    shut_out = recent.filter(attempt_time__gt=cooling, failures_since_start__gte=settings.AXES_FAILURE_LIMIT)
    failed = recent.aggregate(Sum("failures_since_start"))["failures_since_start__sum"] or 0
    attempts = [
        Attempt(one.username or "", one.ip_address or "", one.failures_since_start, one.attempt_time)
        for one in recent.order_by("-attempt_time")[:TOLD_ATTEMPTS]
    ]
    return SignIns(failed, shut_out.values("username").distinct().count(), attempts)
