"""The command line as whoever types it meets it: one plain line for what goes wrong, and never a traceback."""

import json
import os
import pty
import signal
import subprocess
import sys
import tempfile
import unittest
from pathlib import Path
from unittest import mock

from rapidfuzz import fuzz, process

from jurata_core.answers import score
from jurata_core.faults import FaultyInput
from jurata_core.json_text import parse_json, unstorable
from jurata_core.techniques import suggestions

from .making import at, end, log, start

ROOT = Path(__file__).resolve().parents[2]
JURATA = str(ROOT / "bin" / "jurata")
CALLED = str(ROOT / "server" / "demo" / "data" / "patient-passing.json")
CASE = str(ROOT / "core" / "tests" / "cases" / "pass-to-mount.json")


def run(*words, **more):
    return subprocess.run([JURATA, *words], capture_output=True, check=False, **more)


class WhatGoesWrong(unittest.TestCase):
    def one_line(self, done, status, *words):
        said = done.stderr.decode()
        self.assertEqual((done.returncode, said.count("\n"), "Traceback" in said), (status, 1, False), said)
        for word in words:
            self.assertIn(word, said)

    def test_a_library_that_is_not_installed(self):
        """An interpreter that finds the core alone: as on a machine without the set-up."""
        with tempfile.TemporaryDirectory() as folder:
            for name in ("numpy", "scipy"):
                (Path(folder) / f"{name}.py").write_text(f"raise ModuleNotFoundError('gone', name='{name}')")
            environment = {**os.environ, "PYTHONPATH": f"{folder}:{ROOT / 'core'}"}
            for command in ("review", "audit", "compare"):
                words = [command, CALLED, *([CALLED] if command == "compare" else [])]
                done = subprocess.run(
                    [sys.executable, "-m", "jurata_core", *words], env=environment, capture_output=True, check=False
                )
                self.one_line(done, 1, "not installed here")
            done = subprocess.run(
                [sys.executable, "-m", "jurata_core", "score", CASE], env=environment, capture_output=True, check=False
            )
            self.assertEqual(done.returncode, 0)

    def test_an_output_that_takes_nothing(self):
        with open("/dev/full", "w") as full:
            done = subprocess.run([JURATA, "score", CASE], stdout=full, stderr=subprocess.PIPE, check=False)
        self.one_line(done, 1, "could not be written")
        closed = subprocess.run(["sh", "-c", f"'{JURATA}' score '{CASE}' >&-"], capture_output=True, check=False)
        self.one_line(closed, 1, "closed")
        reader, writer = os.pipe()
        os.close(reader)
        done = subprocess.run([JURATA, "score", CASE], stdout=writer, stderr=subprocess.PIPE, check=False)
        os.close(writer)
        self.one_line(done, 1, "could not be written")

    def test_a_file_that_cannot_be_read(self):
        for path in ("/nowhere.json", str(ROOT)):
            for words in (("score", path), ("score", "--lines", path), ("review", path), ("compare", CASE, path)):
                with self.subTest(words):
                    self.one_line(run(*words), 2, f"{path}: can't be read")

    def test_an_interrupt(self):
        """While it waits for a log, and while two processes score a long list of them."""
        with tempfile.NamedTemporaryFile("w", suffix=".jsonl") as lines:
            line = json.dumps(log(start(), at(1, "mount", "a"), end(99))) + "\n"
            lines.write(line * 200_000)
            lines.flush()
            for words in (("score", "-"), ("score", "--lines", lines.name, "--jobs", "2")):
                with self.subTest(words):
                    process = subprocess.Popen(
                        [JURATA, *words], stdin=subprocess.PIPE, stdout=subprocess.PIPE, stderr=subprocess.PIPE,
                        start_new_session=True,
                    )  # fmt: skip
                    if "--jobs" in words:
                        process.stdout.readline()
                    else:
                        # More than a pipe holds: once it is written, most of it has been read.
                        process.stdin.write(b" " * 400_000)
                        process.stdin.flush()
                    os.killpg(process.pid, signal.SIGINT)
                    _, said = process.communicate(timeout=60)
                    self.assertEqual((process.returncode, said), (130, b"Interrupted.\n"))


class Lines(unittest.TestCase):
    def test_every_line_is_answered_also_an_empty_one(self):
        line = json.dumps(log(start(), end(99)))
        done = run("score", "--lines", "-", input=f"{line}\n\n  \n{line}\n".encode())
        answers = [json.loads(one) for one in done.stdout.splitlines()]
        self.assertEqual([one.get("faults") for one in answers], [None, ["line: is empty"], ["line: is empty"], None])

    def test_encodings_that_score_reads_are_read_line_by_line_too(self):
        text = json.dumps(log(start(), {**end(99), "note": "Zürich"}), ensure_ascii=False)
        for encoding in ("utf-8", "utf-8-sig", "utf-16", "utf-16-le", "utf-32"):
            with self.subTest(encoding):
                one, two = (
                    run("score", "-", input=text.encode(encoding)),
                    run("score", "--lines", "-", input=f"{text}\n{text}\n".encode(encoding)),
                )
                self.assertEqual(one.returncode, 0, one.stderr)
                self.assertEqual([json.loads(line) for line in two.stdout.splitlines()], [json.loads(one.stdout)] * 2)

    def test_bytes_that_are_no_text_are_a_fault_of_their_line_alone(self):
        line = json.dumps(log(start(), end(99))).encode()
        done = run("score", "--lines", "-", input=line + b"\n{\xff}\n" + line)
        first, second, third = (json.loads(one) for one in done.stdout.splitlines())
        self.assertEqual((second["faults"], first == third), (["file: is not text in UTF-8"], True))

    def test_a_file_and_lines_at_once(self):
        done = run("score", CASE, "--lines", CASE)
        self.assertEqual((done.returncode, done.stdout), (2, b""))
        self.assertIn("both given", done.stderr.decode())


class Text(unittest.TestCase):
    def fault(self, text):
        with self.assertRaises(FaultyInput) as caught:
            parse_json(text)
        (fault,) = caught.exception.faults
        return fault.message

    def test_numbers_that_no_program_reads(self):
        self.assertIn("thousands of digits", self.fault('{"t": ' + "9" * 5000 + "}"))
        self.assertIn("NaN", self.fault('{"t": NaN}'))

    def test_a_name_that_stands_twice(self):
        self.assertIn('"t" twice', self.fault('{"observations": [{"t": 1, "kind": "clock", "t": 2}]}'))

    def test_what_no_database_holds_is_named(self):
        deep = current = []
        for _ in range(60):
            current.append([])
            current = current[0]
        raw = {"a": "x\0", "b": ["\ud800"], "c": {"d": float("inf")}, "e": 2**70, "f": deep, "g\0": 1, "h": 2**40}
        found = {fault.path: fault.message for fault in unstorable(raw)}
        self.assertEqual(set(found), {"a", "b[0]", "c.d", "e", "f" + "[0]" * 39, "body"})

    def test_all_faults_inside_one_field(self):
        ruleset = {
            "extends": "full-points",
            "barred": ["slam", 3, 4],
            "tiebreak": ["points", "luck", "age"],
            "points": {"mount": -1, "back": "x"},
        }
        votes = {"t": 9, "kind": "decision", "votes": {"a": -1, "b": "two"}}
        with self.assertRaises(FaultyInput) as caught:
            score({**log(start(), votes), "ruleset": ruleset})
        self.assertEqual(
            {fault.path for fault in caught.exception.faults},
            {"ruleset.barred[1]", "ruleset.barred[2]", "ruleset.tiebreak[1]", "ruleset.tiebreak[2]",
             "ruleset.points.mount", "ruleset.points.back", "observations[1].votes.a", "observations[1].votes.b"},
        )  # fmt: skip

    def test_an_id_is_never_taken_for_a_place_in_the_file(self):
        """An observation whose id is a number, and another one at that place."""
        old = log({**start(), "id": 2}, {**at(1, "mount", "b"), "id": 0}, at(30, "guard", "a"), end(99))
        got = score({**old, "format": "jurata-match/1"})
        for row in got["ledger"]:
            self.assertTrue(set(row["observations"]) <= {"#0", "#2", 2, 3}, row)
        with self.assertRaises(FaultyInput) as caught:
            score({**log({**start(), "id": 7}, {**end(9), "id": "#7"}), "format": "jurata-match/1"})
        self.assertEqual(caught.exception.faults[0].code, "duplicate")


class UnknownNames(unittest.TestCase):
    def test_only_names_with_letters_in_common_are_compared_at_length(self):
        """A log may hold thousands of unknown names, and the measure for a name within a longer one is slow."""
        with mock.patch("rapidfuzz.process.extract", wraps=process.extract) as compared:
            for number in range(20):
                suggestions(f"a strange thing of mine, number {number}")
        slow = [len(call.args[1]) for call in compared.call_args_list if call.kwargs["scorer"] is fuzz.WRatio]
        self.assertEqual(len(slow), 20)
        self.assertLess(max(slow), 40)
        self.assertIn("armbar", suggestions("my favourite armbar from the top"))


class Cautions(unittest.TestCase):
    """Wherever a technique is called legal, who decides is said; a program that reads the answer gets the answer only."""

    def test_the_help_of_legality_names_all_three(self):
        said = " ".join(run("legality", "--help").stdout.decode().split())
        for one in ("own rulebook", "its referees", "licensed medical staff", "let go at the tap"):
            self.assertIn(one, said)

    def test_a_person_reads_them_with_the_answer_and_a_program_does_not(self):
        asked = ("legality", "--technique", "armbar", "--age", "25", "--belt", "blue", "--attire", "gi")
        self.assertEqual(run(*asked).stderr, b"")
        ours, theirs = pty.openpty()
        done = subprocess.run([JURATA, *asked], stdout=subprocess.PIPE, stderr=theirs, check=True)
        self.assertEqual(json.loads(done.stdout)["status"], "legal")
        self.assertIn("licensed medical staff", os.read(ours, 1000).decode())
        os.close(ours)
        os.close(theirs)
