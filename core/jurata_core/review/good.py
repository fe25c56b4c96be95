"""What was done well: at least one thing that the log shows."""

from __future__ import annotations

from ..adjudication.reasons import BySubmission, Held, claims_of
from ..adjudication.rows import Award
from ..adjudication.sentences import CLAIMS, amount
from ..match_log.observations import Submission
from ..times import minutes, span
from .seen import Seen

MOST = 3


def done_well(seen: Seen) -> list[str]:
    """Sentences, the most telling first; empty where the log shows nothing of the kind."""
    result = seen.verdict.result
    found: list[str] = []
    if isinstance(result.how, BySubmission) and result.winner == seen.side:
        found.append(f"Finished it: {result.how.technique}.")
    paid = [row for row in seen.verdict.ledger if row.to == seen.side and isinstance(row.reason, Held) and row.n > 0]
    found += [_held(row) for row in sorted(paid, key=lambda row: -row.n)]
    for hold in seen.of(Submission, seen.other):
        escaped = hold.until < seen.over and seen.verdict.result.method != "submission"
        if hold.until > hold.t and escaped:
            lasted = span(hold.until - hold.t)
            found.append(
                f"Stayed calm in the {hold.technique} at {minutes(seen.clock(hold.t))} for {lasted} and got out."
            )
    if not found and not any(row.to == seen.side and row.kind == "penalties" for row in seen.verdict.ledger):
        found.append("Not a single penalty.")
    return found[:MOST]


def _held(row: Award) -> str:
    claim = CLAIMS[claims_of(row.reason)[0]]
    return f"{claim[:1].upper()}{claim[1:]} at {minutes(row.clock)}, held and paid: {amount(row.n, row.kind)}."
