"""Clips over HTTP. Who may see which one is said in clubs.access."""

from __future__ import annotations

import uuid
from typing import Any, cast

from django.db.models import QuerySet
from django.http import Http404, HttpResponseBase
from django.shortcuts import get_object_or_404
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework import serializers
from rest_framework.parsers import BaseParser
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from clubs.access import Access, asks, asks_in_club
from clubs.questions import allowed
from config.refusals import Clash
from jobs.serializers import JobSerializer
from jurata_core.faults import Fault, FaultyInput

from .actions import announce, append, discard, finish, frames_of, received
from .models import Clip
from .ranges import served

TUS = {"Tus-Resumable": "1.0.0"}
PICTURES = ("poster", "strip")


class ClipSerializer(serializers.ModelSerializer[Clip]):
    proxied = serializers.BooleanField(help_text="whether a copy is played in place of the file that was uploaded")

    job = JobSerializer(allow_null=True)

    class Meta:
        model = Clip
        fields = [
            "id",
            "name",
            "size",
            "filmed",
            "state",
            "duration_ms",
            "width",
            "height",
            "fps",
            "job",
            "proxied",
        ]
        read_only_fields = fields


class AnnounceSerializer(serializers.Serializer[Any]):
    name = serializers.CharField(max_length=200)
    size = serializers.IntegerField()
    filmed = serializers.DateField(required=False, allow_null=True, help_text="when its file was written, by its date")


class RawParser(BaseParser):
    """Leaves the body alone: the view reads it piece by piece."""

    media_type = "*/*"

    def parse(self, stream: Any, media_type: Any = None, parser_context: Any = None) -> Any:
        return stream


def seen_clip(request: Request, clip: uuid.UUID, **wanted: Any) -> Clip:
    """A clip that a request's user has the right for. Raises Http404 for any other."""
    if not allowed(Clip, Access.clips, asks(request), clip):
        raise Http404
    return get_object_or_404(Clip, pk=clip, **wanted)


def uploads(request: Request) -> QuerySet[Clip]:
    """The clips that a request's user has the right for, and uploads."""
    return Clip.objects.filter(asks(request).clips(), uploader=cast(int, request.user.pk))


class ClipsView(APIView):
    @extend_schema(operation_id="clips", responses=ClipSerializer(many=True))
    def get(self, request: Request) -> Response:
        """The club's clips, the last one first; the practice's is for the practice alone."""
        access, _ = asks_in_club(request)
        whole = Clip.objects.filter(access.clips()).exclude(state=Clip.State.UPLOADING)
        found = whole.exclude(matches__practice=True).select_related("job")
        return Response(ClipSerializer(found, many=True).data)

    @extend_schema(operation_id="announce_clip", request=AnnounceSerializer, responses={201: ClipSerializer})
    def post(self, request: Request) -> Response:
        asked = AnnounceSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        access, club = asks_in_club(request)
        clip = announce(club.pk, access.user, **asked.validated_data)
        return Response(ClipSerializer(clip).data, status=201)


class ClipView(APIView):
    @extend_schema(operation_id="clip", responses=ClipSerializer)
    def get(self, request: Request, clip: uuid.UUID) -> Response:
        return Response(ClipSerializer(seen_clip(request, clip)).data)

    @extend_schema(operation_id="delete_clip", responses={204: None})
    def delete(self, request: Request, clip: uuid.UUID) -> Response:
        """Delete a clip; it shows nobody whom the user does not work with."""
        discard(get_object_or_404(Clip.objects.filter(asks(request).whole_clips()), pk=clip))
        return Response(status=204)


class FramesSerializer(serializers.Serializer[Any]):
    times = serializers.ListField(child=serializers.IntegerField(), help_text="milliseconds, one a frame")


class FramesView(APIView):
    @extend_schema(operation_id="frames", responses=FramesSerializer)
    def get(self, request: Request, clip: uuid.UUID) -> Response:
        found = seen_clip(request, clip, state=Clip.State.READY)
        try:
            times = frames_of(found)
        except FileNotFoundError:
            times = []
        return Response({"times": times})


class UploadView(APIView):
    """The core of tus 1.0.0, the protocol for uploads that go on after a cut: ask how far it came, send the rest."""

    parser_classes = [RawParser]

    @extend_schema(operation_id="upload_offset", responses={200: None})
    def head(self, request: Request, clip: uuid.UUID) -> Response:
        found = get_object_or_404(uploads(request), pk=clip)
        finish(found)
        headers = {"Upload-Offset": str(received(found)), "Upload-Length": str(found.size), "Cache-Control": "no-store"}
        return Response(status=200, headers={**TUS, **headers})

    @extend_schema(operation_id="upload_clip", request=OpenApiTypes.BINARY, responses={204: None})
    def patch(self, request: Request, clip: uuid.UUID) -> Response:
        found = get_object_or_404(uploads(request), pk=clip)
        offset = request.headers.get("Upload-Offset", "")
        if not (offset.isascii() and offset.isdigit() and len(offset) <= 18):
            raise FaultyInput([Fault("Upload-Offset", "should be a number of bytes", "wrong_type")])
        body = request.stream  # None where the body is empty
        here = append(found, int(offset), body.read if body is not None else lambda _: b"")
        return Response(status=204, headers={**TUS, "Upload-Offset": str(here)})


class PictureView(APIView):
    @extend_schema(operation_id="clip_picture", responses={(200, "image/jpeg"): OpenApiTypes.BINARY})
    def get(self, request: Request, clip: uuid.UUID, picture: str) -> HttpResponseBase:
        """The ``poster`` of a clip, or its ``strip`` of thumbnails."""
        found = seen_clip(request, clip)
        if picture not in PICTURES:
            raise Http404
        return served(request._request, found.beside(f"{picture}.jpg"), "image/jpeg")


class ContentView(APIView):
    @extend_schema(operation_id="play_clip", responses={(200, "video/webm"): OpenApiTypes.BINARY})
    def get(self, request: Request, clip: uuid.UUID) -> HttpResponseBase:
        found = seen_clip(request, clip, state=Clip.State.READY)
        # A player that began with the original goes on with it: bytes of two files never mix.
        original = request.query_params.get("of") == "original"
        if found.uploader_id != request.user.pk:
            original = False
            if not found.proxied:  # what a phone writes into a file is for who uploaded it alone
                raise Clash("not_prepared", "This clip is still being prepared. Try again in a minute.")
        path, content_type = (found.path, found.content_type) if original else found.played
        return served(request._request, path, content_type)
