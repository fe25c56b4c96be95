"""Schemas, exports and versions: what the core writes opens elsewhere, and old files open here."""

import copy
import csv
import io
import json
import random
import subprocess
import tempfile
import unittest
from pathlib import Path

import jsonschema
import webvtt

from jurata_core.adjudication import adjudicate
from jurata_core.answers import FORMS, export, score
from jurata_core.exports import Heading, export_named
from jurata_core.faults import FaultyInput
from jurata_core.formats.captions import SHOWN, captions, captions_of
from jurata_core.formats.schema import match_schema, observation_schemas, ruleset_schema, verdict_schema
from jurata_core.formats.table import ledger_csv
from jurata_core.match_log import FORMAT, read_log, write_log

from .making import at, end, log, seen, start, stop
from .random_logs import random_log

ROOT = Path(__file__).resolve().parents[2]
JURATA = ROOT / "bin" / "jurata"
MATCH = jsonschema.Draft202012Validator(match_schema())
VERDICT = jsonschema.Draft202012Validator(verdict_schema())
ODD = [
    None,
    True,
    0,
    -1,
    2.5,
    1e9,
    "",
    " ",
    "a",
    "guard",
    "standing",
    "submission",
    "fleeing",
    [],
    ["x"],
    {},
    {"a": 1, "b": 2},
]


def takes(raw):
    try:
        read_log(copy.deepcopy(raw))
    except FaultyInput as error:
        return {fault.code for fault in error.faults}, [fault.path for fault in error.faults]
    return None


def places(value, path=()):
    """Every place in a log that can be changed, as paths of keys."""
    if isinstance(value, dict):
        for key, inner in value.items():
            yield (*path, key)
            yield from places(inner, (*path, key))
    elif isinstance(value, list):
        for index, inner in enumerate(value):
            yield from places(inner, (*path, index))


def changed(raw, path, value, drop=False):
    raw = copy.deepcopy(raw)
    holder = raw
    for key in path[:-1]:
        holder = holder[key]
    if drop:
        del holder[path[-1]]
    else:
        holder[path[-1]] = value
    return raw


class PublishedSchemas(unittest.TestCase):
    """Validated by the jsonschema library."""

    def test_the_published_files_are_the_current_ones(self):
        for name, schema in (
            ("match-log", match_schema()),
            ("verdict", verdict_schema()),
            ("ruleset", ruleset_schema()),
        ):
            published = json.loads((ROOT / "docs" / "formats" / f"{name}.schema.json").read_text("utf-8"))
            jsonschema.Draft202012Validator.check_schema(published)
            self.assertEqual(published, json.loads(json.dumps(schema)), f"run bin/jurata schema for {name}")

    def test_loader_and_schema_agree_on_damaged_logs(self):
        """Both ways; a span that ends before it begins and a repeated id are beyond a schema."""
        rng = random.Random(21)
        refused = taken = 0
        for _ in range(900):
            raw = random_log(rng, 6)
            if rng.random() < 0.9:
                path = rng.choice(list(places(raw)))
                raw = changed(raw, path, rng.choice(ODD), drop=rng.random() < 0.2)
            fault = takes(raw)
            if fault is not None and all(path.endswith((".until", ".id")) for path in fault[1]):
                continue
            with self.subTest(raw=raw):
                self.assertEqual(MATCH.is_valid(raw), fault is None, fault)
            refused, taken = refused + (fault is not None), taken + (fault is None)
        self.assertGreater(min(refused, taken), 100)

    def test_every_verdict_is_valid(self):
        rng = random.Random(22)
        for _ in range(150):
            raw = random_log(rng, 40)
            for one in raw["observations"]:
                if rng.random() < 0.1:
                    one["sure"] = False
            VERDICT.validate(json.loads(json.dumps(score(raw))))

    def test_kinds(self):
        kinds = {
            option["properties"]["kind"]["enum"][0]
            for option in match_schema()["properties"]["observations"]["items"]["oneOf"]
        }
        self.assertEqual(kinds, set(observation_schemas()))


class Exports(unittest.TestCase):
    def test_no_cell_is_a_formula(self):
        """What a log brings along stands as text: a spreadsheet runs what begins with one of these signs (OWASP)."""
        for sign in "=+-@":
            hold_ = seen(
                20, "submission", by="a", technique=f"{sign}HYPERLINK(1)", threat="close", until=25, id=f"{sign}one"
            )
            (row,) = csv.DictReader(io.StringIO(ledger_csv(adjudicate(read_log(log(start(), hold_, end()))))))
            self.assertTrue(row["because"].startswith(f"'{sign}HYPERLINK"), row)
            self.assertEqual(row["observations"], f"'{sign}one")
            self.assertEqual(row["n"], "1")

    def test_a_close_submission_that_wins_is_not_said_to_have_been_escaped(self):
        hold_ = seen(20, "submission", by="a", technique="armbar", threat="close", until=25)
        got = score(log(start(), hold_, end(25, how="submission", by="a", technique="armbar")))
        self.assertEqual(got["because"], "The athlete won by armbar.")
        self.assertNotIn("got out", str(got))

    def test_csv_adds_up(self):
        """Read back by the standard library's reader; the last row is the final score."""
        rng = random.Random(31)
        for _ in range(60):
            verdict = adjudicate(read_log(random_log(rng)))
            rows = list(csv.DictReader(io.StringIO(ledger_csv(verdict))))
            self.assertEqual(len(rows), len(verdict.ledger))
            if rows:
                for side in "ab":
                    for tally in ("points", "advantages", "penalties"):
                        self.assertEqual(int(rows[-1][f"{tally}_{side}"]), verdict.score[side][tally])
                self.assertEqual([row["because"] for row in rows], [row.because for row in verdict.ledger])

    def test_captions_parse_and_tell_the_score(self):
        """Parsed by webvtt-py: in order, no overlap, the last one with the final points."""
        rng = random.Random(32)
        for _ in range(60):
            verdict = adjudicate(read_log(random_log(rng)))
            found = list(webvtt.from_string(captions(verdict)))
            times = [(caption.start_in_seconds, caption.end_in_seconds) for caption in found]
            self.assertEqual(times, sorted(times))
            if found:
                line = found[-1].text.splitlines()[0]
                for name, side in (("Athlete", "a"), ("Opponent", "b")):
                    self.assertRegex(line, rf"{name} {verdict.score[side]['points']}\b")

    def test_captions_of_a_worked_example(self):
        verdict = adjudicate(
            read_log(log(start(2), at(10, "guard", "a"), seen(20, "technique", by="a", technique="<b>&"), end(30)))
        )
        found = [(caption.start, caption.end, caption.text) for caption in webvtt.from_string(captions(verdict))]
        self.assertEqual(found[0], ("00:00:02.000", "00:00:13.000", "Athlete 0 | Opponent 0"))
        self.assertEqual(found[1][:2], ("00:00:13.000", "00:00:18.000"))
        self.assertIn("held for 3 s", found[1][2])
        self.assertEqual(found[-1], ("00:00:18.000", "00:00:35.000", "Athlete 2 | Opponent 0"))
        self.assertEqual(SHOWN, 5000)

    def test_overtime_stands_in_every_file(self):
        rules = {"extends": "full-points", "overtime": {"seconds": 60, "golden": "points"}}
        raw = log(
            start(), stop(300), seen(305, "period"), start(310), at(315, "guard", "a"), end(318, how="time"),
            ruleset=rules,
        )  # fmt: skip
        verdict = adjudicate(read_log(raw))
        self.assertEqual([row["period"] for row in csv.DictReader(io.StringIO(ledger_csv(verdict)))], ["1"])
        self.assertIn("Athlete 0 | Opponent 0\nOvertime.", captions(verdict))
        self.assertIn("5:05 to 5:08 · guard (athlete on top) to guard (athlete on top) · overtime", export(raw, "text"))

    def test_captions_of_a_stretch_cut_out(self):
        """The times count from its beginning; a heading stands throughout, and alone where there is no score yet."""
        verdict = adjudicate(read_log(log(start(10), at(20, "guard", "a"), end())))
        cut = webvtt.from_string(captions_of(verdict, 5_000, 30_000, "0:13 Takedown"))
        found = [(caption.start, caption.end, caption.text) for caption in cut]
        self.assertEqual(found[0], ("00:00:00.000", "00:00:05.000", "0:13 Takedown"))
        self.assertEqual(found[1], ("00:00:05.000", "00:00:18.000", "0:13 Takedown\nAthlete 0 | Opponent 0"))
        self.assertEqual(found[2][:2], ("00:00:18.000", "00:00:23.000"))
        self.assertIn("Athlete 2 | Opponent 0\nTakedown:", found[2][2])
        self.assertEqual(found[-1][1], "00:00:25.000")
        alone = list(webvtt.from_string(captions_of(verdict, 0, 4_000, "Before")))
        self.assertEqual(
            [(one.start, one.end, one.text) for one in alone], [("00:00:00.000", "00:00:04.000", "Before")]
        )

    def test_marks_in_a_name_do_not_break_the_captions(self):
        hold = seen(20, "submission", by="a", technique="choke --> <i>&", threat="close")
        text = captions(adjudicate(read_log(log(start(), hold, end()))))
        self.assertNotIn("<i>", text)
        self.assertEqual(len(list(webvtt.from_string(text))), 3)

    def test_the_sheet_says_all_that_was_given_and_missed(self):
        text = export(log(start(), at(10, "guard", "a"), at(40, "mount", "a"), at(42, "guard", "a"), end()), "text")
        for said in ("Full points", "Athlete, 2 points", "2 s of 3 s", "overrule this sheet", "won on points"):
            self.assertIn(said, text)

    LOGGED = (
        seen(4, "grip", by="a", grip="collar", own="right", target="left", until=9),
        seen(5, "legs", by="b", knee="caught", leg="right"),
        seen(6, "contest", **{"for": "head"}, won="a"),
        seen(7, "board", score={"a": {"points": 2}, "b": {"penalties": 1}}),
        seen(8, "unwatched", until=12),
        seen(13, "mark", on="a", cause="grips", text="=1+1", instead="Frame first.", hurt="left knee", sure=False),
    )

    def test_what_was_logged_as_a_table(self):
        """Every kind and field, each in its column; an injury is in no file of this kind."""
        text = export(log(start(), *self.LOGGED, end()), "logged")
        rows = list(csv.DictReader(io.StringIO(text)))
        self.assertEqual([row["kind"] for row in rows][1:-1], [one["kind"] for one in self.LOGGED])
        grip, legs, contest, board, unwatched, mark = rows[1:-1]
        self.assertEqual([grip[name] for name in ("t", "clock", "until", "side", "own", "target")],
                         ["4", "0:04", "9", "a", "right", "left"])  # fmt: skip
        self.assertEqual((legs["side"], legs["knee"], legs["leg"]), ("b", "caught", "right"))
        self.assertEqual((contest["side"], contest["for"]), ("a", "head"))
        self.assertEqual((board["score"], unwatched["until"]), ("2-0-0 0-0-1", "12"))
        self.assertEqual((mark["text"], mark["instead"], mark["sure"]), ("'=1+1", "Frame first.", "false"))
        self.assertNotIn("left knee", text)

    def test_what_was_logged_as_captions(self):
        text = export(log(start(), *self.LOGGED, end()), "logged-vtt")
        cues = [(cue.start, cue.end, cue.text) for cue in webvtt.from_string(text)]
        self.assertIn(("00:00:04.000", "00:00:09.000", "Athlete · grip · own right · target left · collar"), cues)
        self.assertIn(("00:00:05.000", "00:00:07.000", "Opponent · legs · knee caught · right"), cues)
        self.assertNotIn("left knee", text)

    def test_every_random_log_can_be_taken_away(self):
        rng = random.Random(8)
        for _ in range(60):
            raw = random_log(rng, 40)
            for name in FORMS:
                export(raw, name)
            rows = list(csv.DictReader(io.StringIO(export(raw, "logged"))))
            self.assertEqual(len(rows), len(raw["observations"]))

    def test_files_carry_the_names_and_the_event(self):
        names = {"a": "Ada Brenn", "b": "Bo Calder"}
        read = read_log(log(start(), at(10, "guard", "a"), at(40, "standing"), end()))
        verdict, of = adjudicate(read), Heading(names, "Dune Open, 2026-03-01")
        sheet = export_named("text").made(read, verdict, of)
        for text in (
            "Dune Open, 2026-03-01",
            "Ada Brenn, 2 points",
            "Takedown: Ada Brenn in position",
            "Ada Brenn won",
        ):
            self.assertIn(text, sheet)
        self.assertNotIn("thlete", sheet)
        self.assertIn("Ada Brenn 2 | Bo Calder 0", export_named("vtt").made(read, verdict, of))
        self.assertIn("Ada Brenn · position", export_named("logged-vtt").made(read, verdict, of))

    def test_a_log_goes_out_and_in(self):
        raw = log(start(), at(10, "mount", "a", camera="north"), end())
        self.assertEqual(json.loads(export(raw, "log")), raw)


class Versions(unittest.TestCase):
    OLD = {
        "format": "jurata-match/0",
        "ruleset": "full-points",
        "minutes": 5,
        "division": {"age": 24, "belt": "blue", "gi": False},
        "observations": [start(), at(10, "mount", "a"), end()],
        "camera": "kept",
    }

    def test_an_old_file_is_upgraded_when_it_is_read(self):
        before = copy.deepcopy(self.OLD)
        checked = read_log(self.OLD)
        self.assertEqual((checked.duration, checked.division.attire), (300_000, "nogi"))
        written = json.loads(write_log(checked))
        self.assertEqual((written["format"], written["camera"], written["duration"]), (FORMAT, "kept", 300))
        self.assertTrue(MATCH.is_valid(written))
        self.assertEqual(self.OLD, before)

    def test_a_fault_in_an_old_file_is_named(self):
        for raw in (
            self.OLD | {"minutes": "five"},
            {name: value for name, value in self.OLD.items() if name != "minutes"},
        ):
            with self.assertRaises(FaultyInput):
                read_log(raw)

    def test_a_newer_file_is_refused(self):
        with self.assertRaises(FaultyInput) as caught:
            read_log(log(start(), end()) | {"format": "jurata-match/4"})
        self.assertIn("jurata-match/3", str(caught.exception))


class Commands(unittest.TestCase):
    """Every command of ``bin/jurata`` on a real file."""

    @classmethod
    def setUpClass(cls):
        cls.folder = tempfile.TemporaryDirectory()
        cls.addClassCleanup(cls.folder.cleanup)
        cls.log = Path(cls.folder.name) / "match.json"
        cls.raw = log(start(), at(10, "mount", "a", sure=False), seen(15, "call", to="a", points=4), end())
        cls.log.write_text(json.dumps(cls.raw))
        cls.house = Path(cls.folder.name) / "house.json"
        cls.house.write_text(json.dumps({"extends": "full-points", "points": {"mount": 7}}))

    def run_jurata(self, *arguments, code=0):
        done = subprocess.run([JURATA, *arguments], capture_output=True, text=True, check=False)
        self.assertEqual(done.returncode, code, done.stderr)
        self.assertNotIn("Traceback", done.stderr)
        return done.stdout if code == 0 else done.stderr

    def test_audit_and_compare(self):
        self.assertEqual(json.loads(self.run_jurata("audit", self.log))["agreement"]["points"]["agreed"], 1)
        self.assertEqual(json.loads(self.run_jurata("compare", self.log, self.log))["alpha"], 1)
        self.assertIn("logs:", self.run_jurata("compare", self.log, code=2))

    def test_what_if(self):
        said = json.loads(self.run_jurata("what-if", self.log))
        self.assertEqual(
            [column["ruleset"] for column in said["columns"]],
            ["full-points", "house-warnings", "late-points", "submission-only"],
        )
        said = json.loads(self.run_jurata("what-if", self.log, "--ruleset", self.house))
        self.assertEqual(said["columns"][1]["score"]["a"]["points"], 9)

    def test_score_under_another_ruleset(self):
        brief = json.loads(self.run_jurata("score", self.log, "--ruleset", self.house, "--brief"))
        self.assertEqual((brief["score"]["a"]["points"], set(brief)), (9, {"score", "result", "because"}))
        self.assertIn("ruleset:", self.run_jurata("score", self.log, "--ruleset", "no-such", code=2))

    def test_several_processes_answer_in_the_order_of_the_lines(self):
        lines = Path(self.folder.name) / "many.jsonl"
        rows = [json.dumps(log(start(), at(10, "guard", "ab"[n % 2]), end())) if n % 7 else "{" for n in range(100)]
        lines.write_text("\n".join(rows))
        alone = self.run_jurata("score", "--lines", lines, "--brief")
        self.assertEqual(alone, self.run_jurata("score", "--lines", lines, "--brief", "--jobs", "2"))
        self.assertEqual(len(alone.splitlines()), 100)
        self.assertIn("can't be read", self.run_jurata("score", "--lines", "nowhere.jsonl", code=2))

    def test_exports_and_schemas(self):
        for form in FORMS:
            self.assertTrue(self.run_jurata("export", self.log, "--as", form))
        self.assertEqual(json.loads(self.run_jurata("schema", "verdict")), verdict_schema())

    def test_division(self):
        said = json.loads(
            self.run_jurata("division", "--born", "2016", "--year", "2026", "--belt", "blue", "--attire", "gi")
        )
        self.assertEqual((said["age"], said["match_length"]), (10, 240))
        self.assertIn("starts at age 16", said["doubts"][0])
        self.assertIn(
            "year:", self.run_jurata("division", "--born", "2016", "--belt", "blue", "--attire", "gi", code=2)
        )
