"""A side's review of a match: the errors that stand, where each came from, and what mattered most."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import NamedTuple

from .cost import Swing
from .errors import Error
from .order import Lesson, ordered
from .patterns import Pattern, patterns
from .roots import Chain, Link, chains, suggested
from .seen import Seen


class Decision(NamedTuple):
    """What a coach decided of an error; one that the coach added is accepted.

    ``came_from`` is the key of the earlier error it came from: empty for one that began by itself, None where nothing
    was said of it.
    """

    accepted: bool = False
    dismissed: bool = False
    came_from: str | None = None

    def keeps(self, helped: bool) -> bool:
        """Whether an error is shown: not where the side stood better after it, unless the coach accepted it."""
        return self.accepted or not helped

    def counts(self, helped: bool) -> bool:
        """Whether an error counts: it is shown, and the coach has not dismissed it."""
        return not self.dismissed and self.keeps(helped)


UNDECIDED = Decision()


class Came(NamedTuple):
    """Where an error came from: as the coach says, or as it is suggested and not decided yet."""

    earlier: str
    because: str
    accepted: bool


class Review(NamedTuple):
    """A match with its errors as they stand.

    ``errors`` are in order of time, dismissed ones too; ``lessons`` are of those that count, what mattered most first,
    and ``first`` is how many of them a coach would name; ``patterns`` are what came back in the match. ``swings`` are
    by the key of the error, and empty for a match that is too long for the model.
    """

    seen: Seen
    errors: list[Error]
    likely: dict[str, list[Link]]
    came_from: dict[str, Came]
    lessons: list[Lesson]
    first: int
    patterns: list[Pattern]
    swings: Mapping[str, Swing]

    @property
    def chains(self) -> list[Chain]:
        """The chains of all lessons in their order."""
        return [chain for lesson in self.lessons for chain in lesson.chains]

    @property
    def first_chains(self) -> int:
        """How many of the chains a coach would name."""
        return sum(len(lesson.chains) for lesson in self.lessons[: self.first])

    def times(self, error: Error) -> int:
        """How often the same happened in the match."""
        alike = (one.times for one in self.patterns if one.same and error.key in one.errors)
        return max(alike, default=int(str(error.found.facts.get("times", 1))))

    def of(self, keys: tuple[str, ...]) -> list[Error]:
        """The errors with some keys, in the order of the keys."""
        by_key = {error.key: error for error in self.errors}
        return [by_key[key] for key in keys if key in by_key]


def gathered(
    seen: Seen, errors: Sequence[Error], swings: Mapping[str, Swing], decisions: Mapping[str, Decision]
) -> Review:
    """The review of errors that are in order of time, with what a coach decided of them, by their keys."""

    def of(error: Error) -> Decision:
        return decisions.get(error.key, UNDECIDED)

    def helped(error: Error) -> bool:
        return error.key in swings and swings[error.key].helped

    shown = [error for error in errors if of(error).keeps(helped(error))]
    counting = [error for error in shown if of(error).counts(helped(error))]
    likely = suggested(seen, counting)
    came_from = {error.key: came for error in shown if (came := _came(of(error), likely.get(error.key, [])))}
    linked = chains(counting, {key: came.earlier for key, came in came_from.items()})
    again = patterns(seen, counting)
    lessons, first = ordered(seen, counting, linked, swings, again)
    return Review(seen, shown, likely, came_from, lessons, first, again, swings)


def _came(decision: Decision, likely: Sequence[Link]) -> Came | None:
    if decision.came_from is not None:
        because = next((link.because for link in likely if link.earlier == decision.came_from), "")
        return Came(decision.came_from, because, True) if decision.came_from else None
    return Came(likely[0].earlier, likely[0].because, False) if likely else None
