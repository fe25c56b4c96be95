"""Mails that are handed to the worker: sent once, tried again while the mail server is away, and in no log."""

from __future__ import annotations

import json
from unittest import mock

from django.core import mail
from django.core.mail import EmailMultiAlternatives
from django.test import TestCase, override_settings
from procrastinate.contrib.django.models import ProcrastinateJob

from .models import Outgoing
from .queued import give_to_server

SECRET = "https://dune.example/confirm#s3cret"


@override_settings(EMAIL_BACKEND="post.queued.Queued", MAIL_SERVER="django.core.mail.backends.locmem.EmailBackend")
class QueuedTest(TestCase):
    def setUp(self):
        message = EmailMultiAlternatives(
            "Confirm", SECRET, "Jurata <jurata@dune.example>", ["ada@dune.example"], headers={"X-Kind": "confirm"}
        )
        message.attach_alternative(f"<a href='{SECRET}'>Confirm</a>", "text/html")
        message.send()
        self.kept = Outgoing.objects.get()

    def test_it_arrives_as_it_was_written_and_is_kept_no_longer(self):
        self.assertEqual(mail.outbox, [])
        give_to_server(self.kept.pk)
        (sent,) = mail.outbox
        self.assertEqual((sent.subject, sent.body, sent.to), ("Confirm", SECRET, ["ada@dune.example"]))
        self.assertEqual((sent.extra_headers, len(sent.alternatives)), ({"X-Kind": "confirm"}, 1))
        self.assertFalse(Outgoing.objects.exists())
        give_to_server(self.kept.pk)  # a second time it is gone already
        self.assertEqual(len(mail.outbox), 1)

    def test_while_the_mail_server_is_away_it_stays(self):
        away = mock.patch(
            "django.core.mail.backends.locmem.EmailBackend.send_messages", side_effect=ConnectionRefusedError
        )
        with away, self.assertRaises(ConnectionRefusedError):
            give_to_server(self.kept.pk)
        self.assertTrue(Outgoing.objects.exists())

    def test_the_queue_has_its_number_alone(self):
        (job,) = ProcrastinateJob.objects.filter(queue_name="post")
        self.assertEqual(job.args, {"mail": self.kept.pk})
        self.assertNotIn("s3cret", json.dumps(job.args))
