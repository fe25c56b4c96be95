"""What a club adds to the rulebook: rulesets, each saved version kept as it is, and names of techniques."""

import uuid
from typing import Any

from django.conf import settings
from django.db import models


class HouseRules(models.Model):
    """One version of a ruleset. A version is never changed: saving again makes the next one of its family."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    club = models.ForeignKey("clubs.Club", models.CASCADE, related_name="house_rules")
    author = models.ForeignKey(settings.AUTH_USER_MODEL, models.SET_NULL, null=True, related_name="house_rules")
    family = models.UUIDField(default=uuid.uuid4, editable=False, help_text="what its versions have in common")
    version = models.PositiveIntegerField()
    body = models.JSONField(help_text="the ruleset as a match log has it, with its title, version and note")
    shared = models.BooleanField(default=False, help_text="whether the other clubs of this installation may use it")
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["body__title", "-version"]
        verbose_name_plural = "house rules"
        constraints = [models.UniqueConstraint(fields=["family", "version"], name="one_of_each_version")]

    def __str__(self) -> str:
        return f"{self.body.get('title')}, version {self.version}"


class TechniqueName(models.Model):
    """A club's own name for a technique, or for a variant of one that the catalogue does not have."""

    club = models.ForeignKey("clubs.Club", models.CASCADE, related_name="technique_names")
    name = models.CharField(max_length=60)
    spelled = models.CharField(max_length=60, editable=False, help_text="the name as names are compared")
    technique = models.CharField(max_length=60, help_text="the catalogue's id of what it is treated as")

    class Meta:
        ordering = ["name"]
        constraints = [models.UniqueConstraint(fields=["club", "spelled"], name="one_meaning_of_a_name")]

    def __str__(self) -> str:
        return f"{self.name}: {self.technique}"


def names_of(club: int | None) -> dict[str, list[str]]:
    """A club's own names by technique; outside of any club there are none."""
    found: dict[str, list[str]] = {}
    for row in TechniqueName.objects.none() if club is None else TechniqueName.objects.filter(club=club):
        found.setdefault(row.technique, []).append(row.name)
    return found


def house_rules_of(club: int, ruleset: Any) -> HouseRules | None:
    """The house rules that a match's ruleset is, out of those its club sees."""
    if not isinstance(ruleset, dict):
        return None
    seen = models.Q(club_id=club) | models.Q(shared=True)
    return HouseRules.objects.filter(seen, body=ruleset).first()
