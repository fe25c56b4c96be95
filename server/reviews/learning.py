"""What a coach's own scored matches teach the model: rates and paces, kept as long as no match has changed."""

from __future__ import annotations

from functools import lru_cache

from jurata_core.chance import Rates, fit, together
from jurata_core.chance.rates import Seen as Counted
from jurata_core.winnable import Paces, learned
from matches.models import Match
from matches.outcomes import outcomes

Stamp = tuple[tuple[str, int], ...]
"""The matches of a coach with their revisions."""


def stamp_of(owner: int) -> Stamp:
    """Which matches there are, as they are now: the coach's own, not the second scores of others' matches."""
    rows = Match.objects.filter(owner_id=owner, second_of=None).order_by("pk")
    return tuple((str(pk), revision) for pk, revision in rows.values_list("pk", "revision"))


@lru_cache(maxsize=16)
def taught(stamp: Stamp) -> tuple[Rates, Counted, Paces]:
    """Rates with what was counted, and paces, from those of these matches that are over."""
    rows = outcomes(Match.objects.filter(pk__in=[pk for pk, _ in stamp]).select_related("clip"))
    lessons = [row.teaches for row in rows.values() if row.teaches is not None]
    counted = together(lesson["counted"] for lesson in lessons)
    return fit(counted), counted, learned(tuple(move) for lesson in lessons for move in lesson["moves"])
