"""The report to the athlete over HTTP: what is written above it, its page and file, and links to it."""

from __future__ import annotations

import uuid

from django.http import HttpResponse
from django.shortcuts import get_object_or_404
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from accounts.notices import tell
from clubs.access import asks
from config.printing import pdf_answer
from journal.models import note
from matches.queries import own_match
from roster.models import readers_of

from ..actions import (
    links_of,
    make_link,
    reply,
    revoke,
    send,
)
from ..models import Report
from ..report import report_json, report_pdf
from ..serializers import (
    LetterSerializer,
    LinkSerializer,
    MadeLinkSerializer,
    NewLinkSerializer,
    ReplySerializer,
    ReportSerializer,
    SentSerializer,
)


class LetterView(APIView):
    @extend_schema(operation_id="letter", responses=LetterSerializer)
    def get(self, request: Request, match: uuid.UUID) -> Response:
        found = own_match(asks(request), match)
        row = Report.objects.filter(match=found).first() or Report(match=found)
        return Response(LetterSerializer(row).data)

    @extend_schema(operation_id="write_letter", request=LetterSerializer, responses=LetterSerializer)
    def put(self, request: Request, match: uuid.UUID) -> Response:
        found = own_match(asks(request), match)
        asked = LetterSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        row, _ = Report.objects.update_or_create(match=found, defaults=asked.validated_data)
        return Response(LetterSerializer(row).data)


class ReportView(APIView):
    @extend_schema(operation_id="report", responses=ReportSerializer)
    def get(self, request: Request, match: uuid.UUID) -> Response:
        """The report as the athlete will see it, with all replies; they count as read from then on."""
        found = own_match(asks(request), match)
        shown = report_json(found, found.answers.all())
        found.answers.filter(read=False).update(read=True)
        return Response(shown)


class ReplyView(APIView):
    @extend_schema(operation_id="reply", request=ReplySerializer, responses=ReportSerializer)
    def put(self, request: Request, match: uuid.UUID, answer: int) -> Response:
        """Answer what was written back on the report; whoever wrote it reads that in the same place."""
        found = own_match(asks(request), match)
        asked = ReplySerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        row = reply(found, answer, asked.validated_data["reply"])
        written = getattr(found, "report", None)
        if row.reply and row.link is None and written is not None and written.sent is not None:
            for reader in readers_of(found.athlete):
                said = f"Your coach answered on the report on {found}."
                tell(reader, "sent", f"/own/reports/{found.pk}", said, request=request)
        return Response(report_json(found, found.answers.all()))


class ReportFileView(APIView):
    @extend_schema(operation_id="report_pdf", responses={(200, "application/pdf"): OpenApiTypes.BINARY})
    def get(self, request: Request, match: uuid.UUID) -> HttpResponse:
        found = own_match(asks(request), match)
        return pdf_answer(report_pdf(found, found.answers.all()), "report.pdf")


class SentView(APIView):
    @extend_schema(operation_id="send_report", request=SentSerializer, responses=LetterSerializer)
    def put(self, request: Request, match: uuid.UUID) -> Response:
        """Show the report in the athlete's own place, or take it back from there."""
        found = own_match(asks(request), match)
        asked = SentSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        sent = send(found, asked.validated_data["sent"])
        if sent.sent:
            for reader in readers_of(found.athlete):
                tell(reader, "sent", f"/own/reports/{found.pk}", f"A report was sent to you: {found}.", request=request)
        note(
            "report sent" if sent.sent else "report taken back", str(found), request=request, club=found.athlete.club_id
        )
        return Response(LetterSerializer(sent).data)


class LinksView(APIView):
    @extend_schema(operation_id="links", responses=LinkSerializer(many=True))
    def get(self, request: Request, match: uuid.UUID) -> Response:
        return Response(LinkSerializer(links_of(own_match(asks(request), match)), many=True).data)

    @extend_schema(operation_id="make_link", request=NewLinkSerializer, responses={201: MadeLinkSerializer})
    def post(self, request: Request, match: uuid.UUID) -> Response:
        """A link to the report that ends by itself. Its token is shown this once."""
        found = own_match(asks(request), match)
        asked = NewLinkSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        link, token = make_link(found, asked.validated_data["days"])
        note("link made", str(found), request=request, club=found.athlete.club_id)
        return Response({**LinkSerializer(link).data, "token": token}, status=201)


class LinkView(APIView):
    @extend_schema(operation_id="revoke_link", responses={204: None})
    def delete(self, request: Request, match: uuid.UUID, link: uuid.UUID) -> Response:
        found = own_match(asks(request), match)
        revoke(get_object_or_404(links_of(found), pk=link))
        note("link ended", str(found), request=request, club=found.athlete.club_id)
        return Response(status=204)
