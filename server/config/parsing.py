"""What comes in: JSON that no database and no file could hold is refused before any view sees it."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from itertools import islice
from typing import Any

from django.http import HttpRequest, HttpResponseBase, JsonResponse
from rest_framework.parsers import BaseParser

from jurata_core.faults import Fault, FaultyInput
from jurata_core.json_text import parse_json, unstorable

from .refusals import TooLarge, body_of

USUAL_BYTES = 128 * 1024
LOG_BYTES = 16 * 1024 * 1024
"""So large a match log is taken over HTTP: ten thousand observations with a note of a thousand characters each."""


def most_bytes(view: Any) -> int:
    """How large a body a view takes: what it says as ``most_bytes``, or else a small one."""
    return int(getattr(view, "most_bytes", USUAL_BYTES))


MOST_FAULTS = 100
"""So many faults of one body are said."""


class Json(BaseParser):
    media_type = "application/json"

    def parse(self, stream: Any, media_type: str | None = None, parser_context: Mapping[str, Any] | None = None) -> Any:
        most = most_bytes((parser_context or {}).get("view"))
        data = stream.read(most + 1)
        if len(data) > most:
            size = f"{most // 1024} KB" if most < 1024**2 else f"{most // 1024**2} MB"
            raise TooLarge("too_large", f"That is larger than the {size} that are taken here.")
        try:
            found = parse_json(data)
        except FaultyInput as error:
            raise FaultyInput([Fault("body", fault.message, fault.code) for fault in error.faults]) from None
        faults = list(islice(unstorable(found), MOST_FAULTS))
        if faults:
            raise FaultyInput(faults)
        return found


class RefusesOddAddresses:
    """Middleware: an address with a character that is no text stands for nothing, and no query can be asked with it."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponseBase]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        if not _is_text(request.path):
            return JsonResponse(body_of("not_found", "There is nothing at this address."), status=404)
        for name, values in request.GET.lists():
            if not _is_text(name) or not all(map(_is_text, values)):
                fault = Fault(ascii(name)[1:-1], "has a character that is no text", "out_of_range")
                message = "Part of the address can't be read."
                return JsonResponse(body_of("faulty", message, [fault]), status=400)
        return self.get_response(request)


def _is_text(text: str) -> bool:
    return "\0" not in text and "\ufffd" not in text and not any("\ud800" <= one <= "\udfff" for one in text)
