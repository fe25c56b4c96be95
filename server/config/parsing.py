"""What comes in: JSON that no database and no file could hold is refused before any view sees it."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

from django.http import HttpRequest, HttpResponseBase, JsonResponse
from rest_framework.parsers import BaseParser

from jurata_core.faults import Fault, FaultyInput
from jurata_core.json_text import MOST_BYTES, parse_json, unstorable

from .refusals import body_of


class Json(BaseParser):
    media_type = "application/json"

    def parse(self, stream: Any, media_type: str | None = None, parser_context: Mapping[str, Any] | None = None) -> Any:
        try:
            found = parse_json(stream.read(MOST_BYTES + 1))
        except FaultyInput as error:
            raise FaultyInput([Fault("body", fault.message, fault.code) for fault in error.faults]) from None
        faults = list(unstorable(found))
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
