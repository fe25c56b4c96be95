"""What a coach's own scored matches teach the model: rates and paces, kept as long as no match has changed."""

from __future__ import annotations

from functools import lru_cache

from jurata_core.chance import Rates, fit
from jurata_core.chance.rates import Seen as Counted
from jurata_core.winnable import Paces, learned
from matches.models import Match
from matches.standing import standing

Stamp = tuple[tuple[str, int], ...]
"""The matches of a coach with their revisions."""


def stamp_of(owner: int) -> Stamp:
    """Which matches count, as they are now: the coach's own, not the second scores of others' matches."""
    rows = Match.objects.filter(owner_id=owner, second_of=None).order_by("pk")
    return tuple((str(pk), revision) for pk, revision in rows.values_list("pk", "revision"))


@lru_cache(maxsize=16)
def taught(stamp: Stamp) -> tuple[Rates, Counted, Paces]:
    """Rates with what was counted, and paces, from these matches."""
    found = [standing(match) for match in Match.objects.filter(pk__in=[pk for pk, _ in stamp]).order_by("pk")]
    scored = [(one.log, one.verdict) for one in found if one.verdict.running]
    rates, counted = fit(scored)
    return rates, counted, learned(verdict for _, verdict in scored)
