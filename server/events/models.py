"""Days of fights: what is known before, and the matches that come of it."""

from __future__ import annotations

from django.db import models

from config.choices import ATTIRES


class EventDay(models.Model):
    """One day of an event."""

    club = models.ForeignKey("clubs.Club", models.CASCADE, related_name="event_days")
    name = models.CharField(max_length=120)
    date = models.DateField()
    ruleset = models.JSONField(help_text="as a match has it: of fights that do not say another")

    class Meta:
        ordering = ["-date", "name"]

    def __str__(self) -> str:
        return f"{self.name}, {self.date}"


class Fight(models.Model):
    """A fight of an athlete on a day; with its match as soon as that is set up."""

    day = models.ForeignKey(EventDay, models.CASCADE, related_name="fights")
    athlete = models.ForeignKey("roster.Athlete", models.CASCADE, related_name="fights")
    opponent = models.CharField(max_length=80, blank=True, help_text="empty until it is known")
    club = models.CharField(max_length=80, blank=True, help_text="the opponent's")
    time = models.TimeField(null=True)
    mat = models.CharField(max_length=20, blank=True)
    round = models.CharField(max_length=40, blank=True)
    weight_class = models.CharField(max_length=40, blank=True)
    attire = models.CharField(max_length=5, choices=ATTIRES, default="gi")
    ruleset = models.JSONField(null=True, help_text="null: that of the day")
    match = models.OneToOneField("matches.Match", models.SET_NULL, null=True, related_name="fight")

    class Meta:
        ordering = [models.F("time").asc(nulls_last=True), "pk"]

    def __str__(self) -> str:
        return f"{self.athlete} against {self.opponent or 'nobody yet'}"

    @property
    def rules(self) -> object:
        """The ruleset that it is fought under."""
        return self.ruleset or self.day.ruleset
