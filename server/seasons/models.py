"""Many matches taken in at once."""

from __future__ import annotations

import uuid
from pathlib import Path
from typing import Any

from django.conf import settings
from django.db import models
from django.db.models.signals import post_delete
from django.dispatch import receiver

from footage.models import remove_files_of
from jobs.actions import discard

KEPT_FAULTS = 200
"""The faults of so many matches are kept; how many there were is counted on."""


class Import(models.Model):
    """A file with many match logs, which the worker takes in; what became of each is counted."""

    keeps_files = True
    """Files in the folder of clips begin with the id of a row: see footage.upkeep."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    club = models.ForeignKey("clubs.Club", models.CASCADE, related_name="imports")
    asked_by = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="imports")
    name = models.CharField(max_length=200, help_text="of the file, as it was chosen")
    athlete = models.ForeignKey(
        "roster.Athlete", models.SET_NULL, null=True, related_name="+", help_text="whose the logs are that name nobody"
    )
    add_athletes = models.BooleanField(default=False, help_text="whether athletes who are not in the club are added")
    job = models.OneToOneField("jobs.Job", models.SET_NULL, null=True, related_name="imported")
    reached = models.PositiveIntegerField(default=0, help_text="how many of its matches were looked at")
    made = models.PositiveIntegerField(default=0, help_text="how many were taken in")
    known = models.PositiveIntegerField(default=0, help_text="how many were there already")
    refused = models.PositiveIntegerField(default=0, help_text="how many could not be taken in")
    added = models.JSONField(default=list, help_text="the names of athletes who were added")
    faults = models.JSONField(default=list, help_text="of the first ones refused: a list of {where, faults}")
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-created"]

    def __str__(self) -> str:
        return f"import of {self.name}"

    @property
    def path(self) -> Path:
        """Where the file is kept until it was taken in; its ending says what it is."""
        return Path(settings.MEDIA_ROOT) / f"{self.id}.import{Path(self.name).suffix.lower()}"


@receiver(post_delete, sender=Import)
def _gone(sender: Any, instance: Import, **_: Any) -> None:
    """However an import is deleted, its file goes with it."""
    discard(instance.job_id)
    remove_files_of(instance.pk)


class Checked(models.Model):
    """How far the chances of winning come true in a club's own matches, as it was last asked for."""

    club = models.OneToOneField("clubs.Club", models.CASCADE, related_name="checked")
    job = models.OneToOneField("jobs.Job", models.SET_NULL, null=True, related_name="checked")
    found = models.JSONField(null=True, help_text="the calibration; null: not worked out, or too few matches")
    at = models.DateTimeField(null=True, help_text="when it was worked out")

    def __str__(self) -> str:
        return f"chances of {self.club}, held against what happened"
