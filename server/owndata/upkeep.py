"""What the worker looks after every few minutes: what has become due, and what is kept no longer."""

from __future__ import annotations

from datetime import timedelta

from django.db import close_old_connections
from django.utils import timezone
from procrastinate.contrib.django import app

from accounts.models import Notice
from jobs.queues import OTHER
from journal.models import forget_old_entries
from post.models import Mail

from .models import EXPORT_KEPT, Export
from .removing import carry_out_due
from .retention import give_notice

READ_KEPT = timedelta(days=90)
"""So long notices, and the mails of the simulated post office, are kept."""


@app.periodic(cron="*/5 * * * *")
@app.task(queue=OTHER, queueing_lock="owndata.upkeep")
def upkeep(timestamp: int) -> None:
    """Carry out deletions that have become due, remove what is kept no longer, and give notice of old clips."""
    close_old_connections()  # the database may have been started again meanwhile
    carry_out_due()
    forget_old()
    give_notice()


def forget_old() -> None:
    """Remove exports, notices, mails and lines of the journal that are older than they are kept."""
    now = timezone.now()
    for old in Export.objects.filter(created__lt=now - EXPORT_KEPT):
        old.delete()
    Notice.objects.filter(at__lt=now - READ_KEPT).delete()
    Mail.objects.filter(at__lt=now - READ_KEPT).delete()
    forget_old_entries()
