"""Who is coached."""

from django.conf import settings
from django.db import models

from config.choices import BELTS


class Athlete(models.Model):
    owner = models.ForeignKey(settings.AUTH_USER_MODEL, models.CASCADE, related_name="athletes")
    name = models.CharField(max_length=80)
    birth_year = models.PositiveSmallIntegerField()
    belt = models.CharField(max_length=10, choices=BELTS)
    practice = models.BooleanField(default=False, help_text="whether it is the athlete of the practice match")

    class Meta:
        ordering = ["name", "id"]

    def __str__(self) -> str:
        return self.name
