"""The report as its readers see it: whoever has a link, and the athlete and their guardians when signed in.

Both read the same report by the same views; they differ in how the report is found. Whatever is not there, not any
more, or of another match, is answered alike: there is nothing at this address.
"""

from __future__ import annotations

import uuid
from typing import Any, NamedTuple

from django.db.models import QuerySet
from django.http import Http404, HttpResponseBase
from django.utils import timezone
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema, extend_schema_view
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from accounts.notices import tell
from clubs.access import asks
from config.bytoken import ByTokenView
from config.printing import pdf_answer
from config.requests import signed_in
from journal.models import note
from matches.injuries import sees_injuries
from matches.models import Match
from matches.queries import own_match

from ..actions import answer, open_link, tick
from ..models import Answer, Link
from ..report import injuries_in, report_json, report_pdf
from ..serializers import AnswerSerializer, ReportSerializer, TickSerializer
from .cuts import cut_content


class Reading(NamedTuple):
    """A report and how it is read: through a link, or signed in."""

    match: Match
    link: Link | None = None
    user: int | None = None
    """Who is signed in; None for whoever has the link."""
    first_today: bool = False
    """Whether it is the first time today that the link is opened: whoever has it may open it without an end."""

    @property
    def answers(self) -> QuerySet[Answer]:
        """What was written back in the same way."""
        return self.match.answers.filter(link=self.link)

    def as_json(self) -> dict[str, Any]:
        shown = report_json(self.match, self.answers)
        if self.user is not None and sees_injuries(self.user, self.match.pk):
            shown["injuries"] = injuries_in(self.match)
        return shown


class ReadersView(APIView):
    """How a reader finds the report."""

    def reading(self, request: Request, **where: Any) -> Reading:
        raise NotImplementedError


class ReportReadView(ReadersView):
    def get(self, request: Request, **where: Any) -> Response:
        return Response(self.reading(request, **where).as_json())


class FileReadView(ReadersView):
    def get(self, request: Request, **where: Any) -> HttpResponseBase:
        found = self.reading(request, **where)
        return pdf_answer(report_pdf(found.match, found.answers), "report.pdf")


class CutReadView(ReadersView):
    def get(self, request: Request, cut: uuid.UUID, part: str, **where: Any) -> HttpResponseBase:
        return cut_content(request, self.reading(request, **where).match, cut, part)


class AnswersView(ReadersView):
    def post(self, request: Request, **where: Any) -> Response:
        """Write back to the coach."""
        found = self.reading(request, **where)
        asked = AnswerSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        key = asked.validated_data["key"]
        if key and key not in {thing["key"] for thing in found.as_json()["mattered"]}:
            raise Http404
        answer(found.match, found.link, key, asked.validated_data["text"])
        about = f"A reply to the report on {found.match}."
        tell(found.match.scorer, "answered", f"/matches/{found.match.pk}/report", about, request=request)
        return Response(found.as_json(), status=201)


class DrillView(ReadersView):
    def put(self, request: Request, key: str, **where: Any) -> Response:
        """Tick a drill off, or take that back."""
        found = self.reading(request, **where)
        asked = TickSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        if key not in {drill["key"] for drill in found.as_json()["drills"]}:
            raise Http404
        tick(found.match, key, asked.validated_data["done"])
        return Response(found.as_json())


class ByLink(ByTokenView, ReadersView):
    """Answered to whoever has the token of a link."""

    def reading(self, request: Request, **where: Any) -> Reading:
        link = open_link(where["token"])
        if link is None:
            raise Http404
        today = timezone.now().date()
        first_today = link.opened is None or link.opened.date() < today
        return Reading(link.match, link, first_today=first_today)


class SignedIn(ReadersView):
    """Answered to the athlete and the guardians, once the coach has sent it to them."""

    def reading(self, request: Request, **where: Any) -> Reading:
        return Reading(own_match(asks(request), where["match"]), user=signed_in(request).pk)


PDF = {(200, "application/pdf"): OpenApiTypes.BINARY}
VIDEO = {(200, "video/mp4"): OpenApiTypes.BINARY}


@extend_schema_view(get=extend_schema(operation_id="shared_report", auth=[], responses=ReportSerializer))
class SharedReportView(ByLink, ReportReadView):
    def reading(self, request: Request, **where: Any) -> Reading:
        found = super().reading(request, **where)
        if found.first_today:
            note("link opened", str(found.match), request=request, club=found.match.athlete.club_id)
        return found


@extend_schema_view(get=extend_schema(operation_id="shared_report_pdf", auth=[], responses=PDF))
class SharedFileView(ByLink, FileReadView):
    pass


@extend_schema_view(get=extend_schema(operation_id="shared_cut", auth=[], responses=VIDEO))
class SharedCutView(ByLink, CutReadView):
    pass


@extend_schema_view(
    post=extend_schema(
        operation_id="shared_answer", auth=[], request=AnswerSerializer, responses={201: ReportSerializer}
    )
)
class SharedAnswersView(ByLink, AnswersView):
    pass


@extend_schema_view(
    put=extend_schema(operation_id="shared_drill", auth=[], request=TickSerializer, responses=ReportSerializer)
)
class SharedDrillView(ByLink, DrillView):
    pass


@extend_schema_view(get=extend_schema(operation_id="own_report", responses=ReportSerializer))
class OwnReportView(SignedIn, ReportReadView):
    pass


@extend_schema_view(get=extend_schema(operation_id="own_report_pdf", responses=PDF))
class OwnFileView(SignedIn, FileReadView):
    pass


@extend_schema_view(get=extend_schema(operation_id="own_cut", responses=VIDEO))
class OwnCutView(SignedIn, CutReadView):
    pass


@extend_schema_view(
    post=extend_schema(operation_id="own_answer", request=AnswerSerializer, responses={201: ReportSerializer})
)
class OwnAnswersView(SignedIn, AnswersView):
    pass


@extend_schema_view(put=extend_schema(operation_id="own_drill", request=TickSerializer, responses=ReportSerializer))
class OwnDrillView(SignedIn, DrillView):
    pass
