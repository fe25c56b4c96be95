"""Where the package's own views for accounts are not strict enough: secrets, addresses nobody confirmed, and brakes.

Each view here stands in front of the package's view of the same address; see config.urls.
"""

from __future__ import annotations

from typing import Any

from allauth.account.models import EmailAddress
from allauth.core import context, ratelimit
from allauth.headless.account import inputs, views
from allauth.headless.constants import Client
from allauth.headless.mfa import inputs as mfa_inputs
from allauth.headless.mfa import views as mfa_views
from allauth.mfa.models import Authenticator
from django.contrib.auth.models import User
from django.core.exceptions import ValidationError
from django.urls import path

from .adapter import AccountAdapter
from .guessing import LOCKED, address_of, tell_owner_of_codes


def who_confirmed(email: str) -> list[User]:
    """The accounts whose owner has shown to read an address.

    An account from before addresses were confirmed counts with the address that it was made with.
    """
    verified = EmailAddress.objects.filter(email__iexact=email, verified=True).values("user")
    found = list(User.objects.filter(pk__in=verified, is_active=True))
    before = User.objects.filter(email__iexact=email, emailaddress=None, is_active=True)
    return found or list(before)


class SignUpInput(inputs.SignupInput):  # type: ignore[misc]  # allauth has no types
    """An address that somebody has only claimed keeps nobody from signing up with it."""

    def validate_unique_email(self, value: str) -> str:
        taken = EmailAddress.objects.filter(email__iexact=value, verified=True).exists()
        taken = taken or User.objects.filter(email__iexact=value, emailaddress=None).exists()
        self.account_already_exists = taken
        return value


class ResetInput(inputs.RequestPasswordResetInput):  # type: ignore[misc]
    """The link to a new password goes to an address that its owner has confirmed."""

    def clean_email(self) -> str:
        email: str = super().clean_email()
        self.users = who_confirmed(email)
        return email


class LoginCodeInput(inputs.RequestLoginCodeInput):  # type: ignore[misc]
    """So does a link that signs in."""

    def clean_email(self) -> str:
        email: str = super().clean_email()
        self._user = next(iter(who_confirmed(email)), None)
        return email


class ChangePasswordInput(inputs.ChangePasswordInput):  # type: ignore[misc]
    """The current password is checked as at signing in, and wrong ones are counted there."""

    def clean_current_password(self) -> str:
        current: str = self.cleaned_data["current_password"]
        if current and not AccountAdapter(context.request).reauthenticate(self.user, current):
            raise AccountAdapter(context.request).validation_error("enter_current_password")
        return current


class RecoveryCodeAnyway:
    """While codes are locked, since somebody guesses at them, a recovery code still works; the owner is written to."""

    user: User
    cleaned_data: dict[str, str]
    authenticator: Authenticator

    def clean_code(self) -> str:
        try:
            code: str = super().clean_code()  # type: ignore[misc]
        except ValidationError as error:
            if error.code != LOCKED:
                raise
            code = self.cleaned_data["code"]
            tell_owner_of_codes(self.user, address_of(context.request))
            if not self._is_recovery_code(code):
                raise
        return code

    def _is_recovery_code(self, code: str) -> bool:
        """Whether it is an unused recovery code; one address may try a few, so that whoever guesses locks no owner."""
        spare = Authenticator.objects.filter(user=self.user, type=Authenticator.Type.RECOVERY_CODES).first()
        key = f"recovery-{self.user.pk}-{address_of(context.request)}"
        if spare is None or not ratelimit.consume(context.request, action="recovery_code", key=key):
            return False
        self.authenticator = spare
        spare.user = self.user
        return bool(spare.wrap().validate_code(code))


class AuthenticateInput(RecoveryCodeAnyway, mfa_inputs.AuthenticateInput):  # type: ignore[misc]
    pass


class ReauthenticateInput(RecoveryCodeAnyway, mfa_inputs.ReauthenticateInput):  # type: ignore[misc]
    pass


def _with(view: Any, given: Any) -> Any:
    """A view of the package with another check of what is sent to it."""
    made: Any = type(view.__name__, (view,), {"input_class": given})
    return made.as_api_view(client=Client.BROWSER)


urlpatterns = [
    path("auth/signup", _with(views.SignupView, {"POST": SignUpInput})),
    path("auth/password/request", _with(views.RequestPasswordResetView, ResetInput)),
    path("auth/code/request", _with(views.RequestLoginCodeView, LoginCodeInput)),
    path("account/password/change", _with(views.ChangePasswordView, ChangePasswordInput)),
    path("auth/2fa/authenticate", _with(mfa_views.AuthenticateView, AuthenticateInput)),
    path("auth/2fa/reauthenticate", _with(mfa_views.ReauthenticateView, ReauthenticateInput)),
]
