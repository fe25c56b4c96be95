"""Seasons over HTTP."""

from __future__ import annotations

from typing import Any, get_args

from django.shortcuts import get_object_or_404
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from clubs.access import asks
from config.choices import BELTS, SIDES
from jurata_core.season import MOVES
from jurata_core.season.certainty import Word
from jurata_core.season.figures import STATES
from matches.schema import BothField
from matches.serializers import PartSerializer
from roster.models import Athlete

from ..queries import own_season_json, season_json

MOVE_NAMES = [(name, name) for name in MOVES]
WORDS = [(word, word) for word in get_args(Word)]
STATE_NAMES = [(name, name) for name in STATES.values()]


class ShownMomentSerializer(serializers.Serializer[Any]):
    """A moment behind a figure; times in seconds of the footage."""

    match = serializers.UUIDField()
    t = serializers.FloatField()
    start = serializers.FloatField()
    end = serializers.FloatField()


class ShareSerializer(serializers.Serializer[Any]):
    """How much of what was tried worked, with the interval of 90 % that the true share lies in."""

    done = serializers.IntegerField()
    of = serializers.IntegerField()
    estimate = serializers.FloatField()
    low = serializers.FloatField()
    high = serializers.FloatField()
    said = serializers.CharField()


class TriedSerializer(serializers.Serializer[Any]):
    name = serializers.CharField()
    share = ShareSerializer()
    towards = ShareSerializer(allow_null=True, help_text="moved towards the club's, where little was tried")
    done = ShownMomentSerializer(many=True)
    failed = ShownMomentSerializer(many=True)


class OfMoveSerializer(serializers.Serializer[Any]):
    """One move of one side: as a whole, by technique, and by where it began."""

    move = serializers.ChoiceField(MOVE_NAMES)
    by = serializers.ChoiceField(SIDES)
    whole = TriedSerializer()
    techniques = TriedSerializer(many=True)
    places = TriedSerializer(many=True)


class RateSerializer(serializers.Serializer[Any]):
    """How often something happened in ten minutes of match time; without a high end it is unknown."""

    n = serializers.IntegerField()
    minutes = serializers.FloatField()
    per_ten = serializers.FloatField()
    low = serializers.FloatField()
    high = serializers.FloatField(allow_null=True)
    matches = serializers.IntegerField(help_text="in how many matches it was counted")


class ChangeOfRateSerializer(serializers.Serializer[Any]):
    before = RateSerializer()
    since = RateSerializer()
    ratio = serializers.FloatField()
    low = serializers.FloatField()
    high = serializers.FloatField(allow_null=True)
    word = serializers.ChoiceField(WORDS)
    said = serializers.CharField()


class CostOfErrorsSerializer(serializers.Serializer[Any]):
    """What errors cost together: on the sheet, and of the chance of winning, in matches."""

    points = serializers.IntegerField()
    advantages = serializers.IntegerField()
    lost = serializers.FloatField(help_text="1 is as much as a won match")
    unknown = serializers.IntegerField(help_text="how many have no cost in chance yet")
    said = serializers.CharField(allow_blank=True)


class RecurringSerializer(serializers.Serializer[Any]):
    """What comes back: a kind of error, a cause or something done well, and whether it has become rarer."""

    id = serializers.CharField()
    name = serializers.CharField()
    n = serializers.IntegerField()
    matches = serializers.IntegerField()
    cost = CostOfErrorsSerializer()
    change = ChangeOfRateSerializer()
    moments = ShownMomentSerializer(many=True)
    began = serializers.IntegerField(help_text="how many chains of errors began with it")
    chain = CostOfErrorsSerializer(help_text="what those chains cost, with all that came of it")


class RecordSerializer(serializers.Serializer[Any]):
    """Under one ruleset, how many matches were won, lost and drawn, and by which method."""

    ruleset = serializers.CharField()
    counts = serializers.DictField(child=serializers.IntegerField())


class GivenSerializer(serializers.Serializer[Any]):
    """How much was given, and when."""

    n = serializers.IntegerField()
    moments = ShownMomentSerializer(many=True)


class ScoredSerializer(serializers.Serializer[Any]):
    what = serializers.CharField()
    points_a = GivenSerializer()
    advantages_a = GivenSerializer()
    points_b = GivenSerializer()
    advantages_b = GivenSerializer()


class PartOfTimeSerializer(serializers.Serializer[Any]):
    lasted = serializers.FloatField(help_text="seconds of running clock")
    points_a = GivenSerializer()
    points_b = GivenSerializer()


class StateSerializer(PartOfTimeSerializer):
    state = serializers.ChoiceField(STATE_NAMES)


class FoulsSerializer(serializers.Serializer[Any]):
    foul = serializers.CharField()
    penalties_a = GivenSerializer()
    penalties_b = GivenSerializer()


class IllegalSerializer(serializers.Serializer[Any]):
    technique = serializers.CharField()
    by = serializers.ChoiceField(SIDES)
    moment = ShownMomentSerializer()


class SeasonFiguresSerializer(serializers.Serializer[Any]):
    matches = serializers.IntegerField()
    unscored = serializers.IntegerField()
    record = RecordSerializer(many=True)
    moves = OfMoveSerializer(many=True)
    length = serializers.FloatField(help_text="seconds of running clock of all matches")
    top = serializers.FloatField()
    below = serializers.FloatField()
    feet = serializers.FloatField()
    scored = ScoredSerializer(many=True)
    thirds = PartOfTimeSerializer(many=True)
    states = StateSerializer(many=True)
    penalties = FoulsSerializer(many=True)
    illegal = IllegalSerializer(many=True)
    split = serializers.DateField(allow_null=True, help_text="errors before this day are held against those since")
    kinds = RecurringSerializer(many=True, help_text="of errors, what cost most first")
    causes = RecurringSerializer(many=True, help_text="that coaches named, what cost most first")
    well = RecurringSerializer(many=True)


class PlayedSerializer(serializers.Serializer[Any]):
    """A match of the season, with the footage that its moments are in."""

    id = serializers.UUIDField()
    opponent = serializers.CharField()
    event = serializers.CharField()
    date = serializers.DateField(allow_null=True)
    belt = serializers.ChoiceField(BELTS)
    ruleset = serializers.CharField()
    result = serializers.CharField(help_text="won, lost or drawn; empty where it has no end yet")
    method = serializers.CharField()
    score = BothField(allow_null=True)
    parts = PartSerializer(many=True)


class OfAthleteSerializer(serializers.Serializer[Any]):
    id = serializers.IntegerField()
    name = serializers.CharField()
    belt = serializers.ChoiceField(BELTS)


class SeasonSerializer(serializers.Serializer[Any]):
    athlete = OfAthleteSerializer()
    waiting = serializers.IntegerField(help_text="how many matches are still to be worked out")
    played = PlayedSerializer(many=True)
    season = SeasonFiguresSerializer()


class AskedSerializer(serializers.Serializer[Any]):
    split = serializers.DateField(required=False)


SPLIT = OpenApiParameter("split", OpenApiTypes.DATE, description="errors before this day are held against those since")


def asked_split(request: Request) -> Any:
    """The day that the address asks to divide a season by; none where it asks for none."""
    asked = AskedSerializer(data=request.query_params)
    asked.is_valid(raise_exception=True)
    return asked.validated_data.get("split")


class SeasonView(APIView):
    @extend_schema(operation_id="season", parameters=[SPLIT], responses=SeasonSerializer)
    def get(self, request: Request, pk: int) -> Response:
        """The season of one athlete: what works, what comes back, and how sure each figure is."""
        access = asks(request)
        athlete = get_object_or_404(Athlete.objects.filter(access.athletes(), practice=False), pk=pk)
        return Response(season_json(access, athlete, asked_split(request)))


class OwnSeasonView(APIView):
    @extend_schema(operation_id="own_season", parameters=[SPLIT], responses=SeasonSerializer)
    def get(self, request: Request, athlete: int) -> Response:
        """The season of oneself, or of one's child."""
        access = asks(request)
        found = get_object_or_404(Athlete.objects.filter(access.own_athletes(), practice=False).distinct(), pk=athlete)
        return Response(own_season_json(access, found, asked_split(request)))
