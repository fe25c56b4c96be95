"""What the coach marked as wrong, where it belongs to no other error."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from ...adjudication.places import PLACE_OF, STANDING, Place
from ...adjudication.sentences import CLAIMS, PLACES
from ...match_log.observations import CLAIMED_MOVES, Mark
from ...times import Millis, minutes
from ..seen import Found, Loss, Seen

PLANS = frozenset(("plan", "pace", "rules"))
"""Causes of what was done against the plan; all others are of how it was done."""


def technical(seen: Seen, limits: Mapping[str, Millis]) -> Iterator[Found]:
    """Something that was done wrong."""
    yield from _marked(seen, "technical", of_plan=False)


def out_of_plan(seen: Seen, limits: Mapping[str, Millis]) -> Iterator[Found]:
    """Something other than what was agreed."""
    yield from _marked(seen, "out_of_plan", of_plan=True)


def _marked(seen: Seen, kind: str, of_plan: bool) -> Iterator[Found]:
    for mark in seen.marks(good=False):
        if (mark.cause in PLANS) != of_plan or mark.ref in seen.joined:
            continue
        loss = missed_by(seen, mark)
        cost = str(loss) if any(loss) else "as the coach judges"
        facts = {"said": said_of(mark), "marked": _marked_at(seen, mark), "cost": cost}
        place = taken_to(mark.chance, seen) if mark.chance else None
        until = max(mark.t, mark.until)
        yield Found(kind, mark.t, until, seen.exchange_at(mark.t), (mark.ref,), facts, loss, place=place)


_WHERE = {"takedown": "guard", "sweep": "guard", "guard_pass": "side"}
"""The position that a move comes to where it is not called by it."""


def taken_to(move: str, seen: Seen) -> Place | None:
    """Where the side would have been after a move that it did not take; None after a submission."""
    if move in CLAIMED_MOVES:
        return PLACE_OF[_WHERE.get(move, move), seen.side]
    if move == "stand_up":
        return STANDING
    return PLACE_OF["guard", seen.other] if move == "escape" else None


def missed_by(seen: Seen, mark: Mark) -> Loss:
    """What a chance that was not taken would have paid then."""
    rules = seen.log.ruleset
    overtime = seen.verdict.timeline.period_at(mark.t) > 0
    if mark.chance not in CLAIMED_MOVES or not (overtime or seen.clock(mark.t) >= rules.opening(seen.log.duration)):
        return Loss()
    return Loss(points=rules.points[mark.chance])


def said_of(mark: Mark) -> str:
    """A mark in words."""
    missed = f"{CLAIMS[mark.chance]} not taken" if mark.chance else None
    return mark.text or missed or mark.cause or "marked by the coach"


def title_of(mark: Mark) -> str:
    """A mark as the title of what is wrong."""
    said = said_of(mark).strip().rstrip(".")
    return f"{said[:1].upper()}{said[1:]}"


def _marked_at(seen: Seen, mark: Mark) -> str:
    """Where a mark was set, and its cause."""
    cause = f": {mark.cause}" if mark.cause and mark.text else ""
    return f"Marked by the coach at {minutes(seen.clock(mark.t))}, in {PLACES[seen.place_at(mark.t).position]}{cause}."
