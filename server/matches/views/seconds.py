"""A second score of a match, made blind, over HTTP."""

from __future__ import annotations

import uuid
from typing import Any

from django.shortcuts import get_object_or_404
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from accounts.models import called
from accounts.notices import tell
from clubs.access import asks
from clubs.queries import who_score
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
        found = own_match(asks(request), match)
        return Response([_second(one) for one in found.seconds.select_related("scorer").order_by("created")])

    @extend_schema(operation_id="ask_second", request=AskSecondSerializer, responses={201: SecondSerializer})
    def post(self, request: Request, match: uuid.UUID) -> Response:
        found = own_match(asks(request), match)
        asked = AskSecondSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        scorer = who_score(found.athlete.club_id).filter(pk=asked.validated_data["user"]).first()
        if scorer is None:
            raise Refused("nobody", "This person does not score matches in your club.")
        second = ask_second(found, scorer)
        tell(scorer, "given", f"/matches/{second.pk}", f"To score a second time, blind: {second}.", request=request)
        return Response(_second(second), status=201)


class FinishView(APIView):
    @extend_schema(operation_id="finish_second", request=None, responses=MatchSerializer)
    def post(self, request: Request, match: uuid.UUID) -> Response:
        done = finish_second(own_match(asks(request), match))
        assert done.second_of is not None  # or it was refused
        about = f"{called(done.scorer)} has submitted a second score of {done}."
        path = f"/matches/{done.second_of_id}/seconds/{done.pk}"
        tell(done.second_of.scorer, "handed_in", path, about, request=request)
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
                "scorers": [called(one.scorer) for one in (first, other)],
                "comparison": compare(*(one.verdict for one in stand)).as_json(),
            }
        )


def _pair(request: Request, match: uuid.UUID, second: uuid.UUID) -> tuple[Match, Match]:
    access = asks(request)
    pairs = Match.objects.select_related("scorer", "athlete", "second_of__scorer", "second_of__athlete")
    other = get_object_or_404(pairs.filter(access.matches(), second_of_id=match), pk=second)
    assert other.second_of is not None  # it was found by it
    if other.scorer_id == access.user and not other.finished:
        raise NotAllowed("still_blind", "You can see the first score once you have submitted yours.")
    return other.second_of, other


def _second(match: Match) -> dict[str, Any]:
    observed = match.observations.filter(deleted=False).count()
    return {"match": match.pk, "scorer": called(match.scorer), "finished": match.finished, "observed": observed}
