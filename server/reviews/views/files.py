"""What a scored match can be taken away as, and what to ask the officials."""

from __future__ import annotations

import uuid
from typing import Any

from django.http import Http404, HttpResponse
from django.template.loader import render_to_string
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from boards.queries import shown_by_officials
from clubs.access import asks
from config.printing import pdf, pdf_answer
from config.views import built
from journal.models import note
from jurata_core.audit import OpenQuestion, audit, questions
from jurata_core.exports import export_named
from jurata_core.rulebook import DEFERENCE
from matches.logs import file_name, heading_of, ruleset_title, with_names
from matches.models import Match
from matches.queries import own_match
from matches.standing import standing

from ..report import STYLE
from ..serializers import (
    QuestionsSerializer,
)


class QuestionsView(APIView):
    @extend_schema(operation_id="questions", responses=QuestionsSerializer)
    def get(self, request: Request, match: uuid.UUID) -> Response:
        """What to ask the officials at the event."""
        asked = _questions(own_match(asks(request), match))
        return Response({"questions": [one.as_json() for one in asked]})


class QuestionsPageView(APIView):
    @extend_schema(
        operation_id="questions_page",
        responses={(200, "text/html"): OpenApiTypes.STR, (200, "application/pdf"): OpenApiTypes.BINARY},
    )
    def get(self, request: Request, match: uuid.UUID, form: str) -> HttpResponse:
        """The same as a page to print: ``html`` or ``pdf``."""
        found = own_match(asks(request), match)
        asked = [with_names(found, one.text) for one in _questions(found)]
        shown: dict[str, Any] = {
            "match": found,
            "ruleset": ruleset_title(found.ruleset),
            "questions": asked,
            "deference": DEFERENCE,
        }
        page = "reviews/questions.html"
        if form == "pdf":
            return pdf_answer(pdf(render_to_string(page, shown), STYLE), "questions.pdf")
        if form != "html":
            raise Http404
        return HttpResponse(render_to_string(page, {**shown, "styles": built().get("css", [])}, request._request))


def _questions(match: Match) -> list[OpenQuestion]:
    now = standing(match)
    shown = shown_by_officials(match)
    return questions(shown.log, now.verdict, audit(shown.log, now.verdict, shown.complete))


class FileView(APIView):
    @extend_schema(
        operation_id="match_file",
        responses={(200, "text/csv"): OpenApiTypes.STR, (200, "text/vtt"): OpenApiTypes.STR},
    )
    def get(self, request: Request, match: uuid.UUID, form: str) -> HttpResponse:
        """The scored match as one of the core's exports; its log is at ``log``."""
        found = own_match(asks(request), match)
        export = export_named(form)
        if export is None:
            raise Http404
        note("match exported", f"{found}, as {form}", request=request, club=found.athlete.club_id)
        headers = {"Content-Disposition": f'attachment; filename="{file_name(found, export.name, export.suffix)}"'}
        now = standing(found)
        return HttpResponse(export.made(now.log, now.verdict, heading_of(found)), export.content_type, headers=headers)
