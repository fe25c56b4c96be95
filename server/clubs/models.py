"""Clubs, and who is what in them."""

from __future__ import annotations

import uuid

from django.conf import settings
from django.core.validators import MaxValueValidator, MinValueValidator
from django.db import models

OLDEST_MINOR = 20


class Role(models.TextChoices):
    """What somebody is in a club; one person may be several things."""

    HEAD_COACH = "head_coach", "head coach"
    COACH = "coach", "coach"
    SCORER = "scorer", "scorer"
    ATHLETE = "athlete", "athlete"
    GUARDIAN = "guardian", "guardian"


class Club(models.Model):
    """What a club owns is its own: athletes, matches, clips, rulesets and names of techniques."""

    name = models.CharField(max_length=80)
    adult_age = models.PositiveSmallIntegerField(
        default=16, validators=[MinValueValidator(13), MaxValueValidator(OLDEST_MINOR + 1)],
        help_text="from this age on an athlete is not treated as a child any more",
    )  # fmt: skip
    initials = models.BooleanField(
        default=False, help_text="whether opponents are shown by their initials outside of the club"
    )
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["name", "id"]

    def __str__(self) -> str:
        return self.name


class Membership(models.Model):
    """One role of one person in one club."""

    club = models.ForeignKey(Club, models.CASCADE, related_name="memberships")
    user = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="memberships")
    role = models.CharField(max_length=10, choices=Role)
    since = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["club__name", "club", "pk"]
        constraints = [models.UniqueConstraint(fields=["club", "user", "role"], name="one_membership_a_role")]

    def __str__(self) -> str:
        return f"{self.user}, {self.get_role_display()} of {self.club}"


class Invitation(models.Model):
    """An invitation by mail into a club. Only a digest of its token is kept; it ends when it is taken up."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    club = models.ForeignKey(Club, models.CASCADE, related_name="invitations")
    email = models.EmailField()
    role = models.CharField(max_length=10, choices=Role)
    athlete = models.ForeignKey(
        "roster.Athlete", models.CASCADE, null=True, related_name="invitations",
        help_text="who the athlete is, or whose guardian is invited",
    )  # fmt: skip
    invited_by = models.ForeignKey(settings.AUTH_USER_MODEL, models.SET_NULL, null=True, related_name="+")
    digest = models.CharField(max_length=64, unique=True)
    ends = models.DateTimeField()
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-created"]

    def __str__(self) -> str:
        return f"{self.email} as {self.get_role_display()} of {self.club}"
