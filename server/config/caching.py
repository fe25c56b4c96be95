"""What is answered about people is kept by nobody on the way, and by no browser that somebody else uses next."""

from __future__ import annotations

from collections.abc import Callable

from django.http import HttpRequest, HttpResponseBase


class KeepsNothing:
    """Middleware: an answer of the API that does not say how long it may be kept is not kept at all."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponseBase]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        response = self.get_response(request)
        if request.path.startswith("/api/"):
            response.headers.setdefault("Cache-Control", "no-store, private")
        return response
