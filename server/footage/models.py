"""Clips: what was uploaded, what ffprobe found in it, and what was made from it."""

import uuid
from pathlib import Path
from typing import Any

from django.conf import settings
from django.db import models, transaction
from django.db.models.signals import post_delete
from django.dispatch import receiver

from jobs.actions import discard

from .store import remove_files


class FilesToRemove(models.Model):
    """That the files of a row are to be removed, which is gone: stored with its deletion, and gone when they are.

    So a process that dies in between leaves nothing behind: the worker goes on within a minute.
    """

    id = models.UUIDField(primary_key=True, help_text="what the names of the files begin with")

    def __str__(self) -> str:
        return f"files of {self.id}"

    def carry_out(self) -> None:
        """Remove the files, and then the row."""
        remove_files(self.pk)
        self.delete()


def remove_files_of(identity: uuid.UUID) -> None:
    """Have the files of a row removed as soon as its deletion is committed."""
    row, _ = FilesToRemove.objects.get_or_create(pk=identity)
    transaction.on_commit(row.carry_out)


class Clip(models.Model):
    keeps_files = True
    """Files in the folder of clips begin with the id of a row: see footage.upkeep."""

    class State(models.TextChoices):
        UPLOADING = "uploading"
        CONVERTING = "converting", "browsers can't play it; a copy that they can is being made"
        READY = "ready"
        FAILED = "failed", "no copy could be made"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    club = models.ForeignKey("clubs.Club", models.CASCADE, related_name="clips")
    uploader = models.ForeignKey(settings.AUTH_USER_MODEL, models.SET_NULL, null=True, related_name="clips")
    name = models.CharField(max_length=200)
    size = models.PositiveBigIntegerField(help_text="bytes")
    script = models.JSONField(null=True, help_text="the log that the simulated camera films it from, if it does")
    filmed = models.DateField(null=True, help_text="the day on which it was filmed, as its file says")
    state = models.CharField(max_length=10, choices=State, default=State.UPLOADING)
    content_type = models.CharField(max_length=40, blank=True)
    demuxer = models.CharField(max_length=10, blank=True, help_text="the one reader that its file is opened with")
    duration_ms = models.PositiveIntegerField(null=True)
    width = models.PositiveIntegerField(null=True)
    height = models.PositiveIntegerField(null=True)
    fps = models.FloatField(null=True, help_text="frames a second, on average")
    job = models.OneToOneField(
        "jobs.Job", models.SET_NULL, null=True, related_name="clip", help_text="the preparing of the clip"
    )
    played_as = models.CharField(
        max_length=40, blank=True, help_text="the content type of the copy that is played; empty while there is none"
    )
    showed = models.ManyToManyField(
        "roster.Athlete", blank=True, related_name="clips_that_showed",
        help_text="the athletes whose matches it was ever used for; kept by the database: see matches.0019",
    )  # fmt: skip
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
        """A file made from the clip, which lies in the same folder."""
        return self.path.with_suffix(f".{ending}")

    @property
    def proxied(self) -> bool:
        """Whether a copy is played in place of the file that was uploaded."""
        return bool(self.played_as)

    @property
    def copy(self) -> Path:
        """Where the copy that is played lies."""
        return self.beside("proxy.webm" if self.played_as == "video/webm" else "proxy.mp4")

    @property
    def played(self) -> tuple[Path, str]:
        """The file that is played, and its content type."""
        return (self.copy, self.played_as) if self.played_as else (self.path, self.content_type)


@receiver(post_delete, sender=Clip)
def _gone(sender: Any, instance: Clip, **_: Any) -> None:
    """However a clip is deleted, its files go with it."""
    discard(instance.job_id)
    remove_files_of(instance.pk)
