"""What stands in the way of guessing passwords: who is asking, and what they are answered after too many tries."""

from __future__ import annotations

from typing import Any

from axes.signals import user_locked_out
from django.conf import settings
from django.contrib.auth.models import User
from django.core.cache import cache
from django.core.mail import send_mail
from django.db.models import Q
from django.dispatch import receiver
from django.http import HttpRequest, JsonResponse
from django.template.loader import render_to_string

from config.refusals import body_of

TOLD_EVERY_S = 3600
"""The owner of an account gets at most one mail about guessing in this time."""


def address_of(request: HttpRequest) -> str:
    """The address that a request comes from. The project's own nginx says it, and lets nobody else say it."""
    if settings.NGINX_SENDS_FILES and "HTTP_X_REAL_IP" in request.META:
        return str(request.META["HTTP_X_REAL_IP"])
    return str(request.META.get("REMOTE_ADDR", ""))


def account_of(request: HttpRequest, credentials: dict[str, Any] | None = None) -> str:
    """Under which name tries are counted: the same one for the sign-in name and the address of an account."""
    said = credentials or {}
    login = str(said.get("username") or said.get("email") or "")
    found = User.objects.filter(Q(username__iexact=login) | Q(email__iexact=login)).first() if login else None
    return login.lower() if found is None else found.username


LOCKED = "too_many_login_attempts"


def cooloff_minutes() -> int:
    """How long nobody can sign in from an address after too many wrong passwords."""
    return round(settings.AXES_COOLOFF_TIME.total_seconds() / 60)


def locked_out(request: HttpRequest, *_: Any, **__: Any) -> JsonResponse:
    """The answer to a sign-in after too many wrong passwords; the same whether there is such an account or not."""
    message = (
        f"Too many wrong passwords for this account from here. Wait {cooloff_minutes()} minutes, "
        "or have a sign-in link sent by mail."
    )
    return JsonResponse(body_of("locked_out", message), status=429)


@receiver(user_locked_out)
def _locked_out(username: str, ip_address: str, **_: Any) -> None:
    tell_owner(username, ip_address)


def tell_owner(username: str, ip_address: str) -> None:
    """Tell the owner of an account that somebody guesses at its password, from one address or from many."""
    owner = User.objects.filter(username=username).exclude(email="").first()
    if owner is not None:
        _tell(owner, ip_address, "Wrong passwords for your account", "accounts/guessed.txt")


def tell_owner_of_codes(owner: User, ip_address: str) -> None:
    """Tell the owner of an account that somebody who knows its password guesses at the second factor."""
    if owner.email:
        _tell(owner, ip_address, "Wrong codes for your account", "accounts/guessed-codes.txt")


def _tell(owner: User, ip_address: str, subject: str, template: str) -> None:
    if not cache.add(f"guessed-{template}-{owner.pk}", True, TOLD_EVERY_S):
        return
    context = {"name": owner.username, "address": ip_address, "minutes": cooloff_minutes()}
    send_mail(subject, render_to_string(template, context), settings.DEFAULT_FROM_EMAIL, [owner.email])
