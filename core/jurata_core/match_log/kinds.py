"""The fields of each kind of observation, as a table the loader reads by."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

from ..faults import Fault, quoted
from ..fields import REQUIRED, Check, Wrong, boolean, check_parts, choice, named, read_fields, seconds, text, whole
from . import observations as seen
from .observations import CLAIM_KINDS, EITHER, POSITIONS, TALLIES, TOPLESS

Spec = list[tuple[str, Check, Any]]

side = choice("a", "b")
signed = whole(-999, 999)


def _reference(value: Any) -> str:
    """An id. A whole number would be taken for the place of another observation in the file, so it becomes ``#n``."""
    if isinstance(value, int) and not isinstance(value, bool) and abs(value) < 10**18:
        return f"#{value}"
    if isinstance(value, str) and value:
        return value
    raise Wrong("should be text or a whole number of up to 18 digits")


reference = Check(_reference, {"type": ["string", "integer"], "minLength": 1})


def _votes(value: Any) -> tuple[int, int]:
    """``{"a": n, "b": n}`` as a pair."""
    if not isinstance(value, dict):
        raise Wrong('should be the votes for each side, as {"a": 2, "b": 1}')
    for_a, for_b = check_parts((f".{name}", _count, value.get(name)) for name in seen.SIDES)
    return for_a, for_b


_count = whole(0, 999)
_sides = dict.fromkeys(seen.SIDES, _count.schema)
votes = Check(_votes, {"type": "object", "properties": _sides, "required": list(_sides)})


COMMON: Spec = [("t", seconds, REQUIRED), ("id", reference, None), ("note", text, None), ("sure", boolean, True)]
TALLY_FIELDS: Spec = [("to", side, REQUIRED)] + [(name, signed, 0) for name in TALLIES]

KINDS: dict[str, tuple[Callable[..., seen.Observation], Spec]] = {
    "clock": (
        seen.Clock,
        [("action", choice("start", "stop"), REQUIRED), ("restart", choice("standing", "same"), "standing")],
    ),
    "position": (
        seen.Position,
        [("position", choice(*POSITIONS), REQUIRED), ("top", side, None), ("detail", text, None)],
    ),
    "pull": (seen.Pull, [("by", choice("a", "b", "both"), REQUIRED), ("caught", boolean, False)]),
    "submission": (
        seen.Submission,
        [
            ("by", side, REQUIRED),
            ("technique", named, REQUIRED),
            ("until", seconds, None),
            ("threat", choice("attempt", "close"), REQUIRED),
        ],
    ),
    "technique": (seen.Technique, [("by", side, REQUIRED), ("technique", named, REQUIRED)]),
    "near": (seen.Near, [("by", side, REQUIRED), ("claim", choice(*CLAIM_KINDS), REQUIRED)]),
    "foul": (
        seen.Foul,
        [
            ("by", side, REQUIRED),
            ("foul", choice("stalling", "fleeing", "grip", "conduct", "severe"), REQUIRED),
            ("avoiding", choice("takedown", "sweep", "submission"), None),
        ],
    ),
    "grip": (seen.Grip, [("by", side, REQUIRED), ("grip", named, REQUIRED), ("until", seconds, None)]),
    "call": (seen.Call, TALLY_FIELDS),
    "exchange": (seen.ExchangeStart, [("title", text, None)]),
    "ruling": (seen.Ruling, TALLY_FIELDS),
    "decision": (seen.Decision, [("votes", votes, REQUIRED)]),
    "end": (
        seen.End,
        [
            ("how", choice("time", "submission", "withdrawal", "disqualification"), REQUIRED),
            ("by", side, None),
            ("technique", named, None),
        ],
    ),
}


def check_together(kind: str, fields: Mapping[str, Any], raw: Mapping[str, Any], path: str) -> list[Fault]:
    """What the fields of one observation must be to each other."""
    faults: list[Fault] = []
    if kind == "position" and "position" in fields and "top" in fields:
        position, top = fields["position"], fields["top"]
        if position in TOPLESS and top is not None:
            faults.append(Fault(f"{path}top", f"{position} has nobody on top; leave it out", "out_of_range"))
        elif position not in TOPLESS and position not in EITHER and top is None:
            faults.append(Fault(f"{path}top", f'is missing: {position} needs who is on top, "a" or "b"', "missing"))
    elif kind in ("submission", "grip") and "t" in fields and fields.get("until") is not None:
        if fields["until"] < fields["t"]:
            faults.append(Fault(f"{path}until", "is earlier than t; a span ends after it begins", "out_of_range"))
    elif kind == "foul" and fields.get("foul") == "fleeing" and "avoiding" in fields and fields["avoiding"] is None:
        message = "is missing: fleeing needs what was avoided, takedown, sweep or submission"
        faults.append(Fault(f"{path}avoiding", message, "missing"))
    elif kind in ("call", "ruling") and all(raw.get(name) is None for name in TALLIES):
        faults.append(Fault(f"{path}points", "is missing: give points, advantages or penalties", "missing"))
    elif kind == "end" and "how" in fields and fields["how"] != "time":
        who = "winner" if fields["how"] == "submission" else "loser"
        if "by" in fields and fields["by"] is None:
            message = f'is missing: an end by {fields["how"]} needs the {who}, "a" or "b"'
            faults.append(Fault(f"{path}by", message, "missing"))
        if fields["how"] == "submission" and "technique" in fields and fields["technique"] is None:
            faults.append(Fault(f"{path}technique", "is missing: name what finished the match", "missing"))
    return faults


def read_observation(raw: Any, index: int, path: str, faults: list[Fault]) -> seen.Observation | None:
    """One observation, or None with its faults added."""
    if not isinstance(raw, dict):
        faults.append(Fault(path.rstrip("."), "should be an object with t and kind", "wrong_type"))
        return None
    kind = raw.get("kind")
    if not isinstance(kind, str) or kind not in KINDS:
        problem = "is missing" if kind is None else f"{quoted(kind)} is not a kind of observation"
        faults.append(Fault(f"{path}kind", f"{problem}; use one of {', '.join(KINDS)}", "unknown"))
        read_fields(raw, COMMON, path, faults)
        return None
    record, spec = KINDS[kind]
    before = len(faults)
    fields = read_fields(raw, COMMON, path, faults)
    fields |= read_fields(raw, spec, path, faults)
    faults.extend(check_together(kind, fields, raw, path))
    if len(faults) > before:
        return None
    if "until" in fields and fields["until"] is None:
        fields["until"] = fields["t"]
    return record(index=index, **fields)
