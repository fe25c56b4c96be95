"""Devices that have signed in to an account before: a signed cookie says so, and nothing is kept of it.

A device cookie as OWASP describes it: guessing from elsewhere may close an account to strange devices for a while, and
never to the devices of its owner.
"""

from __future__ import annotations

from collections.abc import Callable

from django.conf import settings
from django.contrib.auth.models import User
from django.contrib.auth.signals import user_logged_in
from django.core.signing import BadSignature, dumps, loads
from django.dispatch import receiver
from django.http import HttpRequest, HttpResponse

COOKIE, SALT = "known-device", "accounts.devices"
KEPT_S = 365 * 24 * 3600
MOST = 20
"""So many accounts one device is known to."""


def _accounts(request: HttpRequest) -> list[int]:
    try:
        known: list[int] = loads(request.COOKIES.get(COOKIE, ""), salt=SALT, max_age=KEPT_S)
    except BadSignature:
        return []
    return known


def knows(request: HttpRequest, login: str) -> bool:
    """Whether a request comes from a device that has signed in as ``login``, a sign-in name or an address, before."""
    known = _accounts(request)
    if not known:
        return False
    return any(
        login.lower() in (user.username.lower(), user.email.lower()) for user in User.objects.filter(pk__in=known)
    )


@receiver(user_logged_in)
def _signed_in(request: HttpRequest, user: User, **_: object) -> None:
    request.known_device = user.pk  # type: ignore[attr-defined]


class RemembersDevices:
    """Gives a device that has just signed in its cookie."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        response = self.get_response(request)
        user: int | None = getattr(request, "known_device", None)
        if user is not None:
            known = [one for one in _accounts(request) if one != user]
            response.set_cookie(
                COOKIE, dumps([user, *known][:MOST], salt=SALT), max_age=KEPT_S, httponly=True, samesite="Lax",
                secure=settings.TLS,
            )  # fmt: skip
        return response
