"""Many match logs at once, out of folders, zips, files of lines and single files: each is read, or said what is wrong.

A match is a JSON object with who fought, where and when, and its ``log``; a log alone is read too. Where a folder or a
zip has files called ``log.json``, as a club's export has, those are matches, each with the ``match.json`` next to it,
and the other files of an export are passed over. Of any other file it is said that it is no match log, by its name.
"""

from __future__ import annotations

import datetime
import io
import shutil
import tempfile
import zipfile
import zlib
from collections.abc import Callable, Iterable, Iterator
from pathlib import Path, PurePosixPath
from typing import IO, Any, NamedTuple

from ..faults import Fault, FaultCode, FaultyInput, quoted
from ..fields import Check, Wrong, read_fields
from ..json_text import MOST_BYTES, parse_json, unstorable
from ..match_log import MatchLog, read_log

MOST_FILES = 100_000
"""So many files of one folder or zip are looked at."""
MOST_UNPACKED = 2 * 1024**3
LOG, MATCH = "log.json", "match.json"
BESIDE_LOGS = frozenset({
    MATCH, "history.json", "report.json", "club.json", "account.json", "athlete.json", "plans.json", "causes.json",
    "drills.json", "event-days.json", "kinds-of-errors.json",
})  # fmt: skip
"""What an export has next to its logs, besides rulesets, tables, a text to read and clips."""
READ = (".json", ".jsonl", ".zip")


class About(NamedTuple):
    """Who fought, where and when; what is not known is empty."""

    athlete: str = ""
    opponent: str = ""
    club: str = ""
    """The opponent's."""
    event: str = ""
    round: str = ""
    weight_class: str = ""
    mat: str = ""
    date: datetime.date | None = None


class Record(NamedTuple):
    """A match that could be read, and where from."""

    source: str
    about: About
    log: MatchLog


class Unread(NamedTuple):
    """What could not be read, and every fault of it."""

    source: str
    faults: tuple[Fault, ...]


class Source(NamedTuple):
    """Something that should hold one match: its name, and how to get its JSON values, which may raise FaultyInput."""

    name: str
    values: Callable[[], Any]


def text_of(most: int) -> Check:
    """Text of up to so many characters, without the spaces around it."""

    def check(value: Any) -> str:
        if not isinstance(value, str):
            raise Wrong(f"{quoted(value)} should be text")
        if len(value.strip()) > most:
            raise Wrong(f"has {len(value.strip())} characters; {most} at most", "too_large")
        return value.strip()

    return Check(check, {"type": "string", "maxLength": most})


def _date(value: Any) -> datetime.date:
    try:
        return datetime.date.fromisoformat(value)
    except (TypeError, ValueError):
        raise Wrong(f"{quoted(value)} should be a date such as 2026-03-14") from None


ABOUT: tuple[tuple[str, Check, Any], ...] = (
    ("athlete", text_of(80), ""),
    ("opponent", text_of(80), ""),
    ("club", text_of(80), ""),
    ("event", text_of(120), ""),
    ("round", text_of(40), ""),
    ("weight_class", text_of(40), ""),
    ("mat", text_of(20), ""),
    ("date", Check(_date, {"type": "string", "format": "date"}), None),
)
"""The fields of a match next to its log."""


def read_record(source: str, raw: Any) -> Record:
    """A match out of JSON values. Raises FaultyInput with every fault."""
    faults = list(unstorable(raw))
    if faults:
        raise FaultyInput(faults)
    whole = raw if isinstance(raw, dict) and isinstance(raw.get("log"), dict) else {"log": raw}
    about = read_fields(whole, ABOUT, "", faults)
    try:
        log = read_log(whole["log"])
    except FaultyInput as error:
        inside = "" if whole["log"] is raw else "log."
        raise FaultyInput(
            [*faults, *(Fault(inside + one.path, one.message, one.code) for one in error.faults)]
        ) from None
    if faults:
        raise FaultyInput(faults)
    return Record(source, About(**about), log)


def read_records(sources: Iterable[Source]) -> Iterator[Record | Unread]:
    """Each match, or what is wrong with it, in order; nothing of the others is kept in memory."""
    for source in sources:
        try:
            yield read_record(source.name, source.values())
        except FaultyInput as error:
            yield Unread(source.name, error.faults)


def sources_of(path: Path, name: str = "") -> Iterator[Source]:
    """What a folder, a zip, a file of lines or a single file holds; ``name`` is what it is called, if not by its path.

    Raises FaultyInput where it can't be read.
    """
    name = name or path.name
    try:
        if path.is_dir():
            yield from _of_folder(path)
        elif zipfile.is_zipfile(path):
            yield from _of_zip(path, name, name)
        elif path.suffix.lower() == ".jsonl":
            yield from _of_lines(name, lambda: path.open("rb"))
        else:
            yield Source(name, lambda: parse_json(_start_of(lambda: path.open("rb"))))
    except OSError as error:
        raise FaultyInput([Fault(name, f"can't be read: {error.strerror or error}", "missing")]) from None
    except zipfile.BadZipFile:
        raise FaultyInput([Fault(name, "is a damaged zip", "malformed")]) from None


NO_LOG = "is no match log: those end in .json, .jsonl or .zip"
_Open = Callable[[], io.BufferedIOBase | Any]


def _start_of(opened: _Open) -> bytes:
    """As much of a file as is read of one log, and a byte more where it is larger. Raises FaultyInput."""
    try:
        with opened() as file:
            data: bytes = file.read(MOST_BYTES + 1)
            return data
    except (OSError, zipfile.BadZipFile, zlib.error, EOFError, RuntimeError, NotImplementedError) as error:
        raise FaultyInput([Fault("file", f"can't be read: {error}", "malformed")]) from None


def _of_lines(name: str, opened: _Open) -> Iterator[Source]:
    try:
        with opened() as file:
            number = 0
            while line := file.readline(MOST_BYTES + 1):
                number += 1
                if line.strip():
                    yield Source(f"{name}, line {number}", _parsed(line))
                if len(line) > MOST_BYTES:  # the rest of a line that is too long is passed over
                    while line and not line.endswith(b"\n"):
                        line = file.readline(MOST_BYTES)
    except (zipfile.BadZipFile, zlib.error, EOFError, RuntimeError, NotImplementedError) as error:
        raise FaultyInput([Fault(name, f"can't be read: {error}", "malformed")]) from None


def _parsed(data: bytes) -> Callable[[], Any]:
    return lambda: parse_json(data)


def _of_folder(folder: Path) -> Iterator[Source]:
    names = sorted(one.relative_to(folder).as_posix() for one in folder.rglob("*") if one.is_file())
    yield from _of_files(names, lambda name: (folder / name).open("rb"))


def _of_zip(file: Path | IO[bytes], called: str, outer: str = "") -> Iterator[Source]:
    """What a zip holds. ``outer`` is its name, and empty for a zip within a zip: one within that is not read."""
    with zipfile.ZipFile(file) as archive:
        if (size := sum(one.file_size for one in archive.infolist())) > MOST_UNPACKED:
            message = f"holds {size // 1024**2} MiB unpacked; {MOST_UNPACKED // 1024**2} MiB at most"
            raise FaultyInput([Fault(called, message, "too_large")])
        names = sorted(one.filename for one in archive.infolist() if not one.is_dir())
        for source in _of_files(names, archive.open, nested=bool(outer)):
            yield source if outer else Source(f"{called}: {source.name}", source.values)


def _of_inner_zip(name: str, opened: _Open) -> Iterator[Source]:
    try:
        with opened() as packed, tempfile.TemporaryFile() as file:
            shutil.copyfileobj(packed, file)
            yield from _of_zip(file, name)
    except FaultyInput as error:
        yield _unreadable(name, error.faults[0].message, error.faults[0].code)
    except (zipfile.BadZipFile, zlib.error, EOFError, RuntimeError, NotImplementedError):
        yield _unreadable(name, "is a damaged zip")


def _unreadable(name: str, message: str, code: FaultCode = "malformed") -> Source:
    """A file that is named as one that could not be read."""

    def values() -> Any:
        raise FaultyInput([Fault("file", message, code)])

    return Source(name, values)


def _of_files(names: list[str], opened: Callable[[str], Any], nested: bool = True) -> Iterator[Source]:
    """The matches among some files, by what they are called; ``nested`` is whether a zip among them is looked into."""
    if len(names) > MOST_FILES:
        raise FaultyInput([Fault("file", f"holds {len(names)} files; {MOST_FILES} at most", "too_large")])
    there = set(names)
    export = any(PurePosixPath(name).name == LOG for name in names)
    for name in names:
        path = PurePosixPath(name)
        kind = path.suffix.lower()
        if path.name == LOG:
            beside = str(path.with_name(MATCH))
            yield Source(name, _with_match(name, beside if beside in there else None, opened))
        elif kind == ".jsonl":
            yield from _of_lines(name, lambda name=name: opened(name))  # type: ignore[misc]
        elif kind == ".zip" and nested:
            yield from _of_inner_zip(name, lambda name=name: opened(name))  # type: ignore[misc]
        elif export and (path.name in BESIDE_LOGS or path.parent.name == "rulesets" or kind not in READ):
            continue
        elif kind == ".json":
            yield Source(name, lambda name=name: parse_json(_start_of(lambda: opened(name))))  # type: ignore[misc]
        else:
            yield _unreadable(name, NO_LOG, "unknown")


def _with_match(name: str, beside: str | None, opened: Callable[[str], Any]) -> Callable[[], Any]:
    """A log with what the file next to it says of its match."""

    def values() -> Any:
        log = parse_json(_start_of(lambda: opened(name)))
        about = {} if beside is None else parse_json(_start_of(lambda: opened(beside)))
        known = about if isinstance(about, dict) else {}
        return {"log": log, **{field: known[field] for field, *_ in ABOUT if field in known}}

    return values
