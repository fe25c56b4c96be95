"""The footage of a match: one clip or several in a row, each from its place in time, with gaps between them."""

from __future__ import annotations

from itertools import pairwise
from typing import NamedTuple

from django.db import transaction

from footage.models import Clip
from jurata_core.faults import Fault, FaultyInput
from jurata_core.times import Millis, minutes

from .models import FurtherClip, Match

MOST_PARTS = 20


class Part(NamedTuple):
    """A clip and where in the footage of the match it begins."""

    clip: Clip
    start: Millis

    @property
    def end(self) -> Millis:
        return self.start + (self.clip.duration_ms or 0)


def parts_of(match: Match) -> list[Part]:
    """The clips of a match, in order of time."""
    first = [] if match.clip is None else [Part(match.clip, match.clip_start_ms)]
    further = [Part(row.clip, row.start_ms) for row in match.further.select_related("clip")]
    return sorted([*first, *further], key=lambda part: part.start)


def ends_before(match: Match, t: Millis) -> Millis | None:
    """Where the footage of a match ends, if that is before ``t``; None where it is not, or without footage."""
    if match.clip is None or t <= Part(match.clip, match.clip_start_ms).end:  # without a look at further clips
        return None
    end = max(part.end for part in parts_of(match))
    return end if end < t else None


@transaction.atomic
def lay_out(match: Match, parts: list[Part]) -> None:
    """Give a match its clips. Raises FaultyInput where two overlap."""
    faults: list[Fault] = []
    if len(parts) > MOST_PARTS:
        faults.append(Fault("parts", f"has {len(parts)} clips; {MOST_PARTS} at most", "too_large"))
    ordered = sorted(parts, key=lambda part: part.start)
    for before, after in pairwise(ordered):
        if after.start < before.end:
            ends = f"before {before.clip.name} ends at {minutes(before.end)}"
            message = f"{after.clip.name} begins at {minutes(after.start)}, {ends}"
            faults.append(Fault(f"parts[{parts.index(after)}].start", message, "out_of_range"))
    if faults:
        raise FaultyInput(faults)
    match.clip = ordered[0].clip if ordered else None
    match.clip_start_ms = ordered[0].start if ordered else 0
    match.save(update_fields=["clip", "clip_start_ms", "changed"])
    match.further.all().delete()
    FurtherClip.objects.bulk_create(
        FurtherClip(match=match, clip=part.clip, start_ms=part.start) for part in ordered[1:]
    )
