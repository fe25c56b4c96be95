"""Pages as PDF, with the shipped fonts; nothing is fetched for them but those."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from django.conf import settings
from django.http import HttpResponse

FONTS = settings.ROOT / "web" / "node_modules" / "@fontsource-variable"
FACES = [
    ("Source Sans 3", FONTS / "source-sans-3" / "files" / "source-sans-3-latin-wght-normal.woff2"),
    ("Vollkorn", FONTS / "vollkorn" / "files" / "vollkorn-latin-wght-normal.woff2"),
]
ONE_PAGE = (1, 0.92, 0.84, 0.76, 0.68)
"""Sizes to try for what should go on one page."""


def pdf(page: str, style: Path, sizes: Sequence[float] = (1,)) -> bytes:
    """A page of HTML as PDF. Where several sizes are given, the first in which it goes on one page."""
    from weasyprint import CSS, HTML  # it takes its time to load, and only a PDF needs it
    from weasyprint.text.fonts import FontConfiguration
    from weasyprint.urls import URLFetcher

    fonts, files = FontConfiguration(), URLFetcher(allowed_protocols=("file",))
    faces = "".join(f'@font-face {{ font-family: "{name}"; src: url("{path.as_uri()}"); }}' for name, path in FACES)
    for size in sizes:
        sized = f"html {{ font-size: {size:.0%} }}"
        sheet = CSS(string=faces + style.read_text("utf-8") + sized, font_config=fonts, url_fetcher=files)
        document = HTML(string=page, url_fetcher=files).render(stylesheets=[sheet], font_config=fonts)
        if len(document.pages) == 1:
            break
    found: bytes = document.write_pdf()
    return found


def pdf_answer(content: bytes, name: str) -> HttpResponse:
    """The answer that shows a PDF in the browser; saved, it has the name given."""
    return HttpResponse(content, "application/pdf", headers={"Content-Disposition": f'inline; filename="{name}"'})
