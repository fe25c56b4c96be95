"""Clips over HTTP. A clip is seen by its owner alone."""

from __future__ import annotations

import uuid
from typing import Any, BinaryIO, cast

from django.db.models import Q, QuerySet
from django.http import HttpResponseBase
from django.shortcuts import get_object_or_404
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.parsers import BaseParser
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from config.errors import Refused

from .actions import announce, discard, frames_of, take_in
from .models import Clip
from .ranges import ranged


class ClipSerializer(serializers.ModelSerializer[Clip]):
    class Meta:
        model = Clip
        fields = ["id", "name", "size", "state", "duration_ms", "width", "height", "fps"]


class AnnounceSerializer(serializers.Serializer[Any]):
    name = serializers.CharField(max_length=200)
    size = serializers.IntegerField()


class RawParser(BaseParser):
    """Leaves the body alone: the view reads it piece by piece."""

    media_type = "*/*"

    def parse(self, stream: Any, media_type: Any = None, parser_context: Any = None) -> Any:
        return stream


def own_clips(request: Request) -> QuerySet[Clip]:
    return Clip.objects.filter(owner_id=cast(int, request.user.pk))


def seen_clips(request: Request) -> QuerySet[Clip]:
    """One's own, and those of matches that one was asked to score."""
    mine = Q(owner_id=request.user.pk) | Q(matches__owner_id=request.user.pk)
    return Clip.objects.filter(mine).distinct()


class ClipsView(APIView):
    @extend_schema(operation_id="clips", responses=ClipSerializer(many=True))
    def get(self, request: Request) -> Response:
        return Response(ClipSerializer(own_clips(request).filter(state=Clip.State.READY), many=True).data)

    @extend_schema(operation_id="announce_clip", request=AnnounceSerializer, responses={201: ClipSerializer})
    def post(self, request: Request) -> Response:
        asked = AnnounceSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        clip = announce(cast(Any, request.user), **asked.validated_data)
        return Response(ClipSerializer(clip).data, status=201)


class ClipView(APIView):
    @extend_schema(operation_id="delete_clip", responses={204: None})
    def delete(self, request: Request, clip: uuid.UUID) -> Response:
        discard(get_object_or_404(own_clips(request), pk=clip))
        return Response(status=204)


class FramesSerializer(serializers.Serializer[Any]):
    times = serializers.ListField(child=serializers.IntegerField(), help_text="milliseconds, one a frame")


class FramesView(APIView):
    @extend_schema(operation_id="frames", responses=FramesSerializer)
    def get(self, request: Request, clip: uuid.UUID) -> Response:
        found = get_object_or_404(seen_clips(request), pk=clip, state=Clip.State.READY)
        return Response({"times": frames_of(found) if found.path.exists() else []})


class ContentView(APIView):
    parser_classes = [RawParser]

    @extend_schema(operation_id="upload_clip", request=OpenApiTypes.BINARY, responses=ClipSerializer)
    def put(self, request: Request, clip: uuid.UUID) -> Response:
        found = get_object_or_404(own_clips(request), pk=clip)
        return Response(ClipSerializer(take_in(found, cast(BinaryIO, request.data).read)).data)

    @extend_schema(operation_id="play_clip", responses={(200, "video/webm"): OpenApiTypes.BINARY})
    def get(self, request: Request, clip: uuid.UUID) -> HttpResponseBase:
        found = get_object_or_404(seen_clips(request), pk=clip, state=Clip.State.READY)
        if not found.path.exists():
            raise Refused("gone", "The file of this clip is gone from the disk. Upload it again.", 404)
        return ranged(request._request, found.path, found.content_type)
