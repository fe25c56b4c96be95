"""The page of the front end, from the manifest of its build."""

import json
from typing import Any

from django.conf import settings
from django.core.exceptions import RequestDataTooBig
from django.http import HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import render
from django.views.decorators.csrf import csrf_exempt, ensure_csrf_cookie

from .refusals import body_of


def built() -> dict[str, Any]:
    """What the build of the front end made of its page: ``file`` and ``css``; empty where it is not built."""
    manifest = settings.WEB_DIST / ".vite" / "manifest.json"
    entry: dict[str, Any] = json.loads(manifest.read_text())["index.html"] if manifest.exists() else {}
    return entry


@ensure_csrf_cookie
def index(request: HttpRequest) -> HttpResponse:
    """Every address that is not the API's: the front end shows the view it stands for."""
    entry = built()
    if not entry:
        return HttpResponse("The front end is not built yet: run ./start.", status=503, content_type="text/plain")
    response = render(request, "index.html", {"script": entry["file"], "styles": entry.get("css", [])})
    response["Cache-Control"] = "no-cache"
    return response


@csrf_exempt
def missing(request: HttpRequest, exception: Exception | None = None, **_: Any) -> JsonResponse:
    """An address under the API that stands for nothing."""
    return JsonResponse(body_of("not_found", "There is nothing at this address."), status=404)


def unusual(request: HttpRequest, exception: Exception | None = None) -> JsonResponse:
    """A request that is refused before any view sees it; most are too large."""
    if isinstance(exception, RequestDataTooBig):
        return JsonResponse(body_of("too_large", "That is larger than what is taken here."), status=413)
    return JsonResponse(body_of("unusual", "That request can't be read."), status=400)


def forged(request: HttpRequest, reason: str = "") -> JsonResponse:
    """A change that does not come from a page of this server, or from one that is too old."""
    return JsonResponse(body_of("forged", "This page is too old for that. Reload it, then try again."), status=403)
