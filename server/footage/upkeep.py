"""What the worker does every minute for clips: finish uploads, and bring old clips up to date."""

from __future__ import annotations

from contextlib import suppress

from django.db import close_old_connections
from procrastinate.contrib.django import app

from config.refusals import Refused
from jobs.models import Job

from .actions import finish, prepare, sweep
from .files import clips_folder, make_private
from .models import Clip

BROUGHT_UP = 3
"""So many clips a minute that are older than the rule that a copy without tags is played are given one."""


@app.periodic(cron="* * * * *")
@app.task(queue="footage", queueing_lock="footage.upkeep")
def upkeep(timestamp: int) -> None:
    close_old_connections()  # the database may have been started again meanwhile
    mend()


def mend() -> None:
    """Finish or sweep uploads, and treat old clips as new ones are."""
    for path in clips_folder().iterdir():
        with suppress(FileNotFoundError):  # it was a partial file
            make_private(path)
    sweep()
    for clip in Clip.objects.filter(state=Clip.State.UPLOADING):
        with suppress(Refused):  # it is no clip, or somebody is at it
            finish(clip)
    unprepared = Clip.objects.filter(state=Clip.State.READY, played_as="")
    for clip in unprepared.filter(job__state=Job.State.DONE).select_related("job")[:BROUGHT_UP]:
        prepare(clip)
