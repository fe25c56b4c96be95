"""What a change of position opens, keeps, loses and pays: the one definition of it.

The adjudication, the outlook of the desk, the ways to win and the chance of winning all call :func:`transition` and
:func:`pull`; what a step pays at once, beyond claims, is a rule of :mod:`at_once`. Nothing here changes what it is
given.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import replace
from typing import Generic, Literal, NamedTuple, Protocol, TypeVar

from ..match_log.observations import OTHER, SIDES, Side, Tally
from ..records import record
from ..rulesets import Ruleset
from .at_once import AT_ONCE, Gain, Step, When
from .control import Control
from .places import (
    CONTROL,
    DOUBLE_PULL,
    OWN_POSITION,
    PASSED,
    PLACE_OF,
    STANDING,
    ClaimKind,
    Place,
    claims_from,
    holds,
    is_reversal,
    moved_up,
    passed_through,
)
from .reasons import OnTopByPull, PaidBefore, Reversal, WorthNothing


class ClaimLike(Protocol):
    """A claim being held, as far as a change of position asks about it."""

    @property
    def kind(self) -> ClaimKind: ...
    @property
    def side(self) -> Side: ...
    @property
    def tally(self) -> Tally: ...
    @property
    def n(self) -> int:
        """What it pays when held; 0 where nothing."""
        ...


AnyClaim = TypeVar("AnyClaim", bound=ClaimLike)


class Opened(NamedTuple):
    """A claim that a change of position opens for the side on top, and what it will pay."""

    kind: ClaimKind
    tally: Tally
    n: int


@record
class Transition(Generic[AnyClaim]):
    """What a change of position does, before any of it is done."""

    control: Control
    """Who is where afterwards."""
    opened: Sequence[Opened]
    kept: Sequence[AnyClaim]
    suspended: Sequence[AnyClaim]
    """Their count waits while something is passed through."""
    moved_on: Sequence[AnyClaim]
    """Given up for a higher position: they give nothing."""
    lost: Sequence[AnyClaim]
    worth_nothing: Sequence[tuple[str, WorthNothing]]
    """What a coach might expect and is not opened: the claim, and why not."""
    at_once: Sequence[Gain]


NONE: tuple[()] = ()
NOTHING_PAID: frozenset[ClaimKind] = frozenset()


def transition(
    ruleset: Ruleset, before: Control, claims: Sequence[AnyClaim], place: Place, points_open: bool = True
) -> Transition[AnyClaim]:
    """What coming to ``place`` does to the claims being held, and what it opens and pays."""
    if passed_through(place):
        return Transition(replace(before, place=place), NONE, NONE, claims, NONE, NONE, NONE, NONE)
    if place == before.place:
        after = Control(place, place, place, NONE, before.spell, before.paid)
        return Transition(after, NONE, claims, NONE, NONE, NONE, NONE, NONE)
    side = place.top
    spell = side if place.position in CONTROL else None
    paid = before.paid if spell is not None and before.spell == spell else NOTHING_PAID
    after = Control(place, place, place, NONE, spell, paid)
    kept: list[AnyClaim] = []
    moved_on: list[AnyClaim] = []
    lost: list[AnyClaim] = []
    for claim in claims:
        if claim.side == side and holds(claim.kind, side, place):
            kept.append(claim)
        elif claim.side == side and moved_up(before.last, place, side):
            moved_on.append(claim)
        else:
            lost.append(claim)
    gains = at_once("change", ruleset, before, after, NONE, points_open)
    if side is None:
        return Transition(after, NONE, kept, NONE, moved_on, lost, NONE, gains)
    opened: list[Opened] = []
    nothing: list[tuple[str, WorthNothing]] = []
    once = ruleset.repeat == "after_recovery"
    for kind in claims_from(before.origin, place):
        if once and kind in OWN_POSITION and kind in paid:
            nothing.append((kind, PaidBefore()))
        elif not kept or not any(claim.kind == kind for claim in kept):
            opened.append(Opened(kind, *worth(ruleset, kind, place)))
    if is_reversal(before.origin, place):
        nothing.append(("reversal", Reversal(before.origin.position)))
    elif len(before.pullers) == 1 and before.origin.top == side and not opened:
        nothing.append(("takedown", OnTopByPull(OTHER[side])))
    return Transition(after, opened, kept, NONE, moved_on, lost, nothing, gains)


def worth(ruleset: Ruleset, kind: ClaimKind, place: Place) -> tuple[Tally, int]:
    """What a claim that opens in ``place`` will pay when held."""
    if kind == "double_pull_top":
        if ruleset.double_pull_top == "advantage":
            return "advantages", 1 if ruleset.advantages else 0
        return "points", ruleset.points["takedown"] if ruleset.double_pull_top == "takedown" else 0
    if kind in ("takedown", "sweep") and place.position in PASSED:
        return "points", ruleset.points[f"{kind}_clear"]
    return "points", ruleset.points[kind]


def consoled(ruleset: Ruleset, lost: Iterable[AnyClaim]) -> dict[Side, list[AnyClaim]]:
    """The sides that get an advantage for claims lost together, one each, and for which claims."""
    found: dict[Side, list[AnyClaim]] = {}
    if ruleset.advantages:
        for claim in lost:
            if claim.n and claim.tally == "points":
                found.setdefault(claim.side, []).append(claim)
    return found


Ignored = Literal["not_from_standing", "again"]
"""Why a pull does not count."""


class Pulled(NamedTuple):
    """A pull that counts: where the next position comes from now, and what it pays at once."""

    control: Control
    at_once: Sequence[Gain]


def pull(
    ruleset: Ruleset, before: Control, by: Side | Literal["both"], caught: bool = False, points_open: bool = True
) -> Pulled | Ignored:
    """What sitting to guard changes before the next position is reached."""
    if before.last != STANDING:
        return "not_from_standing"
    origin = before.origin
    if by == "both":
        if before.pullers:
            return "again"
        pulling: tuple[Side, ...] = SIDES
        origin = DOUBLE_PULL
    else:
        pulling = (by,)
        if not before.pullers:
            if not (caught and ruleset.pull_caught == "takedown"):
                origin = PLACE_OF["guard", OTHER[by]]
        elif len(before.pullers) == 1 and by not in before.pullers:
            origin = DOUBLE_PULL
        else:
            return "again"
    after = replace(before, origin=origin, pullers=before.pullers + pulling)
    return Pulled(after, at_once("pull", ruleset, before, after, pulling, points_open))


def at_once(
    when: When, ruleset: Ruleset, before: Control, after: Control, pullers: tuple[Side, ...], points_open: bool
) -> Sequence[Gain]:
    """All that a step pays at once."""
    gains: list[Gain] = []
    for rule in AT_ONCE:
        if rule.when == when:
            gains += rule.gains(Step(ruleset, before, after, pullers, points_open))
    return gains
