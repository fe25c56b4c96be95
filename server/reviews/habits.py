"""What a club wants the review to look for, and what is offered to be turned down after many dismissals."""

from __future__ import annotations

from collections import Counter
from typing import Any

from jurata_core.faults import Fault, FaultyInput
from jurata_core.review import Decided, Setting, kinds, offers
from jurata_core.season.mistakes import parts_of
from jurata_core.times import to_millis, to_seconds
from matches.summaries import outdate, settings_of

from .models import KindSetting, Remark

LONGEST_LIMIT_S = 600


def _decided(club: int) -> list[Decided]:
    """What the coaches made of each error that was found in a match, in all matches."""
    made = Remark.objects.filter(match__athlete__club=club, own=False).exclude(standing=Remark.Standing.OPEN)
    rows = made.values_list("key", "standing", "measure_ms")
    # A key begins with its kind.
    return [
        Decided(key.split("-")[0], standing == Remark.Standing.DISMISSED, measure) for key, standing, measure in rows
    ]


def offers_json(club: int) -> list[dict[str, Any]]:
    """What could be turned down, the most dismissed first."""
    declined = dict(KindSetting.objects.filter(club_id=club).values_list("kind", "declined"))
    return [offer.as_json() for offer in offers(_decided(club), settings_of(club), declined)]


def settings_json(club: int) -> list[dict[str, Any]]:
    """Every kind with its limits and what the coaches have made of it so far."""
    settings = settings_of(club)
    decided = Counter((one.kind, one.dismissed) for one in _decided(club))
    return [
        {
            "kind": kind.id,
            "name": kind.name,
            "instead": kind.instead,
            "parts": [{"kind": part, "name": name} for part, name in parts_of(kind.id).items()],
            "off": settings.get(kind.id, Setting()).off,
            "limits": [
                {
                    "name": name,
                    "seconds": to_seconds(settings.get(kind.id, Setting()).limits.get(name, limit)),
                    "usual": to_seconds(limit),
                }
                for name, limit in kind.limits.items()
            ],
            "accepted": decided[kind.id, False],
            "dismissed": decided[kind.id, True],
        }
        for kind in kinds().values()
    ]


def set_kind(club: int, kind: str, values: dict[str, Any]) -> None:
    """Turn a kind off or on, change its limits in seconds, or decline an offer to do so.

    Raises FaultyInput for a limit that the kind does not have, or that is out of bounds.
    """
    row = KindSetting.objects.filter(club_id=club, kind=kind).first() or KindSetting(club_id=club, kind=kind)
    row.off = values.get("off", row.off)
    if "limits" in values:
        usual = kinds()[kind].limits
        faults = [
            Fault(f"limits.{name}", f"is not between 1 and {LONGEST_LIMIT_S} seconds", "out_of_range")
            for name, seconds in values["limits"].items()
            if name not in usual or not 1 <= seconds <= LONGEST_LIMIT_S
        ]
        if faults:
            raise FaultyInput(faults)
        # What is as usual is not kept: it may change with the core.
        row.limits = {name: seconds for name, seconds in values["limits"].items() if to_millis(seconds) != usual[name]}
    if values.get("decline"):
        row.declined = sum(one.kind == kind and one.dismissed for one in _decided(club))
    row.save()
    outdate(club)  # seasons count what the reviews show
