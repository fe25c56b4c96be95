"""What a user has set for their own way of working."""

from __future__ import annotations

from django.conf import settings
from django.contrib.auth.models import User
from django.db import models


def called(user: User | None) -> str:
    """How a user is called on screens: by name, or by the sign-in name; None is one whose account was deleted."""
    if user is None:
        return "a former member"
    return user.get_full_name() or user.get_username()


SELDOM_BY_MAIL = ("clip_ready", "joined")
"""The notices that are no mails, unless somebody wants them to be."""


def usually_muted() -> list[str]:
    return list(SELDOM_BY_MAIL)


class Preferences(models.Model):
    """What a user has set. Of the desk's keys the changed ones, command name to key; others have their usual key."""

    user = models.OneToOneField(settings.AUTH_USER_MODEL, models.CASCADE, related_name="preferences")
    keys = models.JSONField(default=dict)
    muted = models.JSONField(default=usually_muted, help_text="the notices by mail that are not wanted")
    hidden = models.JSONField(default=list, help_text="the notices in the product that are not wanted")

    class Meta:
        verbose_name_plural = "preferences"

    def __str__(self) -> str:
        return f"preferences of {self.user}"

    @classmethod
    def of(cls, user: User) -> Preferences:
        """What a user has set, or the usual where they have set nothing yet."""
        return cls.objects.filter(user=user).first() or cls(user=user)


class Notice(models.Model):
    """Something that a user should know of, until they have read it."""

    user = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="notices")
    kind = models.CharField(max_length=20)
    text = models.CharField(max_length=300)
    path = models.CharField(max_length=200, help_text="the page where it is seen")
    read = models.BooleanField(default=False)
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-pk"]
        indexes = [models.Index(fields=["user", "read"], name="unread_notices")]

    def __str__(self) -> str:
        return f"{self.kind} for {self.user}"
