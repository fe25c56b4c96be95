"""Own attacks from the wrong place, and the other side's failed ones that were let go."""

from __future__ import annotations

from collections.abc import Iterator, Mapping

from ...adjudication.reasons import Lost, claims_of
from ...adjudication.rows import Award, UnpaidClaim
from ...adjudication.sentences import amount
from ...match_log.observations import Submission
from ...techniques import goes_for_a_leg
from ...times import Millis
from ..seen import Found, Seen, loss_of
from .holding import lost_claims


def _swept(row: Award) -> bool:
    """Whether a row was given for a sweep, and not for one that was lost."""
    return "sweep" in claims_of(row.reason) and not isinstance(row.reason, Lost)


def leg_swept(seen: Seen, limits: Mapping[str, Millis]) -> Iterator[Found]:
    """A leg lock tried from the top or with tied-up legs, after which the other came up and was paid."""
    sweeps = [
        row for row in seen.verdict.ledger
        if seen.gains(row) and not seen.is_covered(row) and _swept(row)
    ]  # fmt: skip
    for hold in seen.of(Submission, seen.side):
        place = seen.place_before(hold.t)
        if not goes_for_a_leg(hold.technique) or (place.top != seen.side and place.position != "entangled"):
            continue
        rows = [
            row for row in sweeps
            if not seen.is_covered(row) and hold.t <= seen.began(row) <= hold.until + limits["within"]
        ]  # fmt: skip
        if rows:
            seen.cover(rows)
            loss = loss_of(rows, seen.side)
            facts = {
                "technique": hold.technique, "place": place.position, "clock": seen.clock(hold.t),
                "came": seen.clock(seen.began(rows[0])),
                "cost": amount(rows[0].n, rows[0].kind),
            }  # fmt: skip
            refs = (hold.ref, *rows[0].observations)
            yield Found(
                "leg_swept",
                hold.t,
                rows[0].t,
                seen.exchange_of(rows[0]),
                refs,
                facts,
                loss,
                tuple(rows),
                place=place,
                changed=seen.began(rows[0]),
            )


def chased(seen: Seen, limits: Mapping[str, Millis]) -> Iterator[Found]:
    """A submission begun while a claim still counted, which was then lost."""
    lost: dict[Millis, list[UnpaidClaim]] = {}
    for row in seen.verdict.missed:
        if row.to == seen.side and not seen.is_covered(row):
            lost.setdefault(row.t, []).append(row)
    for rows in lost.values():
        hold = next(seen.between(Submission, rows[0].since, rows[0].t - 1, seen.side), None)
        if hold is not None:
            found = lost_claims(seen, "chased", rows, {"technique": hold.technique, "held": hold.t - rows[0].since})
            yield found._replace(refs=(*found.refs, hold.ref))
