"""JSON Schemas of what the core reads and writes, made from the tables the loader reads by.

``match_schema``, ``verdict_schema`` and ``ruleset_schema`` are published in ``docs/formats``. Four things
of the match log are beyond JSON Schema and stay with the loader: a span's ``until``
is not before its ``t``, ids are not used twice, and the limits on the size of a
file and the number of observations.
"""

from __future__ import annotations

from dataclasses import fields
from typing import Any

from ..divisions.model import DIVISION_FIELDS
from ..fields import REQUIRED, Check, named, text, whole
from ..match_log.kinds import ANY_OF, COMMON, KINDS
from ..match_log.loader import HEAD
from ..match_log.observations import POSITIONS, SIDES, TALLIES, TOPLESS, TOPPED
from ..match_log.versions import FORMAT
from ..rulesets import Ruleset, preset_ids
from ..rulesets.house import FORMAT as RULESET_FORMAT

Schema = dict[str, Any]
DRAFT = "https://json-schema.org/draft/2020-12/schema"


def observation_schemas() -> dict[str, Schema]:
    """One schema per kind of observation, by kind. Unknown extra fields are allowed."""
    return {kind: _observation(kind, nullable=False) for kind in KINDS}


def _observation(kind: str, nullable: bool) -> Schema:
    """With ``nullable``, a field that may be missing may be null as well, as the loader has it."""
    spec = COMMON + KINDS[kind][1]
    properties = {"kind": {"type": "string", "enum": [kind]}}
    for name, check, default in spec:
        properties[name] = _or_null(check) if nullable and default is not REQUIRED else dict(check.schema)
    required = ["kind", *(name for name, _, default in spec if default is REQUIRED)]
    return {"type": "object", "properties": properties, "required": required}


def _or_null(check: Check) -> Schema:
    return {"anyOf": [dict(check.schema), {"type": "null"}]}


def _given(name: str) -> Schema:
    """That a field is there and says something."""
    return {"required": [name], "properties": {name: {"not": {"type": "null"}}}}


def _when(name: str, values: list[str], then: Schema) -> Schema:
    return {"if": {"required": [name], "properties": {name: {"enum": values}}}, "then": then}


_ON_TOP: list[Schema] = [
    _when("position", list(TOPLESS), {"properties": {"top": {"type": "null"}}}),
    _when("position", list(TOPPED), _given("top")),
]
_PLACED: Schema = {
    "if": {
        "required": ["action", "restart"],
        "properties": {"action": {"const": "start"}, "restart": {"const": "placed"}},
    },
    "then": {
        "allOf": [
            _given("position"),
            {"properties": {"position": {"not": {"const": "scramble"}}}},
            _when("position", ["entangled"], _given("top")),
            *_ON_TOP,
        ]
    },
}
_TOGETHER: dict[str, list[Schema]] = {
    "position": _ON_TOP,
    "clock": [_PLACED],
    "foul": [
        _when("foul", ["fleeing"], {**_given("avoiding"), "not": {"properties": {"by": {"const": "both"}}}}),
        _when("foul", ["severe"], {"not": {"required": ["verbal"], "properties": {"verbal": {"const": True}}}}),
    ],
    "end": [
        _when("how", ["submission", "withdrawal", "stoppage", "disqualification"], _given("by")),
        _when("how", ["submission", "withdrawal", "stoppage"], {"not": {"properties": {"by": {"const": "both"}}}}),
        _when("how", ["submission"], _given("technique")),
    ],
}
"""What ``kinds.check_together`` asks, as far as a schema can say it; the fields of ``ANY_OF`` come to it."""


def _together(kind: str) -> list[Schema]:
    return [*_TOGETHER.get(kind, ()), *({"anyOf": [_given(name) for name in names]} for names in ANY_OF.get(kind, ()))]


def ruleset_schema() -> Schema:
    """The schema of a file of house rules; a setting that no rule reads is refused."""
    changes = _changes()
    own = {"format": {"const": RULESET_FORMAT}, "title": named.schema, "name": {}, "id": {}}
    own |= {"about": text.schema, "note": text.schema, "version": whole(1, 9_999).schema}
    whole_or_null = changes["properties"]["points"]["anyOf"]
    points = {"anyOf": [{**whole_or_null[0], "additionalProperties": False}, *whole_or_null[1:]]}
    return {
        "$schema": DRAFT,
        "title": "House rules",
        "type": "object",
        "properties": {**changes["properties"], "points": points, **own},
        "required": ["extends", "title"],
        "additionalProperties": False,
    }


def _changes() -> Schema:
    """A preset with changes."""
    settings = {field.name: field.metadata["check"] for field in fields(Ruleset) if "check" in field.metadata}
    return {
        "type": "object",
        "properties": {
            "extends": {"enum": list(preset_ids())},
            **{name: _or_null(check) for name, check in settings.items()},
        },
        "required": ["extends"],
    }


def match_schema() -> Schema:
    """The schema of a match log in the current format."""
    changes = _changes()
    kinds = []
    for kind in KINDS:
        schema = _observation(kind, nullable=True)
        if together := _together(kind):
            schema["allOf"] = together
        kinds.append(schema)
    return {
        "$schema": DRAFT,
        "title": "Match log",
        "type": "object",
        "properties": {
            "format": {"const": FORMAT},
            "ruleset": {"anyOf": [{"enum": list(preset_ids())}, changes]},
            **{name: _or_null(check) for name, check, _ in HEAD},
            "division": {
                "type": "object",
                "properties": {name: dict(check.schema) for name, check, _ in DIVISION_FIELDS},
                "required": [name for name, _, _ in DIVISION_FIELDS],
            },
            "observations": {"type": "array", "items": {"oneOf": kinds}},
        },
        "required": ["format", "ruleset", "duration", "division", "observations"],
    }


def _record(**properties: Schema) -> Schema:
    """An object with exactly these fields, all of them there."""
    return {
        "type": "object",
        "properties": properties,
        "required": list(properties),
        "additionalProperties": False,
    }


def _list(items: Schema) -> Schema:
    return {"type": "array", "items": items}


def _null_or(schema: Schema) -> Schema:
    return {**schema, "type": [schema["type"], "null"]}


_TEXT: Schema = {"type": "string"}
_TIME: Schema = {"type": "number"}
_WHOLE: Schema = {"type": "integer"}
_TRUTH: Schema = {"type": "boolean"}
_SIDE: Schema = {"type": "string", "enum": list(SIDES)}
_NOBODY_OR_SIDE: Schema = {"type": ["string", "null"], "enum": [*SIDES, None]}
_TALLY: Schema = {"type": "string", "enum": list(TALLIES)}
_REFS = _list({"type": ["string", "integer"]})
_SPANS = _list({**_list(_TIME), "minItems": 2, "maxItems": 2})


def verdict_parts(prefix: str) -> dict[str, Schema]:
    """The records of a verdict by name; they refer to each other under ``prefix``."""

    def part(name: str) -> Schema:
        return {"$ref": f"{prefix}{name}"}

    said = {"because": _TEXT, "observations": _REFS}
    row = {"t": _TIME, "clock": _TIME, "to": _SIDE, "reason": _TEXT, **said}
    place: Schema = {"position": {"type": "string", "enum": list(POSITIONS)}, "top": _NOBODY_OR_SIDE}
    outcome = {"score": part("Both"), "result": part("Result")}
    return {
        "Tally": _record(**dict.fromkeys(TALLIES, _WHOLE)),
        "Both": _record(**dict.fromkeys(SIDES, part("Tally"))),
        "Result": _record(winner=_NOBODY_OR_SIDE, method=_TEXT),
        "Award": _record(**row, kind=_TALLY, n=_WHOLE),
        "UnpaidClaim": _record(**row, claim=_TEXT, since=_TIME, held=_TIME, needed=_TIME),
        "Place": _record(**place),
        "Placed": _record(t=_TIME, **place),
        "MissedNames": _record(**dict.fromkeys(SIDES, _list(_TEXT))),
        "Exchange": _record(
            start=_TIME, end=_TIME, clock_start=_TIME, clock_end=_TIME, title=_null_or(_TEXT), by_hand=_TRUTH,
            first=part("Place"), last=part("Place"), awarded=part("Both"), missed=part("MissedNames"),
            ledger_rows=_list(_WHOLE), missed_rows=_list(_WHOLE),
        ),
        "Count": _record(
            claim=_TEXT, to=_SIDE, since=_TIME, ended=_TIME, outcome=_TEXT, worth=_TEXT, needed=_TIME, counted=_SPANS,
            counting_from=_null_or(_TIME),
        ),
        "ClockChange": _record(t=_TIME, clock=_TIME, running=_TRUTH, left=_null_or(_TIME)),
        "IllegalMove": _record(
            t=_TIME, clock=_TIME, by=_SIDE, technique=_TEXT,
            status={"type": "string", "enum": ["legal", "illegal", "stop"]}, consequence=_TEXT, **said,
        ),
        "Warning": _record(t=_null_or(_TIME), reason=_TEXT, **said),
        "Scenario": _record(**outcome, left_out=_REFS),
        "Deciding": _record(
            observation={"type": ["string", "integer"]}, winner=_NOBODY_OR_SIDE, without=_NOBODY_OR_SIDE, because=_TEXT
        ),
        "Range": _record(
            unsure=_REFS, exact=_TRUTH, because=_TEXT, none=part("Scenario"), all=part("Scenario"),
            worst=part("Scenario"), best=part("Scenario"), deciding=_list(part("Deciding")),
        ),
        "Verdict": _record(
            **outcome, because=_TEXT, ended=_null_or(_TIME), ledger=_list(part("Award")),
            open=_list(part("UnpaidClaim")),
            missed=_list(part("UnpaidClaim")), unpaid=_list(part("UnpaidClaim")), exchanges=_list(part("Exchange")),
            counts=_list(part("Count")), illegal=_list(part("IllegalMove")), positions=_list(part("Placed")),
            clock=_list(part("ClockChange")), warnings=_list(part("Warning")), range=part("Range"),
        ),
    }  # fmt: skip


def verdict_schema() -> Schema:
    """The schema of the verdict that ``bin/jurata score`` prints."""
    return {"$schema": DRAFT, "title": "Verdict", "$ref": "#/$defs/Verdict", "$defs": verdict_parts("#/$defs/")}
