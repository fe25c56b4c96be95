"""What a link shows: one match's report, to whoever has the link. Nobody is signed in here.

Whatever is not there, not any more, or of another match, is answered alike: there is nothing at this address.
"""

from __future__ import annotations

import uuid
from typing import Any

from django.http import Http404, HttpResponseBase
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework.permissions import AllowAny
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from config.printing import pdf_answer

from ..actions import (
    answer,
    open_link,
    tick,
)
from ..models import Link
from ..report import report_json, report_pdf
from ..serializers import (
    AnswerSerializer,
    ReportSerializer,
    TickSerializer,
)
from .cuts import cut_content


class SharedView(APIView):
    """Answered to whoever has the token; kept by nobody on the way, and not to be listed anywhere."""

    authentication_classes: list[Any] = []
    permission_classes = [AllowAny]

    def finalize_response(self, request: Request, response: Any, *args: Any, **kwargs: Any) -> Any:
        found = super().finalize_response(request, response, *args, **kwargs)
        found["Cache-Control"] = "no-store, private"
        found["X-Robots-Tag"] = "noindex, nofollow"
        found["Referrer-Policy"] = "no-referrer"
        return found


def shared_link(token: str) -> Link:
    link = open_link(token)
    if link is None:
        raise Http404
    return link


class SharedReportView(SharedView):
    @extend_schema(operation_id="shared_report", auth=[], responses=ReportSerializer)
    def get(self, request: Request, token: str) -> Response:
        link = shared_link(token)
        return Response(report_json(link.match, link))


class SharedFileView(SharedView):
    @extend_schema(operation_id="shared_report_pdf", auth=[], responses={(200, "application/pdf"): OpenApiTypes.BINARY})
    def get(self, request: Request, token: str) -> HttpResponseBase:
        link = shared_link(token)
        return pdf_answer(report_pdf(link.match, link), "report.pdf")


class SharedCutView(SharedView):
    @extend_schema(operation_id="shared_cut", auth=[], responses={(200, "video/mp4"): OpenApiTypes.BINARY})
    def get(self, request: Request, token: str, cut: uuid.UUID, part: str) -> HttpResponseBase:
        return cut_content(request, shared_link(token).match, cut, part)


class SharedAnswersView(SharedView):
    @extend_schema(operation_id="shared_answer", auth=[], request=AnswerSerializer, responses={201: ReportSerializer})
    def post(self, request: Request, token: str) -> Response:
        """The athlete writes back."""
        link = shared_link(token)
        asked = AnswerSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        key = asked.validated_data["key"]
        if key and key not in {thing["key"] for thing in report_json(link.match, link)["mattered"]}:
            raise Http404
        answer(link, key, asked.validated_data["text"])
        return Response(report_json(link.match, link), status=201)


class SharedDrillView(SharedView):
    @extend_schema(operation_id="shared_drill", auth=[], request=TickSerializer, responses=ReportSerializer)
    def put(self, request: Request, token: str, key: str) -> Response:
        """The athlete ticks a drill off, or takes that back."""
        link = shared_link(token)
        asked = TickSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        if key not in {drill["key"] for drill in report_json(link.match, link)["drills"]}:
            raise Http404
        tick(link.match, key, asked.validated_data["done"])
        return Response(report_json(link.match, link))
