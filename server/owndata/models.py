"""What a person or a club does with all of their own data: take it away, delete it, and say how long clips are kept."""

from __future__ import annotations

import uuid
from datetime import timedelta
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.validators import MaxValueValidator, MinValueValidator
from django.db import models
from django.db.models.signals import post_delete
from django.dispatch import receiver

from footage.models import remove_files_of
from jobs.actions import discard

EXPORT_KEPT = timedelta(days=7)
"""So long an export can be downloaded; then its file is removed."""
TIME_TO_THINK = timedelta(days=30)
"""So long after it was asked for, a deletion can be taken back; then it is carried out."""
LONGEST_MONTHS = 120


class Export(models.Model):
    """Everything of a club, or, where ``club`` is null, of who asks for it, as one zip that the worker writes."""

    keeps_files = True
    """Files in the folder of clips begin with the id of a row: see footage.upkeep."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    asked_by = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="exports")
    club = models.ForeignKey("clubs.Club", models.CASCADE, null=True, related_name="exports")
    job = models.OneToOneField(
        "jobs.Job", models.SET_NULL, null=True, related_name="export", help_text="the writing of it"
    )
    size = models.PositiveBigIntegerField(null=True, help_text="bytes; null until it is written")
    covers = models.JSONField(default=list, help_text="the athletes whose matches are in it, by id")
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-created"]

    def __str__(self) -> str:
        return f"export of {self.club or self.asked_by}"

    @property
    def path(self) -> Path:
        return Path(settings.MEDIA_ROOT) / f"{self.id}.export.zip"


@receiver(post_delete, sender=Export)
def _gone(sender: Any, instance: Export, **_: Any) -> None:
    """However an export is deleted, its file goes with it."""
    discard(instance.job_id)
    remove_files_of(instance.pk)


class Deletion(models.Model):
    """That an account, a club, or an athlete with all that is about them, will be deleted on a day."""

    user = models.OneToOneField(settings.AUTH_USER_MODEL, models.CASCADE, null=True, related_name="deletion")
    club = models.OneToOneField("clubs.Club", models.CASCADE, null=True, related_name="deletion")
    athlete = models.OneToOneField("roster.Athlete", models.CASCADE, null=True, related_name="deletion")
    asked_by = models.CharField(max_length=160, help_text="how who asked for it was called then")
    asked = models.DateTimeField(auto_now_add=True)
    due = models.DateTimeField()

    class Meta:
        ordering = ["due"]
        constraints = [
            models.CheckConstraint(
                condition=models.Q(user__isnull=False, club=None, athlete=None)
                | models.Q(user=None, club__isnull=False, athlete=None)
                | models.Q(user=None, club=None, athlete__isnull=False),
                name="a_deletion_is_of_one_thing",
            )
        ]

    def __str__(self) -> str:
        return f"deletion of {self.user or self.club or self.athlete}"


class Retention(models.Model):
    """How long a club wants to keep clips. Older ones are proposed for deletion; logs and reports are kept."""

    club = models.OneToOneField("clubs.Club", models.CASCADE, primary_key=True, related_name="retention")
    months = models.PositiveSmallIntegerField(
        null=True, validators=[MinValueValidator(1), MaxValueValidator(LONGEST_MONTHS)],
        help_text="null: clips are kept until somebody deletes them",
    )  # fmt: skip
    told = models.DateField(null=True, help_text="when the head coaches were last given notice of old clips")

    def __str__(self) -> str:
        return f"clips of {self.club}: {self.months} months"


class KeptClip(models.Model):
    """A clip that is not proposed for deletion before a day, because a head coach wants to keep it."""

    clip = models.OneToOneField("footage.Clip", models.CASCADE, primary_key=True, related_name="kept")
    until = models.DateField()

    def __str__(self) -> str:
        return f"{self.clip} until {self.until}"


class Clearing(models.Model):
    """The deletion of old clips by the worker, and what came of it."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    club = models.ForeignKey("clubs.Club", models.CASCADE, related_name="clearings")
    asked_by = models.ForeignKey(settings.AUTH_USER_MODEL, models.SET_NULL, null=True, related_name="+")
    job = models.OneToOneField("jobs.Job", models.SET_NULL, null=True, related_name="clearing")
    clips = models.JSONField(help_text="the ids of the clips to delete")
    deleted = models.PositiveIntegerField(default=0, help_text="how many of them are deleted")
    freed = models.PositiveBigIntegerField(default=0, help_text="bytes of their files")
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-created"]

    def __str__(self) -> str:
        return f"{self.deleted} old clips of {self.club}"
