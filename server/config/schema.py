"""What the published schema says of all routes alike."""

from __future__ import annotations

from typing import Any

REFUSAL = {
    "description": "A refusal: a stable code, a sentence, and the fields that need another look.",
    "content": {"application/json": {"schema": {"$ref": "#/components/schemas/Error"}}},
}


def declare_refusals(result: dict[str, Any], **_: Any) -> dict[str, Any]:
    """Every route may refuse what it is asked, always in the same form."""
    for path in result["paths"].values():
        for operation in path.values():
            operation["responses"].setdefault("default", REFUSAL)
    return result
