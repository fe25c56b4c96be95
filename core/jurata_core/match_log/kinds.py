"""The fields of each kind of observation, as a table the loader reads by."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from typing import Any

from ..faults import Fault, quoted
from ..fields import REQUIRED, Check, Wrong, boolean, check_parts, choice, named, read_fields, seconds, text, whole
from . import observations as seen
from .observations import AVOIDABLE, CONTESTED, EITHER, LATERAL, MOVES, POSITIONS, TALLIES, TOPLESS

Spec = list[tuple[str, Check, Any]]

WHOLE = re.compile(r"[+-]?[0-9]+")
"""A whole number, which as an id would be a place in the file."""

side = choice("a", "b")
signed = whole(-999, 999)


def _reference(value: Any) -> str:
    """An id. A whole number would be taken for the place of another observation in the file."""
    if not isinstance(value, str) or not value:
        raise Wrong("should be text")
    if WHOLE.fullmatch(value):
        raise Wrong("is a whole number, which is a place in the file; use another text", "out_of_range")
    return value


reference = Check(_reference, {"type": "string", "minLength": 1, "not": {"pattern": f"^(?:{WHOLE.pattern})$"}})


def _votes(value: Any) -> tuple[int, int]:
    """``{"a": n, "b": n}`` as a pair."""
    if not isinstance(value, dict):
        raise Wrong('should be the votes for each side, as {"a": 2, "b": 1}')
    for_a, for_b = check_parts((f".{name}", _count, value.get(name)) for name in seen.SIDES)
    return for_a, for_b


_count = whole(0, 999)
_SCORE: Spec = [("points", signed, 0), ("advantages", _count, 0), ("penalties", _count, 0)]


def _score(value: Any) -> dict[seen.Side, dict[seen.Tally, int]]:
    """``{"a": {"points", "advantages", "penalties"}, "b": ...}``, each part zero where it is left out."""
    if not isinstance(value, dict) or not all(isinstance(value.get(side) or {}, dict) for side in seen.SIDES):
        raise Wrong('should be the score of each side, as {"a": {"points": 2}, "b": {}}')
    given = [
        (f".{of}.{name}", check, (value.get(of) or {}).get(name)) for of in seen.SIDES for name, check, _ in _SCORE
    ]
    parts = iter(check_parts((at, check, 0 if one is None else one) for at, check, one in given))
    return {of: {tally: next(parts) for tally in TALLIES} for of in seen.SIDES}


_tallies = {"type": "object", "properties": {name: check.schema for name, check, _ in _SCORE}}
score = Check(_score, {"type": "object", "properties": dict.fromkeys(seen.SIDES, _tallies)})


def _shown(value: Any) -> dict[seen.Side, dict[seen.Tally, int]]:
    """A score with the tallies alone that are named for either side, or the points where none is."""
    whole = _score(value)
    named = [name for name in TALLIES if any((value.get(of) or {}).get(name) is not None for of in seen.SIDES)]
    return {of: {name: whole[of][name] for name in named or TALLIES[:1]} for of in seen.SIDES}


shown = Check(_shown, score.schema)
_sides = dict.fromkeys(seen.SIDES, _count.schema)
votes = Check(_votes, {"type": "object", "properties": _sides, "required": list(_sides)})


COMMON: Spec = [("t", seconds, REQUIRED), ("id", reference, None), ("note", text, None), ("sure", boolean, True)]
AMOUNTS: Spec = [(name, signed, 0) for name in TALLIES]

SIDED: Spec = [("own", choice(*LATERAL), None), ("target", choice(*LATERAL), None)]

KINDS: dict[str, tuple[Callable[..., seen.Observation], Spec]] = {
    "begin": (seen.Begin, [("clock", seconds, 0), ("score", score, _score({}))]),
    "clock": (
        seen.Clock,
        [
            ("action", choice("start", "stop"), REQUIRED),
            ("restart", choice("standing", "same", "placed"), "standing"),
            ("why", choice("edge", "medical", "attire", "talk", "other"), None),
            ("by", side, None),
            ("position", choice(*POSITIONS), None),
            ("top", side, None),
            ("grips", choice("kept", "let_go"), "kept"),
        ],
    ),
    "period": (seen.Period, []),
    "position": (
        seen.Position,
        [("position", choice(*POSITIONS), REQUIRED), ("top", side, None), ("detail", text, None)],
    ),
    "pull": (
        seen.Pull,
        [("by", choice("a", "b", "both"), REQUIRED), ("caught", boolean, False), ("attack", boolean, False)],
    ),
    "attempt": (
        seen.Attempt,
        [
            ("by", side, REQUIRED),
            ("move", choice(*MOVES), REQUIRED),
            ("technique", named, None),
            ("until", seconds, None),
            ("outcome", choice("failed", "near", "done"), "failed"),
            *SIDED,
        ],
    ),
    "mark": (
        seen.Mark,
        [
            ("on", side, REQUIRED),
            ("good", boolean, False),
            ("cause", named, None),
            ("chance", choice(*MOVES, "submission"), None),
            ("text", text, None),
            ("instead", text, None),
            ("hurt", named, None),
            ("until", seconds, None),
            *SIDED,
        ],
    ),
    "submission": (
        seen.Submission,
        [
            ("by", side, REQUIRED),
            ("technique", named, REQUIRED),
            ("until", seconds, None),
            ("threat", choice("attempt", "close"), REQUIRED),
            *SIDED,
        ],
    ),
    "technique": (seen.Technique, [("by", side, REQUIRED), ("technique", named, REQUIRED), *SIDED]),
    "foul": (
        seen.Foul,
        [
            ("by", choice("a", "b", "both"), REQUIRED),
            ("foul", choice("stalling", "fleeing", "grip", "conduct", "severe"), REQUIRED),
            ("avoiding", choice(*AVOIDABLE), None),
            ("verbal", boolean, False),
        ],
    ),
    "grip": (
        seen.Grip,
        [
            ("by", side, REQUIRED),
            ("grip", named, REQUIRED),
            ("until", seconds, None),
            ("outcome", choice("held", "failed"), "held"),
            ("controls", choice("head", "arm", "leg", "hips"), None),
            ("broken", boolean, False),
            *SIDED,
        ],
    ),
    "legs": (
        seen.Legs,
        [
            ("by", side, REQUIRED),
            ("knee", choice("caught", "free"), None),
            ("heel", choice("exposed", "hidden"), None),
            ("leg", choice("left", "right"), None),
        ],
    ),
    "contest": (
        seen.Contest,
        [("for", choice(*CONTESTED), REQUIRED), ("until", seconds, None), ("won", side, None), *SIDED],
    ),
    "board": (seen.Board, [("score", shown, REQUIRED)]),
    "unwatched": (seen.Unwatched, [("until", seconds, REQUIRED)]),
    "call": (seen.Call, [("to", side, None), *AMOUNTS]),
    "exchange": (seen.ExchangeStart, [("title", text, None)]),
    "ruling": (seen.Ruling, [("to", side, REQUIRED), *AMOUNTS]),
    "decision": (seen.Decision, [("votes", votes, REQUIRED)]),
    "end": (
        seen.End,
        [
            ("how", choice("time", "submission", "withdrawal", "stoppage", "disqualification"), REQUIRED),
            ("by", choice("a", "b", "both"), None),
            ("technique", named, None),
        ],
    ),
}


ANY_OF: Mapping[str, tuple[tuple[str, ...], ...]] = {
    "call": (TALLIES,),
    "ruling": (TALLIES,),
    "legs": (("knee", "heel", "leg"),),
}
"""Of which fields of a kind at least one has to be given."""


def check_together(kind: str, fields: Mapping[str, Any], raw: Mapping[str, Any], path: str) -> list[Fault]:
    """What the fields of one observation must be to each other; a field that is faulty by itself is left out."""
    faults: list[Fault] = []
    if kind in _TOGETHER:
        faults += _TOGETHER[kind](fields, path)
    if "t" in fields and fields.get("until") is not None and fields["until"] < fields["t"]:
        faults.append(Fault(f"{path}until", "is earlier than t; a span ends after it begins", "out_of_range"))
    for first, *others in ANY_OF.get(kind, ()):
        if all(raw.get(name) is None for name in (first, *others)):
            choices = f"{', '.join((first, *others[:-1]))} or {others[-1]}"
            faults.append(Fault(f"{path}{first}", f"is missing: give {choices}", "missing"))
    return faults


def _position(fields: Mapping[str, Any], path: str) -> list[Fault]:
    if "position" not in fields or "top" not in fields or fields["position"] is None:
        return []
    position, top = fields["position"], fields["top"]
    if position in TOPLESS and top is not None:
        return [Fault(f"{path}top", f"{position} has no one on top; leave this out", "out_of_range")]
    if position not in TOPLESS and position not in EITHER and top is None:
        return [Fault(f"{path}top", f'is missing: {position} needs who is on top, "a" or "b"', "missing")]
    return []


def _clock(fields: Mapping[str, Any], path: str) -> list[Fault]:
    """A restart says where the referee placed the two, and in something that they can be placed in."""
    if fields.get("action") != "start" or fields.get("restart") != "placed" or "position" not in fields:
        return []
    position = fields["position"]
    if position is None:
        return [Fault(f"{path}position", "is missing: a placed restart needs the position", "missing")]
    if position == "scramble" or (position == "entangled" and fields.get("top", "") is None):
        return [Fault(f"{path}position", "is nothing a referee can place the two in", "out_of_range")]
    return _position(fields, path)


def _foul(fields: Mapping[str, Any], path: str) -> list[Fault]:
    faults: list[Fault] = []
    if fields.get("foul") == "fleeing":
        if "avoiding" in fields and fields["avoiding"] is None:
            message = f"is missing: fleeing needs what was avoided, one of {', '.join(AVOIDABLE)}"
            faults.append(Fault(f"{path}avoiding", message, "missing"))
        if fields.get("by") == "both":
            faults.append(Fault(f"{path}by", "both can't flee at once; log each", "out_of_range"))
    if fields.get("foul") == "severe" and fields.get("verbal"):
        faults.append(Fault(f"{path}verbal", "a severe foul is never only a caution", "out_of_range"))
    return faults


def _end(fields: Mapping[str, Any], path: str) -> list[Fault]:
    how = fields.get("how", "time")
    if how == "time":
        return []
    faults: list[Fault] = []
    if "by" in fields and fields["by"] is None:
        who = "winner" if how == "submission" else "loser"
        faults.append(Fault(f"{path}by", f'is missing: an end by {how} needs the {who}, "a" or "b"', "missing"))
    if fields.get("by") == "both" and how != "disqualification":
        faults.append(Fault(f"{path}by", "only a disqualification can be of both", "out_of_range"))
    if how == "submission" and "technique" in fields and fields["technique"] is None:
        faults.append(Fault(f"{path}technique", "is missing: name what finished the match", "missing"))
    return faults


_TOGETHER: Mapping[str, Callable[[Mapping[str, Any], str], list[Fault]]] = {
    "position": _position,
    "clock": _clock,
    "foul": _foul,
    "end": _end,
}


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
    if "for" in fields:
        fields["aim"] = fields.pop("for")
    return record(index=index, **fields)
