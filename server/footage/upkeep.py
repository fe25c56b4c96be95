"""What the worker does for clips: it finishes uploads, brings old clips up to date, and tidies up at night."""

from __future__ import annotations

import logging
import time
import uuid
from contextlib import suppress
from pathlib import Path

from django.apps import apps
from django.db import close_old_connections
from procrastinate.contrib.django import app

from config.refusals import Refused
from jobs.models import Job
from jobs.queues import MEDIA

from .actions import finish, prepare, sweep
from .files import clips_folder, make_private
from .models import Clip

log = logging.getLogger(__name__)

ORPHANED_S = 24 * 3600
"""A file that belongs to nothing is removed after so long; one that is being made has its row by then."""
BROUGHT_UP = 3
"""So many clips a minute that are older than the rule that a copy without tags is played are given one."""


@app.periodic(cron="* * * * *")
@app.task(queue=MEDIA, queueing_lock="footage.upkeep")
def upkeep(timestamp: int) -> None:
    close_old_connections()  # the database may have been started again meanwhile
    mend()


@app.periodic(cron="40 3 * * *")
@app.task(queue=MEDIA, queueing_lock="footage.tidy_up")
def tidy_up(timestamp: int) -> None:
    """Once a night: it looks at every file."""
    close_old_connections()
    remove_orphans()


def remove_orphans() -> None:
    """Remove files that belong to nothing any more: what was cut off between the database and the disk leaves them."""
    old = time.time() - ORPHANED_S
    found: dict[uuid.UUID, list[Path]] = {}
    for path in clips_folder().iterdir():
        with suppress(ValueError, FileNotFoundError):  # it has no id in front, or is gone already
            if path.lstat().st_mtime < old:
                found.setdefault(uuid.UUID(path.name[:36]), []).append(path)
    owners = [model for model in apps.get_models() if getattr(model, "keeps_files", False)]
    for owner in owners:
        for known in owner._default_manager.filter(pk__in=list(found)).values_list("pk", flat=True):
            del found[known]
    for paths in found.values():
        for path in paths:
            log.warning("%s belongs to nothing any more and is removed", path.name)
            path.unlink(missing_ok=True)


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
