"""The web's own unit tests, run with the others: one runner runs all."""

from __future__ import annotations

import os
import subprocess

from django.conf import settings
from django.test import SimpleTestCase


class Web(SimpleTestCase):
    def test_its_unit_tests_pass_and_cover_its_logic(self):
        """Fails below the share of statements that ``web/vite.config.ts`` asks for, too."""
        environment = {**os.environ, "NO_COLOR": "1"}
        done = subprocess.run(
            ["npm", "run", "--silent", "coverage"],
            cwd=settings.ROOT / "web", env=environment, capture_output=True, text=True, check=False,
        )  # fmt: skip
        self.assertEqual(done.returncode, 0, f"{done.stdout}\n{done.stderr}")
        self.assertRegex(done.stdout, r"Tests +\d+ passed")
