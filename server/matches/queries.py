"""Which matches somebody sees, and how a list of them is searched, narrowed down and put in order."""

from __future__ import annotations

import uuid
from collections.abc import Iterable
from typing import Any

import django_filters
from django.db.models import Count, Exists, F, OuterRef, Q, QuerySet
from django.http import Http404
from django.shortcuts import get_object_or_404
from rest_framework.request import Request

from clubs.access import Access, asks
from clubs.questions import allowed
from footage.models import Clip
from roster.models import Athlete

from .models import FurtherClip, Match

RESULTS = {
    "won": Q(summary__winner="a"),
    "lost": Q(summary__winner="b"),
    "level": Q(summary__winner="") & ~Q(summary__method="unfinished"),
    "open": Q(summary__method="unfinished") | Q(summary=None),
}
"""How a match came out for the athlete: won, lost, without a winner, or with no end logged yet."""
NOT_SCORED = Q(summary=None) | Q(summary__observed=0)
STATES = {
    "not_scored": NOT_SCORED & Q(second_of=None),
    "in_work": ~NOT_SCORED & Q(summary__method="unfinished"),
    "scored": ~Q(summary=None) & ~Q(summary__method="unfinished"),
    "reviewed": Q(remarks__standing="accepted"),
    "sent": Q(links__revoked=False),
    "answered": Q(answers__read=False),
    "to_submit": ~Q(second_of=None) & Q(finished=False),
}
"""How far the work on a match is; the last two wait for the coach: new replies, and a second score to hand in."""
WAITING = ("not_scored", "to_submit", "answered")


HEAVY = tuple(f"summary__{name}" for name in ("lesson", "figures", "scoring", "tried", "mistakes", "costs"))
"""What no list shows of a summary, and is not read for it."""


def own_matches(access: Access) -> QuerySet[Match]:
    """The matches that somebody has a right for."""
    return Match.objects.filter(access.matches()).select_related("athlete", "clip")


def own_match(access: Access, match: uuid.UUID) -> Match:
    """One of them. Raises Http404 for any other."""
    check_own(access, match)
    return get_object_or_404(Match.objects.select_related("athlete", "clip"), pk=match)


def check_own(access: Access, match: uuid.UUID) -> None:
    """Raises Http404 unless somebody has the right for a match."""
    if not allowed(Match, Access.matches, access, match):
        raise Http404


def counted(access: Access) -> QuerySet[Match]:
    """The matches of a list: all but the practice, and of the second scores one's own."""
    return own_matches(access).filter(Q(second_of=None) | Q(scorer=access.user), practice=False)


def deleted_matches(access: Access) -> QuerySet[Match]:
    """The deleted matches that can be restored, the last one first; second scores come with their match."""
    rows = Match.with_deleted.filter(access.matches()).exclude(deleted=None).select_related("athlete")
    return rows.exclude(second_of__deleted=F("deleted")).order_by("-deleted", "pk")


def listed(access: Access) -> QuerySet[Match]:
    """The matches of a list with all that a list shows of each, the latest first."""
    rows = counted(access).select_related("athlete", "summary", "clip__job").defer(*HEAVY)
    return rows.order_by("-date", "-created", "pk")


def waiting(access: Access) -> dict[str, int]:
    """How many matches wait for the coach, by what they wait for; and clips that no match was set up for."""
    rows = counted(access)
    clips = unused_clips(access).count()
    return {"clips": clips} | {state: rows.filter(STATES[state]).distinct().count() for state in WAITING}


def unused_clips(access: Access) -> QuerySet[Clip]:
    """The clips that no match was set up for, the first one filmed first."""
    used = Match.objects.filter(clip=OuterRef("pk"))
    further = FurtherClip.objects.filter(clip=OuterRef("pk"), match__deleted=None)
    whole = Clip.objects.filter(access.clips()).exclude(state=Clip.State.UPLOADING)
    return whole.exclude(Exists(used)).exclude(Exists(further)).order_by("filmed", "name", "created")


MOST_REMEMBERED = 200


def remembered(access: Access) -> dict[str, Any]:
    """What was typed before, the latest first: events with their date and ruleset, opponents with their club."""
    rows = list(counted(access).order_by("-created")[:MOST_REMEMBERED])
    events: dict[str, dict[str, Any]] = {}
    opponents: dict[str, dict[str, Any]] = {}
    for one in rows:
        opponents.setdefault(one.opponent, {"opponent": one.opponent, "club": one.club})
        if one.event:
            events.setdefault(one.event, {"event": one.event, "date": one.date, "ruleset": one.ruleset})

    def typed(name: str) -> list[str]:
        return list(dict.fromkeys(said for one in rows if (said := getattr(one, name))))

    return {
        "events": list(events.values()),
        "opponents": list(opponents.values()),
        "clubs": typed("club"),
        "rounds": typed("round"),
        "weight_classes": typed("weight_class"),
        "mats": typed("mat"),
    }


def second_scores(matches: Iterable[Match]) -> dict[uuid.UUID, int]:
    """How many second scores some matches have; those without any are left out."""
    seconds = Match.objects.filter(second_of__in=[match.pk for match in matches]).values_list("second_of")
    return dict(seconds.annotate(many=Count("pk")).order_by())


def _athletes(request: Request) -> QuerySet[Athlete]:
    return Athlete.objects.filter(asks(request).athletes(), practice=False)


class MatchFilter(django_filters.FilterSet):
    """What a list of matches can be narrowed down by."""

    athlete = django_filters.ModelChoiceFilter(queryset=_athletes)  # type: ignore[arg-type]  # it may be a function
    athlete_name = django_filters.CharFilter(field_name="athlete__name")
    result = django_filters.ChoiceFilter(choices=[(name, name) for name in RESULTS], method="by_result")
    state = django_filters.ChoiceFilter(choices=[(name, name) for name in STATES], method="by_state")
    scored = django_filters.BooleanFilter(method="by_scored", help_text="whether anything is logged in it")
    dated = django_filters.BooleanFilter(field_name="date", lookup_expr="isnull", exclude=True)
    ruleset = django_filters.CharFilter(method="by_ruleset", help_text="a preset's id, also where it was changed")

    class Meta:
        model = Match
        fields = ["belt", "attire"]

    def by_result(self, rows: QuerySet[Match], name: str, value: str) -> QuerySet[Match]:
        return rows.filter(RESULTS[value])

    def by_state(self, rows: QuerySet[Match], name: str, value: str) -> QuerySet[Match]:
        return rows.filter(pk__in=Match.objects.filter(STATES[value]).values("pk"))

    def by_scored(self, rows: QuerySet[Match], name: str, value: bool) -> QuerySet[Match]:
        return rows.filter(summary__observed__gt=0) if value else rows.exclude(summary__observed__gt=0)

    def by_ruleset(self, rows: QuerySet[Match], name: str, value: str) -> QuerySet[Match]:
        return rows.filter(Q(ruleset=value) | Q(ruleset__extends=value))
