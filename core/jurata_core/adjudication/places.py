"""Positions with their top, and which claims a change from one to another opens."""

from __future__ import annotations

from functools import cache
from typing import NamedTuple

from ..match_log.observations import OTHER, POSITIONS, SIDES, Side

ClaimKind = str
"""One of ``match_log.observations.CLAIM_KINDS``."""


class Place(NamedTuple):
    """A position and the side on top or attacking in it, None where nobody is."""

    position: str
    top: Side | None


PLACE_OF = {(position, top): Place(position, top) for position in POSITIONS for top in (*SIDES, None)}
STANDING = PLACE_OF["standing", None]
DOUBLE_PULL = PLACE_OF["double_pull", None]

BACKS = frozenset(("back", "back_one_hook"))
GUARDS = frozenset(("guard", "entangled"))
PASSED = frozenset(("side", "knee_on_belly", "mount"))
CONTROL = frozenset(("turtle", "side", "knee_on_belly", "mount", "back", "back_one_hook"))
"""Where a spell of control goes on."""

RANK = {
    "guard": 0,
    "entangled": 0,
    "turtle": 1,
    "side": 2,
    "knee_on_belly": 3,
    "mount": 4,
    "back_one_hook": 5,
    "back": 6,
}
"""The order of positions: a claim given up for a higher one ends with nothing."""

_HELD_IN_PASS = PASSED | BACKS
OWN_POSITION = frozenset(("knee_on_belly", "mount", "back"))
"""Claims that hold only in the position they are named after."""
TOP_CLAIMS = frozenset(("takedown", "double_pull_top", "sweep", "reversal"))
"""Claims for having come on top: the top is not established while one of them is open."""


def passed_through(place: Place) -> bool:
    """A scramble, or legs entangled with nobody on top, changes nothing by itself."""
    return place.position == "scramble" or (place.position == "entangled" and place.top is None)


@cache
def claims_from(origin: Place, place: Place) -> tuple[ClaimKind, ...]:
    """What coming to ``place`` from ``origin`` opens for the side on top of ``place``."""
    side = place.top
    if side is None:
        return ()
    opened: list[ClaimKind] = []
    position = place.position
    if position != "back":
        if origin.position == "standing":
            opened.append("takedown")
        elif origin.position == "double_pull":
            opened.append("double_pull_top")
        elif origin.top == OTHER[side]:
            opened.append("sweep" if origin.position in GUARDS else "reversal")
    if origin.position in GUARDS and origin.top == side and position in PASSED:
        opened.append("guard_pass")
    if position in OWN_POSITION:
        opened.append(position)
    return tuple(opened)


def holds(kind: ClaimKind, side: Side, place: Place) -> bool:
    """Whether a claim of ``side`` goes on being held in ``place``."""
    if place.top != side:
        return False
    if kind == "guard_pass":
        return place.position in _HELD_IN_PASS
    return kind not in OWN_POSITION or place.position == kind


def moved_up(before: Place, after: Place, side: Side) -> bool:
    """Whether ``side`` went from one position on top to a higher one."""
    return after.top == side and before.top == side and RANK[after.position] > RANK[before.position]
