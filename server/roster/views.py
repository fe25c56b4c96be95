"""The club's athletes."""

from __future__ import annotations

import datetime
from typing import Any

from django.db.models import QuerySet
from django.shortcuts import get_object_or_404
from drf_spectacular.utils import extend_schema
from rest_framework import serializers, viewsets
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from accounts.models import called
from clubs.access import asks, asks_in_club
from clubs.queries import who_coach
from journal.models import note

from .actions import change_athlete, delete_athlete
from .models import Athlete


class AthleteSerializer(serializers.ModelSerializer[Athlete]):
    child = serializers.BooleanField(read_only=True, help_text="whether the athlete is treated as a child")
    consent = serializers.SerializerMethodField(help_text="who has agreed to links for a child, and holds to it")

    def get_consent(self, athlete: Athlete) -> str | None:
        held = next((one for one in athlete.consents.all() if one.withdrawn is None), None)
        return None if held is None else held.name

    class Meta:
        model = Athlete
        fields = ["id", "name", "birth_year", "belt", "child", "consent"]

    def validate_birth_year(self, year: int) -> int:
        this_year = datetime.date.today().year
        if not this_year - 100 <= year <= this_year - 3:
            raise serializers.ValidationError(f"{year} should be a year from {this_year - 100} to {this_year - 3}")
        return year


class CoachSerializer(serializers.Serializer[Any]):
    """A coach of the club, and whether they are named for the athlete."""

    user = serializers.IntegerField()
    name = serializers.CharField(read_only=True)
    named = serializers.BooleanField()


class CoachesView(APIView):
    @extend_schema(operation_id="named_coaches", responses=CoachSerializer(many=True))
    def get(self, request: Request, pk: int) -> Response:
        """The coaches of the club, with those who are named for the athlete."""
        return Response(_coaches(get_object_or_404(Athlete, asks(request).known_athletes(), pk=pk)))

    @extend_schema(operation_id="name_coach", request=CoachSerializer, responses={200: CoachSerializer(many=True)})
    def put(self, request: Request, pk: int) -> Response:
        """Name a coach for the athlete, or no longer: of a child, only named coaches see footage and reports."""
        athlete = get_object_or_404(Athlete, asks(request).clubs(), pk=pk)
        asked = CoachSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        coach = get_object_or_404(who_coach(athlete.club_id), pk=asked.validated_data["user"])
        named = asked.validated_data["named"]
        (athlete.coaches.add if named else athlete.coaches.remove)(coach)
        what = "coach named" if named else "coach no longer named"
        note(what, f"{called(coach)} for {athlete.name}", request=request, club=athlete.club_id)
        return Response(_coaches(athlete))


def _coaches(athlete: Athlete) -> list[dict[str, Any]]:
    named = set(athlete.coaches.values_list("pk", flat=True))
    return [
        {"user": coach.pk, "name": called(coach), "named": coach.pk in named} for coach in who_coach(athlete.club_id)
    ]


class AthleteViewSet(viewsets.ModelViewSet[Athlete]):
    serializer_class = AthleteSerializer
    queryset = Athlete.objects.none()
    lookup_value_converter = "int"

    def get_queryset(self) -> QuerySet[Athlete]:
        access = asks(self.request) if self.detail else asks_in_club(self.request)[0]
        found = Athlete.objects.filter(access.known_athletes(), practice=False)
        return found.select_related("club").prefetch_related("consents")

    def perform_create(self, serializer: Any) -> None:
        athlete = serializer.save(club=asks_in_club(self.request)[1])
        athlete.coaches.add(self.request.user.pk)
        note("athlete added", _described(athlete), request=self.request, club=athlete.club_id)

    def perform_update(self, serializer: Any) -> None:
        athlete: Athlete = serializer.instance
        about = f"{athlete.name}: {change_athlete(athlete, serializer.validated_data, asks(self.request).user)}"
        note("athlete changed", about, request=self.request, club=athlete.club_id)

    def perform_destroy(self, instance: Athlete) -> None:
        about, club = _described(instance), instance.club_id
        delete_athlete(instance, asks(self.request).user)
        note("athlete deleted", about, request=self.request, club=club)


def _described(athlete: Athlete) -> str:
    return f"{athlete.name}, born {athlete.birth_year}"
