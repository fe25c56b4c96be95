"""Work for the background worker: what errors cost of the chance of winning."""

from __future__ import annotations

import time

from django.db import close_old_connections
from procrastinate.contrib.django import app

from jobs.queues import OTHER

from .pricing import price

LONGEST_S = 40


@app.periodic(cron="* * * * *")
@app.task(queue=OTHER, queueing_lock="seasons.pricing")
def price_matches(timestamp: int) -> None:
    """Every minute: work out what errors cost in matches that were scored since."""
    close_old_connections()  # the database may have been started again meanwhile
    began = time.monotonic()
    while price() and time.monotonic() - began < LONGEST_S:
        pass
