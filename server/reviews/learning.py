"""What a club's own scored matches teach the model: rates and paces, kept as long as no match has changed."""

from __future__ import annotations

from functools import lru_cache
from typing import NamedTuple

from jurata_core.chance import Rates
from jurata_core.chance.rates import Seen as Counted
from jurata_core.lessons import Fitted, Group, fitted, moves_in, seen_in
from jurata_core.winnable import Paces, learned
from matches.club_lessons import lessons_of_groups
from matches.models import ClubLesson
from matches.summaries import known_by

ATTACKS = ("finish", "close")


class Taught(NamedTuple):
    """The estimates of a club for a group of matches. ``key`` is the same as long as they are."""

    key: tuple[int, str, int, Group]
    fitted: Fitted
    counted: Counted
    """What was counted in all matches of the club."""
    paces: Paces

    @property
    def rates(self) -> Rates:
        return self.fitted.rates


def taught(club: int, group: Group) -> Taught:
    """What a club's own matches that are over teach for those of a group; second scores teach nothing."""
    return _taught(_Known(known_by(club), group))


def submissions(known: Taught) -> int:
    """How many finishes and close ones its rates of them come from."""
    return sum(n for row in known.counted.counts.values() for event, n in row.items() if event.what in ATTACKS)


class _Known:
    """A lesson that is compared by its version and the group it is for."""

    def __init__(self, row: ClubLesson, group: Group) -> None:
        self.key, self.lesson = (row.club_id, row.core, row.version, group), row.lesson

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _Known) and self.key == other.key

    def __hash__(self) -> int:
        return hash(self.key)


@lru_cache(maxsize=64)
def _taught(known: _Known) -> Taught:
    club, *_, group = known.key
    found = fitted(lessons_of_groups(club), group)
    return Taught(known.key, found, seen_in(known.lesson), learned(moves_in(known.lesson)))
