"""Work that is done in the background: one row for each piece of it, whatever it is."""

import uuid

from django.conf import settings
from django.db import models


class Job(models.Model):
    """A piece of work for the worker.

    waiting --> working --> done
       ^           |------> failed ----|
       |           |------> cancelled  |
       |-----------|-------------------| retry, or a worker that ended
    """

    class State(models.TextChoices):
        WAITING = "waiting"
        WORKING = "working"
        DONE = "done"
        FAILED = "failed"
        CANCELLED = "cancelled"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="jobs")
    kind = models.CharField(max_length=40, help_text="what is done, as it is registered in jobs.running")
    state = models.CharField(max_length=10, choices=State, default=State.WAITING)
    progress = models.FloatField(default=0, help_text="the share of it that is done")
    trouble = models.TextField(blank=True, help_text="why it failed")
    tries = models.PositiveSmallIntegerField(default=0, help_text="how often it was begun")
    set_aside = models.BooleanField(
        default=False,
        help_text="whether it cut its worker off each time, so that nobody but an operator tries it again",
    )
    queued = models.BigIntegerField(null=True, help_text="its place in the worker's queue")
    created = models.DateTimeField(auto_now_add=True)
    begun = models.DateTimeField(null=True, help_text="when it was begun last")
    ended = models.DateTimeField(null=True, db_index=True, help_text="when it was done, failed or was cancelled")
    heard = models.DateTimeField(null=True, help_text="when its worker last said that it goes on")

    class Meta:
        ordering = ["created"]

    def __str__(self) -> str:
        return f"{self.kind}: {self.state}"

    @property
    def under_way(self) -> bool:
        return self.state in UNDER_WAY


UNDER_WAY = (Job.State.WAITING, Job.State.WORKING)
