"""Notices by mail: that something waits, and where. What it is about is read after signing in, not in the mail."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.contrib.auth.models import User
from django.core.mail import send_mail
from django.db import transaction

from .models import Preferences

NOTICES = {
    "answered": ("A reply to a report", "Someone has replied to a report of yours."),
    "handed_in": ("A second score was submitted", "The second score that you asked for was submitted."),
    "given": ("A match to score", "A match was given to you to score."),
    "sent": ("A new report", "Your coach has sent you a report."),
}
"""What somebody is told of: the subject and the sentence of each mail."""


def tell(request: Any, user: User | None, kind: str, path: str) -> None:
    """Send somebody a notice once the transaction is done, unless they want none of its kind or did it themselves."""
    if user is None or not user.email or not user.is_active or user.pk == getattr(request.user, "pk", None):
        return
    wanted = Preferences.objects.filter(user=user).first()
    if wanted is not None and kind in wanted.muted:
        return
    subject, sentence = NOTICES[kind]
    text = (
        f"Hello,\n\n{sentence} Sign in to see it:\n\n{request.build_absolute_uri(path)}\n\n"
        'Notices can be turned off under "Your account".\n'
    )
    transaction.on_commit(lambda: send_mail(subject, text, settings.DEFAULT_FROM_EMAIL, [user.email]))
