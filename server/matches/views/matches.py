"""Matches over HTTP: the list, one match with its desk, its clips and its log."""

from __future__ import annotations

import uuid
from typing import Any, cast

from django.db import transaction
from django.db.models import QuerySet
from django.shortcuts import get_object_or_404
from django_filters.rest_framework import DjangoFilterBackend
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework.filters import OrderingFilter, SearchFilter
from rest_framework.generics import ListAPIView
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from clubs.access import asks, asks_in_club
from config.paging import Pages
from config.parsing import LOG_BYTES
from config.requests import signed_in
from footage.actions import with_pictures
from footage.views import ClipSerializer
from journal.models import note
from jurata_core.times import to_millis

from ..actions import (
    change_setting,
    delete,
    locked,
    preview_setting,
    remove_for_good,
    restore,
    set_up,
)
from ..injuries import as_seen_by
from ..logs import about, bodies, file_name, log_of
from ..models import Match
from ..parts import Part, lay_out
from ..queries import (
    MatchFilter,
    check_own,
    counted,
    deleted_matches,
    listed,
    own_match,
    remembered,
    second_scores,
    unused_clips,
    waiting,
)
from ..serializers import (
    DeletedMatchSerializer,
    DeskSerializer,
    MatchRowSerializer,
    MatchSerializer,
    NewMatchSerializer,
    PartsSerializer,
    PreviewSerializer,
    RememberedSerializer,
    WaitingSerializer,
    shown_parts,
)
from ..standing import standing
from ..summaries import freshen, store


class MatchesView(ListAPIView[Match]):
    most_bytes = LOG_BYTES
    serializer_class = MatchRowSerializer
    pagination_class = Pages
    filter_backends = [DjangoFilterBackend, SearchFilter, OrderingFilter]
    filterset_class = MatchFilter
    search_fields = ["athlete__name", "opponent", "event"]
    ordering_fields = ["date", "created", "changed", "opponent", "athlete__name", "event"]
    queryset = Match.objects.none()

    def get_queryset(self) -> QuerySet[Match]:
        return listed(asks_in_club(self.request)[0])

    @extend_schema(operation_id="matches")
    def get(self, request: Request, *args: Any, **kwargs: Any) -> Response:
        """The club's matches, a page at a time, the latest first unless another order is asked for."""
        access, _ = asks_in_club(request)
        freshen(counted(access))
        return super().get(request, *args, **kwargs)

    def paginate_queryset(self, queryset: Any) -> Any:
        """A page of matches, each with its summary and whether there is a picture of its clip."""
        page = cast(list[Any], super().paginate_queryset(queryset))
        for summary in store(match for match in page if not hasattr(match, "summary")):
            summary.match.summary = summary
        pictured, scored_again = with_pictures(match.clip_id for match in page), second_scores(page)
        for match in page:
            match.poster, match.second_scores = match.clip_id in pictured, scored_again.get(match.pk, 0)
        return page

    @extend_schema(operation_id="set_up_match", request=NewMatchSerializer, responses={201: MatchSerializer})
    def post(self, request: Request) -> Response:
        access, _ = asks_in_club(request)
        asked = NewMatchSerializer(data=request.data, context={"request": request, "access": access})
        asked.is_valid(raise_exception=True)
        values = dict(asked.validated_data)
        match = set_up(signed_in(request), values, values.pop("log", None))
        return Response(MatchSerializer(match, context={"request": request}).data, status=201)


class RememberedView(APIView):
    @extend_schema(operation_id="remembered", responses=RememberedSerializer)
    def get(self, request: Request) -> Response:
        """Opponents and events of earlier matches, to be offered again."""
        return Response(RememberedSerializer(remembered(asks_in_club(request)[0])).data)


class DeletedView(APIView):
    @extend_schema(operation_id="deleted_matches", responses=DeletedMatchSerializer(many=True))
    def get(self, request: Request) -> Response:
        """The deleted matches that can be restored."""
        return Response(DeletedMatchSerializer(deleted_matches(asks_in_club(request)[0]), many=True).data)


class DeletedMatchView(APIView):
    @extend_schema(operation_id="restore_match", request=None, responses={204: None})
    def post(self, request: Request, match: uuid.UUID) -> Response:
        """Take a deletion back."""
        found = get_object_or_404(deleted_matches(asks(request)), pk=match)
        restore(found)
        note("match restored", str(found), request=request, club=found.athlete.club_id)
        return Response(status=204)

    @extend_schema(operation_id="remove_match", responses={204: None})
    def delete(self, request: Request, match: uuid.UUID) -> Response:
        """Remove a deleted match at once and for good."""
        found = get_object_or_404(deleted_matches(asks(request)), pk=match)
        note("match removed for good", str(found), request=request, club=found.athlete.club_id)
        remove_for_good(Match.with_deleted.filter(pk=found.pk))
        return Response(status=204)


class UnusedClipsView(APIView):
    @extend_schema(operation_id="unused_clips", responses=ClipSerializer(many=True))
    def get(self, request: Request) -> Response:
        """The coach's clips that no match was set up for, by the day they were filmed."""
        return Response(ClipSerializer(unused_clips(asks_in_club(request)[0]), many=True).data)


class WaitingView(APIView):
    @extend_schema(operation_id="waiting", responses=WaitingSerializer)
    def get(self, request: Request) -> Response:
        access, _ = asks_in_club(request)
        freshen(counted(access))
        return Response(waiting(access))


def desk_of(request: Request, match: Match) -> dict[str, Any]:
    """All that the desk shows of a match."""
    row = MatchSerializer(match, context={"request": request}).data
    return {"match": row, "parts": shown_parts(match), **scored(match, signed_in(request).pk)}


def scored(match: Match, user: int) -> dict[str, Any]:
    """The log as it stands and as somebody may read it, and what it is worth."""
    now = standing(match)
    return {
        "observations": as_seen_by(user, match.pk, now.observations),
        "revisions": now.revisions,
        "revision": now.revision,
        "verdict": now.json,
    }


class MatchView(APIView):
    @extend_schema(operation_id="match", responses=DeskSerializer)
    def get(self, request: Request, match: uuid.UUID) -> Response:
        found = own_match(asks(request), match)
        return Response(desk_of(request, found))

    @extend_schema(operation_id="change_match", request=MatchSerializer(partial=True), responses=MatchSerializer)
    def patch(self, request: Request, match: uuid.UUID) -> Response:
        with transaction.atomic():
            check_own(asks(request), match)
            found = locked(match)
            asked = MatchSerializer(found, data=request.data, partial=True, context={"request": request})
            asked.is_valid(raise_exception=True)
            before = found.athlete
            about = str(found)
            changed = change_setting(found, dict(asked.validated_data), asks(request).user)
            if changed.athlete != before:
                note("match moved", f"{about}: to {changed.athlete}", request=request, club=before.club_id)
        return Response(MatchSerializer(changed, context={"request": request}).data)

    @extend_schema(
        operation_id="preview_match", request=MatchSerializer(partial=True), responses={200: PreviewSerializer}
    )
    def post(self, request: Request, match: uuid.UUID) -> Response:
        """What a change of its setting would make of the score. Nothing is stored."""
        found = own_match(asks(request), match)
        asked = MatchSerializer(found, data=request.data, partial=True, context={"request": request})
        asked.is_valid(raise_exception=True)
        return Response(preview_setting(found, dict(asked.validated_data)).as_json())

    @extend_schema(operation_id="delete_match", responses={204: None})
    def delete(self, request: Request, match: uuid.UUID) -> Response:
        found = own_match(asks(request), match)
        delete(found)
        note("match deleted", str(found), request=request, club=found.athlete.club_id)
        return Response(status=204)


class PartsView(APIView):
    @extend_schema(operation_id="lay_out", request=PartsSerializer, responses=DeskSerializer)
    def put(self, request: Request, match: uuid.UUID) -> Response:
        """Give a match its clips: one, or several in a row with gaps."""
        found = own_match(asks(request), match)
        asked = PartsSerializer(data=request.data, context={"request": request})
        asked.is_valid(raise_exception=True)
        lay_out(found, [_part(one) for one in asked.validated_data["parts"]])
        return Response(desk_of(request, found))


def _part(placed: dict[str, Any]) -> Part:
    """A clip as it was placed, in milliseconds."""
    closes = placed["closes"]
    ends = None if closes is None else to_millis(closes)
    return Part(placed["clip"], to_millis(placed["start"]), to_millis(placed["opens"]), ends)


class LogView(APIView):
    @extend_schema(operation_id="log", responses=OpenApiTypes.OBJECT)
    def get(self, request: Request, match: uuid.UUID) -> Response:
        """The match log as a file that opens anywhere the format is read."""
        found = own_match(asks(request), match)
        headers = {"Content-Disposition": f'attachment; filename="{file_name(found, "log", "json")}"'}
        seen = as_seen_by(signed_in(request).pk, found.pk, bodies(found))
        return Response({**log_of(found, seen), "match": about(found)}, headers=headers)
