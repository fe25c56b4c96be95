"""Who asks, and under which address."""

from __future__ import annotations

from typing import Any, cast
from urllib.parse import urlsplit, urlunsplit

from django.conf import settings
from django.contrib.auth.models import AbstractBaseUser
from rest_framework.request import Request


def signed_in(request: Request) -> AbstractBaseUser:
    """The user who asks; every view that calls this lets only signed-in users through."""
    return cast(AbstractBaseUser, request.user)


def absolute(request: Any, path: str) -> str:
    """The address of a page for a mail. The name of the host is an allowed one; the port is the server's, not said by
    whoever asks."""
    asked = urlsplit(str(request.build_absolute_uri(path)))
    if not settings.NGINX_SENDS_FILES:
        return urlunsplit(asked)
    host = f"[{asked.hostname}]" if ":" in (asked.hostname or "") else asked.hostname
    return urlunsplit(asked._replace(netloc=f"{host}:{settings.PORT}" if settings.PORT else f"{host}"))
