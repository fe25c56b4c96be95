"""Where errors come from: links to earlier ones, and the chains they make."""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any, NamedTuple

from ..match_log.observations import Grip
from ..times import Millis, span
from .errors import Error
from .seen import Seen

SOON: Millis = 20_000
"""How long after an earlier error a later one may have come from its hurry alone."""
MOST_SUGGESTED = 3


class Link(NamedTuple):
    """An earlier error that a later one may have come from, and why that is likely."""

    earlier: str
    because: str
    weight: int


def suggested(seen: Seen, errors: Sequence[Error]) -> dict[str, list[Link]]:
    """For each error, by its key, the earlier ones it may have come from, the likeliest first.

    Nothing is decided by it: the coach links them, or does not.
    """
    by_end = sorted(range(len(errors)), key=lambda number: errors[number].found.t)
    ends = [errors[number].found.t for number in by_end]
    grips = [number for number, error in enumerate(errors) if error.kind == "grip_unbroken"]
    found: dict[str, list[Link]] = {}
    for later in errors:
        began = later.found.since
        # Only what ended in the same place, or shortly before, can have led to it; and grips.
        first = min(seen.since(began - 1), seen.after_clock(began, -SOON))
        near = by_end[bisect_left(ends, first) : bisect_right(ends, began)]
        earlier = [errors[number] for number in sorted({*near, *grips})]
        links = [link for one in earlier if (link := _link(seen, one, later)) is not None]
        if links:
            found[later.key] = sorted(links, key=lambda link: -link.weight)[:MOST_SUGGESTED]
    return found


def _link(seen: Seen, earlier: Error, later: Error) -> Link | None:
    before, after = earlier.found, later.found
    if before.since >= after.since or earlier is later:
        return None
    grip = _grip(seen, earlier)
    if grip is not None and before.since <= after.since <= grip + SOON:
        return Link(earlier.key, f"That grip was on until {span(max(0, after.since - grip))} before it.", 3)
    where = after.since - 1
    if before.t <= after.since and seen.since(where) <= before.t and seen.place_at(before.t) == seen.place_at(where):
        return Link(earlier.key, "It left the match in the place from which this began.", 2)
    gone = seen.clock(after.since) - seen.clock(before.t)
    if before.t <= after.since and gone <= SOON:
        return Link(earlier.key, f"It was only {span(gone)} before.", 1)
    return None


def _grip(seen: Seen, error: Error) -> Millis | None:
    """Until when the grip of an error lasted, where it is one."""
    if error.kind != "grip_unbroken":
        return None
    first = seen.observation(error.found.refs[0])
    return first.until if isinstance(first, Grip) else None


@dataclass(frozen=True, slots=True)
class Chain:
    """A root and the errors that came from it, in order of time."""

    root: str
    members: tuple[str, ...]

    def as_json(self) -> dict[str, Any]:
        return {"first": self.root, "members": list(self.members)}


def chains(errors: Sequence[Error], links: Mapping[str, str]) -> list[Chain]:
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
