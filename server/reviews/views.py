"""The review of a match: what went against the athlete, read off the verdict."""

from __future__ import annotations

import uuid
from typing import Any

from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from jurata_core.review import findings
from matches.schema import VerdictField
from matches.standing import standing
from matches.views import MatchSerializer, PartSerializer, own_match, shown_parts


class FindingSerializer(serializers.Serializer[Any]):
    kind = serializers.ChoiceField(["miss", "concession", "penalty", "illegal"])
    t = serializers.FloatField()
    clock = serializers.FloatField()
    start = serializers.FloatField()
    title = serializers.CharField()
    because = serializers.CharField()
    cost = serializers.CharField()
    held = serializers.FloatField(allow_null=True)
    needed = serializers.FloatField(allow_null=True)
    exchange = serializers.IntegerField(allow_null=True)


class ReviewSerializer(serializers.Serializer[Any]):
    match = MatchSerializer()
    parts = PartSerializer(many=True)
    verdict = VerdictField()
    findings = FindingSerializer(many=True)


class ReviewView(APIView):
    @extend_schema(operation_id="review", responses=ReviewSerializer)
    def get(self, request: Request, match: uuid.UUID) -> Response:
        found = own_match(request, match)
        now = standing(found)
        return Response(
            {
                "match": MatchSerializer(found, context={"request": request}).data,
                "parts": shown_parts(found),
                "verdict": now.told,
                "findings": [finding.as_json() for finding in findings(now.verdict)],
            }
        )
