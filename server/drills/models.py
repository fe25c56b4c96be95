"""What has been practised: one card for each person and each thing that is asked."""

from django.conf import settings
from django.db import models


class Card(models.Model):
    """How well one thing is known, by the scheduler that says when to ask it again (FSRS)."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="cards")
    athlete = models.ForeignKey(
        "roster.Athlete", models.CASCADE, null=True, blank=True, related_name="cards",
        help_text="who practises; nobody: the coach",
    )  # fmt: skip
    key = models.CharField(max_length=80)
    memory = models.JSONField(help_text="the scheduler's own record of it")
    due = models.DateTimeField()
    right = models.PositiveIntegerField(default=0)
    wrong = models.PositiveIntegerField(default=0)

    class Meta:
        ordering = ["due"]
        constraints = [
            models.UniqueConstraint(
                fields=["owner", "athlete", "key"], nulls_distinct=False, name="one_card_a_person_and_key"
            )
        ]

    def __str__(self) -> str:
        return f"{self.key} for {self.athlete or self.owner}"
