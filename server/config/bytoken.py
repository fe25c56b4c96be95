"""What is answered to whoever has the token of a link, signed in or not."""

from __future__ import annotations

from typing import Any

from rest_framework.permissions import AllowAny
from rest_framework.request import Request
from rest_framework.views import APIView


class ByTokenView(APIView):
    """Asks nobody to sign in; its answers are kept by nobody on the way, and not to be listed anywhere."""

    authentication_classes: list[Any] = []
    permission_classes = [AllowAny]

    def finalize_response(self, request: Request, response: Any, *args: Any, **kwargs: Any) -> Any:
        found = super().finalize_response(request, response, *args, **kwargs)
        found["Cache-Control"] = "no-store, private"
        found["X-Robots-Tag"] = "noindex, nofollow"
        found["Referrer-Policy"] = "no-referrer"
        return found
