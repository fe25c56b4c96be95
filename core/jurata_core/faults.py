"""Faults in input: what is wrong, where, and what would be right.

Three kinds of bad input are kept apart. *Malformed* does not parse as JSON;
*impossible* parses and breaks the format; both are faults and stop the work.
*Doubtful* input is scored, with a warning in the verdict.
"""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

FaultCode = Literal["malformed", "missing", "wrong_type", "out_of_range", "unknown", "duplicate", "too_large"]


@dataclass(frozen=True, slots=True)
class Fault:
    """One thing that breaks the format.

    ``path`` names the field as a coach would find it (``observations[3].top``);
    ``message`` quotes the input and says what would be right.
    """

    path: str
    message: str
    code: FaultCode

    def __str__(self) -> str:
        return f"{self.path}: {self.message}"


class JurataError(Exception):
    """What the product itself raises and means. ``code`` is stable; the message is for a reader."""

    code: str = "error"


class FaultyInput(JurataError, ValueError):
    """Input that breaks the format; carries every fault found, not only the first."""

    code = "faulty"

    def __init__(self, faults: Sequence[Fault]) -> None:
        self.faults = tuple(faults)
        super().__init__("\n".join(str(fault) for fault in self.faults))


def quoted(value: object, limit: int = 40) -> str:
    """A value for a message, shortened: never a whole file, never a failing ``repr``."""
    if isinstance(value, dict):
        return "an object"
    if isinstance(value, list):
        return "a list"
    if value is None:
        return "nothing (null)"
    if isinstance(value, bool):
        return "true" if value else "false"
    if isinstance(value, int) and value.bit_length() > 128:
        return "a number of more than 38 digits"
    text = json.dumps(value, ensure_ascii=False) if isinstance(value, str) else str(value)
    return text if len(text) <= limit else text[: limit - 1] + "…"
