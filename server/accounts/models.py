"""What a user has set for their own way of working."""

from django.conf import settings
from django.contrib.auth.models import User
from django.db import models


def called(user: User | None) -> str:
    """How a user is called on screens: by name, or by the sign-in name; None is one whose account was deleted."""
    if user is None:
        return "a former member"
    return user.get_full_name() or user.get_username()


class Preferences(models.Model):
    """What a user has set. Of the desk's keys the changed ones, command name to key; others have their usual key."""

    user = models.OneToOneField(settings.AUTH_USER_MODEL, models.CASCADE, related_name="preferences")
    keys = models.JSONField(default=dict)
    muted = models.JSONField(default=list, help_text="the notices by mail that are not wanted")

    class Meta:
        verbose_name_plural = "preferences"

    def __str__(self) -> str:
        return f"preferences of {self.user}"
