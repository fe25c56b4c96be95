"""A simulated post office as a mail backend of Django: what is sent is kept in the database."""

from __future__ import annotations

from collections.abc import Sequence

from django.core.mail import EmailMessage
from django.core.mail.backends.base import BaseEmailBackend

from .models import Mail

MOST_KEPT = 500
"""So many mails are kept; older ones are thrown away."""


class PostOffice(BaseEmailBackend):
    def send_messages(self, messages: Sequence[EmailMessage]) -> int:
        rows = [
            Mail(to=to, subject=message.subject[:200], body=str(message.body))
            for message in messages
            for to in message.recipients()
        ]
        Mail.objects.bulk_create(rows)
        last = Mail.objects.order_by("-pk").values_list("pk", flat=True)[MOST_KEPT : MOST_KEPT + 1]
        Mail.objects.filter(pk__lte=max(last, default=0)).delete()
        return len(messages)
