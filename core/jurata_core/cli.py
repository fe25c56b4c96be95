"""The command line over the core: ``score`` and ``legality``. No database, no server."""

from __future__ import annotations

import argparse
import json
import sys
from collections.abc import Callable, Iterator
from typing import IO, Any

from .answers import Answer, ask_legality, score
from .faults import Fault, FaultyInput
from .match_log import MOST_BYTES, parse_json


def _read(path: str) -> bytes:
    with _opened(path) as stream:
        return stream.read(MOST_BYTES + 1)


def _opened(path: str) -> IO[bytes]:
    if path == "-":
        return sys.stdin.buffer
    try:
        return open(path, "rb")
    except OSError as error:
        raise FaultyInput([Fault(path, f"can't be read: {error.strerror}", "missing")]) from None


def _lines(path: str) -> Iterator[bytes]:
    """Lines of a file, each cut off where it passes the limit of one log."""
    with _opened(path) as stream:
        while line := stream.readline(MOST_BYTES + 1):
            while len(line) > MOST_BYTES and not line.endswith(b"\n") and (rest := stream.readline(MOST_BYTES)):
                line = line[: MOST_BYTES + 1]
                if rest.endswith(b"\n"):
                    break
            if line.strip():
                yield line


def _answer_lines(path: str, answer: Callable[[Any], Answer]) -> None:
    for line in _lines(path):
        try:
            reply = answer(parse_json(line))
        except FaultyInput as error:
            reply = {"faults": [str(fault) for fault in error.faults]}
        sys.stdout.write(json.dumps(reply, ensure_ascii=False) + "\n")


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="jurata", description="Scores match logs and looks up what is legal.")
    commands = parser.add_subparsers(dest="command", required=True)
    scoring = commands.add_parser("score", help="print the verdict on a match log as JSON")
    scoring.add_argument("log", nargs="?", help="a match log or case file, or - for standard input")
    scoring.add_argument("--lines", metavar="LOGS.jsonl", help="one log a line in, one verdict a line out")
    asking = commands.add_parser("legality", help="say whether a technique is legal in a division")
    for name in ("technique", "age", "belt", "attire", "ruleset"):
        asking.add_argument(f"--{name}")
    asking.add_argument("--lines", metavar="ASK.jsonl", help="one question a line in, one answer a line out")
    return parser


def main(argv: list[str] | None = None) -> int:
    """Run a command; 0 for done, 2 for faulty input with one line per fault on standard error."""
    sys.stdout.reconfigure(encoding="utf-8", errors="backslashreplace")  # type: ignore[union-attr]
    sys.stderr.reconfigure(encoding="utf-8", errors="backslashreplace")  # type: ignore[union-attr]
    parser = _parser()
    options = parser.parse_args(argv)
    answer = score if options.command == "score" else ask_legality
    try:
        if options.lines is not None:
            _answer_lines(options.lines, answer)
            return 0
        if options.command == "score":
            if options.log is None:
                parser.error("score needs a log, - for standard input, or --lines")
            reply = score(parse_json(_read(options.log)))
        else:
            asked = {name: getattr(options, name) for name in ("technique", "age", "belt", "attire", "ruleset")}
            asked["age"] = _whole(asked["age"])
            reply = ask_legality(asked)
    except FaultyInput as error:
        for fault in error.faults:
            print(fault, file=sys.stderr)
        return 2
    except BrokenPipeError:
        sys.stderr.close()
        return 0
    print(json.dumps(reply, ensure_ascii=False, indent=1))
    return 0


def _whole(text: str | None) -> int | str | None:
    """An age as typed; what is no whole number is left for the check to refuse."""
    return int(text) if text is not None and text.isascii() and text.isdigit() and len(text) < 6 else text


if __name__ == "__main__":
    sys.exit(main())
