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
from ..times import Millis
from .at_once import AT_ONCE, Gain, Step, When
from .control import NO_SPELLS, Control, Spell, Spells, control_at
from .places import (
    CONTROL,
    DOUBLE_PULL,
    OWN_POSITION,
    PASSED,
    PLACE_OF,
    STANDING,
    TOP_CLAIMS,
    ClaimKind,
    Place,
    claims_from,
    holds,
    moved_up,
    passed_through,
)
from .reasons import NoWorth, OnTopByPull, PaidBefore, Reversal, TakenBack, TurtleForNothing, WorthNothing


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

    @property
    def by_hook(self) -> bool:
        """Whether it opened with one hook: then it gives way to the back."""
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
    """What a coach might expect and is not opened, or opened for nothing: the claim, and why."""
    at_once: Sequence[Gain]


NONE: tuple[()] = ()
FRESH = Spell()


def transition(
    ruleset: Ruleset,
    before: Control,
    claims: Sequence[AnyClaim],
    place: Place,
    points_open: bool = True,
    t: Millis | None = None,
) -> Transition[AnyClaim]:
    """What coming to ``place`` does to the claims being held, and what it opens and pays.

    ``before`` is as :func:`established` says at ``t``; since then the new top, where there is one, counts its time.
    """
    if passed_through(place):
        passing = Control(
            place, before.last, before.origin, before.pullers, before.spells, before.established, before.base
        )
        return Transition(passing, NONE, NONE, claims, NONE, NONE, NONE, NONE)
    if place == before.last:
        # Logged again, perhaps after something was passed through.
        top_from = before.top_from if before.established or place == before.place else t
        after = Control(place, place, place, NONE, before.spells, before.established, before.base, top_from)
        return Transition(after, NONE, claims, NONE, NONE, NONE, NONE, NONE)
    side = place.top
    origin = before.origin if before.established else before.origin_for(side)
    taken_back = origin != before.origin and origin.top == side
    kept, moved_on, lost = _held_on(before.last, claims, place)
    spells = _spells(ruleset, before, place)
    if side is None:
        after = Control(place, place, place)
        return Transition(
            after, NONE, kept, NONE, moved_on, lost, NONE, _gains("change", ruleset, origin, after, points_open)
        )
    opened: list[Opened] = []
    for_nothing: list[ClaimKind] = []
    nothing: list[tuple[str, WorthNothing]] = []
    spell = spells[0] if side == "a" else spells[1]
    paid = spell.paid if spell is not None and ruleset.repeat != "every_time" else None
    for kind in claims_from(origin, place):
        if taken_back and kind not in OWN_POSITION:
            continue
        if paid and kind in OWN_POSITION and kind in paid:
            nothing.append((kind, PaidBefore(OTHER[side], ruleset.repeat == "after_turtle")))
        elif not kept or not any(claim.kind == kind for claim in kept):
            tally, n = worth(ruleset, kind, place)
            opened.append(Opened(kind, tally, n))
            if not n and kind == "reversal":
                nothing.append((kind, Reversal(origin.position)))
            elif not n:
                for_nothing.append(kind)
    if for_nothing:
        nothing.append((for_nothing[-1], NoWorth(tuple(for_nothing), ruleset.title)))
    if taken_back:
        nothing.append(("sweep", TakenBack(OTHER[side])))
    elif len(before.pullers) == 1 and before.origin.top == side and not opened:
        nothing.append(("takedown", OnTopByPull(OTHER[side])))
    elif place.position == "turtle" and origin == PLACE_OF["guard", side] and ruleset.turtle_escape == "none":
        nothing.append(("guard_pass", TurtleForNothing(OTHER[side], ruleset.title)))
    after = _on_top(ruleset, before, place, origin, opened, spells, t)
    gains = NONE if taken_back else _gains("change", ruleset, origin, after, points_open)
    return Transition(after, opened, kept, NONE, moved_on, lost, nothing, gains)


def _held_on(
    last: Place, claims: Sequence[AnyClaim], place: Place
) -> tuple[list[AnyClaim], list[AnyClaim], list[AnyClaim]]:
    """The claims that go on in ``place``, those that are given up for a higher position, and those that are lost."""
    side = place.top
    kept: list[AnyClaim] = []
    moved_on: list[AnyClaim] = []
    lost: list[AnyClaim] = []
    for claim in claims:
        if claim.side != side:
            lost.append(claim)
        elif claim.by_hook and place.position == "back":
            moved_on.append(claim)
        elif holds(claim.kind, side, place):
            kept.append(claim)
        elif moved_up(last, place, side):
            moved_on.append(claim)
        else:
            lost.append(claim)
    return kept, moved_on, lost


def _on_top(
    ruleset: Ruleset,
    before: Control,
    place: Place,
    origin: Place,
    opened: Sequence[Opened],
    spells: Spells,
    t: Millis | None,
) -> Control:
    """Who is where once a side has come on top, or has gone on from there."""
    if before.last.top == place.top and not before.established:
        top_from = t if before.top_from is None else before.top_from
        return Control(place, place, place, NONE, spells, False, before.base, top_from)
    if ruleset.regain == "nothing" and opened and opened[0].kind in TOP_CLAIMS:
        return Control(place, place, place, NONE, spells, False, origin, t)
    return control_at(place, spells[0] if place.top == "a" else spells[1])


GOES_ON = {"after_recovery": CONTROL, "every_time": CONTROL, "after_turtle": CONTROL - {"turtle"}}
"""Where a spell of control goes on, by what a ruleset says of positions that score again."""


def spell_goes_on(ruleset: Ruleset, place: Place) -> bool:
    """Whether a spell of control goes on, or begins, in ``place``."""
    return place.position in GOES_ON[ruleset.repeat]


def _spells(ruleset: Ruleset, before: Control, place: Place) -> Spells:
    """The spells of control that go on or begin in ``place``.

    That of the side that has lost the top waits: it goes on where that side takes the top back before the other's
    was established.
    """
    side, (a, b) = place.top, before.spells
    if side is None:
        return NO_SPELLS
    goes_on = place.position in GOES_ON[ruleset.repeat]
    if side == "a":
        return (a or FRESH) if goes_on else None, b
    return a, (b or FRESH) if goes_on else None


def established(ruleset: Ruleset, before: Control, claims: Iterable[AnyClaim], t: Millis) -> Control:
    """The same as it stands at ``t``: whether the top is established by now.

    It is once nothing that it came on top with is open any more, or once it has been there for as long as that is
    held; the spell of the side below ends then.
    """
    top = before.last.top
    if top is None or (before.established and before.spells[1 if top == "a" else 0] is None):
        return before
    if not before.established:
        for claim in claims:
            if claim.side == top and claim.kind in TOP_CLAIMS:
                if before.top_from is None or t - before.top_from < ruleset.holds[claim.kind]:
                    return before
                break
    own = before.spell(top)
    spells = (own, None) if top == "a" else (None, own)
    return Control(before.place, before.last, before.origin, before.pullers, spells)


def broken_off(ruleset: Ruleset, before: Control, claims: Iterable[AnyClaim], t: Millis) -> Control:
    """The same once the clock has stopped at ``t``: the time of a top that is not established counts no further."""
    now = established(ruleset, before, claims, t)
    return now if now.top_from is None else replace(now, top_from=None)


def worth(ruleset: Ruleset, kind: ClaimKind, place: Place) -> tuple[Tally, int]:
    """What a claim that opens in ``place`` will pay when held."""
    if kind == "double_pull_top":
        if ruleset.double_pull_top == "advantage":
            return "advantages", 1 if ruleset.advantages else 0
        return "points", ruleset.points["takedown"] if ruleset.double_pull_top == "takedown" else 0
    if kind in ("takedown", "sweep") and place.position in PASSED:
        return "points", ruleset.points[f"{kind}_clear"]
    return "points", ruleset.points[kind]


def consoled(ruleset: Ruleset, before: Control, lost: Iterable[AnyClaim]) -> dict[Side, list[AnyClaim]]:
    """The sides that get an advantage for claims lost together, one each, and for which claims.

    In one spell of control a position that was reached and lost gives it only once.
    """
    found: dict[Side, list[AnyClaim]] = {}
    if ruleset.advantages:
        for claim in lost:
            spell = before.spell(claim.side)
            if claim.n and claim.tally == "points" and not (spell and claim.kind in spell.consoled):
                found.setdefault(claim.side, []).append(claim)
    return found


def console(
    ruleset: Ruleset, before: Control, after: Control, lost: Iterable[AnyClaim]
) -> tuple[Control, dict[Side, list[AnyClaim]]]:
    """``after`` once its spells of control remember what is :func:`consoled`, and that."""
    found = consoled(ruleset, before, lost)
    for side, claims in found.items():
        after = after.with_consoled(side, [claim.kind for claim in claims])
    return after, found


Ignored = Literal["not_from_standing", "again"]
"""Why a pull does not count."""


class Pulled(NamedTuple):
    """A pull that counts: where the next position comes from now, and what it pays at once."""

    control: Control
    at_once: Sequence[Gain]


def pull(
    ruleset: Ruleset,
    before: Control,
    by: Side | Literal["both"],
    caught: bool = False,
    points_open: bool = True,
    attack: bool = False,
) -> Pulled | Ignored:
    """What sitting to guard changes before the next position is reached; ``attack``: straight into a submission."""
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
    return Pulled(after, _gains("pull", ruleset, before.last, after, points_open, pulling, attack))


def _gains(
    when: When,
    ruleset: Ruleset,
    origin: Place,
    after: Control,
    points_open: bool,
    pullers: tuple[Side, ...] = NONE,
    attack: bool = False,
) -> Sequence[Gain]:
    """All that a step pays at once."""
    gains: list[Gain] = []
    for rule in AT_ONCE:
        if rule.when == when and rule.applies(ruleset):
            gains += rule.gains(Step(ruleset, origin, after, pullers, points_open, attack))
    return gains
