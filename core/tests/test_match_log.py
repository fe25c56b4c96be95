"""Bad input: every fault at once, with its path, and never a traceback."""

import json
import random
import subprocess
import tempfile
import time
import unittest
from pathlib import Path

from jurata_core.answers import score
from jurata_core.faults import FaultyInput
from jurata_core.json_text import MOST_BYTES, parse_json, unstorable
from jurata_core.match_log import loader

from .making import at, end, log, seen, start
from .random_logs import random_log

ROOT = Path(__file__).resolve().parents[2]
JURATA = ROOT / "bin" / "jurata"

BROKEN = {
    "observations[1].top": at(1, "guard"),
    "observations[1].t": at(-1, "mount", "a"),
    "observations[1].kind": seen(1, "nap"),
    "observations[1].position": at(1, "lying", "a"),
    "observations[1].by": seen(1, "attempt", move="sweep", by="c"),
    "observations[1].move": seen(1, "attempt", move="luck", by="a"),
    "observations[1].outcome": seen(1, "attempt", move="sweep", by="a", outcome="lucky"),
    "observations[1].restart": seen(1, "clock", action="start", restart="kneeling"),
    "observations[1].on": seen(1, "mark", on="referee"),
    "observations[1].score": seen(1, "begin", score=[2, 0]),
    "observations[1].score.b.points": seen(1, "begin", score={"b": {"points": "two"}}),
    "observations[1].id": seen(1, "exchange", id="12"),
    "observations[1].verbal": seen(1, "foul", by="a", foul="severe", verbal=True),
    "observations[1].until": seen(9, "submission", by="a", technique="armbar", threat="close", until=8),
    "observations[1].threat": seen(9, "submission", by="a", technique="armbar"),
    "observations[1].technique": seen(9, "technique", by="a"),
    "observations[1].avoiding": seen(9, "foul", by="a", foul="fleeing"),
    "observations[1].points": seen(9, "ruling", to="a"),
    "observations[1].votes.b": seen(9, "decision", votes={"a": 1}),
    "observations[1].how": seen(9, "end", how="boredom"),
    "observations[1].grips": seen(1, "clock", action="start", restart="same", grips="lost"),
    "observations[1].own": seen(1, "grip", by="a", grip="collar", own="upper"),
    "observations[1].knee": seen(1, "legs", by="a"),
    "observations[1].heel": seen(1, "legs", by="a", heel="free"),
    "observations[1].for": seen(1, "contest", until=4),
    "observations[1].won": seen(1, "contest", **{"for": "head"}, won="both"),
    "observations[1].score.a.points": seen(1, "board", score={"a": {"points": "two"}}),
    "observations[1].hurt": seen(1, "mark", on="a", hurt=" "),
    "observations[1].sure": at(1, "mount", "a", sure="maybe"),
}


def faults(raw):
    try:
        score(raw)
    except FaultyInput as error:
        return [fault.path for fault in error.faults]
    return []


class Faults(unittest.TestCase):
    def test_a_board_needs_a_score_and_a_stretch_an_end(self):
        self.assertEqual(faults(log(start(), seen(1, "board"), end())), ["observations[1].score"])
        self.assertEqual(faults(log(start(), seen(1, "unwatched"), end())), ["observations[1].until"])

    def test_each_fault_is_named_by_its_path(self):
        for path, observation in BROKEN.items():
            with self.subTest(path):
                self.assertEqual(faults(log(start(), observation, end())), [path])

    def test_a_side_on_top_of_nobody(self):
        self.assertEqual(
            faults(log(start(), seen(1, "position", position="standing", top="a"))), ["observations[1].top"]
        )

    def test_all_faults_come_together(self):
        raw = log(*BROKEN.values())
        raw |= {"ruleset": {"extends": "full-points", "points": {"mount": -1}, "ladder": ["jail"]}, "duration": 0}
        raw["division"] = {"age": "ten", "belt": "pink"}
        found = faults(raw)
        expected = {
            "duration",
            "ruleset.points.mount",
            "ruleset.ladder[0]",
            "division.age",
            "division.belt",
            "division.attire",
        }
        self.assertLessEqual(expected, set(found))
        self.assertEqual(sum(path.startswith("observations") for path in found), len(BROKEN))

    def test_two_observations_with_one_id(self):
        self.assertEqual(faults(log(start(), at(1, "mount", "a", id="x"), end(id="x"))), ["observations[2].id"])

    def test_a_log_may_not_be_endless(self):
        most = loader.MOST_OBSERVATIONS
        self.assertEqual(faults(log() | {"observations": [{}] * (most + 1)}), ["observations"])

    def test_damaged_logs_are_never_a_traceback(self):
        rng = random.Random(5)
        for _ in range(400):
            text = json.dumps(random_log(rng, 8))
            at_ = rng.randrange(len(text))
            for damaged in (
                text[:at_],
                text[:at_] + rng.choice('{}[]",:0x-') + text[at_ + 1 :],
                text.replace(str(rng.randrange(10)), rng.choice(("null", "1e999", "-1", "true", "[]", "9" * 400)), 3),
            ):
                try:
                    score(parse_json(damaged))
                except FaultyInput as error:
                    self.assertTrue(error.faults)


class CommandLine(unittest.TestCase):
    def run_jurata(self, *arguments, **more):
        return subprocess.run([JURATA, *arguments], capture_output=True, text=True, check=False, **more)

    def test_score_from_standard_input(self):
        done = self.run_jurata("score", "-", input=json.dumps(log(start(), at(5, "mount", "a"), end())))
        self.assertEqual((done.returncode, json.loads(done.stdout)["score"]["a"]["points"]), (0, 6))

    def test_faults_go_to_standard_error_one_a_line(self):
        done = self.run_jurata("score", "-", input=json.dumps(log(*BROKEN.values())))
        self.assertEqual((done.returncode, done.stdout), (2, ""))
        self.assertEqual(len(done.stderr.splitlines()), len(BROKEN))

    def test_what_is_no_json(self):
        for text in ("", "{", "[" * 100_000, '{"t": NaN}', "9" * 5000):
            done = self.run_jurata("score", "-", input=text)
            self.assertEqual((done.returncode, done.stdout), (2, ""))
            self.assertNotIn("Traceback", done.stderr)
            self.assertEqual(len(done.stderr.splitlines()), 1)

    def test_a_file_of_millions_of_rows_is_refused_by_its_size(self):
        with tempfile.NamedTemporaryFile(suffix=".json") as file:
            file.truncate(MOST_BYTES + 1)
            done = self.run_jurata("score", file.name)
        self.assertEqual((done.returncode, done.stdout, done.stderr), (2, "", "file: is larger than 64 MiB\n"))

    def test_lines_go_on_after_a_faulty_one(self):
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "logs.jsonl"
            path.write_text("\n".join([json.dumps(log(start(), end())), "{", json.dumps(log(start(), end()))]) + "\n")
            done = self.run_jurata("score", "--lines", path)
        answers = [json.loads(line) for line in done.stdout.splitlines()]
        self.assertEqual(["faults" in answer for answer in answers], [False, True, False])

    def test_legality(self):
        asked = ("--age", "14", "--belt", "green", "--attire", "gi")
        done = self.run_jurata("legality", "--technique", "Wristlock", *asked)
        answer = json.loads(done.stdout)
        self.assertEqual((answer["technique"], answer["status"]), ("wrist-lock", "illegal"))
        lost = self.run_jurata("legality", "--technique", "wirst lock", *asked)
        self.assertEqual((lost.returncode, lost.stdout), (2, ""))
        self.assertIn("wrist-lock", lost.stderr)


class Costs(unittest.TestCase):
    """What JSON costs grows with its size, not with its square: in seconds of this process, of which there are few."""

    def costs(self, text: str) -> float:
        began = time.process_time()
        try:
            list(unstorable(parse_json(text)))
        except FaultyInput:
            pass
        return time.process_time() - began

    def test_a_name_that_comes_twice_among_very_many(self):
        names = [f'"{number}": 1' for number in range(40_000)]
        self.assertLess(self.costs("{" + ", ".join([*names, '"39999": 2']) + "}"), 3)

    def test_a_long_name_with_very_many_values(self):
        self.assertLess(self.costs(json.dumps({"n" * 300_000: [0] * 100_000})), 3)
