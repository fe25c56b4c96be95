"""Whether somebody has just shown who they are: asked for before what can't be undone or takes everything away."""

from __future__ import annotations

from allauth.account.internal.flows.reauthentication import did_recently_reauthenticate
from rest_framework.request import Request

from config.refusals import AskAgain


def shown_again(request: Request) -> None:
    """Raise AskAgain unless the user has entered the password, or used a second factor, in the last five minutes."""
    if not did_recently_reauthenticate(request._request):
        raise AskAgain("ask_again", "Enter your password again to go on.")
