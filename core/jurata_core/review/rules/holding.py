"""Reached and not held; taken for nothing."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from itertools import groupby
from typing import assert_never

from ...adjudication.places import PLACE_OF, Place
from ...adjudication.reasons import LossHow, Lost, MissedUnderSubmission, MissReason, PaidBefore
from ...adjudication.rows import Award, UnpaidClaim
from ...adjudication.sentences import CLAIMS, PLACES, amount
from ...times import Millis
from ..seen import Found, Loss, Seen


def too_late(seen: Seen, limits: Mapping[str, Millis]) -> Iterator[Found]:
    """Came to something with less time left than it has to be held."""
    for rows in _missed(seen):
        row = max(rows, key=lambda row: row.needed)
        left = seen.left(row.since)
        if _lost_how(row) == "time" and 0 <= left < row.needed and seen.full_time:
            yield lost_claims(seen, "too_late", rows, {"claim": row.claim, "needed": row.needed, "left": left})


def shielded(seen: Seen, limits: Mapping[str, Millis]) -> Iterator[Found]:
    """Reached, but in a submission all the while."""
    for rows in _missed(seen):
        if all(isinstance(row.reason, MissedUnderSubmission) for row in rows):
            yield lost_claims(seen, "shielded", rows)


def unheld(seen: Seen, limits: Mapping[str, Millis]) -> Iterator[Found]:
    """Reached and lost before it was paid."""
    for rows in _missed(seen):
        yield lost_claims(seen, "unheld", rows)


def _missed(seen: Seen) -> Iterator[list[UnpaidClaim]]:
    """Claims of the side that were lost and are not covered yet, those lost together in one."""
    rows = [row for row in seen.verdict.missed if row.to == seen.side and not seen.is_covered(row)]
    for _, together in groupby(rows, key=lambda row: row.t):
        yield list(together)


def lost_claims(seen: Seen, kind: str, rows: list[UnpaidClaim], facts: Mapping[str, object] = {}) -> Found:
    """An error that is the loss of claims; the advantage for having come near is taken off."""
    seen.cover(rows)
    consoled = [award for award in seen.rows_at(rows[0].t) if _consoles(award, rows)]
    sums = {"points": 0, "advantages": 0}
    for row in rows:
        if isinstance(row.reason, MissReason):
            n, tally = row.reason.worth
            sums[tally] += n
    loss = Loss(sums["points"], sums["advantages"] - sum(award.n for award in consoled))
    worth = amount(sums["points"], "points") if sums["points"] else amount(sums["advantages"], "advantages")
    cost = f"{worth} missed" + (" (advantage given)" if consoled else "")
    last = rows[-1]
    claims = " and ".join(CLAIMS[row.claim] for row in rows)
    since = min(row.since for row in rows)
    return Found(
        kind, since, last.t, seen.exchange_of(last),
        tuple(dict.fromkeys(ref for row in rows for ref in row.observations)),
        {
            "claim": last.claim, "claims": claims, "held": max(row.held for row in rows), "needed": last.needed,
            "ending": _ended_by(seen, last), "cost": cost, **facts,
        },
        loss, tuple(consoled), place=_held_place(seen, last), held=max(row.held for row in rows), needed=last.needed,
        changed=since if kind == "too_late" else last.t,
    )  # fmt: skip


def _lost_how(row: UnpaidClaim) -> LossHow | None:
    return row.reason.ending if isinstance(row.reason, MissReason) else None


def _ended_by(seen: Seen, row: UnpaidClaim) -> str:
    """What a claim was lost to."""
    assert isinstance(row.reason, MissReason)  # only what was missed is lost
    match row.reason.ending:
        case "position":
            return PLACES[seen.place_at(row.t).position]
        case "restart":
            return "a restart"
        case "period":
            return "overtime"
        case "time":
            return "time ran out"
        case _:
            assert_never(row.reason.ending)


def _consoles(award: Award, rows: list[UnpaidClaim]) -> bool:
    row = rows[0]
    return isinstance(award.reason, Lost) and award.t == row.t and award.to == row.to


def _held_place(seen: Seen, row: UnpaidClaim) -> Place:
    return seen.place_before(row.t)


def retaken(seen: Seen, limits: Mapping[str, Millis]) -> Iterator[Found]:
    """A position that was paid, given up, and taken again in the same spell of control."""
    for row in seen.verdict.unpaid:
        if row.to == seen.side and isinstance(row.reason, PaidBefore):
            facts = {"claim": row.claim, "sentence": row.because}
            place = PLACE_OF[row.claim, seen.side]
            yield Found("retaken", row.t, row.t, seen.exchange_of(row), row.observations, facts, place=place)
