"""The footage of a match: one clip or several in a row, each from its place in time, with gaps between them.

A clip may hold several matches: of each one a part opens and closes somewhere in the clip. Times of the footage
stay the clip's own whatever part of it is taken, so that nothing that is logged moves.
"""

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
    """A clip, or what is taken of it, in the footage of a match."""

    clip: Clip
    start: Millis
    """Where in the footage the first frame of the clip lies; before its beginning where only a later part is taken."""
    opens: Millis = 0
    """Where in the clip the match begins."""
    closes: Millis | None = None
    """Where in the clip the match ends; None: with the clip."""

    @property
    def begin(self) -> Millis:
        return self.start + self.opens

    @property
    def end(self) -> Millis:
        return self.start + (self.clip.duration_ms or 0 if self.closes is None else self.closes)


def parts_of(match: Match) -> list[Part]:
    """The clips of a match, in order of time."""
    first = [] if match.clip is None else [_first(match)]
    further = [Part(row.clip, row.start_ms, row.opens_ms, row.closes_ms) for row in match.further.all()]
    return sorted([*first, *further], key=lambda part: part.begin)


def _first(match: Match) -> Part:
    assert match.clip is not None
    return Part(match.clip, match.clip_start_ms, match.opens_ms, match.closes_ms)


def ends_before(match: Match, t: Millis) -> Millis | None:
    """Where the footage of a match ends, if that is before ``t``; None where it is not, or without footage."""
    if match.clip_id is None:
        return None
    # Asked at every key, so without reading all of a clip, or a look at further clips where it lies in the first.
    closes = match.closes_ms or Clip.objects.filter(pk=match.clip_id).values_list("duration_ms", flat=True).get() or 0
    if t <= match.clip_start_ms + closes:
        return None
    end = max(part.end for part in parts_of(match))
    return end if end < t else None


@transaction.atomic
def lay_out(match: Match, parts: list[Part]) -> None:
    """Give a match its clips. Raises FaultyInput where two overlap, or where one ends before it begins."""
    faults: list[Fault] = []
    if len(parts) > MOST_PARTS:
        faults.append(Fault("parts", f"has {len(parts)} clips; {MOST_PARTS} at most", "too_large"))
    for number, part in enumerate(parts):
        if part.clip.club_id != match.athlete.club_id:
            faults.append(Fault(f"parts[{number}].clip", "is a clip of another club", "unknown"))
        faults += _part_faults(part, f"parts[{number}]")
    ordered = sorted(parts, key=lambda part: part.begin)
    for before, after in pairwise(ordered):
        if after.begin < before.end:
            ends = f"before {before.clip.name} ends at {minutes(before.end)}"
            message = f"{after.clip.name} begins at {minutes(after.begin)}, {ends}"
            faults.append(Fault(f"parts[{parts.index(after)}].start", message, "out_of_range"))
    if faults:
        raise FaultyInput(faults)
    first = ordered[0] if ordered else None
    match.clip = first and first.clip
    match.clip_start_ms, match.opens_ms, match.closes_ms = first[1:] if first else (0, 0, None)
    match.save(update_fields=["clip", "clip_start_ms", "opens_ms", "closes_ms", "changed"])
    match.further.all().delete()
    FurtherClip.objects.bulk_create(
        FurtherClip(match=match, clip=part.clip, start_ms=part.start, opens_ms=part.opens, closes_ms=part.closes)
        for part in ordered[1:]
    )


def _part_faults(part: Part, path: str) -> list[Fault]:
    """What is wrong with the part of a clip that is taken."""
    if part.begin < 0:
        return [Fault(f"{path}.start", f"{part.clip.name} begins before the footage does", "out_of_range")]
    if part.end <= part.begin and (part.opens or part.closes is not None):
        return [Fault(f"{path}.closes", f"{part.clip.name} would end before it begins", "out_of_range")]
    length = part.clip.duration_ms
    if part.closes is not None and length is not None and part.closes > length:
        return [Fault(f"{path}.closes", f"{part.clip.name} ends at {minutes(length)}", "out_of_range")]
    return []
