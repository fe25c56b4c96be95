"""The practice match over HTTP."""

from __future__ import annotations

import uuid

from django.shortcuts import get_object_or_404
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from clubs.access import asks, asks_in_club
from config.requests import signed_in

from ..practice import looking_back, practice_of
from ..queries import own_matches
from ..serializers import BeginPracticeSerializer, LookingBackSerializer, MatchSerializer


class PracticeView(APIView):
    @extend_schema(operation_id="practise", request=BeginPracticeSerializer, responses={201: MatchSerializer})
    def post(self, request: Request) -> Response:
        """The coach's practice match: the one that was begun, or a new one."""
        asked = BeginPracticeSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        match = practice_of(asks_in_club(request)[1], signed_in(request), asked.validated_data["again"])
        return Response(MatchSerializer(match, context={"request": request}).data, status=201)


class LookingBackView(APIView):
    @extend_schema(operation_id="looking_back", responses=LookingBackSerializer)
    def get(self, request: Request, match: uuid.UUID) -> Response:
        """The practice as it was scored, set against what its clip shows."""
        found = get_object_or_404(own_matches(asks(request)), pk=match, practice=True)
        return Response(looking_back(found).as_json())
