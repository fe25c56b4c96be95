"""Clips: what was uploaded, and what ffprobe found in it."""

import uuid
from pathlib import Path

from django.conf import settings
from django.db import models


class Clip(models.Model):
    class State(models.TextChoices):
        UPLOADING = "uploading"
        READY = "ready"

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
