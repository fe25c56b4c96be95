"""A second score of a match, made blind, over HTTP."""

from __future__ import annotations

import uuid
from typing import Any

from django.contrib.auth import get_user_model
from django.db.models import Q
from django.shortcuts import get_object_or_404
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from accounts.models import called
from config.refusals import NotAllowed, Refused
from jurata_core.audit import compare

from ..actions import (
    ask_second,
    finish_second,
)
from ..models import Match
from ..queries import own_match
from ..serializers import (
    AskSecondSerializer,
    MatchSerializer,
    SecondSerializer,
    SideBySideSerializer,
)
from ..standing import standing


class SecondsView(APIView):
    @extend_schema(operation_id="second_scores", responses=SecondSerializer(many=True))
    def get(self, request: Request, match: uuid.UUID) -> Response:
        found = own_match(request.user.pk, match)
        return Response([_second(one) for one in found.seconds.select_related("owner").order_by("created")])

    @extend_schema(operation_id="ask_second", request=AskSecondSerializer, responses={201: SecondSerializer})
    def post(self, request: Request, match: uuid.UUID) -> Response:
        found = own_match(request.user.pk, match)
        asked = AskSecondSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        name = asked.validated_data["name"].strip()
        scorer = get_user_model().objects.filter(username=name, is_active=True).first()
        if scorer is None:
            raise Refused("nobody", f"There is no user with the sign-in name {name}.")
        return Response(_second(ask_second(found, scorer)), status=201)


class FinishView(APIView):
    @extend_schema(operation_id="finish_second", request=None, responses=MatchSerializer)
    def post(self, request: Request, match: uuid.UUID) -> Response:
        done = finish_second(own_match(request.user.pk, match))
        return Response(MatchSerializer(done, context={"request": request}).data)


class SideBySideView(APIView):
    @extend_schema(operation_id="side_by_side", responses=SideBySideSerializer)
    def get(self, request: Request, match: uuid.UUID, second: uuid.UUID) -> Response:
        """The first score and a second one. Its scorer sees it only when done: until then the second is blind."""
        first, other = _pair(request, match, second)
        stand = [standing(one) for one in (first, other)]
        return Response(
            {
                "match": MatchSerializer(first, context={"request": request}).data,
                "verdicts": [one.json for one in stand],
                "scorers": [called(one.owner) for one in (first, other)],
                "comparison": compare(*(one.verdict for one in stand)).as_json(),
            }
        )


def _pair(request: Request, match: uuid.UUID, second: uuid.UUID) -> tuple[Match, Match]:
    pairs = Match.objects.select_related("owner", "second_of__owner").filter(second_of_id=match)
    mine = Q(owner_id=request.user.pk) | Q(second_of__owner_id=request.user.pk)
    other = get_object_or_404(pairs.filter(mine), pk=second)
    assert other.second_of is not None  # it was found by it
    if other.second_of.owner_id != request.user.pk and not other.finished:
        raise NotAllowed("still_blind", "You can see the first score once you have submitted yours.")
    return other.second_of, other


def _second(match: Match) -> dict[str, Any]:
    observed = match.observations.filter(deleted=False).count()
    return {"match": match.pk, "scorer": called(match.owner), "finished": match.finished, "observed": observed}
