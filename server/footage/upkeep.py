"""What the worker does for clips: it finishes uploads, brings old clips up to date, and tidies up at night."""

from __future__ import annotations

import logging
import time
import uuid
from collections.abc import Iterator
from contextlib import suppress
from datetime import timedelta

from django.apps import apps
from django.db import close_old_connections
from procrastinate.contrib.django import app

from config.refusals import Refused
from jobs.models import Job
from jobs.queues import MEDIA

from . import object_storage, store
from .actions import ABANDONED, finish, prepare, sweep
from .files import UNFINISHED, clips_folder, make_private
from .models import Clip, FilesToRemove

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
    tidy()


def tidy() -> None:
    """Make the folder of this machine private again, and remove what belongs to nothing, here and in object storage."""
    left = time.time() - (ABANDONED + timedelta(days=1)).total_seconds()
    for path in clips_folder().iterdir():
        with suppress(FileNotFoundError):  # it was a partial file
            make_private(path)
            if path.suffix == UNFINISHED and path.lstat().st_mtime < left:  # of a worker that was killed at it
                path.unlink()
    remove_orphans()
    store.expire()


def remove_orphans() -> None:
    """Remove files that belong to nothing any more: what was cut off between the database and the disk leaves them."""
    old = time.time() - ORPHANED_S
    found: dict[uuid.UUID, list[str]] = {}
    for name, changed in _every_file():
        with suppress(ValueError):  # it has no id in front
            if changed < old:
                found.setdefault(uuid.UUID(name[:36]), []).append(name)
    owners = [model for model in apps.get_models() if getattr(model, "keeps_files", False)]
    for owner in owners:
        for known in owner._default_manager.filter(pk__in=list(found)).values_list("pk", flat=True):
            del found[known]
    for identity, names in found.items():
        log.warning("%s belongs to nothing any more: %s", identity, ", ".join(sorted(names)))
        store.remove_files(identity)


def _every_file() -> Iterator[tuple[str, float]]:
    """The name of each file here and in object storage, and when it was written, in seconds since 1970."""
    for path in clips_folder().iterdir():
        with suppress(FileNotFoundError):
            yield path.name, path.lstat().st_mtime
    for kept in object_storage.every() if store.in_use() else ():
        yield kept.name, kept.changed.timestamp()


def mend() -> None:
    """Finish or sweep uploads, remove files whose rows are gone, and treat old clips as new ones are."""
    for gone in FilesToRemove.objects.all():
        gone.carry_out()
    sweep()
    for clip in Clip.objects.filter(state=Clip.State.UPLOADING):
        with suppress(Refused):  # it is no clip, or somebody is at it
            finish(clip)
    unprepared = Clip.objects.filter(state=Clip.State.READY, played_as="")
    for clip in unprepared.filter(job__state=Job.State.DONE).select_related("job")[:BROUGHT_UP]:
        prepare(clip)
