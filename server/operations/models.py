"""Backups that were made of this installation."""

from __future__ import annotations

from django.db import models


class Backup(models.Model):
    """One backup: when, how it ended, and whether it was restored into a scratch database and found equal."""

    begun = models.DateTimeField()
    ended = models.DateTimeField(null=True)
    archive = models.CharField(max_length=100, help_text="its name in the repository")
    trouble = models.TextField(blank=True, help_text="why it failed")
    verified = models.BooleanField(default=False, help_text="whether it was restored and compared")
    matches = models.PositiveIntegerField(default=0, help_text="how many matches are in it")
    clips = models.PositiveIntegerField(default=0, help_text="how many files of clips are in it")
    clip_bytes = models.PositiveBigIntegerField(default=0)

    class Meta:
        ordering = ["-begun"]

    def __str__(self) -> str:
        return f"{self.archive}{f': {self.trouble}' if self.trouble else ''}"

    @property
    def good(self) -> bool:
        return self.ended is not None and not self.trouble
