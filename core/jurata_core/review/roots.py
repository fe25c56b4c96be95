"""Where errors come from: links to earlier ones, each with its reason, and the chains they make."""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any, NamedTuple, Protocol

from ..adjudication.sentences import PLACES, WHO
from ..match_log.observations import TOPLESS, Grip
from ..times import Millis, minutes
from .errors import Error
from .seen import Seen

SOON: Millis = 20_000
"""On the feet, where no position joins two errors, an earlier one counts for so long."""
BESIDE: Millis = 2_000
"""So soon after an error the position that it led to may be logged."""
MOST_SUGGESTED = 3
BY_PLACE = frozenset(("submitted", "risk_ahead", "given", "taken", "worth_zero", "control_lost", "stuck"))
"""Kinds that can come from the position into which an earlier error led."""
BY_OVERSIGHT = BY_PLACE | {"unheld", "chased", "shielded", "leg_swept"}
"""Kinds that can come from what was overlooked in the position from which they began."""
BY_GRIP = BY_OVERSIGHT | {"penalty", "technical", "attempt_failed"}
"""Kinds that can come from a grip of the other side."""
LEADING = BY_PLACE - {"submitted", "stuck"} | {"leg_swept", "chased", "shielded", "unheld", "paid_pull"}
"""Kinds after which the match stands in another position."""
OVERSIGHTS = {
    "technical": "The coach marked it",
    "out_of_plan": "The coach marked it",
    "chance_missed": "The chance was let go",
    "attempt_failed": "It was tried",
    "stuck": "The time passed",
    "dragged_out": "The time passed",
}
"""Kinds that change no position, and what is said of one in the position from which a later error began."""


class Link(NamedTuple):
    """An earlier error that a later one may have come from, and why that is likely."""

    earlier: str
    because: str
    weight: int


def suggested(seen: Seen, errors: Sequence[Error]) -> dict[str, list[Link]]:
    """For each error, by its key, the earlier ones it may have come from, the likeliest first.

    None is suggested because of the time alone: the later error began under a grip, in the position or under the
    opponent to which the earlier one had led. Nothing is decided by it: the coach accepts it, or does not.
    """
    by_end = sorted(errors, key=lambda error: error.found.t)
    ends = [error.found.t for error in by_end]
    grips = [(error, grip) for error in errors if (grip := _grip(seen, error)) is not None]
    found: dict[str, list[Link]] = {}
    for later in errors:
        began = _left(later)
        first = min(_under_since(seen, began), seen.since(began - 1)) - BESIDE
        near = by_end[bisect_left(ends, first) : bisect_right(ends, began)]
        placed = {one.found.t: link for one in near if (link := _from_place(seen, one, later)) is not None}
        links = [*_from_grips(seen, grips, later), *(placed[t] for t in sorted(placed, reverse=True))]
        if links:
            found[later.key] = sorted(links, key=lambda link: -link.weight)[:MOST_SUGGESTED]
    return found


def _left(error: Error) -> Millis:
    """When the match left the position from which an error came: where it is shown from before that, its end."""
    return error.found.t if error.kind in ("worth_zero", "control_lost") else error.found.since


def _grip(seen: Seen, error: Error) -> Grip | None:
    if error.kind != "grip_unbroken":
        return None
    first = seen.observation(error.found.refs[0])
    return first if isinstance(first, Grip) else None


def _from_grips(seen: Seen, grips: Sequence[tuple[Error, Grip]], later: Error) -> Iterator[Link]:
    """Grips that were on when it began, or until shortly before it in the same position."""
    began = _left(later)
    for error, grip in grips:
        if later.kind not in BY_GRIP or not error.found.since < later.found.since:
            continue
        until = seen.grip_end(grip)
        if began <= until:
            yield Link(error.key, f"It began while {WHO[seen.other]} still had that grip.", 4)
        elif seen.since(began - 1) <= until and not _long_on_the_feet(seen, until, began):
            clock = minutes(seen.clock(until))
            yield Link(error.key, f"That grip was on until {clock}, {_in(seen, began - 1)}; this began from there.", 3)


def _from_place(seen: Seen, earlier: Error, later: Error) -> Link | None:
    before, began = earlier.found, _left(later)
    if earlier is later or before.t > began or before.since >= later.found.since:
        return None
    place, held = seen.place_at(began - 1), seen.since(began - 1)
    if later.kind in BY_OVERSIGHT and earlier.kind in OVERSIGHTS and held <= before.since:
        if _long_on_the_feet(seen, before.t, began):
            return None
        return Link(earlier.key, f"{OVERSIGHTS[earlier.kind]} {_in(seen, began - 1)}; this began from there.", 2)
    if later.kind not in BY_PLACE or earlier.kind not in LEADING or place.position in TOPLESS:
        return None
    if before.since <= held <= before.t + BESIDE:
        return Link(earlier.key, f"It led to {PLACES[place.position]}; this began from there.", 3)
    if place.top != seen.other:
        return None
    other = WHO[seen.other].capitalize()
    past, under = seen.control_since(began - 1), seen.top_since(began - 1)
    if past is not None and before.since <= past <= before.t + BESIDE:
        return Link(earlier.key, f"{other} had been past the guard ever since {minutes(seen.clock(past))}.", 2)
    if before.since <= under <= before.t + BESIDE and under < began:
        return Link(earlier.key, f"{other} had been on top ever since {minutes(seen.clock(under))}.", 1)
    return None


def _long_on_the_feet(seen: Seen, ended: Millis, began: Millis) -> bool:
    """Whether nobody was on top when a later error began, long after an earlier one had ended."""
    return seen.place_at(began - 1).position in TOPLESS and seen.clock(began) - seen.clock(ended) > SOON


def _in(seen: Seen, t: Millis) -> str:
    place = seen.place_at(t)
    where = PLACES[place.position]
    return f"while {where}" if place.position in TOPLESS else f"in {where}"


def _under_since(seen: Seen, began: Millis) -> Millis:
    """Since when the other side had been on top at a moment; that moment where it was not."""
    return seen.top_since(began - 1) if seen.place_at(began - 1).top == seen.other else began


@dataclass(frozen=True, slots=True)
class Chain:
    """A root and the errors that came from it, in order of time."""

    root: str
    members: tuple[str, ...]

    def as_json(self) -> dict[str, Any]:
        return {"first": self.root, "members": list(self.members)}


class Keyed(Protocol):
    """What is known by its key."""

    @property
    def key(self) -> str: ...


def chains(errors: Sequence[Keyed], links: Mapping[str, str]) -> list[Chain]:
    """The errors gathered under their roots, by links from each to the earlier one it came from.

    A link to an error that is not there counts as none. Raises ValueError for links that lead back to themselves.
    """
    keys = {error.key for error in errors}
    members: dict[str, list[str]] = {}
    for error in errors:
        members.setdefault(_root(error.key, links, keys), []).append(error.key)
    return [Chain(root, tuple(found)) for root, found in members.items()]


def _root(key: str, links: Mapping[str, str], keys: set[str]) -> str:
    passed = {key}
    while (earlier := links.get(key)) is not None and earlier in keys:
        if earlier in passed:
            raise ValueError("an error can't come from itself")
        passed.add(earlier)
        key = earlier
    return key
