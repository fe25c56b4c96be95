"""Work for the background worker: bringing summaries up to date."""

from __future__ import annotations

import time

from django.db import close_old_connections
from procrastinate.contrib.django import app

from .models import Match
from .summaries import freshen

AT_ONCE, LONGEST_S = 25, 40
"""How many summaries are made between two looks at the clock, and how long a run may take."""


@app.periodic(cron="* * * * *")
@app.task(queue="footage", queueing_lock="matches.summaries")
def bring_summaries_up_to_date(timestamp: int) -> None:
    """Every minute: make summaries of matches that have changed, or that an older core has scored."""
    close_old_connections()  # the database may have been started again meanwhile
    freshen_all()


def freshen_all() -> None:
    """As many summaries as there is time for, those of the matches that changed last first."""
    began = time.monotonic()
    while freshen(Match.objects.all(), AT_ONCE) == AT_ONCE and time.monotonic() - began < LONGEST_S:
        pass
