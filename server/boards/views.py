"""The scoreboard of a clip over HTTP."""

from __future__ import annotations

import uuid

from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from clubs.access import asks
from config.refusals import Refused
from config.requests import signed_in
from jobs.running import NotMade
from jurata_core.audit import audit
from matches.models import Match
from matches.parts import Part, parts_of
from matches.queries import own_match
from matches.standing import standing

from .actions import find, look, mark
from .models import Board, BoardPicture
from .queries import board_json, shown_by_officials
from .serializers import AuditSerializer, BoardSerializer, LookAtBoardSerializer, LookedSerializer, MarkBoardSerializer


def _own(request: Request, match: uuid.UUID, clip: uuid.UUID) -> tuple[Match, Part]:
    """A match and its part in one clip. Raises Http404 where that is not one of its clips."""
    found = own_match(asks(request), match)
    part = next((one for one in parts_of(found) if one.clip.pk == clip), None)
    if part is None:
        raise Http404
    return found, part


class AuditView(APIView):
    @extend_schema(operation_id="audit", responses=AuditSerializer)
    def get(self, request: Request, match: uuid.UUID) -> Response:
        found = own_match(asks(request), match)
        shown = shown_by_officials(found)
        held = audit(shown.log, standing(found).verdict, shown.complete).as_json()
        return Response(held | {"pictures": shown.pictures, "unlogged": shown.unlogged})


class BoardView(APIView):
    @extend_schema(operation_id="board", responses=BoardSerializer)
    def get(self, request: Request, match: uuid.UUID, clip: uuid.UUID) -> Response:
        """Where the board is, how far it was read, and what it proposes for the log as it is now."""
        return Response(BoardSerializer(board_json(*_own(request, match, clip))).data)

    @extend_schema(operation_id="mark_board", request=MarkBoardSerializer, responses=BoardSerializer)
    def put(self, request: Request, match: uuid.UUID, clip: uuid.UUID) -> Response:
        """Keep where the board is, and have it read."""
        found, part = _own(request, match, clip)
        asked = MarkBoardSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        mark(found, part.clip, asked.validated_data, signed_in(request))
        return Response(BoardSerializer(board_json(found, part)).data)

    @extend_schema(operation_id="forget_board", responses={204: None})
    def delete(self, request: Request, match: uuid.UUID, clip: uuid.UUID) -> Response:
        """Forget where the board is and what was read; what was taken into the log stays."""
        found, part = _own(request, match, clip)
        for board in Board.objects.filter(match=found, clip=part.clip):
            board.delete()
        return Response(status=204)


class LookAtBoardView(APIView):
    @extend_schema(operation_id="look_at_board", request=LookAtBoardSerializer, responses=LookedSerializer)
    def post(self, request: Request, match: uuid.UUID, clip: uuid.UUID) -> Response:
        """What boxes show at one moment of the clip, or which lines a whole board has."""
        _, part = _own(request, match, clip)
        asked = LookAtBoardSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        t = round(asked.validated_data["t"] * 1000)
        boxes, board = asked.validated_data.get("boxes"), asked.validated_data.get("board")
        try:
            parts = look(part.clip, t, boxes) if boxes else {}
            lines = find(part.clip, t, board) if board else []
        except NotMade as error:
            raise Refused("no_picture", f"This moment of the clip can't be read: {error}.") from error
        return Response(LookedSerializer({"parts": parts, "lines": lines}).data)


class BoardPictureView(APIView):
    @extend_schema(operation_id="board_picture", responses={(200, "image/jpeg"): OpenApiTypes.BINARY})
    def get(self, request: Request, match: uuid.UUID, clip: uuid.UUID, moment: int) -> HttpResponse:
        """The board as it was read at a moment of the clip, in milliseconds."""
        found, part = _own(request, match, clip)
        picture = get_object_or_404(BoardPicture, board__match=found, board__clip=part.clip, t_ms=moment)
        answer = HttpResponse(bytes(picture.jpeg), "image/jpeg")
        answer["Cache-Control"] = "private, max-age=3600"
        return answer
