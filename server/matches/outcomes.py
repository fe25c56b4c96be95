"""What each match comes to, stored: lists and what is learned read rows, and never score a log again.

A row is of a revision of its match, and of the core that made it. Where either has gone on, it is made again when it
is asked for next.
"""

from __future__ import annotations

import uuid
from collections.abc import Iterable
from typing import Any

from jurata_core import fingerprint
from jurata_core.chance import count
from jurata_core.winnable import moves_of

from .models import Match, Outcome
from .standing import Standing, standing

FIELDS = ["revision", "core", "observed", "summary", "teaches"]


def outcomes(matches: Iterable[Match]) -> dict[uuid.UUID, Outcome]:
    """The outcome of each of some matches."""
    asked = {match.pk: match for match in matches}
    known = Outcome.objects.filter(match__in=asked, core=fingerprint())
    found = {row.match_id: row for row in known if row.revision >= asked[row.match_id].revision}
    made = [_made(match, standing(match)) for pk, match in asked.items() if pk not in found]
    Outcome.objects.bulk_create(made, update_conflicts=True, unique_fields=["match"], update_fields=FIELDS)
    return found | {row.match_id: row for row in made}


def _made(match: Match, now: Standing) -> Outcome:
    observed = len(now.observations)
    summary = now.verdict.summary() if observed else None
    return Outcome(
        match=match,
        revision=now.revision,
        core=fingerprint(),
        observed=observed,
        summary=summary,
        teaches=_teaches(now),
    )


def _teaches(now: Standing) -> dict[str, Any] | None:
    """What a match adds to the estimates; nothing before its end is logged, or where nothing happened in it."""
    verdict = now.verdict
    nothing_happened = not verdict.running or len(verdict.timeline.places) < 2
    if verdict.result.t is None or nothing_happened:
        return None
    return {"counted": count([(now.log, verdict)]).as_json(), "moves": moves_of(verdict)}
