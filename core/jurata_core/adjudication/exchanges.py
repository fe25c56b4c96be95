"""Exchanges: the match cut at every clock start, change of top, and step between feet and mat."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import NamedTuple

from ..times import Millis
from .places import Place
from .rows import Exchange


@dataclass(slots=True)
class _Current:
    """The exchange that goes on, and how many rows are filed under it so far."""

    start: Millis
    clock_start: Millis
    first: Place
    last: Place
    title: str | None
    by_hand: bool
    awards: int
    missed: int
    from_before: int
    """How many of them are from before the match began; none but for the first exchange."""

    def closed(self, t: Millis, clock: Millis) -> Exchange:
        return Exchange(
            self.start, max(self.start, t), self.clock_start, clock, self.title, self.by_hand, self.first, self.last,
            self.awards, self.missed,
        )  # fmt: skip


class Point(NamedTuple):
    """How many exchanges are closed, and the one that goes on as it is then, where there is one."""

    closed: int
    current: tuple[_Current, ...]
    early: tuple[int, int]


class ExchangeBook:
    """Collects exchanges while the fold runs. Awards and misses are filed under the one that goes on."""

    def __init__(self) -> None:
        self._closed: list[Exchange] = []
        self._current: _Current | None = None
        self._early = (0, 0)
        """Awards and misses from before there was an exchange: they are filed under the first."""

    def copy(self) -> ExchangeBook:
        """Another book with the same exchanges."""
        return self.back_to(self.point())

    def point(self) -> Point:
        """Where the book stands now, to come back to."""
        current = () if self._current is None else (replace(self._current),)
        return Point(len(self._closed), current, self._early)

    def back_to(self, point: Point) -> ExchangeBook:
        """Another book as this one, which has gone on since, stood at ``point``."""
        return _book(self._closed[: point.closed], point.current, point.early)

    def going_on_as(self, point: Point, other: ExchangeBook) -> ExchangeBook:
        """This book with what ``other`` has from its ``point`` on, where both stood alike."""
        end = other.point()
        return _book(self._closed + other._closed[point.closed :], end.current, end.early)

    def begin(self, t: Millis, clock: Millis, place: Place, title: str | None = None, by_hand: bool = False) -> None:
        """Start an exchange at ``t``. One that began at the same moment and holds no row is taken over."""
        now = self._current
        awards, missed = self._early
        if now is not None:
            if now.start == t and now.awards + now.missed == now.from_before:
                now.first = now.last = place
                now.title = title or now.title
                now.by_hand = now.by_hand or by_hand
                return
            self._closed.append(now.closed(t, clock))
            awards = missed = 0
        self._current = _Current(t, clock, place, place, title, by_hand, awards, missed, awards + missed)

    def move(self, place: Place) -> None:
        """Note the position reached last in the current exchange."""
        if self._current is not None:
            self._current.last = place

    def file(self, awards: int = 0, missed: int = 0) -> None:
        """File rows that were just written."""
        if self._current is None:
            self._early = (self._early[0] + awards, self._early[1] + missed)
        else:
            self._current.awards += awards
            self._current.missed += missed

    def close(self, t: Millis, clock: Millis) -> tuple[Exchange, ...]:
        """All exchanges, the last of them up to ``t``."""
        last = () if self._current is None else (self._current.closed(t, clock),)
        return (*self._closed, *last)


def _book(closed: list[Exchange], current: tuple[_Current, ...], early: tuple[int, int]) -> ExchangeBook:
    book = ExchangeBook()
    book._closed = closed
    book._current = replace(current[0]) if current else None
    book._early = early
    return book
