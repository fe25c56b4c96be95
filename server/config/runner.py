"""Django's test runner, closing with a count that can be read at a glance."""

from __future__ import annotations

import os
import unittest
from typing import Any

from django.conf import settings
from django.contrib.auth.hashers import PBKDF2PasswordHasher
from django.test.runner import DiscoverRunner

os.environ.setdefault("DJANGO_ALLOW_ASYNC_UNSAFE", "true")  # Playwright keeps an event loop open
os.environ.setdefault("BORG_SELFTEST", "disabled")  # it tests itself for a second each time it is started


class QuickHasher(PBKDF2PasswordHasher):
    """Tests sign in hundreds of times, and a password is made to be slow to check. A real server still knows it."""

    iterations = 1


class Runner(DiscoverRunner):
    def setup_test_environment(self, **kwargs: Any) -> None:
        super().setup_test_environment(**kwargs)
        settings.PASSWORD_HASHERS = ["config.runner.QuickHasher"]

    def suite_result(self, suite: unittest.TestSuite, result: Any, **kwargs: Any) -> int:
        wrong = [test for test, _ in [*result.failures, *result.errors]] + result.unexpectedSuccesses
        failed = len({getattr(test, "test_case", test).id() for test in wrong})  # many subtests are one test
        skipped = len(result.skipped)
        tail = f", {skipped} skipped" if skipped else ""
        self.closing = f"{result.testsRun - failed - skipped} passed, {failed} failed{tail}"
        return super().suite_result(suite, result, **kwargs)

    def run_tests(self, *args: Any, **kwargs: Any) -> int:
        failures = super().run_tests(*args, **kwargs)
        print(self.closing, flush=True)
        return failures
