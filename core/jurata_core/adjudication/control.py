"""Who is where, and how it came about: all of the past that the next change of position depends on."""

from __future__ import annotations

from ..match_log.observations import Side
from ..records import record
from .places import STANDING, ClaimKind, Place


@record
class Control:
    """``last`` is the last position that was not passed through, ``origin`` where the next one comes from.

    The two differ only after a pull. ``spell`` is the side that is in a spell of control, ``paid`` the claims that
    were paid in it.
    """

    place: Place = STANDING
    last: Place = STANDING
    origin: Place = STANDING
    pullers: tuple[Side, ...] = ()
    spell: Side | None = None
    paid: frozenset[ClaimKind] = frozenset()


def control_at(place: Place) -> Control:
    """In a place, with nothing known of how it came about."""
    return Control(place, place, place)
