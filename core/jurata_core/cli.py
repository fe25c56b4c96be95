"""The command line over the core. No database, no server."""

from __future__ import annotations

import argparse
import contextlib
import errno
import io
import json
import os
import signal
import sys
from collections.abc import Callable, Iterator
from functools import partial
from itertools import chain
from pathlib import Path
from typing import IO, Any, cast

from .answers import (
    FORMS,
    Answer,
    ask_division,
    ask_legality,
    audit_calls,
    compare_scorers,
    export,
    review_both,
    review_of,
    score,
    under_rulesets,
)
from .faults import Fault, FaultyInput
from .formats.schema import match_schema, ruleset_schema, verdict_schema
from .json_text import MOST_BYTES, parse_json
from .match_log import read_log
from .match_log.observations import SIDES
from .rulebook import DANGER, DEFERENCE

SCHEMAS = {"match": match_schema, "verdict": verdict_schema, "ruleset": ruleset_schema}
LINES_A_TASK = 16
"""How many lines a worker is handed at a time."""


def _read(path: str) -> Any:
    with _opened(path) as stream:
        try:
            data = stream.read(MOST_BYTES + 1)
        except OSError as error:  # a folder, or a disk that fails
            raise _unreadable(path, error) from None
    return parse_json(data)


def _unreadable(path: str, error: OSError) -> FaultyInput:
    return FaultyInput([Fault(path, f"can't be read: {error.strerror}", "missing")])


def _opened(path: str) -> IO[bytes]:
    if path == "-":
        if sys.stdin is None:
            raise FaultyInput([Fault(path, "can't be read: standard input is closed", "missing")])
        return sys.stdin.buffer
    try:
        return open(path, "rb")
    except OSError as error:
        raise _unreadable(path, error) from None


def _lines(path: str) -> Iterator[str]:
    """Lines of a file, each cut off where it passes the limit of one log. The encoding is that of its first bytes."""
    with _opened(path) as raw:
        stream = raw if isinstance(raw, io.BufferedReader) else io.BufferedReader(cast(Any, raw))
        encoding = json.detect_encoding(stream.peek(4)[:4])
        with io.TextIOWrapper(stream, encoding, errors="surrogateescape", newline="\n") as text:
            while line := text.readline(MOST_BYTES + 1):
                while len(line) > MOST_BYTES and not line.endswith("\n") and (rest := text.readline(MOST_BYTES)):
                    line = line[: MOST_BYTES + 1]
                    if rest.endswith("\n"):
                        break
                yield line


def _answer_line(answer: Callable[[Any], Answer], line: str) -> str:
    try:
        if not line.strip():
            raise FaultyInput([Fault("line", "is empty", "missing")])
        # What could not be decoded stands there as half characters, and is no text when it is encoded again.
        reply = answer(parse_json(line.encode("utf-8", "surrogateescape")))
    except FaultyInput as error:
        reply = {"faults": [str(fault) for fault in error.faults]}
    return json.dumps(reply, ensure_ascii=False) + "\n"


def _answer_lines(path: str, answer: Callable[[Any], Answer], jobs: int) -> None:
    """One answer a line, in the order of the lines, by one process or several."""
    lines = _lines(path)
    first = next(lines, None)  # a file that can't be read is refused before any worker starts
    if first is None:
        return
    lines = chain((first,), lines)
    if jobs == 1:
        for line in lines:
            sys.stdout.write(_answer_line(answer, line))
        return
    from multiprocessing import Pool  # here, since a single log needs none

    # An interrupt goes to all of them; this process speaks for them.
    with Pool(jobs, signal.signal, (signal.SIGINT, signal.SIG_IGN)) as pool:
        for reply in pool.imap(partial(_answer_line, answer), lines, LINES_A_TASK):
            sys.stdout.write(reply)


def _ruleset(named: str) -> Any:
    """A preset's id, or the path of a JSON file that holds a ruleset."""
    return _read(named) if named.endswith(".json") else named


def _score(options: argparse.Namespace) -> Answer | None:
    ruleset = None if options.ruleset is None else _ruleset(options.ruleset)
    return _one_or_lines(options, partial(score, ruleset=ruleset, brief=options.brief), options.jobs)


def _one_or_lines(options: argparse.Namespace, answer: Callable[[Any], Answer], jobs: int = 1) -> Answer | None:
    """The answer to the log that is named, or one to each line of a file."""
    if options.lines is not None:
        if options.log is not None:
            message = f"{options.log} and --lines {options.lines} are both given; name one of them"
            raise FaultyInput([Fault("log", message, "duplicate")])
        _answer_lines(options.lines, answer, jobs)
        return None
    if options.log is None:
        raise FaultyInput([Fault("log", "is missing: name a file, - for standard input, or --lines", "missing")])
    return answer(_read(options.log))


def _legality(options: argparse.Namespace) -> Answer | None:
    if options.lines is not None:
        _answer_lines(options.lines, ask_legality, 1)
        return None
    asked = {name: getattr(options, name) for name in ("technique", "belt", "attire")}
    ruleset = None if options.ruleset is None else _ruleset(options.ruleset)
    if sys.stderr.isatty():  # to a person, and not to a program
        print(f"{DANGER} {DEFERENCE}", file=sys.stderr)
    return ask_legality({**asked, "age": _whole(options.age), "ruleset": ruleset})


def _division(options: argparse.Namespace) -> Answer:
    years = {name: _whole(getattr(options, name)) for name in ("age", "born", "year")}
    return ask_division({**years, "belt": options.belt, "attire": options.attire})


def _export(options: argparse.Namespace) -> None:
    sys.stdout.write(export(_read(options.log), options.form))


def _what_if(options: argparse.Namespace) -> Answer:
    return under_rulesets(_read(options.log), [_ruleset(named) for named in options.ruleset])


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="jurata", description="Scores match logs and looks up what is legal.")
    commands = parser.add_subparsers(dest="command", required=True)

    def command(name: str, about: str, run: Callable[[argparse.Namespace], Answer | None]) -> argparse.ArgumentParser:
        added = commands.add_parser(name, help=about)
        added.set_defaults(run=run)
        return added

    scoring = command("score", "print the verdict on a match log as JSON", _score)
    scoring.add_argument("log", nargs="?", help="a match log or case file, or - for standard input")
    scoring.add_argument("--lines", metavar="LOGS.jsonl", help="one log per input line, one verdict per output line")
    scoring.add_argument("--ruleset", help="score under this preset or ruleset file instead of the log's own")
    scoring.add_argument("--brief", action="store_true", help="print only the score and the result")
    scoring.add_argument("--jobs", type=int, choices=range(1, 65), default=1, metavar="N", help="processes for --lines")
    asking = command("legality", "say whether a technique is legal in a division", _legality)
    asking.epilog = f"{DANGER} {DEFERENCE}"
    for name in ("technique", "age", "belt", "attire", "ruleset"):
        asking.add_argument(f"--{name}")
    asking.add_argument("--lines", metavar="ASK.jsonl", help="one question per input line, one answer per output line")
    division = command("division", "print the age class, belts and match length of a division", _division)
    for name in ("age", "born", "year", "belt", "attire"):
        division.add_argument(f"--{name}")
    auditing = command("audit", "hold the officials' calls in a log against its ledger", _audit)
    auditing.add_argument("log")
    comparing = command("compare", "compare the logs of two or more scorers of one match", _compare)
    comparing.add_argument("logs", nargs="+")
    wondering = command("what-if", "score a log under several rulesets side by side", _what_if)
    wondering.add_argument("log")
    wondering.add_argument("--ruleset", action="append", default=[], help="a preset or a file; all presets if none")
    reviewing = command("review", "list the athlete's errors in a log, with cost and roots", _review)
    reviewing.add_argument("log", nargs="?")
    reviewing.add_argument("--lines", metavar="LOGS.jsonl", help="one log per input line, one review per output line")
    whose = reviewing.add_mutually_exclusive_group()
    whose.add_argument("--side", choices=SIDES, default="a", help="whose errors")
    whose.add_argument("--both", action="store_true", help="the errors of either side, as {a: [...], b: [...]}")
    gathering = command("season", "add up the season of an athlete out of many match logs", _season)
    gathering.add_argument("logs", nargs="+", help="folders, zips, files of lines (.jsonl) or match logs")
    gathering.add_argument("--athlete", help="whose season; needed where the matches are of several")
    gathering.add_argument("--tables", metavar="FOLDER", help="write all matches as CSV tables with a dictionary")
    exporting = command("export", "write a verdict as a file of another form", _export)
    exporting.add_argument("log")
    exporting.add_argument("--as", dest="form", choices=FORMS, required=True)
    sitting = command("table", "run a simulated scoreboard table for the logs of a folder", _table)
    sitting.add_argument("logs", nargs="+", help="match logs or case files; a match is called like its file")
    where = sitting.add_mutually_exclusive_group(required=True)
    where.add_argument("--port", type=int, choices=range(1, 65536), metavar="PORT", help="serve them on loopback")
    where.add_argument("--file", metavar="CALLS.jsonl", help="write the calls of the first log to a file")
    describing = command("schema", "print the JSON Schema of a format", _schema)
    describing.add_argument("name", choices=SCHEMAS)
    return parser


def _table(options: argparse.Namespace) -> None:
    from jurata_simulation.table import running, serve  # a web server, which no other command needs

    logs = {Path(path).stem: read_log(_read(path)) for path in options.logs}
    if options.file is not None:
        Path(options.file).write_text("".join(f"{line}\n" for line in running(next(iter(logs.values())), 0)))
        return
    with serve(logs, options.port) as server:
        try:
            server.serve_forever()
        except KeyboardInterrupt:
            return


def _audit(options: argparse.Namespace) -> Answer:
    return audit_calls(_read(options.log))


def _compare(options: argparse.Namespace) -> Answer:
    return compare_scorers([_read(path) for path in options.logs])


def _review(options: argparse.Namespace) -> Answer | None:
    return _one_or_lines(options, review_both if options.both else partial(review_of, side=options.side))


def _season(options: argparse.Namespace) -> Answer | None:
    from .season import tables  # here, since the other commands need no statistics
    from .season.answer import gather, season_answer

    found = gather([Path(path) for path in options.logs])
    for one in found.unread:
        for fault in one.faults:
            print(f"{one.source}: {fault}", file=sys.stderr)
    if options.tables is None:
        return season_answer(found, options.athlete)
    folder = Path(options.tables)
    folder.mkdir(parents=True, exist_ok=True)
    for name, text in tables.files(found.entries):
        (folder / name).write_text(text, "utf-8", newline="")
    return None


def _schema(options: argparse.Namespace) -> Answer:
    return SCHEMAS[options.name]()


def main(argv: list[str] | None = None) -> int:
    """Run a command. Returns 0 for done, 2 for faulty input with one line per fault on standard error.

    What is no fault of the input is one line and 1: a library that is not installed, or an output that takes nothing
    more. An interrupt is 130.
    """
    try:
        for stream in (sys.stdout, sys.stderr):
            if isinstance(stream, io.TextIOWrapper):
                stream.reconfigure(encoding="utf-8", errors="backslashreplace")
        options = _parser().parse_args(argv)
        _run(options)
    except FaultyInput as error:
        for fault in error.faults:
            print(fault, file=sys.stderr)
        return 2
    except KeyboardInterrupt:
        return _failed("Interrupted.", 130)
    except ImportError as error:
        library = error.name or "a library"
        return _failed(f"This command needs {library}, which is not installed here. ./start or ./test installs it.")
    except OSError as error:
        return _failed(f"The output could not be written: {error.strerror or error}.")
    return 0


def _run(options: argparse.Namespace) -> None:
    if sys.stdout is None:
        raise OSError(errno.EBADF, "standard output is closed")
    reply = options.run(options)
    if reply is not None:
        for piece in _written(reply):
            sys.stdout.write(piece)
    sys.stdout.flush()


def _written(reply: Answer) -> Iterator[str]:
    """JSON with a field a line, and of a list a row a line: to be read by people, and quickly written."""
    for number, (name, value) in enumerate(reply.items()):
        yield f"{',' if number else '{'}\n {_dumped(name)}: "
        if isinstance(value, list) and value:
            for at, row in enumerate(value):
                yield f"{',' if at else '['}\n  {_dumped(row)}"
            yield "\n ]"
        else:
            yield _dumped(value)
    yield "\n}\n" if reply else "{}\n"


def _dumped(value: Any) -> str:
    return json.dumps(value, ensure_ascii=False)


def _failed(message: str, status: int = 1) -> int:
    """Say why in one line, and let go of an output that takes nothing: Python would complain of it at its end."""
    if sys.stderr is not None:
        print(message, file=sys.stderr)
    with contextlib.suppress(OSError, ValueError, AttributeError):
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())
    return status


def _whole(text: str | None) -> int | str | None:
    """A number as typed; what is no whole number is left for the check to refuse."""
    return int(text) if text is not None and text.isascii() and text.isdigit() and len(text) < 6 else text
