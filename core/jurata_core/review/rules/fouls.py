"""Penalties with what they led to, and techniques that are not allowed."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import assert_never

from ...adjudication.at_once import PULL_COST
from ...adjudication.reasons import (
    Consequence,
    Fled,
    IllegalDisqualify,
    IllegalFinish,
    IllegalStop,
    IllegalWarned,
    Penalty,
    Rung,
    RungMinusPoint,
)
from ...times import Millis
from ..seen import Found, Seen, loss_of


def _cost(consequence: Consequence) -> str:
    match consequence:
        case IllegalDisqualify() | IllegalFinish():
            return "the match"
        case IllegalWarned():
            return "a warning"
        case IllegalStop():
            return "what was being counted"
        case _:
            assert_never(consequence)


def penalty(seen: Seen, limits: Mapping[str, Millis]) -> Iterator[Found]:
    """Each penalty, with what the ladder made of it, and two points for fleeing."""
    for row in seen.verdict.ledger:
        if row.to != seen.side or not isinstance(row.reason, Penalty):
            continue
        rows = [
            other
            for other in seen.rows_at(row.t)
            if other.observations == row.observations
            and isinstance(other.reason, Penalty | Rung | Fled)
            and (other.to == seen.side) == isinstance(other.reason, Penalty | RungMinusPoint)
        ]  # fmt: skip
        said = " ".join(other.because for other in rows)
        facts = {"foul": row.reason.foul, "sentence": said}
        # A foul by both (a double pull too long) has no observation of its own to leave out.
        drop = row.observations if row.reason.foul != "double_pull" else ()
        loss = loss_of(rows, seen.side)
        yield Found("penalty", row.t, row.t, seen.exchange_of(row), row.observations, facts, loss, tuple(rows), drop)


def paid_pull(seen: Seen, limits: Mapping[str, Millis]) -> Iterator[Found]:
    """A pull that cost points."""
    for row in seen.verdict.ledger:
        if row.to == seen.side and row.reason.code == PULL_COST.code:
            facts = {"sentence": row.because}
            loss = loss_of([row], seen.side)
            yield Found("paid_pull", row.t, row.t, seen.exchange_of(row), row.observations, facts, loss, (row,))


def illegal(seen: Seen, limits: Mapping[str, Millis]) -> Iterator[Found]:
    """A technique that this division does not allow."""
    for row in seen.verdict.illegal:
        if row.by == seen.side:
            cost = _cost(row.consequence)
            facts = {"technique": row.technique, "sentence": row.because, "cost": cost}
            yield Found("illegal", row.t, row.t, None, row.observations, facts, drop=row.observations)
