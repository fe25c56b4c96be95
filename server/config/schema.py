"""What the published schema says of all routes alike."""

from __future__ import annotations

from typing import Any

from drf_spectacular.openapi import AutoSchema

from .parsing import most_bytes

REFUSAL = {
    "description": "A refusal: a stable code, a sentence, and the fields that need another look.",
    "content": {"application/json": {"schema": {"$ref": "#/components/schemas/Error"}}},
}


class Schema(AutoSchema):  # type: ignore[no-untyped-call,unused-ignore]
    """Says of each body how many bytes of it are taken."""

    def _get_request_body(self, *args: Any, **kwargs: Any) -> Any:
        body = super()._get_request_body(*args, **kwargs)  # type: ignore[no-untyped-call]
        if body is not None and "application/json" in body["content"]:
            body["x-most-bytes"] = most_bytes(self.view)
        return body


def declare_refusals(result: dict[str, Any], **_: Any) -> dict[str, Any]:
    """Every route may refuse what it is asked, always in the same form."""
    for path in result["paths"].values():
        for operation in path.values():
            operation["responses"].setdefault("default", REFUSAL)
    return result
