"""Who scores a match, and who can see it, over HTTP."""

from __future__ import annotations

import uuid
from typing import Any

from django.contrib.auth.models import User
from django.db.models import Q
from django.shortcuts import get_object_or_404
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from accounts.models import called
from accounts.notices import tell
from clubs.access import Access, Right, asks
from clubs.queries import who_score
from config.requests import signed_in
from journal.models import note
from jurata_core.times import to_millis, to_seconds

from ..actions import be_present
from ..models import Match
from ..queries import check_own, own_match

SEES = {Right.SCORE: "watches and scores", Right.REVIEW: "watches, scores and reviews", Right.READ: "reads the report"}


class PersonSerializer(serializers.Serializer[Any]):
    user = serializers.IntegerField()
    name = serializers.CharField()


class SeesSerializer(PersonSerializer):
    """Somebody who can see the match, and what they can do with it."""

    does = serializers.CharField()


class PeopleSerializer(serializers.Serializer[Any]):
    """Who scores a match, who could, and who can see it."""

    scorer = serializers.IntegerField(allow_null=True, help_text="null: whose account was deleted")
    due = serializers.DateField(allow_null=True, help_text="by when it is to be scored")
    scorers = PersonSerializer(many=True, help_text="those in the club whom it can be given to")
    seen_by = SeesSerializer(many=True)


class GivenSerializer(serializers.Serializer[Any]):
    scorer = serializers.IntegerField()
    due = serializers.DateField(allow_null=True)


class HereSerializer(serializers.Serializer[Any]):
    t = serializers.FloatField(min_value=0, max_value=1e6, help_text="where the playhead is, in s of the footage")


class PresentSerializer(serializers.Serializer[Any]):
    """Somebody else at the desk of the same match."""

    name = serializers.CharField()
    t = serializers.FloatField(help_text="where their playhead was last, in s of the footage")


class PeopleView(APIView):
    @extend_schema(operation_id="people", responses=PeopleSerializer)
    def get(self, request: Request, match: uuid.UUID) -> Response:
        """Who scores the match, and who can see it."""
        return Response(_people(own_match(asks(request), match)))

    @extend_schema(operation_id="give_match", request=GivenSerializer, responses=PeopleSerializer)
    def put(self, request: Request, match: uuid.UUID) -> Response:
        """Give the match to somebody to score, with a day by which."""
        found = own_match(asks(request), match)
        asked = GivenSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        scorer = get_object_or_404(who_score(found.athlete.club_id), pk=asked.validated_data["scorer"])
        found.scorer, found.due = scorer, asked.validated_data["due"]
        found.save(update_fields=["scorer", "due"])
        by = "" if found.due is None else f", by {found.due:%-d %B %Y}"
        tell(scorer, "given", f"/matches/{found.pk}", f"To score: {found}{by}.", request=request)
        note("match given", f"{found}, to {called(scorer)}", request=request, club=found.athlete.club_id)
        return Response(_people(found))


class HereView(APIView):
    @extend_schema(operation_id="be_present", request=HereSerializer, responses=PresentSerializer(many=True))
    def put(self, request: Request, match: uuid.UUID) -> Response:
        """Say that one is at the desk, and where the playhead is; who else is there."""
        asked = HereSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        check_own(asks(request), match)
        others = be_present(match, signed_in(request), to_millis(asked.validated_data["t"]))
        return Response([{"name": called(one.user), "t": to_seconds(one.t_ms)} for one in others])


def _people(match: Match) -> dict[str, Any]:
    club, athlete = match.athlete.club_id, match.athlete
    scorers = [{"user": one.pk, "name": called(one)} for one in who_score(club)]
    around = Q(pk__in=[one["user"] for one in scorers]) | Q(athletes=athlete) | Q(wards=athlete)
    people = User.objects.filter(around, is_active=True).distinct().order_by("first_name", "username")
    seen_by = [{"user": one.pk, "name": called(one), "does": does} for one in people if (does := _does(one, match))]
    return {"scorer": match.scorer_id, "due": match.due, "scorers": scorers, "seen_by": seen_by}


def _does(user: User, match: Match) -> str:
    """What somebody can do with a match, asked of the table itself; empty where they can't see it."""
    for right in (Right.REVIEW, Right.SCORE, Right.READ):
        if Match.objects.filter(Access(user.pk, right, match.athlete.club_id).matches(), pk=match.pk).exists():
            return SEES[right]
    return ""
