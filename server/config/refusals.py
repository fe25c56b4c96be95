"""Why something can't be carried out. The code is stable, the message says what the user can do about it.

Which HTTP status each one gets is said in :mod:`config.errors`, and nowhere else.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from jurata_core.faults import Fault, JurataError


class Refused(JurataError):
    """It can't be carried out as it was asked for."""

    def __init__(self, code: str, message: str) -> None:
        self.code = code
        super().__init__(message)


class NotAllowed(Refused):
    """It is not this user's to do."""


class AskAgain(Refused):
    """It needs the password again first."""


class NotThere(Refused):
    """What it is about does not exist, or not any more."""


class Clash(Refused):
    """It doesn't fit how things stand now."""


class TooLarge(Refused):
    """It is larger than what is taken."""


class Occupied(Refused):
    """Somebody else is at it."""


class NoRoom(Refused):
    """There is no room left for it."""


class NotNow(Refused):
    """It may work a little later."""


class OtherServiceDown(Refused):
    """Another service that it needs does not answer."""


def body_of(code: str, message: str, faults: Sequence[Fault] = ()) -> dict[str, Any]:
    """The body of a refusal."""
    rows = [{"path": fault.path, "message": fault.message, "code": fault.code} for fault in faults]
    return {"code": code, "message": message, "faults": rows}
