"""The briefing as a page to read and print, and the same page as PDF."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.conf import settings
from django.http import HttpResponse
from django.template.loader import render_to_string
from django.utils.text import slugify
from drf_spectacular.types import OpenApiTypes
from drf_spectacular.utils import OpenApiParameter, extend_schema
from rest_framework.decorators import api_view
from rest_framework.request import Request

from config.views import built
from jurata_core.briefing import briefing

from .views import OTHER, LegalityQuery, asked_for, side

FONTS = settings.ROOT / "web" / "node_modules" / "@fontsource-variable"
FACES = [
    ("Source Sans 3", FONTS / "source-sans-3" / "files" / "source-sans-3-latin-wght-normal.woff2"),
    ("Vollkorn", FONTS / "vollkorn" / "files" / "vollkorn-latin-wght-normal.woff2"),
]
PAGE, STYLE = "rulebook/briefing.html", Path(__file__).parent / "static" / "rulebook" / "briefing.css"
LONGEST_NAME = 80
SIZES = (1, 0.92, 0.84, 0.76, 0.68)
"""A briefing that does not go on one page is set smaller."""


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
    told: dict[str, Any] = {"briefing": briefing(division, ruleset, before), "athlete": name}
    if request.query_params.get("form") != "pdf":
        return HttpResponse(render_to_string(PAGE, {**told, "styles": built().get("css", [])}, request._request))
    file = f"briefing-{slugify(name) or slugify(told['briefing'].division)}.pdf"
    headers = {"Content-Disposition": f'inline; filename="{file}"'}
    return HttpResponse(_pdf(render_to_string(PAGE, told)), "application/pdf", headers=headers)


def _pdf(page: str) -> bytes:
    """The page as PDF, with the shipped fonts; nothing is fetched for it but them."""
    from weasyprint import CSS, HTML  # it takes its time to load, and only a PDF needs it
    from weasyprint.text.fonts import FontConfiguration
    from weasyprint.urls import URLFetcher

    fonts, files = FontConfiguration(), URLFetcher(allowed_protocols=("file",))
    faces = "".join(f'@font-face {{ font-family: "{name}"; src: url("{path.as_uri()}"); }}' for name, path in FACES)
    for smaller in SIZES:
        shrunk = f"html {{ font-size: {smaller:.0%} }}"
        style = CSS(string=faces + STYLE.read_text("utf-8") + shrunk, font_config=fonts, url_fetcher=files)
        document = HTML(string=page, url_fetcher=files).render(stylesheets=[style], font_config=fonts)
        if len(document.pages) == 1:
            break
    found: bytes = document.write_pdf()
    return found
