"""What never looks whether to go on is ended all the same, and nothing that comes after it in the same thread."""

from __future__ import annotations

import threading
import time
from unittest import mock

from django.contrib.auth.models import User
from django.db import connection
from django.http import HttpResponse
from django.test import RequestFactory, SimpleTestCase, TransactionTestCase

from config import interrupting
from config.interrupting import EndsLongRequests, TookTooLong, Watched
from jobs.actions import cancel, new_job
from jobs.running import KINDS, Kind, anyone, run


def for_ever(*_):
    while True:
        pass


class Interrupting(SimpleTestCase):
    def setUp(self):
        self.enterContext(mock.patch.object(interrupting, "LOOKS_EVERY_S", 0.02))
        self.enterContext(mock.patch.object(interrupting.connections, "close_all"))

    def test_a_request_that_has_the_processor_for_too_long_is_ended(self):
        with mock.patch.object(interrupting, "MOST_PROCESSOR_S", 0.05), self.assertRaises(TookTooLong):
            EndsLongRequests(for_ever)(RequestFactory().get("/"))
        self.assertEqual(interrupting._watched, set())

    def test_waiting_is_not_counted(self):
        def wait(_):
            time.sleep(0.3)
            return HttpResponse()

        with mock.patch.object(interrupting, "MOST_PROCESSOR_S", 0.1):
            self.assertEqual(EndsLongRequests(wait)(RequestFactory().get("/")).status_code, 200)

    def test_what_catches_it_gets_it_again(self):
        tries = []

        def stubborn(_):
            while len(tries) < 3:
                try:
                    for_ever()
                except TookTooLong:
                    tries.append(1)
            return HttpResponse()

        with mock.patch.object(interrupting, "MOST_PROCESSOR_S", 0.05):
            EndsLongRequests(stubborn)(RequestFactory().get("/"))
        self.assertEqual(len(tries), 3)

    def test_nothing_after_it_is_interrupted(self):
        overdue = threading.Event()
        for _ in range(300):
            overdue.set()
            try:
                with Watched(overdue.is_set, TookTooLong):
                    sum(range(20_000))
            except TookTooLong:
                pass
            overdue.clear()
            sum(range(2_000))  # raises where something is left over
        self.assertEqual(interrupting._watched, set())


class InTheWorker(TransactionTestCase):
    def test_cancelled_work_that_does_not_look_is_ended(self):
        self.enterContext(mock.patch.object(interrupting, "LOOKS_EVERY_S", 0.02))
        self.enterContext(mock.patch("jobs.running.LOOKS_AT_LEAST_EVERY_S", 0.1))
        job = new_job(User.objects.create_user("coach").pk, "import")

        def cancel_soon():
            time.sleep(0.2)
            cancel(job)
            connection.close()

        with mock.patch.dict(KINDS, {"import": Kind("import", for_ever, 600, anyone)}):
            other = threading.Thread(target=cancel_soon)
            other.start()
            run(str(job.pk))
            other.join()
        job.refresh_from_db()
        self.assertEqual((job.state, job.trouble), ("cancelled", ""))

    def test_work_that_takes_longer_than_its_kind_may_has_failed(self):
        self.enterContext(mock.patch.object(interrupting, "LOOKS_EVERY_S", 0.02))
        self.enterContext(mock.patch("jobs.running.LOOKS_AT_LEAST_EVERY_S", 0.1))
        job = new_job(User.objects.create_user("coach").pk, "import")
        with mock.patch.dict(KINDS, {"import": Kind("import", for_ever, 0, anyone)}):
            run(str(job.pk))
        job.refresh_from_db()
        self.assertEqual(job.state, "failed")
        self.assertIn("longer than", job.trouble)
