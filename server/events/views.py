"""Days of fights over HTTP."""

from __future__ import annotations

from typing import Any, cast

from django.contrib.auth.models import User
from django.db.models import QuerySet
from django.shortcuts import get_object_or_404
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from clubs.access import asks, asks_in_club
from config.choices import ATTIRES
from config.sizes import RulesetField
from jurata_core.faults import Fault, FaultyInput
from jurata_core.rulesets import read_ruleset
from matches.schema import BothField
from matches.serializers import OwnField, PartSerializer
from roster.models import Athlete
from seasons.views.season import OfAthleteSerializer, ShownMomentSerializer

from .actions import begin, take_table
from .models import EventDay, Fight
from .queries import day_json, days_json

LONGEST_TABLE = 200_000


def _checked_ruleset(value: Any) -> Any:
    faults: list[Fault] = []
    if read_ruleset(value, "ruleset", faults) is None or faults:
        raise FaultyInput(faults)
    return value


class EventDaySerializer(serializers.ModelSerializer[EventDay]):
    ruleset = RulesetField()

    class Meta:
        model = EventDay
        fields = ["id", "name", "date", "ruleset"]

    def validate_ruleset(self, value: Any) -> Any:
        return _checked_ruleset(value)


class NewFightSerializer(serializers.ModelSerializer[Fight]):
    """A fight; without a ruleset it is under that of the day."""

    athlete = OwnField(queryset=Athlete.objects.filter(practice=False))
    attire = serializers.ChoiceField(ATTIRES, default="gi")
    ruleset = RulesetField(required=False, allow_null=True)

    class Meta:
        model = Fight
        fields = ["athlete", "opponent", "club", "time", "mat", "round", "weight_class", "attire", "ruleset"]

    def validate_ruleset(self, value: Any) -> Any:
        return None if value is None else _checked_ruleset(value)


class FightStateSerializer(serializers.Serializer[Any]):
    score = BothField()
    method = serializers.CharField()
    winner = serializers.CharField(help_text="a or b; empty where nobody has won")
    because = serializers.CharField()


class SeenThingSerializer(serializers.Serializer[Any]):
    """One thing to look at between two rounds."""

    name = serializers.CharField()
    moment = ShownMomentSerializer()


class DidSerializer(serializers.Serializer[Any]):
    """What somebody tried, how often it worked, and the moments."""

    name = serializers.CharField()
    done = serializers.IntegerField()
    of = serializers.IntegerField()
    moments = ShownMomentSerializer(many=True)


class MetMatchSerializer(serializers.Serializer[Any]):
    match = serializers.UUIDField()
    athlete = serializers.CharField()
    date = serializers.DateField(allow_null=True)
    result = serializers.CharField()
    method = serializers.CharField()


class MetSerializer(serializers.Serializer[Any]):
    """An opponent met before: what they tried on us, and what we did to them."""

    matches = MetMatchSerializer(many=True)
    theirs = DidSerializer(many=True)
    ours = DidSerializer(many=True)


class FightSerializer(serializers.Serializer[Any]):
    """A fight of a day, what has come in of it, and what is known from before."""

    id = serializers.IntegerField()
    athlete = OfAthleteSerializer()
    opponent = serializers.CharField()
    club = serializers.CharField()
    time = serializers.TimeField(allow_null=True)
    mat = serializers.CharField()
    round = serializers.CharField()
    weight_class = serializers.CharField()
    attire = serializers.ChoiceField(ATTIRES)
    ruleset = serializers.JSONField()
    ruleset_title = serializers.CharField()
    age = serializers.IntegerField()
    match = serializers.UUIDField(allow_null=True)
    clip = serializers.BooleanField()
    state = FightStateSerializer(allow_null=True)
    last = serializers.UUIDField(allow_null=True, help_text="the athlete's last match before it")
    things = SeenThingSerializer(many=True, help_text="what weighed most of that one")
    met = MetSerializer(allow_null=True)


class FootageSerializer(serializers.Serializer[Any]):
    """A match with the footage that moments are in."""

    id = serializers.UUIDField()
    opponent = serializers.CharField()
    date = serializers.DateField(allow_null=True)
    parts = PartSerializer(many=True)


class ShownDaySerializer(EventDaySerializer):
    ruleset_title = serializers.CharField()
    fights = FightSerializer(many=True)
    played = FootageSerializer(many=True)

    class Meta(EventDaySerializer.Meta):
        fields = [*EventDaySerializer.Meta.fields, "ruleset_title", "fights", "played"]


class TableSerializer(serializers.Serializer[Any]):
    table = serializers.CharField(max_length=LONGEST_TABLE, trim_whitespace=False)


class BegunSerializer(serializers.Serializer[Any]):
    match = serializers.UUIDField()


def _days(request: Request) -> QuerySet[EventDay]:
    return EventDay.objects.filter(asks(request).clubs())


def _day(request: Request, day: int) -> EventDay:
    return get_object_or_404(_days(request), pk=day)


def _shown(request: Request, day: EventDay, status: int = 200) -> Response:
    return Response(day_json(day, asks(request)), status=status)


class DaysView(APIView):
    @extend_schema(operation_id="event_days", responses=EventDaySerializer(many=True))
    def get(self, request: Request) -> Response:
        """The club's days of fights, the latest first."""
        _, club = asks_in_club(request)
        return Response(days_json(EventDay.objects.filter(club=club)))

    @extend_schema(operation_id="add_event_day", request=EventDaySerializer, responses={201: EventDaySerializer})
    def post(self, request: Request) -> Response:
        _, club = asks_in_club(request)
        asked = EventDaySerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        asked.save(club=club)
        return Response(asked.data, status=201)


class DayView(APIView):
    @extend_schema(operation_id="event_day", responses=ShownDaySerializer)
    def get(self, request: Request, day: int) -> Response:
        """A day: its fights, what has come in, and what is known of athletes and opponents from before."""
        return _shown(request, _day(request, day))

    @extend_schema(operation_id="change_event_day", request=EventDaySerializer, responses=ShownDaySerializer)
    def put(self, request: Request, day: int) -> Response:
        found = _day(request, day)
        asked = EventDaySerializer(found, data=request.data)
        asked.is_valid(raise_exception=True)
        asked.save()
        return _shown(request, found)

    @extend_schema(operation_id="remove_event_day", responses={204: None})
    def delete(self, request: Request, day: int) -> Response:
        """Remove a day; matches that were set up for it stay."""
        _day(request, day).delete()
        return Response(status=204)


class FightsView(APIView):
    @extend_schema(operation_id="add_fight", request=NewFightSerializer, responses={201: ShownDaySerializer})
    def post(self, request: Request, day: int) -> Response:
        found = _day(request, day)
        asked = NewFightSerializer(data=request.data, context={"access": asks(request)})
        asked.is_valid(raise_exception=True)
        _of_the_club(found, asked.validated_data["athlete"])
        asked.save(day=found)
        return _shown(request, found, 201)


class FightTableView(APIView):
    most_bytes = 4 * LONGEST_TABLE

    @extend_schema(operation_id="add_fights", request=TableSerializer, responses={201: ShownDaySerializer})
    def post(self, request: Request, day: int) -> Response:
        """Add the fights of a CSV table; all of them, or none where a line is wrong."""
        found = _day(request, day)
        asked = TableSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        take_table(found, asked.validated_data["table"], asks(request))
        return _shown(request, found, 201)


class FightView(APIView):
    @extend_schema(operation_id="change_fight", request=NewFightSerializer, responses=ShownDaySerializer)
    def put(self, request: Request, day: int, fight: int) -> Response:
        of, found = self._found(request, day, fight)
        asked = NewFightSerializer(found, data=request.data, context={"access": asks(request)})
        asked.is_valid(raise_exception=True)
        _of_the_club(of, asked.validated_data["athlete"])
        asked.save()
        return _shown(request, of)

    @extend_schema(operation_id="begin_fight", request=None, responses={201: BegunSerializer})
    def post(self, request: Request, day: int, fight: int) -> Response:
        """Set the match of a fight up, to upload its clip and score it."""
        _, found = self._found(request, day, fight)
        match = begin(found, cast(User, request.user))
        return Response({"match": match.pk}, status=201)

    @extend_schema(operation_id="remove_fight", responses=ShownDaySerializer)
    def delete(self, request: Request, day: int, fight: int) -> Response:
        of, found = self._found(request, day, fight)
        found.delete()
        return _shown(request, of)

    def _found(self, request: Request, day: int, fight: int) -> tuple[EventDay, Fight]:
        of = _day(request, day)
        return of, get_object_or_404(of.fights.filter(asks(request).athletes("athlete")), pk=fight)


def _of_the_club(day: EventDay, athlete: Athlete) -> None:
    if athlete.club_id != day.club_id:
        raise FaultyInput([Fault("athlete", "is not an athlete of the club", "unknown")])
