"""What a user reads is plain English: none of the words that docs/wording.md does without, and no raw names of code."""

import ast
import json
import random
import re
import unittest
from pathlib import Path

from jurata_core.adjudication import adjudicate
from jurata_core.answers import review_of, score, under_rulesets
from jurata_core.briefing import briefing
from jurata_core.divisions import Division
from jurata_core.exports import sheet_of
from jurata_core.match_log import read_log
from jurata_core.rulebook import page
from jurata_core.rulesets import preset, preset_ids

from .random_logs import random_log

ROOT = Path(__file__).resolve().parents[2]
UNWANTED = [
    (re.compile(pattern), instead)
    for pattern, instead in json.loads((Path(__file__).parent / "unwanted_words.json").read_text("utf-8"))["words"]
]
RAW_NAME = re.compile(r"\b[a-z]+_[a-z_]+\b")
"""A name of code: ``guard_pass``."""
CODE = ("tests", "migrations", "journeys", ".venv")
SHOWN = re.compile(r"^[A-Z“].* .*|.* .*[.!?:]$")
"""A string of a program that looks like a sentence or a title."""
NOT_SHOWN = {"fmt", "help_text"}


def faults(text):
    """Each unwanted word in a text, with what to write instead."""
    found = [
        f"{match[0]!r}: write {instead}" for pattern, instead in UNWANTED for match in [pattern.search(text)] if match
    ]
    return found + [f"{match[0]!r}: a name of code" for match in [RAW_NAME.search(text)] if match]


def texts_of(value):
    """Every text in data, however deep."""
    if isinstance(value, str):
        yield value
    elif isinstance(value, dict):
        for name, one in value.items():
            if name not in ("id", "code", "reason", "kind", "status", "key", "name", "observations", "position"):
                yield from texts_of(one)
    elif isinstance(value, list | tuple):
        for one in value:
            yield from texts_of(one)


def shown_in(path):
    """The strings of a Python file that look like something to be read, but for docstrings and help of fields."""
    tree = ast.parse(path.read_text("utf-8"))
    hidden = set()
    for node in ast.walk(tree):
        if isinstance(node, ast.Expr) and isinstance(node.value, ast.Constant):
            hidden.add(id(node.value))  # docstrings, and what is said of a name below it
        if isinstance(node, ast.keyword) and node.arg in NOT_SHOWN:
            hidden.update(id(part) for part in ast.walk(node.value))
        if isinstance(node, ast.Raise | ast.Assert):
            hidden.update(id(part) for part in ast.walk(node) if "ValueError" in ast.dump(node))
    for node in ast.walk(tree):
        text = node.value if isinstance(node, ast.Constant) else None
        if isinstance(text, str) and id(node) not in hidden and SHOWN.match(text):
            yield node.lineno, text


class Words(unittest.TestCase):
    def test_the_test_itself_finds_them(self):
        self.assertEqual(len(faults("Mount pays 4; nobody is in the gi: guard_pass.")), 4)
        self.assertEqual(faults("Mount scores 4 points."), [])

    def test_no_program_says_them(self):
        for folder in ("core/jurata_core", "core/jurata_simulation", "server"):
            for path in sorted((ROOT / folder).rglob("*.py")):
                if any(part in CODE for part in path.parts):
                    continue
                for line, text in shown_in(path):
                    plain = RAW_NAME.sub("", text)  # fields are named in messages about them
                    with self.subTest(f"{path.relative_to(ROOT)}:{line}", text=text):
                        self.assertEqual([one for one in faults(plain) if "name of code" not in one], [])

    def test_no_data_says_them(self):
        for path in sorted((ROOT / "core/jurata_core").rglob("*.json")):
            for text in texts_of(json.loads(path.read_text("utf-8"))):
                if " " not in text or ("{" in text and "}" not in text):
                    continue
                with self.subTest(path.name, text=text):
                    self.assertEqual(faults(re.sub(r"\{[^}]*\}", "", text)), [])

    def test_no_page_of_a_division_says_them(self):
        for ruleset in map(preset, preset_ids()):
            for division in (Division(10, "yellow", "gi"), Division(14, "green", "gi"), Division(30, "brown", "nogi")):
                shown = [*texts_of(page(division, ruleset)), *(rule.text for rule in briefing(division, ruleset).wins)]
                for text in shown:
                    with self.subTest(ruleset=ruleset.id, text=text):
                        self.assertEqual(faults(text), [])

    def test_no_sentence_of_a_verdict_or_a_review_says_them(self):
        rng = random.Random(5)
        for _ in range(15):
            raw = random_log(rng, 45)
            log = read_log(raw)
            verdict = score(raw)
            shown = [row["because"] for name in ("ledger", "missed", "unpaid", "open", "illegal", "warnings")
                     for row in verdict[name]]  # fmt: skip
            review = review_of(raw)
            shown += [error[name] for error in review["errors"] for name in ("title", "because", "instead", "drill")]
            shown += [one["because"] for one in review["good"]]
            shown += [row["because"] for column in under_rulesets(raw)["columns"] for row in column.get("rows", [])]
            shown += sheet_of(log, adjudicate(log)).splitlines()
            for text in shown:
                with self.subTest(text=text):
                    self.assertEqual(faults(text), [])
