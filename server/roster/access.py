"""Which athletes somebody may reach."""

from __future__ import annotations

from django.db.models import Q

from clubs.access import STAFF, Access, condition
from clubs.children import grown
from clubs.models import Role

from .models import Athlete


@condition
def athletes(access: Access, path: str) -> Q:
    """Athletes that a coach works with: of children only those whom the coach is named for."""
    at = f"{path}__" if path else ""
    club = Q(**{f"{at}club__in": access.clubs_as(access.roles & STAFF)})
    named = Athlete.coaches.through.objects.filter(user=access.user)
    return club & (grown(at) | Q(**{f"{at}practice": True}) | Q(**{f"{path or 'pk'}__in": named.values("athlete")}))


@condition
def known_athletes(access: Access, path: str) -> Q:
    """A coach's own athletes, and for a head coach, who names the coaches, all."""
    at = f"{path}__" if path else ""
    return athletes(access, path) | Q(**{f"{at}club__in": access.clubs_as(access.roles & {Role.HEAD_COACH})})


@condition
def own_athletes(access: Access, path: str) -> Q:
    """The athletes that one is, or whose guardian one is."""
    at = f"{path}__" if path else ""
    oneself = Q(**{f"{at}user": access.user, f"{at}club__in": access.clubs_as(access.roles & {Role.ATHLETE})})
    wards = Athlete.guardians.through.objects.filter(user=access.user).values("athlete")
    guarded = Q(**{f"{path or 'pk'}__in": wards, f"{at}club__in": access.clubs_as(access.roles & {Role.GUARDIAN})})
    return oneself | guarded
