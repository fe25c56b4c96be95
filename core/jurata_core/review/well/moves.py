"""Positions that were taken, kept, and got out of."""

from __future__ import annotations

from collections.abc import Iterator

from ...adjudication.places import CONTROL, GUARDS, Place
from ...adjudication.reasons import Held, MissReason, PaidBefore, claims_of
from ...adjudication.rows import Award
from ...adjudication.sentences import CLAIMS, PLACES, WHO, amount
from ...match_log.observations import Submission
from ...times import minutes, span
from ..seen import Change, Seen
from .rows import Good, at_clock, level


def escaped(seen: Seen) -> Iterator[Good]:
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
        said = f"Out of {PLACES[before.position]} at {at_clock(seen, change.t)} after {span(lasted)}, {to}."
        yield Good("escaped", seen.side, since, change.t, said, 1 if after.top == seen.side else 0)


def held(seen: Seen) -> Iterator[Good]:
    """Claims that were paid."""
    for row in seen.verdict.ledger:
        if row.to == seen.side and isinstance(row.reason, Held) and row.n > 0:
            yield Good("held", seen.side, seen.began(row), row.t, _paid(row), row.n)


def _paid(row: Award) -> str:
    claim = CLAIMS[claims_of(row.reason)[0]]
    return f"{claim[:1].upper()}{claim[1:]} at {minutes(row.clock)}, held for {amount(row.n, row.kind)}."


def moved(seen: Seen) -> Iterator[Good]:
    """A better position that no row was paid for, and that was not lost again before it could have been."""
    paid = {seen.began(row) for row in seen.verdict.ledger if row.to == seen.side and isinstance(row.reason, Held)}
    missed = {row.since for row in seen.verdict.missed if row.to == seen.side}
    again = {row.t for row in seen.verdict.unpaid if row.to == seen.side and isinstance(row.reason, PaidBefore)}
    restarts = {one.start for one in seen.verdict.running}
    for change in seen.changes:
        if change.t in paid | missed | again | restarts or change.t >= seen.over or not _step_up(seen, change):
            continue
        if any(True for _ in seen.lasting_into(Submission, change.t, change.t, seen.other)):
            continue  # reached inside of a hold of the other side
        stays = min(change.t + seen.log.ruleset.hold, seen.over)
        if level(seen, seen.place_at(stays)) < level(seen, change.after):
            continue
        came = _called(seen, change.before, change.after)
        yield Good("moved", seen.side, seen.since(change.t - 1), change.t, f"{came} at {at_clock(seen, change.t)}.")


def _step_up(seen: Seen, change: Change) -> bool:
    """From below to the feet or the top, from the feet to the top, or past the guard."""
    before, after = change.before, change.after
    if before.top == seen.other and before.position in CONTROL:
        return False  # an escape
    if level(seen, after) <= level(seen, before) or after.position in ("entangled", "scramble"):
        return False
    return before.top != seen.side or (before.position in GUARDS and after.position in CONTROL)


def _called(seen: Seen, before: Place, after: Place) -> str:
    if after.top is None:
        return f"Up from below, out of {PLACES[before.position]}"
    if before.top == seen.side:
        return f"Past the guard, to {PLACES[after.position]}"
    return f"Came up on top, to {PLACES[after.position]}"


def denied(seen: Seen) -> Iterator[Good]:
    """Out again of what the other side had reached, before it was paid."""
    for row in seen.verdict.missed:
        if row.to != seen.other or not isinstance(row.reason, MissReason) or row.reason.ending != "position":
            continue
        if row.held and level(seen, seen.place_at(row.t)) > level(seen, seen.place_before(row.t)):
            claim = CLAIMS[row.claim]
            named, at = f"{claim[:1].upper()}{claim[1:]}", at_clock(seen, row.since)
            said = f"{named} of {WHO[seen.other]} at {at} not held: out after {span(row.held)}."
            yield Good("denied", seen.side, row.since, row.t, said)
