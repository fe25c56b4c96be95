"""Clips cut out for the athlete, over HTTP."""

from __future__ import annotations

import uuid

from django.http import Http404, HttpResponse, HttpResponseBase
from django.shortcuts import get_object_or_404
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from clubs.access import asks
from footage.ranges import served
from jobs.models import Job
from matches.models import Match
from matches.queries import own_match

from ..actions import (
    cut_out,
)
from ..models import Cut
from ..serializers import (
    CutSerializer,
)


class CutsView(APIView):
    @extend_schema(operation_id="cuts", responses=CutSerializer(many=True))
    def get(self, request: Request, match: uuid.UUID) -> Response:
        return Response(CutSerializer(own_match(asks(request), match).cuts.all(), many=True).data)

    @extend_schema(operation_id="cut_out", request=CutSerializer, responses={201: CutSerializer})
    def post(self, request: Request, match: uuid.UUID) -> Response:
        """Have the clip of an error cut; one that was cut before is cut again."""
        found = own_match(asks(request), match)
        asked = CutSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        style = asked.validated_data.get("style", Cut.Style.PLAIN)
        made = cut_out(found, asked.validated_data["key"], style, asks(request).user)
        return Response(CutSerializer(made).data, status=201)


class CutView(APIView):
    @extend_schema(operation_id="delete_cut", responses={204: None})
    def delete(self, request: Request, match: uuid.UUID, cut: uuid.UUID) -> Response:
        get_object_or_404(own_match(asks(request), match).cuts, pk=cut).delete()
        return Response(status=204)


def cut_content(request: Request, match: Match, cut: uuid.UUID, part: str) -> HttpResponseBase:
    """The ``content`` of a cut, or its ``captions``."""
    row = get_object_or_404(match.cuts, pk=cut, job__state=Job.State.DONE)
    if part == "captions":
        return HttpResponse(row.captions, "text/vtt; charset=utf-8")
    if part != "content":
        raise Http404
    return served(request._request, row.path, "video/mp4")


class CutContentView(APIView):
    @extend_schema(operation_id="play_cut", responses={(200, "video/mp4"): OpenApiTypes.BINARY})
    def get(self, request: Request, match: uuid.UUID, cut: uuid.UUID, part: str) -> HttpResponseBase:
        return cut_content(request, own_match(asks(request), match), cut, part)
