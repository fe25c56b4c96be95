"""What was marked as done well, and how a lead was kept."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import pairwise

from ...adjudication.places import CONTROL, STANDING
from ...times import Millis, span
from ..rules.marks import said_of
from ..seen import Seen
from .rows import Good, at_clock

LATE: Millis = 60_000
LONG: Millis = 30_000
"""Control that was kept for so long while ahead was kept with patience."""


def marked(seen: Seen) -> Iterator[Good]:
    """What the coach marked."""
    for mark in seen.marks(good=True):
        said = said_of(mark).rstrip(".")
        words = f"{said[:1].upper()}{said[1:]}{'' if mark.text else ': marked as done well'}."
        yield Good("marked", seen.side, mark.t, max(mark.t, mark.until), words)


def patient(seen: Seen) -> Iterator[Good]:
    """Ahead from the start of a spell of control to its end, and nothing given by it."""
    spells: list[tuple[Millis, Millis]] = []
    for (t, place), (until, _) in pairwise([*seen.places, (seen.over, STANDING)]):
        if place.top == seen.side and place.position in CONTROL and until > t:
            if spells and spells[-1][1] == t:
                spells[-1] = (spells[-1][0], until)
            else:
                spells.append((t, until))
    for since, until in spells:
        lasted = seen.clock(until) - seen.clock(since)
        changed = (row.t for row in seen.verdict.ledger if since < row.t < until)
        if lasted >= LONG and all(seen.standing(t) > 0 for t in (since, *changed)) and seen.watched(since, until):
            said = f"Ahead, and {span(lasted)} of control from {at_clock(seen, since)} on with nothing given."
            yield Good("patient", seen.side, since, until, said, lasted)


def kept(seen: Seen) -> Iterator[Good]:
    """Ahead and on top in the last minute, and still so at the end."""
    start = seen.after_clock(0, max(0, seen.clock(seen.over) - LATE)) if seen.full_time else seen.over
    stayed = all(place.top == seen.side for t, place in seen.places if start < t < seen.over)
    stayed = stayed and seen.watched(start, seen.over)
    if start < seen.over and seen.place_at(start).top == seen.side and stayed and seen.standing(start) > 0:
        yield Good("kept", seen.side, start, seen.over, "Ahead in the last minute, and stayed on top to the end.")
