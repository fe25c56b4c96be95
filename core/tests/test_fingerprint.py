"""What is kept with its fingerprint is derived again when what it depends on changes, and not for anything else."""

import ast
import unittest
from collections.abc import Iterator
from pathlib import Path

from jurata_core import DERIVED_BY, ROOT, derived_by

ROOTS = (
    "adjudication/growing.py", "review/prospects.py", "review/spread.py", "review/gathered.py", "lessons.py",
    "season/figures.py", "season/mistakes.py", "season/scorer.py",
)  # fmt: skip
"""What the product keeps the results of: verdicts, reviews, what matches teach, and figures of a season."""


def imported(path: Path) -> Iterator[Path]:
    """The files of the core that a file imports, with the packages they are in."""
    inside = path.relative_to(ROOT).parent.parts
    for node in ast.walk(ast.parse(path.read_text("utf-8"))):
        if isinstance(node, ast.ImportFrom) and node.level:
            module = (*inside[: len(inside) - node.level + 1], *(node.module.split(".") if node.module else ()))
            for names in (module, *((*module, alias.name) for alias in node.names)):
                yield from (ROOT.joinpath(*names[:depth], "__init__.py") for depth in range(1, len(names) + 1))
                yield ROOT.joinpath(*names).with_suffix(".py")


class Fingerprint(unittest.TestCase):
    def test_it_covers_what_verdict_review_and_season_import_and_nothing_else(self):
        found: set[Path] = set()
        waiting = [ROOT / name for name in ROOTS]
        while waiting:
            path = waiting.pop()
            if path not in found and path.is_file() and path != ROOT / "__init__.py":
                found.add(path)
                waiting += imported(path)
        self.assertEqual(set(DERIVED_BY), {path.relative_to(ROOT).parts[0] for path in found})

    def test_its_files_hold_the_data_too(self):
        names = {path.relative_to(ROOT).as_posix() for path in derived_by()}
        self.assertLessEqual({"techniques/catalogue.py", "vocabulary/words.json", "chance/prior.json"}, names)
        self.assertFalse([name for name in names if name.startswith(("simulation", "cli", "formats"))])
