"""A mail backend that hands mails to the worker: nobody waits for a mail server, and what it does not take is tried
again. The mail itself stays in the database; the queue, and so every log, has only its number.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from django.conf import settings
from django.core.mail import EmailMessage, EmailMultiAlternatives, get_connection
from django.core.mail.backends.base import BaseEmailBackend
from django.db import close_old_connections
from procrastinate import RetryStrategy
from procrastinate.contrib.django import app

from .models import Outgoing

AGAIN = RetryStrategy(max_attempts=12, exponential_wait=3)
"""Some days, with longer and longer waits: mail servers are away for a night."""


class Queued(BaseEmailBackend):
    def send_messages(self, messages: Sequence[EmailMessage]) -> int:
        for message in messages:
            send.defer(mail=Outgoing.objects.create(message=_written(message)).pk)
        return len(messages)


def _written(message: EmailMessage) -> dict[str, Any]:
    fields = ("subject", "body", "from_email", "to", "cc", "bcc", "reply_to", "extra_headers")
    others = [[str(one[0]), str(one[1])] for one in getattr(message, "alternatives", None) or []]
    return {**{name: getattr(message, name) for name in fields}, "body": str(message.body), "alternatives": others}


@app.task(queue="post", retry=AGAIN)
def send(mail: int) -> None:
    close_old_connections()  # the database may have been started again meanwhile
    give_to_server(mail)


def give_to_server(mail: int) -> None:
    """Give a mail to the mail server; it is kept no longer then."""
    kept = Outgoing.objects.filter(pk=mail).first()
    if kept is None:
        return
    said = dict(kept.message)
    headers = said.pop("extra_headers")
    connection = get_connection(settings.MAIL_SERVER)
    EmailMultiAlternatives(**said, headers=headers, connection=connection).send()
    kept.delete()
