"""What a coach makes of a scored match: the errors' links and causes, notes, clips, and what is sent to the athlete."""

from __future__ import annotations

import uuid
from pathlib import Path
from typing import Any

from django.conf import settings
from django.db import models
from django.db.models.signals import post_delete
from django.dispatch import receiver

from footage.models import Clip, remove_files_of
from jobs.actions import discard
from matches.models import Match
from roster.models import Athlete, links_end


class Remark(models.Model):
    """What the coach says of one error, by its key. An error of the coach's own has its times here too.

    Empty texts stand for the core's own.
    """

    class Standing(models.TextChoices):
        OPEN = "open"
        ACCEPTED = "accepted"
        DISMISSED = "dismissed"

    match = models.ForeignKey(Match, models.CASCADE, related_name="remarks")
    key = models.CharField(max_length=100)
    standing = models.CharField(max_length=10, choices=Standing, default=Standing.OPEN)
    title = models.CharField(max_length=120, blank=True)
    because = models.CharField(max_length=600, blank=True)
    instead = models.CharField(max_length=600, blank=True)
    causes = models.JSONField(default=list, help_text="words of the coach's list of causes")
    came_from = models.CharField(max_length=100, blank=True, help_text="the key of the earlier error it came from")
    root = models.BooleanField(default=False, help_text="whether the coach says that it came from nothing earlier")
    measure_ms = models.PositiveIntegerField(
        null=True, help_text="of what its kind has a limit for, when it was decided"
    )
    own = models.BooleanField(default=False, help_text="whether the coach added it")
    since_ms = models.PositiveIntegerField(default=0)
    t_ms = models.PositiveIntegerField(default=0)
    points = models.PositiveSmallIntegerField(default=0)
    advantages = models.PositiveSmallIntegerField(default=0)
    changed = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["pk"]
        constraints = [models.UniqueConstraint(fields=["match", "key"], name="one_remark_an_error")]

    def __str__(self) -> str:
        return f"{self.key} of {self.match}"


class Causes(models.Model):
    """A club's own list of causes; without one it is the core's."""

    club = models.OneToOneField("clubs.Club", models.CASCADE, related_name="causes")
    words = models.JSONField(default=list)

    class Meta:
        verbose_name_plural = "causes"

    def __str__(self) -> str:
        return f"causes of {self.club}"


class KindSetting(models.Model):
    """How a club wants one kind of error to be looked for; without one as the core does."""

    club = models.ForeignKey("clubs.Club", models.CASCADE, related_name="kind_settings")
    kind = models.CharField(max_length=40)
    off = models.BooleanField(default=False)
    limits = models.JSONField(default=dict, help_text="in seconds, where they are not the usual ones")
    declined = models.PositiveIntegerField(
        default=0, help_text="how many had been dismissed when a coach declined an offer to turn it down"
    )

    class Meta:
        constraints = [models.UniqueConstraint(fields=["club", "kind"], name="one_setting_a_kind")]

    def __str__(self) -> str:
        return f"{self.kind} for {self.club}"


class Report(models.Model):
    """What the coach writes to the athlete above the report. Empty: nothing, and the core's own good thing."""

    match = models.OneToOneField(Match, models.CASCADE, related_name="report")
    greeting = models.CharField(max_length=600, blank=True)
    well = models.CharField(max_length=300, blank=True)
    sent = models.DateTimeField(null=True, help_text="when it was sent to the athlete's own place")

    def __str__(self) -> str:
        return f"report on {self.match}"


class Note(models.Model):
    """A comment on a moment or a span of the footage, with marks on the paused picture.

    Marks are in pixels of the clip as it was filmed: a point, an arrow from one place to another, or a short text.
    """

    match = models.ForeignKey(Match, models.CASCADE, related_name="notes")
    t_ms = models.PositiveIntegerField()
    until_ms = models.PositiveIntegerField(null=True)
    text = models.CharField(max_length=600, blank=True)
    marks = models.JSONField(default=list)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["t_ms", "pk"]

    def __str__(self) -> str:
        return f"note at {self.t_ms / 1000:.1f} s of {self.match}"


class Cut(models.Model):
    """The clip of one error, cut out of the footage by the worker."""

    keeps_files = True
    """Files in the folder of clips begin with the id of a row: see footage.upkeep."""

    class Style(models.TextChoices):
        PLAIN = "plain"
        BURNT = "burnt", "score and sentence drawn into the picture"
        CAPTIONS = "captions", "score and sentence as captions that can be turned off"

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    match = models.ForeignKey(Match, models.CASCADE, related_name="cuts")
    key = models.CharField(max_length=100, help_text="of its error")
    clip = models.ForeignKey(Clip, models.CASCADE, related_name="cuts")
    style = models.CharField(max_length=10, choices=Style, default=Style.PLAIN)
    start_ms = models.PositiveIntegerField(help_text="in the clip")
    end_ms = models.PositiveIntegerField(help_text="in the clip")
    captions = models.TextField(help_text="WebVTT with times from the beginning of the cut")
    job = models.OneToOneField(
        "jobs.Job", models.SET_NULL, null=True, related_name="cut", help_text="the cutting of it"
    )

    class Meta:
        ordering = ["start_ms"]
        constraints = [models.UniqueConstraint(fields=["match", "key"], name="one_cut_an_error")]

    def __str__(self) -> str:
        return f"cut of {self.key}"

    @property
    def path(self) -> Path:
        return Path(settings.MEDIA_ROOT) / f"{self.id}.cut.mp4"


@receiver(post_delete, sender=Cut)
def _gone(sender: Any, instance: Cut, **_: Any) -> None:
    """However a cut is deleted, its files go with it."""
    discard(instance.job_id)
    remove_files_of(instance.pk)


class Link(models.Model):
    """A link that shows one match's report to whoever has it, until it ends. Only a digest of it is kept."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    match = models.ForeignKey(Match, models.CASCADE, related_name="links")
    digest = models.CharField(max_length=64, unique=True)
    ends = models.DateTimeField()
    revoked = models.BooleanField(default=False)
    opened = models.DateTimeField(null=True, help_text="when it was last looked at")
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-created"]

    def __str__(self) -> str:
        return f"link to {self.match}"


@receiver(links_end)
def _links_end(athlete: Athlete, **_: Any) -> None:
    Link.objects.filter(match__in=Match.with_deleted.filter(athlete=athlete)).update(revoked=True)


class Answer(models.Model):
    """What the athlete wrote back, on one error or on the whole."""

    match = models.ForeignKey(Match, models.CASCADE, related_name="answers")
    link = models.ForeignKey(
        Link, models.SET_NULL, null=True, related_name="answers", help_text="through which it came, and which shows it"
    )
    key = models.CharField(max_length=100, blank=True)
    text = models.CharField(max_length=600)
    read = models.BooleanField(default=False, help_text="whether the coach has seen it")
    reply = models.CharField(max_length=600, blank=True, help_text="what the coach answered to it")
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["at"]

    def __str__(self) -> str:
        return self.text[:40]


class Tick(models.Model):
    """A drill that the athlete has done, by the key of its error."""

    match = models.ForeignKey(Match, models.CASCADE, related_name="ticks")
    key = models.CharField(max_length=100)
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["match", "key"], name="one_tick_a_drill")]

    def __str__(self) -> str:
        return self.key
