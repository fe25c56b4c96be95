"""The briefing as a page to read and print, and the same page as PDF."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.http import HttpResponse
from django.template.loader import render_to_string
from django.utils.text import slugify
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.decorators import api_view
from rest_framework.request import Request

from config.printing import ONE_PAGE, pdf
from config.views import built
from jurata_core.briefing import briefing

from .views import OTHER, LegalityQuery, asked_for, side

PAGE, STYLE = "rulebook/briefing.html", Path(__file__).parent / "static" / "rulebook" / "briefing.css"
LONGEST_NAME = 80


@extend_schema(
    operation_id="briefing",
    parameters=[
        LegalityQuery,
        OpenApiParameter("athlete", OpenApiTypes.STR, description="whom it is for"),
        OpenApiParameter("form", OpenApiTypes.STR, enum=["html", "pdf"]),
    ],
    responses={(200, "text/html"): OpenApiTypes.STR, (200, "application/pdf"): OpenApiTypes.BINARY},
)
@api_view(["GET"])
def briefing_page(request: Request) -> HttpResponse:
    """The briefing for a division; with a second division, also what changed against that one."""
    division, ruleset = side(asked_for(request))
    other = asked_for(request, OTHER)
    before = side(other, OTHER) if "age" in other else None
    name = request.query_params.get("athlete", "")[:LONGEST_NAME]
    shown: dict[str, Any] = {"briefing": briefing(division, ruleset, before), "athlete": name}
    if request.query_params.get("form") != "pdf":
        return HttpResponse(render_to_string(PAGE, {**shown, "styles": built().get("css", [])}, request._request))
    file = f"briefing-{slugify(name) or slugify(shown['briefing'].division)}.pdf"
    headers = {"Content-Disposition": f'inline; filename="{file}"'}
    return HttpResponse(pdf(render_to_string(PAGE, shown), STYLE, ONE_PAGE), "application/pdf", headers=headers)
