"""How signing in differs from what allauth does by itself."""

from __future__ import annotations

from typing import Any, ClassVar, cast
from urllib.parse import urlsplit, urlunsplit

from allauth.account.adapter import DefaultAccountAdapter
from allauth.account.models import EmailAddress
from allauth.account.stages import EmailVerificationStage
from allauth.headless.adapter import DefaultHeadlessAdapter
from axes.handlers.proxy import AxesProxyHandler
from django.conf import settings
from django.core.exceptions import ValidationError
from django.http import HttpRequest

from config.requests import absolute

from .devices import knows
from .guessing import LOCKED, account_of, address_of, cooloff_minutes, tell_owner


class AccountAdapter(DefaultAccountAdapter):  # type: ignore[misc]  # allauth has no types
    error_messages: ClassVar = {
        **DefaultAccountAdapter.error_messages,
        LOCKED: f"Too many wrong passwords for this account. Wait {cooloff_minutes()} minutes, or have a sign-in link "
        "sent by mail; a device that has signed in before is not affected.",
    }

    def is_open_for_signup(self, request: HttpRequest) -> bool:
        return bool(settings.OPEN_SIGN_UP)

    def get_client_ip(self, request: HttpRequest) -> str:
        return address_of(request)

    def pre_authenticate(self, request: HttpRequest, **credentials: Any) -> None:
        """Brakes on guessing one account from many addresses; a device that signed in to it before is let through.

        So whoever guesses at an account can't lock its owner out.
        """
        login = credentials.get("username") or credentials.get("email") or ""
        locked = not AxesProxyHandler.is_allowed(
            request, credentials
        )  # it is refused for its address, and counted there
        if locked or knows(request, str(login)):
            return
        try:
            super().pre_authenticate(request, **credentials)
        except ValidationError:
            tell_owner(account_of(request, credentials), address_of(request))
            raise

    def get_login_stages(self) -> list[str]:
        own = "accounts.adapter.ConfirmsAddress"
        return [own if path.endswith(".EmailVerificationStage") else path for path in super().get_login_stages()]


class LinksAdapter(DefaultHeadlessAdapter):  # type: ignore[misc]
    def get_frontend_url(self, urlname: str, **kwargs: Any) -> str | None:
        found = super().get_frontend_url(urlname, **kwargs)
        return found and absolute(self.request, urlunsplit(("", "", *urlsplit(found)[2:])))


class ConfirmsAddress(EmailVerificationStage):  # type: ignore[misc]
    """Asks to confirm the e-mail address; an account from before there were addresses has none to confirm."""

    def handle(self) -> tuple[Any, bool]:
        if not EmailAddress.objects.filter(user=self.login.user).exists() and not self.login.signup:
            return None, True
        return cast(tuple[Any, bool], super().handle())
