"""The one task of the background worker that does jobs, and what it looks after every minute.

manage.py procrastinate worker

The queue lives in PostgreSQL; workers may run on any machine that sees it. Work that was cut off is taken up again: at
a stop of the worker its job goes back into the queue, and after a crash it is found by the worker's heartbeat.
"""

from __future__ import annotations

import logging

from asgiref.sync import sync_to_async
from django.db import close_old_connections
from django.db.models import Q
from django.utils import timezone
from procrastinate import JobContext, RetryStrategy
from procrastinate.contrib.django import app
from procrastinate.contrib.django.models import ProcrastinateJob
from procrastinate.exceptions import JobAborted
from procrastinate.jobs import Status
from procrastinate.manager import JobManager

from .models import UNDER_WAY, Job
from .queues import OTHER
from .running import DATABASE_AWAY, KINDS, run

MOST_TRIES = 5
"""So often a job that was cut off is begun again: one that ends its worker each time must not go on for ever."""
AGAIN = RetryStrategy(max_attempts=MOST_TRIES, retry_exceptions={JobAborted, *DATABASE_AWAY})
CUT_OFF = f"The worker was cut off at this {MOST_TRIES} times, so it is set aside. Upload another file."
LOST = "It was lost from the queue. Ask for it again."
UPKEEP = "jobs.upkeep"


@app.task(queue=OTHER, pass_context=True, retry=AGAIN)
def run_job(context: JobContext, job: str) -> None:
    close_old_connections()  # the database may have been started again meanwhile
    run(job, context.should_abort)


@app.periodic(cron="* * * * *")
@app.task(name=UPKEEP, queue=OTHER, queueing_lock=UPKEEP, pass_context=True)
async def upkeep(context: JobContext, timestamp: int) -> None:
    """Put back into the queue what a dead worker was at, and give up jobs that are in no queue any more."""
    await take_up(context.app.job_manager)
    await sync_to_async(close_old_connections)()
    await sync_to_async(give_up)()


async def take_up(jobs: JobManager) -> None:
    """Put back into the queue what a dead worker was at; what was begun too often has failed.

    What is done at every minute anyway is not put back: there may be the next one in the queue, and of those that share
    a queueing lock there can be one.
    """
    for job in await jobs.get_stalled_jobs():
        if job.queueing_lock is None and job.attempts < MOST_TRIES:
            await jobs.retry_job(job)
        else:
            await jobs.finish_job(job, Status.FAILED, delete_job=False)


def give_up() -> None:
    """Say of jobs that are in no queue any more that they failed.

    Somebody may ask for them again, but for one that cut its worker off each time: that is set aside.
    """
    queued = ProcrastinateJob.objects.filter(status__in=("todo", "doing")).values("id")
    spent = set(ProcrastinateJob.objects.filter(status="failed", attempts__gte=MOST_TRIES).values_list("id", flat=True))
    for job in Job.objects.filter(state__in=UNDER_WAY).filter(Q(queued=None) | ~Q(queued__in=queued)):
        aside = job.queued in spent
        failed = {"state": Job.State.FAILED, "trouble": CUT_OFF if aside else LOST, "set_aside": aside}
        failed["ended"] = timezone.now()
        if Job.objects.filter(pk=job.pk, state__in=UNDER_WAY).update(**failed):
            logging.getLogger(__name__).warning("job %s (%s) of user %s was given up", job.pk, job.kind, job.owner_id)
            KINDS[job.kind].given_up(job)
