"""What a restore must not revive: sessions and links; and what it brings back that somebody has to look at."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import astuple, dataclass, fields

from allauth.usersessions.models import UserSession
from django.contrib.auth.models import User
from django.contrib.sessions.models import Session
from django.core.cache import cache
from django.db import DatabaseError, transaction

from accounts.models import called
from clubs.models import Invitation, Membership
from matches.actions import begin_epoch
from reviews.models import Link
from roster.models import Athlete, Consent
from training.models import Plan

Say = Callable[[str], None]


@dataclass(frozen=True)
class Rights:
    """Who has which right in a database, each in words."""

    roles: frozenset[str] = frozenset()
    guardians: frozenset[str] = frozenset()
    named_coaches: frozenset[str] = frozenset()
    consents: frozenset[str] = frozenset()
    passwords: frozenset[tuple[str, str]] = frozenset()


def rights_now() -> Rights | None:
    """Who has which right now; None where there is no database that says so, or one of another version."""
    try:
        with transaction.atomic():
            members = Membership.objects.select_related("user", "club")
            athletes = Athlete.objects.select_related("club").prefetch_related("guardians", "coaches")
            held = Consent.objects.filter(withdrawn=None).select_related("athlete__club")
            return Rights(
                frozenset(f"{called(one.user)} as {one.get_role_display()} of {one.club}" for one in members),
                frozenset(f"{called(user)} of {one} ({one.club})" for one in athletes for user in one.guardians.all()),
                frozenset(f"{called(user)} for {one} ({one.club})" for one in athletes for user in one.coaches.all()),
                frozenset(f"{one.name} for {one.athlete} ({one.athlete.club})" for one in held),
                frozenset(User.objects.values_list("username", "password")),
            )
    except DatabaseError:
        return None


def after_restore(before: Rights | None, say: Say) -> None:
    """End every session, link and invitation that came back, begin a new epoch of revisions, and say what else did."""
    with transaction.atomic():
        UserSession.objects.all().delete()
        Session.objects.all().delete()
        links = Link.objects.filter(revoked=False).update(revoked=True)
        plans = Plan.objects.exclude(digest="").update(digest="", link_ends=None)
        invitations = Invitation.objects.all().delete()[0]
        begin_epoch()
    cache.clear()
    say(f"Everybody is signed out. {links + plans} links and {invitations} invitations have ended: make them again.")
    now = rights_now()
    if before is None or now is None or not before.roles:
        say("What was changed after the backup is as it was then: passwords, roles, guardians, consents. Look at them.")
        return
    for field, was, is_now in zip(fields(Rights), astuple(before), astuple(now), strict=True):
        back = sorted(is_now - was)
        if field.name == "passwords":
            back = [name for name, _ in back]
        if back:
            say(f"Brought back, {field.name.replace('_', ' ')}: {'; '.join(back)}")
