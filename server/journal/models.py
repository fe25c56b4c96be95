"""Who did what: rows are added and read, and the database lets nobody change or delete one before its time."""

from __future__ import annotations

from datetime import timedelta
from typing import Any

from django.contrib.auth.models import AbstractBaseUser, AnonymousUser, User
from django.contrib.auth.signals import user_logged_in
from django.db import models
from django.dispatch import receiver
from django.http import HttpRequest
from django.utils import timezone

from accounts.guessing import address_of
from accounts.models import called


class Entry(models.Model):
    """One thing that somebody did. Who and where are kept as they were then: accounts and clubs may go."""

    at = models.DateTimeField(auto_now_add=True, db_index=True)
    user = models.BigIntegerField(null=True, help_text="the id of the account; null: nobody signed in")
    name = models.CharField(max_length=160, help_text="how that account was called then")
    club = models.BigIntegerField(null=True, db_index=True, help_text="the id of the club that it was about")
    what = models.CharField(max_length=40, help_text="a stable word for what was done")
    about = models.CharField(max_length=300, blank=True, help_text="to whom or to what, in words")
    address = models.CharField(max_length=45, blank=True, help_text="from which network address")

    class Meta:
        ordering = ["-pk"]
        verbose_name_plural = "entries"

    def __str__(self) -> str:
        return f"{self.name}: {self.what} {self.about}"


def note(what: str, about: str = "", *, request: Any = None, user: Any = None, club: int | None = None) -> None:
    """Write down what somebody did; ``user`` where it is not the one who asks."""
    who: AbstractBaseUser | AnonymousUser | None = user or getattr(request, "user", None)
    asked: HttpRequest | None = getattr(request, "_request", request)
    account, name = (who.pk, called(who)) if isinstance(who, User) else (None, "not signed in")
    Entry.objects.create(
        user=account, name=name, club=club, what=what, about=about[:300],
        address="" if asked is None else address_of(asked)[:45],
    )  # fmt: skip


KEPT = timedelta(days=730)
"""So long a line is kept. The database enforces it: see the trigger ``journal_stays``."""


def forget_old_entries() -> None:
    """Remove the lines that are kept no longer."""
    Entry.objects.filter(at__lt=timezone.now() - KEPT - timedelta(days=1)).delete()


@receiver(user_logged_in)
def _signed_in(request: Any, user: User, **_: Any) -> None:
    note("signed in", request=request, user=user)
