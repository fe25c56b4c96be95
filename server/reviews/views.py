"""The review of a match over HTTP, for its coach."""

from __future__ import annotations

import uuid
from collections.abc import Callable
from typing import Any

from django.http import Http404, HttpResponse, HttpResponseBase
from django.shortcuts import get_object_or_404
from django.template.loader import render_to_string
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.response import Response
from rest_framework.views import APIView

from config.printing import pdf
from config.views import built
from footage.models import Clip
from footage.ranges import served
from jurata_core.audit import OpenQuestion, audit, questions
from jurata_core.formats.captions import captions
from jurata_core.formats.sheet import score_sheet
from jurata_core.formats.table import ledger_csv
from matches.logs import ruleset_title, with_names
from matches.models import Match
from matches.standing import Standing, standing
from matches.views import MatchSerializer, own_match, shown_parts, signed_in

from .actions import cancel_cut, cut_out, keep_note, links_of, make_link, remark, revoke, set_causes, unremark
from .models import Cut, Report
from .reading import outlook_json, review_json, spread_json
from .report import STYLE, report_json, report_pdf
from .shapes import (
    CausesSerializer,
    CutSerializer,
    DoSerializer,
    FoundSerializer,
    LetterSerializer,
    LinkSerializer,
    MadeLinkSerializer,
    NewLinkSerializer,
    NoteSerializer,
    ProspectsSerializer,
    QuestionsSerializer,
    RemarkSerializer,
    ReportSerializer,
    ReviewSerializer,
    SpreadSerializer,
)

FILES: dict[str, tuple[str, Callable[[Standing], str]]] = {
    "csv": ("text/csv; charset=utf-8", lambda now: ledger_csv(now.verdict)),
    "vtt": ("text/vtt; charset=utf-8", lambda now: captions(now.verdict)),
    "txt": ("text/plain; charset=utf-8", lambda now: score_sheet(now.log, now.verdict)),
}
"""What a scored match can be had as, beside its log: content type, and how it is made."""


class ReviewView(APIView):
    @extend_schema(operation_id="review", responses=ReviewSerializer)
    def get(self, request: Request, match: uuid.UUID) -> Response:
        found = own_match(request, match)
        row = MatchSerializer(found, context={"request": request}).data
        shown = {"match": row, "parts": shown_parts(found), "verdict": standing(found).told}
        return Response({**shown, **review_json(found)})


class ProspectsView(APIView):
    @extend_schema(operation_id="prospects", responses=ProspectsSerializer)
    def get(self, request: Request, match: uuid.UUID) -> Response:
        """The chance of winning at every second, what each error swung, and what was still winnable."""
        return Response(outlook_json(own_match(request, match)))


class SpreadView(APIView):
    @extend_schema(operation_id="spread", responses=SpreadSerializer)
    def get(self, request: Request, match: uuid.UUID) -> Response:
        """How sure the chance is; it takes some seconds, and is kept as long as nothing changes."""
        return Response(spread_json(own_match(request, match)))


class RemarkView(APIView):
    @extend_schema(operation_id="remark", request=RemarkSerializer, responses=FoundSerializer)
    def put(self, request: Request, match: uuid.UUID, key: str) -> Response:
        """Accept, dismiss, word anew or link an error; or add one of one's own."""
        found = own_match(request, match)
        asked = RemarkSerializer(data=request.data, partial=True)
        asked.is_valid(raise_exception=True)
        remark(found, key, asked.validated_data)
        return Response(review_json(found))

    @extend_schema(operation_id="unremark", responses={200: FoundSerializer})
    def delete(self, request: Request, match: uuid.UUID, key: str) -> Response:
        """Take back what was said of an error."""
        found = own_match(request, match)
        unremark(found, key)
        return Response(review_json(found))


class CausesView(APIView):
    @extend_schema(operation_id="set_causes", request=CausesSerializer, responses=CausesSerializer)
    def put(self, request: Request) -> Response:
        """The causes one chooses from, as one's own list."""
        asked = CausesSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        return Response({"causes": set_causes(signed_in(request), asked.validated_data["causes"])})


class NotesView(APIView):
    @extend_schema(operation_id="notes", responses=NoteSerializer(many=True))
    def get(self, request: Request, match: uuid.UUID) -> Response:
        return Response(NoteSerializer(own_match(request, match).notes.all(), many=True).data)

    @extend_schema(operation_id="add_note", request=NoteSerializer, responses={201: NoteSerializer})
    def post(self, request: Request, match: uuid.UUID) -> Response:
        found = own_match(request, match)
        asked = NoteSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        return Response(NoteSerializer(keep_note(found, None, asked.validated_data)).data, status=201)


class NoteView(APIView):
    @extend_schema(operation_id="change_note", request=NoteSerializer, responses=NoteSerializer)
    def put(self, request: Request, match: uuid.UUID, note: int) -> Response:
        found = own_match(request, match)
        row = get_object_or_404(found.notes, pk=note)
        asked = NoteSerializer(row, data=request.data)
        asked.is_valid(raise_exception=True)
        return Response(NoteSerializer(keep_note(found, row, asked.validated_data)).data)

    @extend_schema(operation_id="delete_note", responses={204: None})
    def delete(self, request: Request, match: uuid.UUID, note: int) -> Response:
        get_object_or_404(own_match(request, match).notes, pk=note).delete()
        return Response(status=204)


class CutsView(APIView):
    @extend_schema(operation_id="cuts", responses=CutSerializer(many=True))
    def get(self, request: Request, match: uuid.UUID) -> Response:
        return Response(CutSerializer(own_match(request, match).cuts.all(), many=True).data)

    @extend_schema(operation_id="cut_out", request=CutSerializer, responses={201: CutSerializer})
    def post(self, request: Request, match: uuid.UUID) -> Response:
        """Have the clip of an error cut; one that was cut before is made anew."""
        found = own_match(request, match)
        asked = CutSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        made = cut_out(found, asked.validated_data["key"], asked.validated_data.get("style", Cut.Style.PLAIN))
        return Response(CutSerializer(made).data, status=201)


class CutView(APIView):
    @extend_schema(operation_id="cut_work", request=DoSerializer, responses=CutSerializer)
    def post(self, request: Request, match: uuid.UUID, cut: uuid.UUID) -> Response:
        """Cancel the cutting of a clip."""
        row = get_object_or_404(own_match(request, match).cuts, pk=cut)
        asked = DoSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        cancel_cut(row)
        row.refresh_from_db()
        return Response(CutSerializer(row).data)

    @extend_schema(operation_id="delete_cut", responses={204: None})
    def delete(self, request: Request, match: uuid.UUID, cut: uuid.UUID) -> Response:
        get_object_or_404(own_match(request, match).cuts, pk=cut).delete()
        return Response(status=204)


def cut_content(request: Request, match: Match, cut: uuid.UUID, part: str) -> HttpResponseBase:
    """The ``content`` of a cut, or its ``captions``."""
    row = get_object_or_404(match.cuts, pk=cut, work=Clip.Work.DONE)
    if part == "captions":
        return HttpResponse(row.captions, "text/vtt; charset=utf-8")
    if part != "content" or not row.path.exists():
        raise Http404
    return served(request._request, row.path, "video/mp4")


class CutContentView(APIView):
    @extend_schema(operation_id="play_cut", responses={(200, "video/mp4"): OpenApiTypes.BINARY})
    def get(self, request: Request, match: uuid.UUID, cut: uuid.UUID, part: str) -> HttpResponseBase:
        return cut_content(request, own_match(request, match), cut, part)


class LetterView(APIView):
    @extend_schema(operation_id="letter", responses=LetterSerializer)
    def get(self, request: Request, match: uuid.UUID) -> Response:
        row = Report.objects.filter(match=own_match(request, match)).first() or Report()
        return Response({"greeting": row.greeting, "well": row.well})

    @extend_schema(operation_id="write_letter", request=LetterSerializer, responses=LetterSerializer)
    def put(self, request: Request, match: uuid.UUID) -> Response:
        found = own_match(request, match)
        asked = LetterSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        Report.objects.update_or_create(match=found, defaults=asked.validated_data)
        return Response(asked.validated_data)


class ReportView(APIView):
    @extend_schema(operation_id="report", responses=ReportSerializer)
    def get(self, request: Request, match: uuid.UUID) -> Response:
        """The report as the athlete will see it."""
        return Response(report_json(own_match(request, match)))


class ReportFileView(APIView):
    @extend_schema(operation_id="report_pdf", responses={(200, "application/pdf"): OpenApiTypes.BINARY})
    def get(self, request: Request, match: uuid.UUID) -> HttpResponse:
        return pdf_answer(report_pdf(own_match(request, match)), "report.pdf")


def pdf_answer(content: bytes, name: str) -> HttpResponse:
    return HttpResponse(content, "application/pdf", headers={"Content-Disposition": f'inline; filename="{name}"'})


class LinksView(APIView):
    @extend_schema(operation_id="links", responses=LinkSerializer(many=True))
    def get(self, request: Request, match: uuid.UUID) -> Response:
        return Response(LinkSerializer(links_of(own_match(request, match)), many=True).data)

    @extend_schema(operation_id="make_link", request=NewLinkSerializer, responses={201: MadeLinkSerializer})
    def post(self, request: Request, match: uuid.UUID) -> Response:
        """A link to the report that ends by itself. Its token is told this once."""
        found = own_match(request, match)
        asked = NewLinkSerializer(data=request.data)
        asked.is_valid(raise_exception=True)
        link, token = make_link(found, asked.validated_data["days"])
        return Response({**LinkSerializer(link).data, "token": token}, status=201)


class LinkView(APIView):
    @extend_schema(operation_id="revoke_link", responses={204: None})
    def delete(self, request: Request, match: uuid.UUID, link: uuid.UUID) -> Response:
        revoke(get_object_or_404(links_of(own_match(request, match)), pk=link))
        return Response(status=204)


class QuestionsView(APIView):
    @extend_schema(operation_id="questions", responses=QuestionsSerializer)
    def get(self, request: Request, match: uuid.UUID) -> Response:
        """What to ask the officials at the event."""
        asked = _questions(own_match(request, match))
        return Response({"questions": [one.as_json() for one in asked]})


class QuestionsPageView(APIView):
    @extend_schema(
        operation_id="questions_page",
        responses={(200, "text/html"): OpenApiTypes.STR, (200, "application/pdf"): OpenApiTypes.BINARY},
    )
    def get(self, request: Request, match: uuid.UUID, form: str) -> HttpResponse:
        """The same as a page to print: ``html`` or ``pdf``."""
        found = own_match(request, match)
        asked = [with_names(found, one.text) for one in _questions(found)]
        shown: dict[str, Any] = {"match": found, "ruleset": ruleset_title(found.ruleset), "questions": asked}
        page = "reviews/questions.html"
        if form == "pdf":
            return pdf_answer(pdf(render_to_string(page, shown), STYLE), "questions.pdf")
        if form != "html":
            raise Http404
        return HttpResponse(render_to_string(page, {**shown, "styles": built().get("css", [])}, request._request))


def _questions(match: Match) -> list[OpenQuestion]:
    now = standing(match)
    return questions(now.log, now.verdict, audit(now.log, now.verdict))


class FileView(APIView):
    @extend_schema(
        operation_id="match_file",
        responses={(200, "text/csv"): OpenApiTypes.STR, (200, "text/vtt"): OpenApiTypes.STR},
    )
    def get(self, request: Request, match: uuid.UUID, form: str) -> HttpResponse:
        """The scored match as ``csv``, ``vtt`` or ``txt``; its log is at ``log``."""
        found = own_match(request, match)
        if form not in FILES:
            raise Http404
        content_type, made = FILES[form]
        headers = {"Content-Disposition": f'attachment; filename="match-{found.pk}.{form}"'}
        return HttpResponse(made(standing(found)), content_type, headers=headers)
