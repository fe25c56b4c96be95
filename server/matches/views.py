"""Matches over HTTP: set-up, the scored log, and one observation at a time."""

from __future__ import annotations

import uuid
from collections.abc import Callable
from typing import Any, cast

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction
from django.db.models import Count, QuerySet
from django.shortcuts import get_object_or_404
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from footage.files import with_posters
from footage.models import Clip
from footage.views import ClipSerializer
from jurata_core.faults import Fault, FaultyInput
from jurata_core.times import to_millis, to_seconds
from roster.models import Athlete

from .actions import change_setting, locked, record, set_up, take_back
from .logs import log_of, ruleset_title
from .models import Match, Observation, Outcome
from .outcomes import outcomes
from .parts import Part, lay_out, parts_of
from .schema import BothField, ObservationField, OutlookSerializer, ResultField, VerdictChangeField, VerdictField
from .standing import changed, outlook_at, standing


class OwnField(serializers.PrimaryKeyRelatedField[Any]):
    """A reference to something of the coach's own; anybody else's does not exist."""

    def get_queryset(self) -> QuerySet[Any]:
        queryset = cast(QuerySet[Any], super().get_queryset())
        return queryset.filter(owner_id=self.context["request"].user.pk)


class ReadingSerializer(serializers.Serializer[Any]):
    """What the scoreboard in the clip showed as left at a time of the footage, both in seconds."""

    t = serializers.FloatField(min_value=0, max_value=1e6)
    left = serializers.FloatField(min_value=0, max_value=1e6)


class MatchSerializer(serializers.ModelSerializer[Match]):
    athlete = OwnField(queryset=Athlete.objects.all())
    athlete_name = serializers.CharField(source="athlete.name", read_only=True)
    clip = OwnField(queryset=Clip.objects.exclude(state=Clip.State.UPLOADING), allow_null=True, required=False)
    ruleset = serializers.JSONField()
    ruleset_title = serializers.SerializerMethodField()
    duration_ms = serializers.IntegerField(min_value=1_000, max_value=86_400_000)

    class Meta:
        model = Match
        fields = [
            "id", "athlete", "athlete_name", "opponent", "event", "date", "ruleset", "ruleset_title", "duration_ms",
            "age", "belt", "attire", "clip", "readings", "second_of", "finished",
        ]  # fmt: skip
        read_only_fields = ["second_of", "finished"]

    readings = serializers.ListField(child=ReadingSerializer(), required=False, max_length=50)

    def get_ruleset_title(self, match: Match) -> str:
        return ruleset_title(match.ruleset)


class NewMatchSerializer(MatchSerializer):
    """A new match; with ``log``, its ruleset, length, division and observations come from there."""

    log = serializers.JSONField(required=False)

    class Meta(MatchSerializer.Meta):
        fields = [*MatchSerializer.Meta.fields, "log"]
        extra_kwargs = {name: {"required": False} for name in ("age", "belt", "attire")}

    ruleset = serializers.JSONField(required=False)
    duration_ms = serializers.IntegerField(min_value=1_000, max_value=86_400_000, required=False)

    def validate(self, values: dict[str, Any]) -> dict[str, Any]:
        if "log" not in values:
            missing = [name for name in ("ruleset", "duration_ms", "age", "belt", "attire") if name not in values]
            if missing:
                raise serializers.ValidationError(dict.fromkeys(missing, "is missing"))
        return values


class MatchRowSerializer(MatchSerializer):
    """A match in the list, with where its scoring stands."""

    observed = serializers.IntegerField()
    second_scores = serializers.IntegerField(help_text="how many second scores it has")
    poster = serializers.BooleanField(help_text="whether there is a picture of its clip")
    score = BothField(allow_null=True)
    result = ResultField(allow_null=True)
    because = serializers.CharField()

    class Meta(MatchSerializer.Meta):
        fields = [*MatchSerializer.Meta.fields, "observed", "second_scores", "poster", "score", "result", "because"]


BASED_ON = OpenApiParameter("based_on", OpenApiTypes.INT, description="the key's revision that the change is made on")
HAVE = OpenApiParameter("have", OpenApiTypes.INT, description="the match's revision that the answer may build on")
OBSERVATION = {"application/json": {"$ref": "#/components/schemas/Observation"}}


class ScoredSerializer(serializers.Serializer[Any]):
    observations = serializers.ListField(child=ObservationField())
    revisions = serializers.DictField(child=serializers.IntegerField(), help_text="of each key, deleted ones too")
    revision = serializers.IntegerField()
    verdict = VerdictField()


class ObservationSpliceSerializer(serializers.Serializer[Any]):
    """Remove so many from a place on, and put others there."""

    start = serializers.IntegerField()
    remove = serializers.IntegerField()
    add = serializers.ListField(child=ObservationField())


class ChangedSerializer(serializers.Serializer[Any]):
    """What has changed since revision ``base``; null: all that there is."""

    base = serializers.IntegerField(allow_null=True)
    revision = serializers.IntegerField()
    observations = ObservationSpliceSerializer()
    revisions = serializers.DictField(child=serializers.IntegerField(), help_text="of the keys that changed")
    verdict = VerdictChangeField()


class PartSerializer(serializers.Serializer[Any]):
    """A clip of the match, and where in its footage it begins, in seconds."""

    clip = ClipSerializer()
    start = serializers.FloatField()


class DeskSerializer(ScoredSerializer):
    match = MatchSerializer()
    parts = PartSerializer(many=True)


class PlacedClipSerializer(serializers.Serializer[Any]):
    clip = OwnField(queryset=Clip.objects.exclude(state=Clip.State.UPLOADING))
    start = serializers.FloatField(min_value=0, max_value=1e6)


class PartsSerializer(serializers.Serializer[Any]):
    parts = PlacedClipSerializer(many=True)


def own_matches(request: Request) -> QuerySet[Match]:
    return Match.objects.filter(owner_id=cast(int, request.user.pk)).select_related("athlete", "clip")


def signed_in(request: Request) -> AbstractBaseUser:
    return cast(AbstractBaseUser, request.user)


def own_match(request: Request, match: uuid.UUID) -> Match:
    return get_object_or_404(own_matches(request), pk=match)


def scored(match: Match) -> dict[str, Any]:
    """The log as it stands, and what it is worth."""
    now = standing(match)
    return {
        "observations": now.observations,
        "revisions": now.revisions,
        "revision": now.revision,
        "verdict": now.told,
    }


def answer_to(request: Request, match: uuid.UUID, change: Callable[[Match], list[Observation]]) -> Response:
    """Make a change to a log; what has become otherwise by it, if the browser has the log as it was before."""
    with transaction.atomic():
        found = locked(own_matches(request), match)
        before = standing(found)
        written = change(found)
    now = standing(found, written)
    return Response(changed(before if _number(request, "have") == before.revision else None, now))


def _number(request: Request, name: str) -> int | None:
    """A revision in the address of a request, where there is one."""
    text = request.query_params.get(name, "")
    return int(text) if text.isascii() and text.isdigit() and len(text) < 10 else None


class MatchesView(APIView):
    @extend_schema(operation_id="matches", responses=MatchRowSerializer(many=True))
    def get(self, request: Request) -> Response:
        matches = list(own_matches(request).annotate(second_scores=Count("seconds")).order_by("-date", "-created"))
        known = outcomes(matches)
        pictured = with_posters(match.clip_id for match in matches)
        return Response([self._row(request, match, known[match.pk], match.clip_id in pictured) for match in matches])

    def _row(self, request: Request, match: Any, outcome: Outcome, poster: bool) -> dict[str, Any]:
        summary = outcome.summary or {"score": None, "result": None, "because": "Nothing is scored yet."}
        return {
            **MatchSerializer(match, context={"request": request}).data,
            "observed": outcome.observed,
            "second_scores": match.second_scores,
            "poster": poster,
            **summary,
        }

    @extend_schema(operation_id="set_up_match", request=NewMatchSerializer, responses={201: MatchSerializer})
    def post(self, request: Request) -> Response:
        asked = NewMatchSerializer(data=request.data, context={"request": request})
        asked.is_valid(raise_exception=True)
        values = dict(asked.validated_data)
        match = set_up(signed_in(request), values, values.pop("log", None))
        return Response(MatchSerializer(match, context={"request": request}).data, status=201)


def shown_parts(match: Match) -> list[dict[str, Any]]:
    return [{"clip": ClipSerializer(part.clip).data, "start": to_seconds(part.start)} for part in parts_of(match)]


def desk_of(request: Request, match: Match) -> dict[str, Any]:
    """All that the desk shows of a match."""
    row = MatchSerializer(match, context={"request": request}).data
    return {"match": row, "parts": shown_parts(match), **scored(match)}


class PartsView(APIView):
    @extend_schema(operation_id="lay_out", request=PartsSerializer, responses=DeskSerializer)
    def put(self, request: Request, match: uuid.UUID) -> Response:
        """Give a match its clips: one, or several in a row with gaps."""
        found = own_match(request, match)
        asked = PartsSerializer(data=request.data, context={"request": request})
        asked.is_valid(raise_exception=True)
        lay_out(found, [Part(one["clip"], to_millis(one["start"])) for one in asked.validated_data["parts"]])
        return Response(desk_of(request, found))


class MatchView(APIView):
    @extend_schema(operation_id="match", responses=DeskSerializer)
    def get(self, request: Request, match: uuid.UUID) -> Response:
        found = own_match(request, match)
        return Response(desk_of(request, found))

    @extend_schema(operation_id="change_match", request=MatchSerializer(partial=True), responses=MatchSerializer)
    def patch(self, request: Request, match: uuid.UUID) -> Response:
        with transaction.atomic():
            found = locked(own_matches(request), match)
            asked = MatchSerializer(found, data=request.data, partial=True, context={"request": request})
            asked.is_valid(raise_exception=True)
            changed = change_setting(found, dict(asked.validated_data))
        return Response(MatchSerializer(changed, context={"request": request}).data)

    @extend_schema(operation_id="delete_match", responses={204: None})
    def delete(self, request: Request, match: uuid.UUID) -> Response:
        own_match(request, match).delete()
        return Response(status=204)


class ObservationView(APIView):
    @extend_schema(
        operation_id="record",
        request=OBSERVATION,
        parameters=[BASED_ON, HAVE],
        responses=ChangedSerializer,
    )
    def put(self, request: Request, match: uuid.UUID, key: str) -> Response:
        if not isinstance(request.data, dict):
            raise FaultyInput([Fault("observation", "should be an object with t and kind", "wrong_type")])
        body, who, based_on = request.data, signed_in(request), _number(request, "based_on")
        return answer_to(request, match, lambda one: record(one, key, body, who, based_on))

    @extend_schema(operation_id="take_back", parameters=[BASED_ON, HAVE], responses={200: ChangedSerializer})
    def delete(self, request: Request, match: uuid.UUID, key: str) -> Response:
        who, based_on = signed_in(request), _number(request, "based_on")
        return answer_to(request, match, lambda one: take_back(one, key, who, based_on))


class OutlookView(APIView):
    @extend_schema(
        operation_id="outlook",
        parameters=[OpenApiParameter("t", OpenApiTypes.FLOAT, description="seconds of footage", required=True)],
        responses=OutlookSerializer,
    )
    def get(self, request: Request, match: uuid.UUID) -> Response:
        found = own_match(request, match)
        try:
            t = to_millis(float(request.query_params.get("t", "")))
        except (ValueError, OverflowError):
            raise FaultyInput([Fault("t", "should be a time of the footage in seconds", "wrong_type")]) from None
        return Response(outlook_at(found, t).as_json())


class LogView(APIView):
    @extend_schema(operation_id="log", responses=OpenApiTypes.OBJECT)
    def get(self, request: Request, match: uuid.UUID) -> Response:
        """The match log as a file that opens anywhere the format is read."""
        found = own_match(request, match)
        headers = {"Content-Disposition": f'attachment; filename="match-{found.pk}.json"'}
        return Response(log_of(found), headers=headers)
