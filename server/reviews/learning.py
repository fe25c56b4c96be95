"""What a club's own scored matches teach the model: rates and paces, kept as long as no match has changed."""

from __future__ import annotations

from functools import lru_cache
from typing import NamedTuple

from jurata_core.chance import Rates, fit
from jurata_core.chance.rates import Seen as Counted
from jurata_core.lessons import moves_in, seen_in
from jurata_core.winnable import Paces, learned
from matches.models import ClubLesson
from matches.summaries import known_by

ATTACKS = ("finish", "close")


class Taught(NamedTuple):
    """The estimates of a club. ``key`` is the same as long as they are: club, core and version of the lesson."""

    key: tuple[int, str, int]
    rates: Rates
    counted: Counted
    paces: Paces


def taught(club: int) -> Taught:
    """What a club's own matches that are over teach; second scores teach nothing."""
    return _taught(_Known(known_by(club)))


def submissions(known: Taught) -> int:
    """How many finishes and close ones its rates of them come from."""
    return sum(n for row in known.counted.counts.values() for event, n in row.items() if event.what in ATTACKS)


class _Known:
    """A lesson that is compared by its version only."""

    def __init__(self, row: ClubLesson) -> None:
        self.key, self.lesson = (row.club_id, row.core, row.version), row.lesson

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _Known) and self.key == other.key

    def __hash__(self) -> int:
        return hash(self.key)


@lru_cache(maxsize=64)
def _taught(known: _Known) -> Taught:
    counted = seen_in(known.lesson)
    return Taught(known.key, fit(counted), counted, learned(moves_in(known.lesson)))
