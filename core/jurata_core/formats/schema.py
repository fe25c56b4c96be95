"""JSON Schema of the match log's observations, made from the table the loader reads by."""

from __future__ import annotations

from typing import Any

from ..fields import REQUIRED
from ..match_log.kinds import COMMON, KINDS


def observation_schemas() -> dict[str, dict[str, Any]]:
    """One schema per kind of observation, by kind. Unknown extra fields are allowed."""
    schemas = {}
    for kind, (_, spec) in KINDS.items():
        fields = COMMON + spec
        schemas[kind] = {
            "type": "object",
            "properties": {
                "kind": {"type": "string", "enum": [kind]},
                **{name: dict(check.schema) for name, check, _ in fields},
            },
            "required": ["kind", *(name for name, _, default in fields if default is REQUIRED)],
        }
    return schemas
