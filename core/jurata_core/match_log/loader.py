"""Reading and writing the match log, with all faults of a log reported together."""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from ..divisions import Division, read_division
from ..faults import Fault, FaultyInput, quoted
from ..fields import LONGEST_SECONDS, number, read_fields, text
from ..rulesets import Ruleset, read_ruleset
from ..times import Millis, to_millis
from .kinds import read_observation
from .observations import Observation, Ref
from .versions import FORMAT, upgraded

MOST_OBSERVATIONS = 200_000
HEAD = [("duration", number(0.001, LONGEST_SECONDS), None), ("plan", text, None)]


@dataclass(frozen=True, slots=True)
class MatchLog:
    """A checked match log.

    ``observations`` are in order of time, ties in file order. ``raw`` is the
    object it was read from, in the current format and with unknown fields, for writing it again.
    """

    ruleset: Ruleset
    duration: Millis | None
    """The length of regular time; None: no length, as in a training roll."""
    division: Division
    observations: tuple[Observation, ...]
    raw: Mapping[str, Any]


def read_log(raw: Any) -> MatchLog:
    """A match log, or a case file that holds one under ``log``.

    Raises FaultyInput with every fault found.
    """
    if isinstance(raw, dict) and "log" in raw and "observations" not in raw:
        raw = raw["log"]
    if not isinstance(raw, dict):
        raise FaultyInput([Fault("log", "should be an object with format, ruleset and observations", "wrong_type")])
    raw = upgraded(raw)
    faults: list[Fault] = []
    _check_format(raw.get("format"), faults)
    ruleset = read_ruleset(raw.get("ruleset"), "ruleset", faults)
    head = read_fields(raw, HEAD, "", faults)
    if "duration" not in raw:
        faults.append(Fault("duration", "is missing; null where the match has no length", "missing"))
    division = read_division(raw.get("division"), "division", faults)
    observations = _read_observations(raw.get("observations"), faults)
    if faults or ruleset is None or division is None:
        raise FaultyInput(faults)
    duration = None if head["duration"] is None else to_millis(head["duration"])
    return MatchLog(ruleset, duration, division, observations, raw)


def _check_format(value: Any, faults: list[Fault]) -> None:
    if value is None:
        faults.append(Fault("format", f'is missing; this version reads "{FORMAT}"', "missing"))
    elif value != FORMAT:
        faults.append(Fault("format", f'{quoted(value)} is not known; this version reads "{FORMAT}"', "unknown"))


def _read_observations(raw: Any, faults: list[Fault]) -> tuple[Observation, ...]:
    if not isinstance(raw, list):
        faults.append(Fault("observations", "should be a list of observations", "wrong_type"))
        return ()
    if len(raw) > MOST_OBSERVATIONS:
        message = f"has {len(raw)} entries; a log may have {MOST_OBSERVATIONS} at most"
        faults.append(Fault("observations", message, "too_large"))
        return ()
    found: list[Observation] = []
    used: dict[Ref, int] = {}
    for index, entry in enumerate(raw):
        observation = read_observation(entry, index, f"observations[{index}].", faults)
        if observation is None:
            continue
        if observation.id is not None:
            first = used.setdefault(observation.id, index)
            if first != index:
                message = f"{quoted(observation.id)} is already the id of observations[{first}]"
                faults.append(Fault(f"observations[{index}].id", message, "duplicate"))
        found.append(observation)
    found.sort(key=lambda observation: observation.t)
    return tuple(found)


def write_log(log: MatchLog) -> str:
    """The log as JSON text, unknown fields included. Raises FaultyInput where one of them is no number of JSON."""
    try:
        return json.dumps(log.raw, ensure_ascii=False, indent=1, allow_nan=False)
    except ValueError:
        raise FaultyInput([Fault("log", "holds a number that is too large for a file", "out_of_range")]) from None
