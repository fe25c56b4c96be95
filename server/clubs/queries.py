"""Who is in a club."""

from __future__ import annotations

from django.contrib.auth.models import User
from django.db.models import QuerySet

from .access import SCORING, STAFF
from .models import Membership, Role


def _who(club: int, roles: frozenset[Role]) -> QuerySet[User]:
    members = Membership.objects.filter(club=club, role__in=sorted(roles))
    return User.objects.filter(pk__in=members.values("user"), is_active=True).order_by("first_name", "username")


def who_score(club: int) -> QuerySet[User]:
    """Those in a club whom a match can be given to score."""
    return _who(club, SCORING)


def who_coach(club: int) -> QuerySet[User]:
    """The head coaches and coaches of a club."""
    return _who(club, STAFF)
