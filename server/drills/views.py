"""The drill over HTTP: a question without its answer, an answer with its reason, and how everybody stands."""

from __future__ import annotations

from typing import Any, cast

from django.shortcuts import get_object_or_404
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from clubs.access import Access, Right
from jurata_core.drill import TOPICS, make
from jurata_core.faults import Fault, FaultyInput
from roster.models import Athlete
from rulebook.views import LegalityQuery, asked_for, side

from .actions import SEEDS, answered, next_item, progress


class ItemSerializer(serializers.Serializer[Any]):
    key = serializers.CharField()
    seed = serializers.IntegerField()
    topic = serializers.ChoiceField(TOPICS)
    question = serializers.CharField()
    lines = serializers.ListField(child=serializers.CharField())
    options = serializers.ListField(child=serializers.CharField())
    again = serializers.BooleanField(help_text="whether it was asked before")


class AnswerItemSerializer(serializers.Serializer[Any]):
    key = serializers.CharField(max_length=80)
    seed = serializers.IntegerField(min_value=0, max_value=SEEDS)
    choice = serializers.IntegerField(min_value=0, max_value=9)
    who = serializers.IntegerField(required=False, allow_null=True, help_text="the athlete who practises")


class AnsweredSerializer(serializers.Serializer[Any]):
    right = serializers.IntegerField(help_text="the option that is right")
    because = serializers.CharField()
    due = serializers.DateTimeField(help_text="when it is asked again")


class StandSerializer(serializers.Serializer[Any]):
    athlete = serializers.IntegerField(allow_null=True)
    name = serializers.CharField(allow_null=True, help_text="null: the coach")
    topic = serializers.ChoiceField(TOPICS)
    right = serializers.IntegerField()
    wrong = serializers.IntegerField()
    asked = serializers.IntegerField(help_text="different things that were asked")
    due = serializers.IntegerField()


def _owner(request: Request) -> int:
    return cast(int, request.user.pk)


def _who(request: Request, number: Any) -> Athlete | None:
    if number in (None, ""):
        return None
    if not str(number).isascii() or not str(number).isdigit():
        raise FaultyInput([Fault("who", "should be the number of an athlete", "wrong_type")])
    return get_object_or_404(Athlete, Access(_owner(request), Right.COACH).clubs(), pk=int(number))


class DrillView(APIView):
    @extend_schema(
        operation_id="next_item",
        parameters=[
            LegalityQuery,
            OpenApiParameter("who", OpenApiTypes.INT, description="the athlete who practises"),
            OpenApiParameter("topic", OpenApiTypes.STR, enum=list(TOPICS)),
        ],
        responses=ItemSerializer,
    )
    def get(self, request: Request) -> Response:
        """What is asked next."""
        division, ruleset = side(asked_for(request))
        topic = next((one for one in TOPICS if one == request.query_params.get("topic")), None)
        who = _who(request, request.query_params.get("who"))
        item, again = next_item(_owner(request), who, topic, division, ruleset)
        return Response({**item.asked(), "again": again})

    @extend_schema(
        operation_id="answer_item",
        parameters=[LegalityQuery],
        request=AnswerItemSerializer,
        responses=AnsweredSerializer,
    )
    def post(self, request: Request) -> Response:
        """Answer an item; what is right and why, and when it comes back."""
        division, ruleset = side(asked_for(request))
        asked = AnswerItemSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        given = asked.validated_data
        try:
            item = make(given["key"], given["seed"], division, ruleset)
        except KeyError:
            raise FaultyInput([Fault("key", "is nothing that is asked under this ruleset", "unknown")]) from None
        card = answered(_owner(request), _who(request, given.get("who")), item, given["choice"])
        return Response({"right": item.right, "because": item.because, "due": card.due})


class ProgressView(APIView):
    @extend_schema(operation_id="drill_progress", responses=StandSerializer(many=True))
    def get(self, request: Request) -> Response:
        """How everybody stands, topic by topic."""
        return Response(progress(_owner(request)))
