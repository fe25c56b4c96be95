"""What errors cost of the chance of winning: worked out by the worker, many matches at once, and kept with each."""

from __future__ import annotations

from jobs.models import UNDER_WAY
from jurata_core import fingerprint
from jurata_core.lessons import Group
from jurata_core.season import costs_of
from jurata_core.season.mistakes import Asked
from matches.logs import logs_read
from matches.models import Summary
from matches.summaries import scored, settings_of
from reviews.learning import taught

from .models import Import

AT_ONCE = 1_000
"""So many matches at most are asked together: the model is solved once for all of the same rules and length."""


def price() -> int:
    """Work out the costs of some matches that have none yet, of one club. How many were looked at."""
    waiting = Summary.objects.filter(costs__isnull=True, core=fingerprint(), outdated=False, match__deleted=None)
    importing = Import.objects.filter(job__state__in=UNDER_WAY).values("club")
    waiting = waiting.exclude(match__athlete__club__in=importing)  # the import first: costs are asked for together
    first = waiting.values_list("match__athlete__club", flat=True).order_by("match__athlete__club").first()
    if first is None:
        return 0
    settings = settings_of(first)
    own = waiting.filter(match__athlete__club=first).order_by("group")  # those of one group are asked together
    rows = list(own.select_related("match__athlete").defer("figures", "lesson")[:AT_ONCE])
    with logs_read([row.match for row in rows]):
        asked = [scored(row.match, settings) for row in rows]
    groups = [Group(*row.group) for row in rows]
    rates = {group: taught(first, group).rates for group in set(groups)}
    found = costs_of([Asked(one.seen, one.errors, rates[group]) for one, group in zip(asked, groups, strict=True)])
    for row, costs in zip(rows, found, strict=True):
        # Where the match has changed meanwhile, its summary is made again, and its costs with it.
        still = Summary.objects.filter(pk=row.pk, revision=row.revision, core=row.core)
        still.update(costs={key: list(cost) for key, cost in costs.items()})
    return len(rows)
