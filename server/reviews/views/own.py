"""The place of an athlete, and of a guardian for a child: their matches, the reports that were sent, and consent."""

from __future__ import annotations

from typing import Any, cast

from django.contrib.auth.models import User
from django.shortcuts import get_object_or_404
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from accounts.models import called
from clubs.access import Access, Right, asks
from config.refusals import NotAllowed
from journal.models import note
from matches.logs import with_names
from matches.models import Match
from matches.queries import own_matches
from roster.models import CONSENT, Athlete, give_consent


class ConsentSerializer(serializers.Serializer[Any]):
    """Whether a guardian has agreed to links, to what, and since when."""

    text = serializers.CharField()
    since = serializers.DateTimeField(allow_null=True, help_text="null: there is no consent")
    name = serializers.CharField(allow_null=True, help_text="who has given it")


class OwnMatchSerializer(serializers.Serializer[Any]):
    """A match about the athlete."""

    id = serializers.UUIDField()
    opponent = serializers.CharField()
    event = serializers.CharField()
    date = serializers.DateField(allow_null=True)
    because = serializers.CharField(help_text="the sentence of the result")
    sent = serializers.DateTimeField(allow_null=True, help_text="when the report was sent; null: not yet")


class OwnAthleteSerializer(serializers.Serializer[Any]):
    """An athlete whom the user is, or is a guardian of."""

    id = serializers.IntegerField()
    name = serializers.CharField()
    club = serializers.CharField()
    oneself = serializers.BooleanField(help_text="whether the user is the athlete; otherwise a guardian")
    child = serializers.BooleanField()
    consent = ConsentSerializer()
    coaches = serializers.ListField(child=serializers.CharField(), help_text="the coaches who see a child's footage")
    matches = OwnMatchSerializer(many=True)


def own_place(request: Request) -> list[dict[str, Any]]:
    """All that the place of a user shows."""
    access = Access(asks(request).user, Right.OWN)
    rows = Athlete.objects.filter(access.own_athletes()).select_related("club").prefetch_related("coaches").distinct()
    return [_athlete(access, athlete) for athlete in rows]


def _athlete(access: Access, athlete: Athlete) -> dict[str, Any]:
    held = athlete.consent
    matches = own_matches(access).filter(athlete=athlete, practice=False).select_related("summary", "report")
    return {
        "id": athlete.pk,
        "name": athlete.name,
        "club": athlete.club.name,
        "oneself": athlete.user_id == access.user,
        "child": athlete.child,
        "consent": {"text": held.text if held else CONSENT, "since": held and held.at, "name": held and held.name},
        "coaches": [called(coach) for coach in athlete.coaches.all()],
        "matches": [_match(match) for match in matches.order_by("-date", "-created")],
    }


def _match(match: Match) -> dict[str, Any]:
    summary, report = getattr(match, "summary", None), getattr(match, "report", None)
    return {
        "id": match.pk,
        "opponent": match.opponent,
        "event": match.event,
        "date": match.date,
        "because": "Nothing is scored yet." if summary is None else with_names(match, summary.because),
        "sent": report and report.sent,
    }


class OwnView(APIView):
    @extend_schema(operation_id="own_place", responses=OwnAthleteSerializer(many=True))
    def get(self, request: Request) -> Response:
        """The matches about oneself or one's child, in all clubs, and which reports were sent."""
        return Response(own_place(request))


class ConsentView(APIView):
    @extend_schema(operation_id="give_consent", request=None, responses=OwnAthleteSerializer(many=True))
    def post(self, request: Request, athlete: int) -> Response:
        """Agree, as a guardian, to links to reports about one's child."""
        found = self._ward(request, athlete)
        give_consent(found, cast(User, request.user))
        note("consent given", f"for {found.name}", request=request, club=found.club_id)
        return Response(own_place(request))

    @extend_schema(operation_id="withdraw_consent", responses={200: OwnAthleteSerializer(many=True)})
    def delete(self, request: Request, athlete: int) -> Response:
        """Take the consent back: every link to a report about the child ends at once."""
        found = self._ward(request, athlete)
        found.end_consent()
        note("consent taken back", f"for {found.name}", request=request, club=found.club_id)
        return Response(own_place(request))

    def _ward(self, request: Request, athlete: int) -> Athlete:
        access = Access(asks(request).user, Right.OWN)
        found = get_object_or_404(Athlete.objects.filter(access.own_athletes()).distinct(), pk=athlete)
        if not found.guardians.filter(pk=access.user).exists():
            raise NotAllowed("guardians_only", "Only a guardian agrees to that.")
        return found
