"""House rules: a coach's own rulesets, each saved version kept as it is."""

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


def house_rules_of(owner: int, ruleset: Any) -> HouseRules | None:
    """The house rules that a match's ruleset is, out of those its coach sees."""
    if not isinstance(ruleset, dict):
        return None
    seen = models.Q(owner_id=owner) | models.Q(shared=True)
    return HouseRules.objects.filter(seen, body=ruleset).first()
