"""How a club wants the kinds of errors to be looked for, as it is kept."""

from __future__ import annotations

from jurata_core.review import Setting
from jurata_core.times import to_millis
from matches.summaries import settings_come_from

from .models import KindSetting


@settings_come_from
def settings_of(club: int) -> dict[str, Setting]:
    """The settings of the kinds that the club has changed."""
    rows = KindSetting.objects.filter(club_id=club).order_by("kind")
    return {
        row.kind: Setting(row.off, {name: to_millis(seconds) for name, seconds in row.limits.items()})
        for row in rows
        if row.off or row.limits
    }
