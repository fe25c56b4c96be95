"""Reading a board in a process of its own: what it needs of memory is given back, and it yields to everybody else.

The process is ``manage.py read_board``: it takes what to do from standard input, and answers in lines of JSON.
"""

from __future__ import annotations

import base64
import json
import logging
import os
import subprocess
import sys
import time
from collections.abc import Callable
from contextlib import suppress
from pathlib import Path
from typing import Any

from footage.convert import Source
from footage.tools import blocks_of
from jobs.running import NotMade
from jurata_core.board import Seen
from jurata_core.times import Millis

log = logging.getLogger(__name__)

NICENESS = 10
LONGEST_S = 3600
"""So long a reading may take."""
SERVER = Path(__file__).resolve().parents[1]
COMMAND = ["setpriv", "--pdeathsig", "KILL", sys.executable, "manage.py", "read_board"]
"""It ends with the worker that waits for it, however that ends."""


def ask(source: Source, marks: list[Any], start: Millis, end: Millis, go_on: Callable[[float], bool]) -> Answer:
    """Read a board; as :func:`boards.reading.read_board`, but elsewhere. Raises NotMade or Stopped."""
    asked = {
        "source": [str(source.path), source.demuxer, source.duration_ms, source.pixels],
        "marks": marks,
        "start": start,
        "end": end,
    }
    words = bytearray()
    pipe = subprocess.PIPE
    with subprocess.Popen(COMMAND, cwd=SERVER, stdin=pipe, stdout=pipe, stderr=pipe) as process:
        assert process.stdin is not None
        try:
            with suppress(BrokenPipeError):  # it ended before it was asked
                process.stdin.write(json.dumps(asked).encode())
                process.stdin.close()
            said = _listen(process, words, go_on)
        finally:
            if process.poll() is None:
                process.kill()
    if said is None:
        log.warning("reading a scoreboard ended without an answer: %s", words.decode("utf-8", "replace"))
        raise NotMade("the reading of the scoreboard was cut off")
    if "trouble" in said:
        raise NotMade(said["trouble"])
    return Answer(said)


class Answer:
    """What was read: readings by part, pictures of the board by their time in the clip, and how much was lost."""

    def __init__(self, raw: dict[str, Any]) -> None:
        self.readings: dict[str, list[list[Any]]] = raw["readings"]
        self.lost: float = raw["lost"]
        self._evidence: dict[str, str] = raw["evidence"]

    def picture_from(self, t: Millis) -> tuple[Millis, bytes] | None:
        """The first picture from a moment on."""
        times = sorted(int(one) for one in self._evidence)
        at = next((one for one in times if one >= t), times[-1] if times else None)
        return None if at is None else (at, base64.b64decode(self._evidence[str(at)]))


def _listen(
    process: subprocess.Popen[bytes], words: bytearray, go_on: Callable[[float], bool]
) -> dict[str, Any] | None:
    """The answer at the end, after reports of how far it is; None where it ends without. Raises NotMade or Stopped."""
    rest, share = bytearray(), [0.0]
    for block in blocks_of(process, words, time.monotonic() + LONGEST_S, lambda: go_on(share[0])):
        rest += block
        while b"\n" in block and b"\n" in rest:
            line, _, after = bytes(rest).partition(b"\n")
            rest[:] = after
            said: dict[str, Any] = json.loads(line)
            if "share" not in said:
                return said
            share[0] = said["share"]
    return None


def seen(rows: list[list[Any]]) -> list[Seen]:
    """Readings as they are stored."""
    return [Seen(t, until, text, sure) for t, until, text, sure in rows]


def answer() -> None:
    """The process itself: read as it is asked, say how far it is, and answer."""
    os.nice(NICENESS)
    from .reading import marks_from, read_board

    asked = json.load(sys.stdin)
    path, demuxer, duration, pixels = asked["source"]
    source = Source(Path(path), demuxer, duration, pixels)
    said = -1

    def report(share: float) -> bool:
        nonlocal said
        if int(share * 100) > said:
            said = int(share * 100)
            print(json.dumps({"share": share}), flush=True)
        return True

    try:
        found = read_board(source, marks_from(asked["marks"]), asked["start"], asked["end"], report)
    except NotMade as error:
        print(json.dumps({"trouble": str(error)}))
        return
    rows = {
        name: [[one.t, one.until, one.text, one.sure] for one in readings] for name, readings in found.readings.items()
    }
    evidence = {str(t): base64.b64encode(data).decode() for t, data in found.evidence.items()}
    print(json.dumps({"readings": rows, "lost": found.lost, "evidence": evidence}), flush=True)
