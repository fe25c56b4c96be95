"""Clips: what was uploaded, what ffprobe found in it, and what was made from it."""

import uuid
from pathlib import Path

from django.conf import settings
from django.db import models


class Clip(models.Model):
    class State(models.TextChoices):
        UPLOADING = "uploading"
        CONVERTING = "converting", "browsers can't play it; a copy that they can is being made"
        READY = "ready"
        FAILED = "failed", "no copy could be made"

    class Work(models.TextChoices):
        """How far the background worker is with the clip."""

        NONE = "none"
        WAITING = "waiting"
        WORKING = "working"
        DONE = "done"
        FAILED = "failed"
        CANCELLED = "cancelled"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="clips")
    name = models.CharField(max_length=200)
    size = models.PositiveBigIntegerField(help_text="bytes")
    state = models.CharField(max_length=10, choices=State, default=State.UPLOADING)
    content_type = models.CharField(max_length=40, blank=True)
    duration_ms = models.PositiveIntegerField(null=True)
    width = models.PositiveIntegerField(null=True)
    height = models.PositiveIntegerField(null=True)
    fps = models.FloatField(null=True, help_text="frames a second, on average")
    work = models.CharField(max_length=10, choices=Work, default=Work.NONE)
    progress = models.FloatField(default=0, help_text="share of the work that is done")
    trouble = models.TextField(blank=True, help_text="why the work failed")
    job = models.BigIntegerField(null=True, help_text="the worker's job")
    proxied = models.BooleanField(default=False, help_text="whether a copy made for seeking is played instead")
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-created"]

    def __str__(self) -> str:
        return self.name

    @property
    def path(self) -> Path:
        """Where the file lies; named by id, never by what the user called it."""
        return Path(settings.MEDIA_ROOT) / str(self.id)

    def beside(self, ending: str) -> Path:
        """A file made from the clip, which lies beside it."""
        return self.path.with_suffix(f".{ending}")

    @property
    def played(self) -> tuple[Path, str]:
        """The file that is played, and its content type."""
        return (self.beside("proxy.mp4"), "video/mp4") if self.proxied else (self.path, self.content_type)
