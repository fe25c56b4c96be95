"""What the worker does every minute: take up what was cut off, finish uploads, and bring old clips up to date."""

from __future__ import annotations

import logging
from contextlib import suppress
from typing import Any

from asgiref.sync import sync_to_async
from django.db import close_old_connections
from django.db.models import Q, QuerySet
from procrastinate import JobContext
from procrastinate.contrib.django import app
from procrastinate.contrib.django.models import ProcrastinateJob
from procrastinate.jobs import Status

from config.errors import Refused

from .actions import finish, hand_over, sweep
from .files import clips_folder, make_private
from .models import Clip
from .tasks import MOST_TRIES, UNDER_WAY

CUT_OFF = f"The worker was cut off at this {MOST_TRIES} times. Ask for it again, or upload another file."
BROUGHT_UP = 3
"""So many clips a minute that are older than the rule that a copy without tags is played are given one."""
NAME = "footage.upkeep"


@app.periodic(cron="* * * * *")
@app.task(name=NAME, queue="footage", queueing_lock=NAME, pass_context=True)
async def upkeep(context: JobContext, timestamp: int) -> None:
    """Put back into the queue what a worker that is dead was at, and mend what was left half done."""
    jobs = context.app.job_manager
    for job in await jobs.get_stalled_jobs():
        if job.task_name != NAME and job.attempts < MOST_TRIES:
            await jobs.retry_job(job)
        else:
            await jobs.finish_job(job, Status.FAILED, delete_job=False)
    await sync_to_async(close_old_connections)()
    await sync_to_async(mend)()


def mend() -> None:
    """Finish or sweep uploads, give up on what has no job any more, and treat old clips as new ones are."""
    for path in clips_folder().iterdir():
        with suppress(FileNotFoundError):  # it was a partial file
            make_private(path)
    sweep()
    for clip in Clip.objects.filter(state=Clip.State.UPLOADING):
        with suppress(Refused):  # it is no clip, or somebody is at it
            finish(clip)
    give_up(Clip.objects.all())
    Clip.objects.filter(work=Clip.Work.FAILED, state=Clip.State.CONVERTING).update(state=Clip.State.FAILED)
    for clip in Clip.objects.filter(state=Clip.State.READY, work=Clip.Work.DONE, played_as="")[:BROUGHT_UP]:
        hand_over(clip)


def give_up(rows: QuerySet[Any]) -> None:
    """Say of rows whose job has ended without them that it did: somebody may ask for it again."""
    under_way = ProcrastinateJob.objects.filter(status__in=("todo", "doing")).values("id")
    left = rows.filter(work__in=UNDER_WAY).filter(Q(job=None) | ~Q(job__in=under_way))
    if count := left.update(work=Clip.Work.FAILED, trouble=CUT_OFF):
        logging.getLogger(__name__).warning("%d pieces of work were given up", count)
