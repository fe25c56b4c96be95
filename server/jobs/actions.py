"""What can be done with a job: ask for it, cancel it, ask for it again."""

from __future__ import annotations

import uuid

from django.db import transaction
from django.utils import timezone
from procrastinate.contrib.django import app

from config.refusals import Clash, NotAllowed

from .models import UNDER_WAY, Job
from .running import KINDS, NO_RIGHT
from .tasks import CUT_OFF, run_job


def new_job(owner: int, kind: str) -> Job:
    """A new job; :func:`enqueue` follows in the same transaction, once what it is for is stored with it."""
    return Job.objects.create(owner_id=owner, kind=KINDS[kind].name)


@transaction.atomic
def enqueue(job: Job) -> None:
    """Put a job into the worker's queue."""
    job.state, job.progress, job.trouble, job.ended = Job.State.WAITING, 0, "", None
    # One job of a user after another: what takes for ever holds up nobody else's.
    kind, lock = KINDS[job.kind], f"jobs of {job.owner_id}"
    job.queued = run_job.configure(queue=kind.queue, lock=lock, priority=kind.priority).defer(job=str(job.pk))
    job.save(update_fields=["state", "progress", "trouble", "queued", "ended"])
    kind.queued(job)


def retry(job: Job) -> None:
    """Put a job that has ended into the queue again."""
    if job.under_way:
        raise Clash("at_work", "This is being done already.")
    if job.set_aside:
        raise Clash("set_aside", f"{CUT_OFF} Whoever runs this installation can have it tried once more.")
    enqueue(job)


def ask_again(job: Job) -> None:
    """Have a job that failed or was cancelled tried again, as who asked for it."""
    if job.state == Job.State.DONE:
        raise Clash("done", "This is done already.")
    if not KINDS[job.kind].allowed(job):
        raise NotAllowed("no_right", NO_RIGHT)
    retry(job)


def retry_set_aside(job: Job) -> None:
    """Put a job that has failed into the queue again, even one that was set aside."""
    Job.objects.filter(pk=job.pk).update(set_aside=False)
    job.set_aside = False
    retry(job)


def cancel(job: Job) -> None:
    """Stop a job."""
    if not Job.objects.filter(pk=job.pk, state__in=UNDER_WAY).update(state=Job.State.CANCELLED, ended=timezone.now()):
        raise Clash("not_at_work", "This is no longer being worked on.")
    job.state = Job.State.CANCELLED
    KINDS[job.kind].given_up(job)
    _out_of_the_queue(job)


def discard(pk: uuid.UUID | None) -> None:
    """Throw a job away, with what it was for."""
    job = None if pk is None else Job.objects.filter(pk=pk).first()
    if job is not None:
        _out_of_the_queue(job)
        job.delete()


def _out_of_the_queue(job: Job) -> None:
    if job.queued is not None:
        app.job_manager.cancel_job_by_id(job.queued)
