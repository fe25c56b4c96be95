"""Seasons as files."""

from __future__ import annotations

import json

from django.core.serializers.json import DjangoJSONEncoder
from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404
from django.utils.text import slugify
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import extend_schema
from rest_framework.request import Request
from rest_framework.views import APIView

from clubs.access import asks, asks_in_club
from journal.models import note
from roster.models import Athlete

from ..exports import season_pdf, tables_zip
from ..queries import counted_matches, season_json
from .season import SPLIT, asked_split

FORMS = {"tables": ("application/zip", "zip"), "json": ("application/json", "json"), "pdf": ("application/pdf", "pdf")}
"""What a season can be taken along as: the type and the ending of the file."""


class SeasonFileView(APIView):
    @extend_schema(
        operation_id="season_file", parameters=[SPLIT],
        responses={(200, kind): OpenApiTypes.BINARY for kind, _ in FORMS.values()},
    )  # fmt: skip
    def get(self, request: Request, pk: int, form: str) -> HttpResponse:
        """The season of an athlete: ``tables`` (a zip of CSV), ``json`` or ``pdf``."""
        access = asks(request)
        athlete = get_object_or_404(Athlete.objects.filter(access.athletes(), practice=False), pk=pk)
        if form not in FORMS:
            raise Http404
        split = asked_split(request)
        if form == "pdf":
            content: bytes | str = season_pdf(access, athlete, split)
        elif form == "tables":
            content = tables_zip(counted_matches(access).filter(athlete=athlete))
        else:
            content = json.dumps(season_json(access, athlete, split), cls=DjangoJSONEncoder, ensure_ascii=False)
        note("season taken along", f"{athlete.name}, {form}", request=request, club=athlete.club_id)
        return _file(content, form, slugify(athlete.name) or str(athlete.pk))


class ClubTablesView(APIView):
    @extend_schema(operation_id="club_tables", responses={(200, "application/zip"): OpenApiTypes.BINARY})
    def get(self, request: Request) -> HttpResponse:
        """The matches of all athletes that the coach may see, as tables in a zip."""
        access, club = asks_in_club(request)
        content = tables_zip(counted_matches(access).filter(athlete__club=club))
        note("season taken along", "the club's tables", request=request, club=club.pk)
        return _file(content, "tables", slugify(club.name) or str(club.pk))


def _file(content: bytes | str, form: str, whose: str) -> HttpResponse:
    kind, ending = FORMS[form]
    disposition = f'attachment; filename="season-{whose}.{ending}"'
    return HttpResponse(content, kind, headers={"Content-Disposition": disposition, "Cache-Control": "no-store"})
