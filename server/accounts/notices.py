"""Notices, in the product and by mail: that something waits, and where.

A mail says only that something waits: what it is about is read after signing in.
"""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.contrib.auth.models import User
from django.core.mail import send_mail
from django.db import transaction

from config.requests import absolute

from .models import Notice, Preferences

NOTICES = {
    "answered": ("A reply to a report", "Someone has replied to a report of yours."),
    "handed_in": ("A second score was submitted", "The second score that you asked for was submitted."),
    "given": ("A match to score", "A match was given to you to score."),
    "sent": ("A new report", "Your coach has sent you a report."),
    "clip_ready": ("A clip is ready", "A clip that you uploaded is ready to be played."),
    "joined": ("Someone has joined", "Someone has accepted your invitation."),
    "invited": ("An invitation", "You are invited to a club."),
    "old_clips": ("Old clips to look through", "Your club has clips that are older than it wants to keep."),
    "made": ("Something you asked for is done", "What you asked for is done."),
}
"""What somebody is given notice of: the subject and the sentence of each mail."""
KINDS = [(kind, subject) for kind, (subject, _) in NOTICES.items()]


def tell(user: User | None, kind: str, path: str, about: str, *, request: Any = None, mailed: bool = True) -> None:
    """Give somebody a notice once the transaction is done, unless they want none of its kind or did it themselves.

    ``about`` is what is read in the product, ``path`` the page where it is seen; ``mailed`` is whether it may be a mail
    as well. The worker has no ``request``, and its mails no address then.
    """
    if user is None or not user.is_active or user.pk == getattr(getattr(request, "user", None), "pk", None):
        return
    wanted = Preferences.of(user)
    if kind not in wanted.hidden:
        Notice.objects.create(user=user, kind=kind, text=about[:300], path=path)
    if user.email and mailed and kind not in wanted.muted:
        _mail(user.email, kind, path, request)


def _mail(address: str, kind: str, path: str, request: Any) -> None:
    subject, sentence = NOTICES[kind]
    where = "Sign in to Jurata to see it." if request is None else f"Sign in to see it:\n\n{absolute(request, path)}"
    text = f'Hello,\n\n{sentence} {where}\n\nNotices can be turned off under "Your account".\n'
    transaction.on_commit(lambda: send_mail(subject, text, settings.DEFAULT_FROM_EMAIL, [address]))
