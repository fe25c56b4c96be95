"""Which matches somebody may reach, and with them which clips."""

from __future__ import annotations

from django.db.models import Q

from clubs.access import OWN, STAFF, Access, Right, condition
from clubs.models import Role
from roster.models import Athlete

from .models import FurtherClip, Match


@condition
def matches(access: Access, path: str) -> Q:
    """Matches that one has the right for.

    A coach's are those of the athletes, except a match that the coach is scoring a second time and has not handed
    in; a scorer's those that were given to them; an athlete's and a guardian's those about the athlete, and their
    reports once they were sent. The practice is seen by who practises alone.
    """
    found = Q(pk__in=[])
    if access.roles & STAFF:
        blind = Match.with_deleted.filter(scorer=access.user, finished=False).exclude(second_of=None)
        found |= access.athletes("athlete") & ~Q(pk__in=blind.values("second_of"))
    if Role.SCORER in access.roles:
        found |= Q(scorer=access.user, athlete__club__in=access.clubs_as(frozenset({Role.SCORER})))
    if access.roles & OWN:
        found |= access.own_athletes("athlete") & Q(second_of=None)
    if access.right is Right.READ:
        found &= ~Q(report__sent=None)
    return found & (Q(practice=False) | Q(scorer=access.user))


@condition
def injuries(access: Access, path: str) -> Q:
    """Matches whose injuries one may see: as a head coach, as a coach named for the athlete, as a guardian."""
    head = Q(athlete__club__in=access.clubs_as(frozenset({Role.HEAD_COACH})))
    coached = Athlete.coaches.through.objects.filter(user=access.user).values("athlete")
    named = Q(athlete__in=coached, athlete__club__in=access.clubs_as(frozenset({Role.COACH})))
    wards = Athlete.guardians.through.objects.filter(user=access.user).values("athlete")
    guarded = Q(athlete__in=wards, athlete__club__in=access.clubs_as(frozenset({Role.GUARDIAN})))
    return head | named | guarded


@condition
def clips(access: Access, path: str) -> Q:
    """Clips of the matches that one has the right for, and clips that are one's own to dispose of."""
    found = Match.objects.filter(access.matches())
    further = FurtherClip.objects.filter(match__in=found.values("pk"))
    return Q(pk__in=found.values("clip")) | Q(pk__in=further.values("clip")) | access.whole_clips()
