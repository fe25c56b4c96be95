"""A club's season and a scorer's own record over HTTP."""

from __future__ import annotations

from typing import Any, cast

from django.contrib.auth.models import User
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from clubs.access import asks, asks_in_club
from config.choices import TALLIES
from jobs.serializers import JobSerializer

from ..calibrating import check
from ..club import club_json, scorer_json
from ..models import Checked
from .season import ShareSerializer


class HowManySerializer(serializers.Serializer[Any]):
    """An athlete, and how many."""

    id = serializers.IntegerField()
    name = serializers.CharField()
    n = serializers.IntegerField()


class ClubKindSerializer(serializers.Serializer[Any]):
    """A kind of error over all athletes, with who shares it, whom it cost most first."""

    kind = serializers.CharField()
    part = serializers.CharField(help_text="which move was conceded, where the kind has them all together")
    name = serializers.CharField()
    n = serializers.IntegerField()
    matches = serializers.IntegerField()
    points = serializers.IntegerField()
    lost = serializers.FloatField(help_text="of the chance of winning: 1 is as much as a won match")
    cost = serializers.CharField(allow_blank=True, help_text="what it cost, in words")
    athletes = serializers.IntegerField(help_text="how many share it")
    shared = HowManySerializer(many=True)


class GroupSerializer(serializers.Serializer[Any]):
    """The matches at one belt, or of one age class."""

    name = serializers.CharField()
    matches = serializers.IntegerField()
    athletes = serializers.IntegerField()
    won = ShareSerializer()
    often = serializers.FloatField(help_text="errors in ten minutes of match time")
    often_low = serializers.FloatField()
    often_high = serializers.FloatField(allow_null=True)
    worst = serializers.CharField(help_text="the kind of error that cost most")


class ClubFiguresSerializer(serializers.Serializer[Any]):
    matches = serializers.IntegerField()
    athletes = serializers.IntegerField()
    kinds = ClubKindSerializer(many=True)
    belts = GroupSerializer(many=True)
    ages = GroupSerializer(many=True)


class WaitingMatchSerializer(serializers.Serializer[Any]):
    id = serializers.UUIDField()
    athlete = serializers.CharField()
    opponent = serializers.CharField()
    event = serializers.CharField()
    date = serializers.DateField(allow_null=True)


class WaitingMatchesSerializer(serializers.Serializer[Any]):
    """Matches that wait: how many, the first of them, and how many of each athlete."""

    n = serializers.IntegerField()
    first = WaitingMatchSerializer(many=True)
    athletes = HowManySerializer(many=True)


class ClubSeasonSerializer(serializers.Serializer[Any]):
    since = serializers.DateField(allow_null=True)
    working = serializers.IntegerField(help_text="how many matches are still to be worked out")
    season = ClubFiguresSerializer()
    not_scored = WaitingMatchesSerializer()
    not_reviewed = WaitingMatchesSerializer()


class SinceSerializer(serializers.Serializer[Any]):
    since = serializers.DateField(required=False)


class ClubSeasonView(APIView):
    @extend_schema(
        operation_id="club_season", parameters=[OpenApiParameter("since", OpenApiTypes.DATE)],
        responses=ClubSeasonSerializer,
    )  # fmt: skip
    def get(self, request: Request) -> Response:
        """What costs the club most, who shares it, its belts and ages, and which matches wait."""
        access, club = asks_in_club(request)
        asked = SinceSerializer(data=request.query_params)
        asked.is_valid(raise_exception=True)
        return Response(club_json(access, club, asked.validated_data.get("since")))


class AgreementOfKindSerializer(serializers.Serializer[Any]):
    kind = serializers.ChoiceField(TALLIES)
    share = ShareSerializer()


class AgainstSerializer(serializers.Serializer[Any]):
    """A scorer held against others."""

    matches = serializers.IntegerField()
    agreement = AgreementOfKindSerializer(many=True)
    late = serializers.CharField(help_text="who gives earlier, in a sentence")
    held = serializers.CharField(help_text="how long positions had been held when the others gave them; or empty")


class QuarterSerializer(serializers.Serializer[Any]):
    months = serializers.CharField()
    share = ShareSerializer()


class ScorerRecordSerializer(serializers.Serializer[Any]):
    matches = serializers.IntegerField()
    unsure = ShareSerializer(help_text="of all that was logged, how much was marked as unsure")
    officials = AgainstSerializer()
    seconds = AgainstSerializer()
    quarters = QuarterSerializer(many=True, help_text="agreement with the officials, three months at a time")


class ScorerRecordView(APIView):
    @extend_schema(operation_id="scorer_record", responses=ScorerRecordSerializer)
    def get(self, request: Request) -> Response:
        """One's own record as a scorer; nobody else's is shown to anybody."""
        return Response(scorer_json(cast(User, request.user), asks(request)))


class BinSerializer(serializers.Serializer[Any]):
    """The matches of which about the same was predicted, and how many were won."""

    low = serializers.FloatField()
    high = serializers.FloatField()
    predicted = serializers.FloatField(help_text="on average")
    won = ShareSerializer()


class CalibrationSerializer(serializers.Serializer[Any]):
    matches = serializers.IntegerField()
    score = serializers.FloatField(help_text="Brier's score: 0 at best")
    usual = serializers.FloatField(help_text="that of who always says how many matches are won in all")
    bins = BinSerializer(many=True)


class CheckedSerializer(serializers.ModelSerializer[Checked]):
    job = JobSerializer(allow_null=True)
    found = CalibrationSerializer(allow_null=True)

    class Meta:
        model = Checked
        fields = ["at", "found", "job"]
        read_only_fields = fields


class CalibrationView(APIView):
    @extend_schema(operation_id="calibration", responses=CheckedSerializer)
    def get(self, request: Request) -> Response:
        """How far the chances of winning came true in the club's own matches, as it was last worked out."""
        _, club = asks_in_club(request)
        found = Checked.objects.filter(club=club).select_related("job").first()
        return Response(CheckedSerializer(found or Checked(club=club)).data)

    @extend_schema(operation_id="calibrate", request=None, responses={201: CheckedSerializer})
    def post(self, request: Request) -> Response:
        """Have the worker hold the chances against what happened."""
        _, club = asks_in_club(request)
        return Response(CheckedSerializer(check(club, cast(User, request.user))).data, status=201)
