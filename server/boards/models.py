"""Scoreboards that were marked in the clips of matches, and what was read from them."""

from __future__ import annotations

from typing import Any

from django.db import models
from django.db.models.signals import post_delete
from django.dispatch import receiver

from jobs.actions import discard


class Board(models.Model):
    """The board in one clip of a match. All times in it are the clip's own."""

    class Counts(models.TextChoices):
        EITHER = "either", "found out from the readings"
        DOWN = "down"
        UP = "up"

    class LastSecond(models.TextChoices):
        ONE = "one", "the clock shows 0:01 in its last second"
        ZERO = "zero", "the clock shows 0:00 in its last second"

    match = models.ForeignKey("matches.Match", models.CASCADE, related_name="boards")
    clip = models.ForeignKey("footage.Clip", models.CASCADE, related_name="boards")
    marks = models.JSONField(help_text="a list of {t, boxes}: at which second of the clip which part is where")
    counts = models.CharField(max_length=6, choices=Counts, default=Counts.EITHER)
    last_second = models.CharField(max_length=4, choices=LastSecond, default=LastSecond.ONE)
    job = models.OneToOneField(
        "jobs.Job", models.SET_NULL, null=True, related_name="board", help_text="the reading of it"
    )
    readings = models.JSONField(null=True, help_text="what each part showed: lists of [t, until, text, sure] by part")
    understood = models.JSONField(null=True, help_text="what the core made of the readings")
    lost = models.FloatField(default=0, help_text="the share of the footage in which the board was not found")
    changed = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["pk"]
        constraints = [models.UniqueConstraint(fields=["match", "clip"], name="one_board_a_clip_of_a_match")]

    def __str__(self) -> str:
        return f"the scoreboard in {self.clip} for {self.match}"


class BoardPicture(models.Model):
    """The board at a moment at which the officials gave something: evidence for a call."""

    board = models.ForeignKey(Board, models.CASCADE, related_name="pictures")
    t_ms = models.PositiveIntegerField(help_text="in the clip")
    jpeg = models.BinaryField()

    class Meta:
        ordering = ["t_ms"]
        constraints = [models.UniqueConstraint(fields=["board", "t_ms"], name="one_picture_a_moment")]

    def __str__(self) -> str:
        return f"{self.board} at {self.t_ms / 1000:.1f} s"


@receiver(post_delete, sender=Board)
def _gone(sender: Any, instance: Board, **_: Any) -> None:
    discard(instance.job_id)
