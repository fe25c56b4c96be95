"""Reading the calls of a scoreboard table into a log: its match clock becomes a time of the footage."""

from __future__ import annotations

import json
from typing import Any

from ..adjudication import Verdict
from ..faults import Fault, FaultyInput
from ..fields import REQUIRED, choice, read_fields, seconds, whole
from ..match_log.observations import TALLIES
from ..times import to_seconds

MOST_CALLS = 2_000
_CALL = [
    ("clock", seconds, REQUIRED),
    ("to", choice("a", "b"), REQUIRED),
    *((name, whole(-99, 99), 0) for name in TALLIES),
]


def read_calls(text: str, verdict: Verdict) -> list[dict[str, Any]]:
    """Lines of JSON, one call each, as ``call`` observations at the footage times of ``verdict``'s clock.

    Each keeps the table's ``clock`` as well as its ``t``.

    Raises FaultyInput with every fault by its line; and where the log has no clock to go by.
    """
    lines = [line for line in text.splitlines() if line.strip()]
    if not verdict.running:
        raise FaultyInput([Fault("calls", "need a clock: log where the match starts first", "missing")])
    if len(lines) > MOST_CALLS:
        raise FaultyInput([Fault("calls", f"has {len(lines)} lines; {MOST_CALLS} at most are read", "too_large")])
    faults: list[Fault] = []
    found = [_call(line, number, verdict, faults) for number, line in enumerate(lines, 1)]
    if faults:
        raise FaultyInput(faults)
    return [call for call in found if call is not None]


def _call(line: str, number: int, verdict: Verdict, faults: list[Fault]) -> dict[str, Any] | None:
    path = f"line {number}"
    try:
        raw = json.loads(line)
    except (ValueError, RecursionError):
        raw = None
    if not isinstance(raw, dict):
        faults.append(Fault(path, 'should be a call as {"clock": 34.5, "to": "a", "points": 2}', "malformed"))
        return None
    before = len(faults)
    fields = read_fields(raw, _CALL, f"{path}: ", faults)
    if len(faults) > before:
        return None
    given: dict[str, Any] = {name: fields[name] for name in TALLIES if fields[name]}
    if not given:
        faults.append(Fault(f"{path}: points", "is missing: give points, advantages or penalties", "missing"))
        return None
    t, clock = to_seconds(verdict.footage_at(fields["clock"])), to_seconds(fields["clock"])
    return {"t": t, "kind": "call", "to": fields["to"], **given, "clock": clock}
