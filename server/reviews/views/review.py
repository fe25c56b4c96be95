"""The review of a match over HTTP, for its coach."""

from __future__ import annotations

import uuid

from django.shortcuts import get_object_or_404
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from clubs.access import asks, asks_in_club
from config.refusals import NotThere
from jurata_core.review import kinds
from matches.queries import own_match
from matches.serializers import MatchSerializer, shown_parts
from matches.standing import standing

from ..actions import (
    decide_chain,
    keep_note,
    remark,
    set_causes,
    unremark,
)
from ..habits import set_kind, settings_json
from ..queries import causes_of, outlook_json, review_json, spread_json
from ..serializers import (
    CausesSerializer,
    DecidedChainSerializer,
    FoundSerializer,
    KindSerializer,
    KindSettingSerializer,
    NoteSerializer,
    ProspectsSerializer,
    RemarkSerializer,
    ReviewSerializer,
    SpreadSerializer,
)


class ReviewView(APIView):
    @extend_schema(operation_id="review", responses=ReviewSerializer)
    def get(self, request: Request, match: uuid.UUID) -> Response:
        found = own_match(asks(request), match)
        row = MatchSerializer(found, context={"request": request}).data
        shown = {"match": row, "parts": shown_parts(found), "verdict": standing(found).json}
        return Response({**shown, **review_json(found)})


class ProspectsView(APIView):
    @extend_schema(operation_id="prospects", responses=ProspectsSerializer)
    def get(self, request: Request, match: uuid.UUID) -> Response:
        """The chance of winning at every second, what each error swung, and what was still winnable."""
        return Response(outlook_json(own_match(asks(request), match)))


class SpreadView(APIView):
    @extend_schema(operation_id="spread", responses=SpreadSerializer)
    def get(self, request: Request, match: uuid.UUID) -> Response:
        """How sure the chance is; it takes some seconds, and is kept as long as nothing changes."""
        return Response(spread_json(own_match(asks(request), match)))


class RemarkView(APIView):
    @extend_schema(operation_id="remark", request=RemarkSerializer, responses=FoundSerializer)
    def put(self, request: Request, match: uuid.UUID, key: str) -> Response:
        """Accept, dismiss, reword or link an error; or add one of your own."""
        found = own_match(asks(request), match)
        asked = RemarkSerializer(data=request.data, partial=True)
        asked.is_valid(raise_exception=True)
        remark(found, key, asked.validated_data)
        return Response(review_json(found))

    @extend_schema(operation_id="unremark", responses={200: FoundSerializer})
    def delete(self, request: Request, match: uuid.UUID, key: str) -> Response:
        """Take back what was said of an error."""
        found = own_match(asks(request), match)
        unremark(found, key)
        return Response(review_json(found))


class ChainView(APIView):
    @extend_schema(operation_id="decide_chain", request=DecidedChainSerializer, responses=FoundSerializer)
    def put(self, request: Request, match: uuid.UUID, key: str) -> Response:
        """Accept the chain of a root with all its links, or take that back."""
        found = own_match(asks(request), match)
        asked = DecidedChainSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        decide_chain(found, key, asked.validated_data["accepted"])
        return Response(review_json(found))


class KindsView(APIView):
    @extend_schema(operation_id="kinds_of_errors", responses=KindSerializer(many=True))
    def get(self, request: Request) -> Response:
        """What the review looks for, with the club's own settings."""
        return Response(settings_json(asks_in_club(request)[1].pk))


class KindView(APIView):
    @extend_schema(operation_id="set_kind", request=KindSettingSerializer, responses=KindSerializer(many=True))
    def put(self, request: Request, kind: str) -> Response:
        """Turn a kind off or on, change its limits, or decline the offer to do so."""
        if kind not in kinds():
            raise NotThere("no_kind", "There is no such kind of error.")
        asked = KindSettingSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        club = asks_in_club(request)[1].pk
        set_kind(club, kind, asked.validated_data)
        return Response(settings_json(club))


class CausesView(APIView):
    @extend_schema(operation_id="causes", responses=CausesSerializer)
    def get(self, request: Request) -> Response:
        """The causes one chooses from, the most used first: the desk gives the first nine a digit."""
        return Response({"causes": causes_of(asks_in_club(request)[1].pk)})

    @extend_schema(operation_id="set_causes", request=CausesSerializer, responses=CausesSerializer)
    def put(self, request: Request) -> Response:
        """The causes one chooses from, as the club's own list."""
        asked = CausesSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        return Response({"causes": set_causes(asks_in_club(request)[1].pk, asked.validated_data["causes"])})


class NotesView(APIView):
    @extend_schema(operation_id="notes", responses=NoteSerializer(many=True))
    def get(self, request: Request, match: uuid.UUID) -> Response:
        return Response(NoteSerializer(own_match(asks(request), match).notes.all(), many=True).data)

    @extend_schema(operation_id="add_note", request=NoteSerializer, responses={201: NoteSerializer})
    def post(self, request: Request, match: uuid.UUID) -> Response:
        found = own_match(asks(request), match)
        asked = NoteSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        return Response(NoteSerializer(keep_note(found, None, asked.validated_data)).data, status=201)


class NoteView(APIView):
    @extend_schema(operation_id="change_note", request=NoteSerializer, responses=NoteSerializer)
    def put(self, request: Request, match: uuid.UUID, note: int) -> Response:
        found = own_match(asks(request), match)
        row = get_object_or_404(found.notes, pk=note)
        asked = NoteSerializer(row, data=request.data)
        asked.is_valid(raise_exception=True)
        return Response(NoteSerializer(keep_note(found, row, asked.validated_data)).data)

    @extend_schema(operation_id="delete_note", responses={204: None})
    def delete(self, request: Request, match: uuid.UUID, note: int) -> Response:
        get_object_or_404(own_match(asks(request), match).notes, pk=note).delete()
        return Response(status=204)
