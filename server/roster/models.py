"""Who is coached, and what their guardians agreed to."""

from __future__ import annotations

from django.conf import settings
from django.contrib.auth.models import User
from django.db import models
from django.dispatch import Signal
from django.utils import timezone

from accounts.models import called
from clubs.children import is_child
from config.choices import BELTS

links_end = Signal()
"""Sent with ``athlete`` when every link about an athlete ends; what keeps links marks them as ended, for good."""


class Athlete(models.Model):
    club = models.ForeignKey("clubs.Club", models.CASCADE, related_name="athletes")
    user = models.ForeignKey(
        settings.AUTH_USER_MODEL, models.SET_NULL, null=True, blank=True, related_name="athletes",
        help_text="the athlete's own sign-in",
    )  # fmt: skip
    coaches = models.ManyToManyField(
        settings.AUTH_USER_MODEL, blank=True, related_name="coached",
        help_text="the coaches named for a child: no others see the footage and reports",
    )  # fmt: skip
    guardians = models.ManyToManyField(settings.AUTH_USER_MODEL, blank=True, related_name="wards")
    name = models.CharField(max_length=80)
    birth_year = models.PositiveSmallIntegerField()
    belt = models.CharField(max_length=10, choices=BELTS)
    practice = models.BooleanField(default=False, help_text="whether it is the athlete of the club's practice matches")

    class Meta:
        ordering = ["name", "id"]

    def __str__(self) -> str:
        return self.name

    @property
    def child(self) -> bool:
        """Whether the athlete is treated as a child, by the rule of the club."""
        return is_child(self.birth_year, self.club.adult_age)

    @property
    def consent(self) -> Consent | None:
        """The consent that holds now, where a guardian has given one."""
        return self.consents.filter(withdrawn=None).order_by("-at").first()

    def end_consent(self, by: User | None = None) -> None:
        """Take back the consents for an athlete, or those of one guardian. With a child's last one all links end."""
        held = self.consents.filter(withdrawn=None)
        (held if by is None else held.filter(by=by)).update(withdrawn=timezone.now())
        if self.child and self.consent is None:
            self.end_links()

    def end_links(self) -> None:
        """End every link about an athlete; a consent that is given later makes none of them work again."""
        links_end.send(Athlete, athlete=self)


CONSENT = (
    "I agree that the coaches of the club may send links to reports about my child's matches, with clips from them, "
    "to our family. Each link shows first names only and ends within 14 days. I can take this back at any time; every "
    "link then ends at once."
)
"""What a guardian agrees to; the text is kept with each consent."""


class Consent(models.Model):
    """What a guardian agreed to, and when; it is kept also after it was taken back."""

    athlete = models.ForeignKey(Athlete, models.CASCADE, related_name="consents")
    by = models.ForeignKey(settings.AUTH_USER_MODEL, models.SET_NULL, null=True, related_name="+")
    name = models.CharField(max_length=160, help_text="how the guardian was called then")
    text = models.TextField(help_text="what was agreed to")
    at = models.DateTimeField(auto_now_add=True)
    withdrawn = models.DateTimeField(null=True, help_text="when it was taken back")

    class Meta:
        ordering = ["-at"]

    def __str__(self) -> str:
        return f"{self.name} for {self.athlete}"


def give_consent(athlete: Athlete, guardian: User) -> Consent:
    """Keep a guardian's consent; given twice it is the same as once."""
    held = athlete.consent
    return held or Consent.objects.create(athlete=athlete, by=guardian, name=called(guardian), text=CONSENT)


def readers_of(athlete: Athlete) -> list[User]:
    """Those whom a report about an athlete is for: the athlete, and the guardians."""
    return [one for one in (athlete.user, *athlete.guardians.all()) if one is not None]
