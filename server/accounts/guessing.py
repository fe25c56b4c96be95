"""What stands in the way of guessing passwords: who is asking, and what they are answered after too many tries."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.http import HttpRequest, JsonResponse

from config.refusals import body_of


def address_of(request: HttpRequest) -> str:
    """The address that a request comes from. The project's own nginx says it, and lets nobody else say it."""
    if settings.NGINX_SENDS_FILES and "HTTP_X_REAL_IP" in request.META:
        return str(request.META["HTTP_X_REAL_IP"])
    return str(request.META.get("REMOTE_ADDR", ""))


def locked_out(request: HttpRequest, *_: Any, **__: Any) -> JsonResponse:
    """The answer to a sign-in after too many wrong passwords."""
    minutes = round(settings.AXES_COOLOFF_TIME.total_seconds() / 60)
    message = f"Too many wrong passwords for this name. Wait {minutes} minutes, then try again."
    return JsonResponse(body_of("locked_out", message), status=429)
