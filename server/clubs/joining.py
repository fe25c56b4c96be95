"""Signing up: by an invitation, or by oneself where the installation is open. Who comes by oneself founds a club."""

from __future__ import annotations

from django import forms
from django.contrib.auth.models import User
from django.core.exceptions import ValidationError
from django.http import HttpRequest

from accounts.adapter import AccountAdapter
from accounts.models import called
from journal.models import note

from .actions import found_club, invitation_of, take_up
from .models import Invitation

TOKEN = "invitation"
"""Where a session keeps the invitation that somebody has opened."""


def opened(request: HttpRequest) -> Invitation | None:
    """The invitation that was opened in a session, where it still holds."""
    token = request.session.get(TOKEN)
    return invitation_of(token) if isinstance(token, str) else None


class Adapter(AccountAdapter):
    def is_open_for_signup(self, request: HttpRequest) -> bool:
        return super().is_open_for_signup(request) or opened(request) is not None

    def clean_email(self, email: str) -> str:
        cleaned: str = super().clean_email(email)
        invitation = opened(self.request) if self.request is not None else None
        signing_up = self.request is not None and not self.request.user.is_authenticated
        if signing_up and invitation is not None and invitation.email.lower() != cleaned.lower():
            raise ValidationError(f"The invitation went to {invitation.email}. Sign up with that address.")
        return cleaned


class SignUpForm(forms.Form):
    """What is asked at signing up besides an address and a password."""

    first_name = forms.CharField(max_length=60)

    def signup(self, request: HttpRequest, user: User) -> None:
        """Called once the new user is saved. Who opened the link in an invitation reads the mails of its address."""
        invitation = opened(request)
        if invitation is not None:
            Adapter(request).stash_verified_email(request, invitation.email)
            made = take_up(invitation, user)
            note("joined", f"as {made.get_role_display()}", request=request, user=user, club=made.club_id)
            del request.session[TOKEN]
        else:
            club = found_club(f"{called(user)}'s club"[:80], user)
            note("club founded", club.name, request=request, user=user, club=club.pk)
