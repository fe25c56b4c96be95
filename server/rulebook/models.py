"""What a coach adds to the rulebook: rulesets, each saved version kept as it is, and names of techniques."""

import uuid
from typing import Any

from django.conf import settings
from django.db import models


class HouseRules(models.Model):
    """One version of a ruleset. A version is never changed: saving again makes the next one of its family."""

    id = models.UUIDField(primary_key=True, default=uuid.uuid4, editable=False)
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="house_rules")
    family = models.UUIDField(default=uuid.uuid4, editable=False, help_text="what its versions have in common")
    version = models.PositiveIntegerField()
    body = models.JSONField(help_text="the ruleset as a match log has it, with its title, version and note")
    shared = models.BooleanField(default=False, help_text="whether the whole club may use it")
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["body__title", "-version"]
        verbose_name_plural = "house rules"
        constraints = [models.UniqueConstraint(fields=["family", "version"], name="one_of_each_version")]

    def __str__(self) -> str:
        return f"{self.body.get('title')}, version {self.version}"


class TechniqueName(models.Model):
    """A coach's own name for a technique, or for a variant of one that the catalogue does not have."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="technique_names")
    name = models.CharField(max_length=60)
    spelled = models.CharField(max_length=60, editable=False, help_text="the name as names are compared")
    technique = models.CharField(max_length=60, help_text="the catalogue's id of what it is treated as")

    class Meta:
        ordering = ["name"]
        constraints = [models.UniqueConstraint(fields=["owner", "spelled"], name="one_meaning_of_a_name")]

    def __str__(self) -> str:
        return f"{self.name}: {self.technique}"


def names_of(owner: int) -> dict[str, list[str]]:
    """A coach's own names by technique."""
    found: dict[str, list[str]] = {}
    for row in TechniqueName.objects.filter(owner_id=owner):
        found.setdefault(row.technique, []).append(row.name)
    return found


def house_rules_of(owner: int, ruleset: Any) -> HouseRules | None:
    """The house rules that a match's ruleset is, out of those its coach sees."""
    if not isinstance(ruleset, dict):
        return None
    seen = models.Q(owner_id=owner) | models.Q(shared=True)
    return HouseRules.objects.filter(seen, body=ruleset).first()
