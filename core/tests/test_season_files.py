"""Seasons out of files and into tables: what is read, what is refused and why, and that every table says what it holds."""

from __future__ import annotations

import csv
import io
import json
import tempfile
import unittest
import unittest.mock
import zipfile
from contextlib import redirect_stderr, redirect_stdout
from pathlib import Path

from jurata_core.cli import main
from jurata_core.faults import FaultyInput
from jurata_core.season import reading
from jurata_core.season.answer import gather
from jurata_core.season.reading import Record, Unread, read_records, sources_of
from jurata_core.season.tables import TABLES, files

from .test_season import MATCH

ABOUT = {"athlete": "Ada Finch", "opponent": "Bo Calder", "event": "Thaw Cup", "date": "2026-03-14"}


class FilesCase(unittest.TestCase):
    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)

    def put(self, name, *values):
        path = self.folder / name
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_text("\n".join(json.dumps(one) if not isinstance(one, str) else one for one in values))
        return path

    def zipped(self, name, entries):
        path = self.folder / name
        with zipfile.ZipFile(path, "w", zipfile.ZIP_DEFLATED) as archive:
            for entry, value in entries.items():
                archive.writestr(entry, value if isinstance(value, str | bytes) else json.dumps(value))
        return path

    def run_command(self, *words):
        out, err = io.StringIO(), io.StringIO()
        with redirect_stdout(out), redirect_stderr(err):
            status = main(["season", *map(str, words)])
        return status, out.getvalue(), err.getvalue()


class Reading(FilesCase):
    def read(self, path):
        return list(read_records(sources_of(path)))

    def test_one_line_is_one_match_and_a_bad_one_spoils_no_other(self):
        path = self.put(
            "all.jsonl", {**ABOUT, "log": MATCH}, "{not json", "", {**ABOUT, "date": "March", "log": {}}, MATCH
        )
        first, broken, wrong, alone = self.read(path)
        self.assertEqual(
            (first.about.athlete, str(first.about.date), first.source), ("Ada Finch", "2026-03-14", "all.jsonl, line 1")
        )
        self.assertIn("is not JSON", broken.faults[0].message)
        paths = [fault.path for fault in wrong.faults]
        self.assertEqual(wrong.source, "all.jsonl, line 4")
        self.assertLessEqual({"date", "log.format", "log.observations"}, set(paths))
        self.assertEqual(alone.about.athlete, "")

    def test_a_folder_and_a_zip_hold_the_same(self):
        self.put("season/a.json", {**ABOUT, "log": MATCH})
        self.put("season/more/b.jsonl", MATCH, MATCH)
        self.put("season/readme.txt", "no match")
        zipped = self.zipped(
            "season.zip",
            {"a.json": {**ABOUT, "log": MATCH}, "more/b.jsonl": f"{json.dumps(MATCH)}\n" * 2, "x.txt": "?"},
        )
        for path in (self.folder / "season", zipped):
            found = self.read(path)
            self.assertEqual([one.about.athlete for one in found[:3]], ["Ada Finch", "", ""], path)
            self.assertIn("is no match log", found[3].faults[0].message)  # named, and not passed over in silence
            self.assertIn(found[3].source, ("readme.txt", "x.txt"))

    def test_every_file_next_to_logs_of_an_export_is_accounted_for(self):
        inner = self.zipped("inner.zip", {"c.json": MATCH, "deep.zip": "?"}).read_bytes()
        found = self.read(self.zipped("all.zip", {
            "log.json": MATCH, "match.json": ABOUT, "b.json": MATCH, "rulesets/ours.json": {}, "people.csv": "?",
            "inner.zip": inner, "damaged.zip": "PK", "lines.jsonl": json.dumps(MATCH),
        }))  # fmt: skip
        read = {one.source: isinstance(one, Record) for one in found}
        self.assertEqual(read, {
            "log.json": True, "b.json": True, "inner.zip: c.json": True, "inner.zip: deep.zip": False,
            "damaged.zip": False, "lines.jsonl, line 1": True,
        })  # fmt: skip

    def test_an_export_of_a_club_is_read_with_what_it_says_of_each_match(self):
        found = self.read(self.zipped("club.zip", {
            "club.json": {"name": "Millrace"},
            "matches/one/log.json": MATCH,
            "matches/one/match.json": {**ABOUT, "id": "x", "created": "2026"},
            "matches/one/history.json": [],
            "matches/two/log.json": MATCH,
        }))  # fmt: skip
        self.assertEqual([one.about.opponent for one in found], ["Bo Calder", ""])

    def test_what_can_t_be_read_says_so(self):
        damaged = self.zipped("damaged.zip", {"a.json": json.dumps(MATCH)})
        data = bytearray(damaged.read_bytes())
        data[60:70] = b"0123456789"
        damaged.write_bytes(data)
        found = self.read(damaged)
        self.assertIsInstance(found[0], Unread)
        with self.assertRaises(FaultyInput) as missing:
            self.read(self.folder / "nowhere" / "x.jsonl")
        self.assertIn("x.jsonl", str(missing.exception))

    def test_a_zip_that_unpacks_to_too_much_is_not_unpacked(self):
        bomb = self.zipped("bomb.zip", {"a.json": b" " * 1_000_000})
        with unittest.mock.patch.object(reading, "MOST_UNPACKED", 500_000), self.assertRaises(FaultyInput) as refused:
            self.read(bomb)
        self.assertEqual(refused.exception.faults[0].code, "too_large")

    def test_a_file_larger_than_a_log_is_one_fault(self):
        with (
            unittest.mock.patch.object(reading, "MOST_BYTES", 40),
            unittest.mock.patch("jurata_core.json_text.MOST_BYTES", 40),
        ):
            found = self.read(self.put("long.jsonl", MATCH, '{"log": 1}'))
        self.assertEqual([one.source for one in found], ["long.jsonl, line 1", "long.jsonl, line 2"])
        self.assertEqual(found[0].faults[0].code, "too_large")

    def test_texts_no_database_can_hold_are_refused(self):
        found = self.read(
            self.put(
                "nul.jsonl", {**ABOUT, "opponent": "\0", "log": MATCH}, {**ABOUT, "event": "x" * 121, "log": MATCH}
            )
        )
        self.assertEqual([one.faults[0].path for one in found], ["opponent", "event"])


class Command(FilesCase):
    def test_the_season_of_an_athlete(self):
        rows = [{**ABOUT, "date": f"2026-03-{day}", "log": MATCH} for day in (14, 15, 16)]
        path = self.put("all.jsonl", *rows, "{")
        status, out, err = self.run_command(path, "--athlete", "Ada Finch")
        answer = json.loads(out)
        self.assertEqual((status, answer["matches"], answer["athlete"]), (0, 3, "Ada Finch"))
        self.assertEqual((answer["kinds"][0]["cost"]["unknown"], answer["split"]), (0, "2026-03-15"))
        self.assertIn("all.jsonl, line 4: file: is not JSON", err)
        self.assertEqual(answer["unread"][0]["source"], "all.jsonl, line 4")

    def test_of_several_one_is_named(self):
        path = self.put("all.jsonl", {**ABOUT, "log": MATCH}, {**ABOUT, "athlete": "Cy Dorn", "log": MATCH})
        status, _, err = self.run_command(path)
        self.assertEqual(status, 2)
        self.assertIn('there are matches of "Ada Finch", "Cy Dorn"', err)
        status, _, err = self.run_command(path, "--athlete", "Nobody")
        self.assertEqual((status, "has no match here" in err), (2, True))

    def test_nothing_at_all_is_a_season_of_no_matches(self):
        status, out, _ = self.run_command(self.put("empty.jsonl", ""))
        self.assertEqual((status, json.loads(out)["matches"]), (0, 0))


class Tables(FilesCase):
    def setUp(self):
        super().setUp()
        awkward = {**ABOUT, "opponent": '=1+1,"x"\n', "log": MATCH}
        self.entries = gather([self.put("all.jsonl", {**ABOUT, "log": MATCH}, awkward)]).entries

    def tables(self):
        return {name: list(csv.DictReader(io.StringIO(text, newline=""))) for name, text in files(self.entries)}

    def test_each_column_is_in_the_dictionary_and_holds_what_it_says(self):
        tables = self.tables()
        said = {(row["table"], row["column"]): row for row in tables["dictionary.csv"]}
        for table in TABLES:
            for row in tables[f"{table.name}.csv"]:
                self.assertEqual(list(row), [column.name for column in table.columns])
                for name, value in row.items():
                    kind = said[table.name, name]["type"]
                    if value and kind in ("number", "whole number"):
                        float(value)
                    if kind == "true or false":
                        self.assertIn(value, ("true", "false"))

    def test_they_add_up_to_the_matches(self):
        tables = self.tables()
        for match in tables["matches.csv"]:
            points = sum(
                int(row["points"])
                for row in tables["scores.csv"]
                if row["match"] == match["match"] and row["by"] == "a"
            )
            self.assertEqual(points, int(match["points_a"]))
            lasted = sum(float(row["length"]) for row in tables["parts.csv"] if row["match"] == match["match"])
            self.assertAlmostEqual(lasted, 2 * float(match["length"]))  # once by thirds, once by who was ahead
        self.assertEqual(
            {row["match"] for row in tables["errors.csv"]}, {row["match"] for row in tables["matches.csv"]}
        )

    def test_no_cell_is_calculated_by_a_spreadsheet(self):
        second = self.tables()["matches.csv"][1]
        self.assertEqual(second["opponent"], '\'=1+1,"x"')

    def test_the_command_writes_them(self):
        into = self.folder / "new" / "tables"
        status, out, _ = self.run_command(self.folder / "all.jsonl", "--tables", into)
        self.assertEqual((status, out), (0, ""))
        self.assertEqual(
            sorted(path.stem for path in into.iterdir()), sorted([*(one.name for one in TABLES), "dictionary"])
        )


class Records(unittest.TestCase):
    def test_a_log_may_come_as_a_case(self):
        found = next(read_records([reading.Source("case", lambda: {"log": MATCH, "expect": {}})]))
        self.assertIsInstance(found, Record)
