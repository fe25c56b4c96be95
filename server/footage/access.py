"""Which clips somebody may dispose of; which they may see depends on their matches: see matches.access."""

from __future__ import annotations

from django.db.models import Q

from clubs.access import STAFF, Access, condition

from .models import Clip


@condition
def whole_clips(access: Access, path: str) -> Q:
    """Clips that a coach may delete: all whom they ever showed are athletes whom the coach works with.

    A clip that was never used for a match may show anybody: it is for who has uploaded it.
    """
    showed = Clip.showed.through.objects
    others = showed.exclude(access.athletes("athlete"))
    of_theirs = Q(pk__in=showed.values("clip")) & ~Q(pk__in=others.values("clip"))
    of_nobody = ~Q(pk__in=showed.values("clip")) & Q(uploader=access.user)
    return Q(club__in=access.clubs_as(access.roles & STAFF)) & (of_theirs | of_nobody)
