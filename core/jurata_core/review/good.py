"""What was done well: found by the same means as the errors, and shown with the same weight."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any, Literal

from ..adjudication.places import CONTROL
from ..adjudication.reasons import BySubmission, Held, claims_of
from ..adjudication.rows import Award
from ..adjudication.sentences import CLAIMS, PLACES, amount
from ..match_log.observations import Side, Submission
from ..techniques import within_sentence
from ..times import Millis, minutes, span, to_seconds
from .rules.marks import said_of
from .seen import Seen

MOST = 6
LATE: Millis = 60_000
STILL_ON: Millis = 2_000
"""A hold that is logged to have ended so shortly before the other side finished the match is what finished it."""
GoodKind = Literal["finished", "marked", "escaped", "defended", "held", "kept", "clean"]
ORDER: tuple[GoodKind, ...] = ("finished", "marked", "escaped", "held", "defended", "kept", "clean")
"""The most telling first."""
WELL_NAMES: dict[str, str] = {
    "finished": "Finished the match",
    "marked": "Marked by the coach as done well",
    "escaped": "Got out from under control",
    "held": "Held for the whole count",
    "defended": "Got out of a submission",
    "kept": "Ahead, and on top to the end",
    "clean": "Without a penalty",
}
"""What each kind is called where no match is in question."""


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


def found_well(seen: Seen) -> list[Good]:
    """Everything that was done well; empty where the log shows nothing of the kind."""
    return [*_finished(seen), *_marked(seen), *_escaped(seen), *_held(seen), *_defended(seen), *_kept(seen)]


def done_well(seen: Seen) -> list[Good]:
    """What a review shows of what was done well, the most telling first."""
    found = found_well(seen)
    watched = seen.watched(0, seen.over)
    if (
        not found
        and watched
        and not any(row.to == seen.side and row.kind == "penalties" for row in seen.verdict.ledger)
    ):
        found.append(Good("clean", seen.side, 0, seen.over, "Not a single penalty."))
    return sorted(found, key=lambda one: (ORDER.index(one.kind), -one.weight, one.since))[:MOST]


def _finished(seen: Seen) -> Iterator[Good]:
    result = seen.verdict.result
    if isinstance(result.how, BySubmission) and result.winner == seen.side and result.t is not None:
        began = [one.t for one in seen.of(Submission, seen.side) if one.until >= result.t]
        said = f"Finished the match by {within_sentence(result.how.technique)}."
        yield Good("finished", seen.side, min([*began, result.t]), result.t, said)


def _marked(seen: Seen) -> Iterator[Good]:
    for mark in seen.marks(good=True):
        said = said_of(mark).rstrip(".")
        words = f"{said[:1].upper()}{said[1:]}{'' if mark.text else ': marked as done well'}."
        yield Good("marked", seen.side, mark.t, max(mark.t, mark.until), words)


def _escaped(seen: Seen) -> Iterator[Good]:
    """Out from under a pin or off the back, to the guard, the feet or the top."""
    restarts = {one.start for one in seen.verdict.running}
    for change in seen.changes:
        before, after = change.before, change.after
        under = before.top == seen.other and before.position in CONTROL
        out = after.top != seen.other or after.position not in CONTROL
        if not under or not out or change.t in restarts or change.t > seen.over:
            continue
        to = "on top" if after.top == seen.side else f"back to {PLACES[after.position]}"
        since = seen.since(change.t - 1)
        lasted = seen.clock(change.t) - seen.clock(since)
        said = f"Out of {PLACES[before.position]} at {minutes(seen.clock(change.t))} after {span(lasted)}, {to}."
        yield Good("escaped", seen.side, since, change.t, said, 1 if after.top == seen.side else 0)


def _held(seen: Seen) -> Iterator[Good]:
    for row in seen.verdict.ledger:
        if row.to == seen.side and isinstance(row.reason, Held) and row.n > 0:
            yield Good("held", seen.side, seen.began(row), row.t, _paid(row), row.n)


def _paid(row: Award) -> str:
    claim = CLAIMS[claims_of(row.reason)[0]]
    return f"{claim[:1].upper()}{claim[1:]} at {minutes(row.clock)}, held for {amount(row.n, row.kind)}."


def _defended(seen: Seen) -> Iterator[Good]:
    """Out of a hold of the other side."""
    result = seen.verdict.result
    finished = isinstance(result.how, BySubmission) and result.winner == seen.other
    for hold in seen.of(Submission, seen.other):
        if hold.until <= hold.t or hold.until >= seen.over - (STILL_ON if finished else 0):
            continue
        lasted, at = span(hold.until - hold.t), minutes(seen.clock(hold.t))
        said = f"Stayed calm in the {within_sentence(hold.technique)} at {at} for {lasted} and got out."
        yield Good("defended", seen.side, hold.t, hold.until, said, hold.until - hold.t)


def _kept(seen: Seen) -> Iterator[Good]:
    """Ahead and on top in the last minute, and still so at the end."""
    start = seen.after_clock(0, max(0, seen.clock(seen.over) - LATE)) if seen.full_time else seen.over
    stayed = all(place.top == seen.side for t, place in seen.places if start < t < seen.over)
    stayed = stayed and seen.watched(start, seen.over)
    if start < seen.over and seen.place_at(start).top == seen.side and stayed and seen.standing(start) > 0:
        yield Good("kept", seen.side, start, seen.over, "Ahead in the last minute, and stayed on top to the end.")
