"""What a scored match can be taken away as, and what to ask the officials."""

from __future__ import annotations

import uuid
from collections.abc import Callable
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
from jurata_core.answers import sheet_of
from jurata_core.audit import OpenQuestion, audit, questions
from jurata_core.formats.captions import captions
from jurata_core.formats.table import ledger_csv
from jurata_core.rulebook import DEFERENCE
from matches.logs import ruleset_title, with_names
from matches.models import Match
from matches.queries import own_match
from matches.standing import Standing, standing

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
    shown = shown_by_officials(match).log
    return questions(shown, now.verdict, audit(shown, now.verdict))


FILES: dict[str, tuple[str, Callable[[Standing], str]]] = {
    "csv": ("text/csv; charset=utf-8", lambda now: ledger_csv(now.verdict)),
    "vtt": ("text/vtt; charset=utf-8", lambda now: captions(now.verdict)),
    "txt": ("text/plain; charset=utf-8", lambda now: sheet_of(now.log, now.verdict)),
}
"""What a scored match can be exported as, apart from its log: content type, and how it is made."""


class FileView(APIView):
    @extend_schema(
        operation_id="match_file",
        responses={(200, "text/csv"): OpenApiTypes.STR, (200, "text/vtt"): OpenApiTypes.STR},
    )
    def get(self, request: Request, match: uuid.UUID, form: str) -> HttpResponse:
        """The scored match as ``csv``, ``vtt`` or ``txt``; its log is at ``log``."""
        found = own_match(asks(request), match)
        if form not in FILES:
            raise Http404
        content_type, made = FILES[form]
        note("match exported", f"{found}, as {form}", request=request, club=found.athlete.club_id)
        headers = {"Content-Disposition": f'attachment; filename="match-{found.pk}.{form}"'}
        return HttpResponse(made(standing(found)), content_type, headers=headers)
