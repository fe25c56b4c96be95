"""One observation at a time over HTTP, and what has changed by it."""

from __future__ import annotations

import uuid
from collections.abc import Callable

from django.db import transaction
from django.shortcuts import get_object_or_404
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from clubs.access import asks
from config.refusals import NotAllowed
from config.requests import signed_in
from jurata_core.faults import Fault, FaultyInput
from jurata_core.times import to_millis

from ..actions import (
    locked,
    record,
    take_back,
)
from ..injuries import as_seen_by, with_unseen
from ..models import Match, Observation
from ..queries import check_own, own_match
from ..schema import OutlookSerializer
from ..serializers import (
    ChangedSerializer,
    ChangeSerializer,
    RevisionSerializer,
)
from ..standing import changed, decision_at, outlook_at, standing

BASED_ON = OpenApiParameter("based_on", OpenApiTypes.INT, description="the key's revision that the change is made on")


HAVE = OpenApiParameter("have", OpenApiTypes.INT, description="the match's revision that the answer may build on")


MADE_BY = OpenApiParameter(
    "made_by", OpenApiTypes.INT, description="the account that made the change: no other one saves it"
)
OBSERVATION = {"application/json": {"$ref": "#/components/schemas/Observation"}}


def answer_to(request: Request, match: uuid.UUID, change: Callable[[Match], list[Observation]]) -> Response:
    """Make a change to a log; what has become otherwise by it, if the browser has the log as it was before."""
    if _number(request, "made_by") not in (None, signed_in(request).pk):
        raise NotAllowed("other_account", "Somebody else made this change. Sign in as they are to save it.")
    check_own(asks(request), match)
    with transaction.atomic():
        found = locked(match)
        before = standing(found)
        written = change(found)
    now = standing(found, written)
    answer = changed(before if _number(request, "have") == before.revision else None, now)
    seen = answer["observations"]
    seen["add"] = as_seen_by(signed_in(request).pk, match, seen["add"])
    return Response(answer)


def _number(request: Request, name: str) -> int | None:
    """A revision in the address of a request, where there is one."""
    text = request.query_params.get(name, "")
    return int(text) if text.isascii() and text.isdigit() and len(text) < 17 else None


class ObservationView(APIView):
    @extend_schema(
        operation_id="record",
        request=OBSERVATION,
        parameters=[BASED_ON, HAVE, MADE_BY],
        responses=ChangedSerializer,
    )
    def put(self, request: Request, match: uuid.UUID, key: str) -> Response:
        if not isinstance(request.data, dict):
            raise FaultyInput([Fault("observation", "should be an object with t and kind", "wrong_type")])
        body, who, based_on = request.data, signed_in(request), _number(request, "based_on")
        return answer_to(
            request, match, lambda one: record(one, key, with_unseen(who.pk, one, key, body), who, based_on)
        )

    @extend_schema(operation_id="take_back", parameters=[BASED_ON, HAVE, MADE_BY], responses={200: ChangedSerializer})
    def delete(self, request: Request, match: uuid.UUID, key: str) -> Response:
        who, based_on = signed_in(request), _number(request, "based_on")
        return answer_to(request, match, lambda one: take_back(one, key, who, based_on))


class OutlookView(APIView):
    @extend_schema(
        operation_id="outlook",
        parameters=[OpenApiParameter("t", OpenApiTypes.FLOAT, description="seconds of footage", required=True)],
        responses=OutlookSerializer,
    )
    def get(self, request: Request, match: uuid.UUID) -> Response:
        found = own_match(asks(request), match)
        try:
            t = to_millis(float(request.query_params.get("t", "")))
        except (ValueError, OverflowError):
            raise FaultyInput([Fault("t", "should be a time of the footage in seconds", "wrong_type")]) from None
        return Response({**outlook_at(found, t).as_json(), "decision": decision_at(found, t)})


class RevisionView(APIView):
    @extend_schema(operation_id="revision", responses=RevisionSerializer)
    def get(self, request: Request, match: uuid.UUID) -> Response:
        """Whether the log has changed: asked often, so the log itself is not read for it."""
        check_own(asks(request), match)
        return Response({"revision": get_object_or_404(Match.objects.only("revision"), pk=match).revision})


MOST_CHANGES = 500
"""So many steps of a history are shown, the newest first."""


class HistoryView(APIView):
    @extend_schema(operation_id="history", responses=ChangeSerializer(many=True))
    def get(self, request: Request, match: uuid.UUID) -> Response:
        changes = list(own_match(asks(request), match).changes.select_related("who")[:MOST_CHANGES])
        who = signed_in(request).pk
        befores = as_seen_by(who, match, [change.before for change in changes])
        afters = as_seen_by(who, match, [change.after for change in changes])
        for change, before, after in zip(changes, befores, afters, strict=True):
            change.before, change.after = before, after
        return Response(ChangeSerializer(changes, many=True).data)
