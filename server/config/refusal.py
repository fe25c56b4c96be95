"""The one form of a refusal, for views and for what stands in front of them."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from jurata_core.faults import Fault


def body_of(code: str, message: str, faults: Sequence[Fault] = ()) -> dict[str, Any]:
    """The body of a refusal."""
    rows = [{"path": fault.path, "message": fault.message, "code": fault.code} for fault in faults]
    return {"code": code, "message": message, "faults": rows}
