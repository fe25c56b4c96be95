"""Work for the background worker: bringing summaries up to date."""

from __future__ import annotations

import time

from django.db import close_old_connections
from django.utils import timezone
from procrastinate.contrib.django import app

from jobs.queues import OTHER

from .actions import KEPT_DELETED, remove_for_good
from .models import Match
from .summaries import freshen

AT_ONCE, LONGEST_S = 25, 40
"""How many summaries are made between two looks at the clock, and how long a run may take."""


@app.periodic(cron="* * * * *")
@app.task(queue=OTHER, queueing_lock="matches.summaries")
def bring_summaries_up_to_date(timestamp: int) -> None:
    """Every minute: make summaries of matches that have changed, or that an older core has scored."""
    close_old_connections()  # the database may have been started again meanwhile
    freshen_all()


@app.periodic(cron="20 3 * * *")
@app.task(queue=OTHER, queueing_lock="matches.deleted")
def remove_deleted(timestamp: int) -> None:
    """Every night: remove the matches whose deletion can no longer be taken back."""
    close_old_connections()  # the database may have been started again meanwhile
    remove_old()


def remove_old() -> None:
    """Remove the matches that were deleted too long ago to be restored."""
    remove_for_good(Match.with_deleted.filter(deleted__lt=timezone.now() - KEPT_DELETED))


def freshen_all() -> None:
    """As many summaries as there is time for, those of the matches that changed last first."""
    began = time.monotonic()
    while freshen(Match.objects.all(), AT_ONCE) == AT_ONCE and time.monotonic() - began < LONGEST_S:
        pass
