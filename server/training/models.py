"""A club's library of drills, and plans of what an athlete drills until a day."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.core.validators import MaxValueValidator, MinValueValidator
from django.db import models
from django.dispatch import receiver

from roster.models import Athlete, links_end

LONGEST_DRILL, LONGEST_SESSION = 90, 240
"""In minutes."""


class Drill(models.Model):
    """A drill of a club. What is no longer wanted is archived: plans that have it keep it."""

    club = models.ForeignKey("clubs.Club", models.CASCADE, related_name="drills")
    name = models.CharField(max_length=80)
    about = models.CharField(max_length=600, blank=True, help_text="how it is done")
    minutes = models.PositiveSmallIntegerField(validators=[MinValueValidator(1), MaxValueValidator(LONGEST_DRILL)])
    kinds = models.JSONField(default=list, help_text="the kinds of errors that it is for")
    causes = models.JSONField(default=list, help_text="the causes that it is for")
    positions = models.JSONField(default=list, help_text="the positions that it is for")
    archived = models.BooleanField(default=False)

    class Meta:
        ordering = ["name", "pk"]

    def __str__(self) -> str:
        return self.name


class Plan(models.Model):
    """What an athlete drills until a day, such as that of an event."""

    athlete = models.ForeignKey("roster.Athlete", models.CASCADE, related_name="plans")
    author = models.ForeignKey(settings.AUTH_USER_MODEL, models.SET_NULL, null=True, related_name="+")
    event = models.CharField(max_length=120, blank=True, help_text="what it leads up to")
    start = models.DateField()
    until = models.DateField(help_text="the day of the event: nothing is drilled on it")
    sessions = models.PositiveSmallIntegerField(help_text="a week")
    minutes = models.PositiveSmallIntegerField(help_text="of each session")
    digest = models.CharField(max_length=64, blank=True, db_index=True, help_text="of the link that shows it; or empty")
    link_ends = models.DateTimeField(null=True)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-start", "-created"]

    def __str__(self) -> str:
        return f"plan of {self.athlete} until {self.until}"

    def end_link(self) -> None:
        """End the link that shows the plan."""
        self.digest, self.link_ends = "", None
        self.save(update_fields=["digest", "link_ends"])


@receiver(links_end)
def _links_end(athlete: Athlete, **_: Any) -> None:
    for plan in Plan.objects.filter(athlete=athlete).exclude(digest=""):
        plan.end_link()


class Planned(models.Model):
    """A drill on a day of a plan, and when it was ticked off."""

    plan = models.ForeignKey(Plan, models.CASCADE, related_name="planned")
    drill = models.ForeignKey(Drill, models.CASCADE, related_name="planned")
    day = models.DateField()
    done = models.DateTimeField(null=True)

    class Meta:
        ordering = ["day", "pk"]

    def __str__(self) -> str:
        return f"{self.drill} on {self.day}"
