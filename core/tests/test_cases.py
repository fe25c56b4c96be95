"""Worked cases: every one must come out exactly."""

import json
import unittest
from pathlib import Path

from jurata_core.answers import score

FOLDER = Path(__file__).parent / "cases"


class GoldenCases(unittest.TestCase):
    def test_every_case_comes_out_exactly(self):
        paths = sorted(FOLDER.glob("*.json"))
        self.assertGreaterEqual(len(paths), 10)
        for path in paths:
            case = json.loads(path.read_text("utf-8"))
            verdict = score(case)
            with self.subTest(case=path.stem, about=case["about"]):
                self.assertEqual({key: verdict[key] for key in case["expect"]}, case["expect"])
