"""What all reasons are."""

from __future__ import annotations

from typing import ClassVar, Literal

LossHow = Literal["position", "restart", "period", "time"]
"""How a claim was lost: to another position, to a restart, to the beginning of overtime, or to the end of time."""
Recount = Literal["submission", "restart", "passing"]
"""Why a count began later than its claim."""


class Reason:
    """A reason; its fields are its facts."""

    __slots__ = ()
    code: ClassVar[str]
    sentence: ClassVar[str]
