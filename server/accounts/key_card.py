"""The desk's keys as a card to print: one page, with the keys as the coach has them."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path
from typing import Any, TypedDict

from django.template.loader import render_to_string

from config.printing import ONE_PAGE, pdf

STYLE = Path(__file__).parent / "static" / "accounts" / "key-card.css"


class Row(TypedDict):
    keys: str
    words: str


class Section(TypedDict):
    """Keys that belong together."""

    title: str
    rows: Sequence[Row]


def key_card(name: str, sections: Sequence[Section]) -> bytes:
    """The card as PDF, with whose it is. The desk says what its keys are; here they are only printed."""
    context: dict[str, Any] = {"name": name, "sections": sections}
    return pdf(render_to_string("accounts/key-card.html", context), STYLE, ONE_PAGE)
