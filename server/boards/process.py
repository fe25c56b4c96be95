"""Reading a board in a process of its own: what it needs of memory is given back, and it yields to everybody else.

The process is ``manage.py read_board``: it takes what to do from standard input, and answers in lines of JSON.
"""

from __future__ import annotations

import base64
import json
import os
import subprocess
import sys
from collections.abc import Callable
from pathlib import Path
from typing import IO, Any

from footage.convert import Source
from jobs.running import NotMade, Stopped
from jurata_core.board import Seen
from jurata_core.times import Millis

NICENESS = 10
SERVER = Path(__file__).resolve().parents[1]


def ask(source: Source, marks: list[Any], start: Millis, end: Millis, go_on: Callable[[float], bool]) -> Answer:
    """Read a board; as :func:`boards.reading.read_board`, but elsewhere. Raises NotMade or Stopped."""
    asked = {
        "source": [str(source.path), source.demuxer, source.duration_ms, source.pixels],
        "marks": marks,
        "start": start,
        "end": end,
    }
    # It ends with the worker that waits for it, however that ends.
    command = ["setpriv", "--pdeathsig", "KILL", sys.executable, "manage.py", "read_board"]
    with subprocess.Popen(command, cwd=SERVER, stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True) as process:
        assert process.stdin is not None and process.stdout is not None
        try:
            process.stdin.write(json.dumps(asked))
            process.stdin.close()
            answer = _listen(process.stdout, go_on)
        finally:
            if process.poll() is None:
                process.terminate()
    if answer is None:
        raise NotMade("the reading of the scoreboard was cut off")
    if "trouble" in answer:
        raise NotMade(answer["trouble"])
    return Answer(answer)


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


def _listen(lines: IO[str], go_on: Callable[[float], bool]) -> dict[str, Any] | None:
    """The answer at the end, after reports of how far it is. Raises Stopped where it is not to go on."""
    for line in lines:
        said: dict[str, Any] = json.loads(line)
        if "share" not in said:
            return said
        if not go_on(said["share"]):
            raise Stopped
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
