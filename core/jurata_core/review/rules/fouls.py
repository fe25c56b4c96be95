"""Penalties with what they led to, and techniques that are not allowed."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from ...adjudication.sentences import sentence
from ...times import Millis
from ..seen import Found, Seen, loss_of

COST = {
    "illegal_disqualify": "the match",
    "illegal_finish": "the match",
    "illegal_warned": "a warning",
    "illegal_stop": "what was being counted",
}


def penalty(seen: Seen, limits: Mapping[str, Millis]) -> Iterator[Found]:
    """Each penalty, with what the ladder made of it, and two points for fleeing."""
    for row in seen.verdict.ledger:
        if row.to != seen.side or row.reason != "penalty":
            continue
        rows = [
            other
            for other in seen.rows_at(row.t)
            if other.observations == row.observations
            and other.reason in ("penalty", "rung_advantage", "rung_two_points", "rung_minus_point", "fled")
            and (other.to == seen.side) == (other.reason in ("penalty", "rung_minus_point"))
        ]  # fmt: skip
        said = " ".join(other.as_json()["because"] for other in rows)
        facts = {"foul": row.facts["foul"], "sentence": said}
        # A foul by both (a double pull too long) has no observation of its own to leave out.
        drop = row.observations if row.facts["foul"] != "double_pull" else ()
        loss = loss_of(rows, seen.side)
        yield Found("penalty", row.t, row.t, seen.exchange_of(row), row.observations, facts, loss, tuple(rows), drop)


def paid_pull(seen: Seen, limits: Mapping[str, Millis]) -> Iterator[Found]:
    """A pull that cost points."""
    for row in seen.verdict.ledger:
        if row.to == seen.side and row.reason == "pull_cost":
            facts = {"sentence": row.as_json()["because"]}
            loss = loss_of([row], seen.side)
            yield Found("paid_pull", row.t, row.t, seen.exchange_of(row), row.observations, facts, loss, (row,))


def illegal(seen: Seen, limits: Mapping[str, Millis]) -> Iterator[Found]:
    """A technique that this division does not allow."""
    for row in seen.verdict.barred:
        if row.by == seen.side:
            said = sentence(row.consequence, row.facts)
            facts: dict[str, object] = {"technique": row.technique, "sentence": said, "cost": COST[row.consequence]}
            yield Found("illegal", row.t, row.t, None, row.observations, facts, drop=row.observations)
