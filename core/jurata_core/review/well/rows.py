"""What one thing done well is, and the kinds there are."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Literal

from ...adjudication.places import RANK, Place
from ...match_log.observations import Side
from ...times import Millis, minutes, to_seconds
from ..seen import Seen

GoodKind = Literal[
    "finished", "marked", "escaped", "held", "moved", "denied", "stopped", "defended", "attacked", "gripped", "freed",
    "patient", "kept", "clean",
]  # fmt: skip
WELL_NAMES: dict[str, str] = {
    "finished": "Finished the match",
    "marked": "Marked by the coach as done well",
    "escaped": "Got out from under control",
    "held": "Held for the whole count",
    "moved": "Took a better position that scored nothing",
    "denied": "Out again before it scored",
    "stopped": "Stopped what the opponent tried",
    "defended": "Got out of a submission",
    "attacked": "Attacked without losing the position",
    "gripped": "A grip that led to something",
    "freed": "Got rid of a grip at once",
    "patient": "Ahead, and kept control without a risk",
    "kept": "Ahead, and on top to the end",
    "clean": "Without a penalty",
}
"""What each kind is called where no match is in question, the most telling first."""
ORDER: tuple[str, ...] = tuple(WELL_NAMES)


@dataclass(frozen=True, slots=True)
class Good:
    """One thing done well. ``since`` is where it began, ``t`` where it was done."""

    kind: GoodKind
    side: Side
    since: Millis
    t: Millis
    because: str
    weight: int = 0
    """Of those of one kind the heavier come first."""

    def as_json(self) -> dict[str, Any]:
        return {
            "kind": self.kind, "side": self.side, "since": to_seconds(self.since), "t": to_seconds(self.t),
            "because": self.because,
        }  # fmt: skip


def level(seen: Seen, place: Place) -> int:
    """How well a side stands in a place: above zero on top, the higher the better; below zero underneath."""
    if place.top is None:
        return 0
    rank = 1 + RANK[place.position]
    return rank if place.top == seen.side else -rank


def worst(seen: Seen, start: Millis, end: Millis) -> int:
    """The lowest level of the side from ``start`` to ``end``, both included."""
    return min(level(seen, seen.place_at(t)) for t in (start, *seen.changed_at(start, end)))


def at_clock(seen: Seen, t: Millis) -> str:
    """A moment as the match clock has it."""
    return minutes(seen.clock(t))
