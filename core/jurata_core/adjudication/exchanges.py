"""Exchanges: the match cut at every clock start, change of top, and step between feet and mat."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import NamedTuple

from ..times import Millis
from .places import Place
from .verdict import Award, Stretch, Unheld


@dataclass(slots=True)
class _Exchange:
    start: Millis
    clock_start: Millis
    first: Place
    last: Place
    title: str | None
    by_hand: bool
    rows_before: int

    def after(self, rows: int) -> _Exchange:
        """The same with so many more rows before it."""
        return _Exchange(
            self.start, self.clock_start, self.first, self.last, self.title, self.by_hand, self.rows_before + rows
        )  # fmt: skip


class Point(NamedTuple):
    """How many exchanges there are, and the last of them as it is then, where there is one."""

    number: int
    last: tuple[_Exchange, ...]

    def after(self, exchanges: int, rows: int) -> Point:
        """The same with so many more exchanges and rows before it."""
        return Point(self.number + exchanges, tuple(last.after(rows) for last in self.last))


class ExchangeBook:
    """Collects exchanges while the fold runs. ``current`` is the index that rows are filed under."""

    def __init__(self) -> None:
        self._all: list[_Exchange] = []
        self.current = 0

    def copy(self) -> ExchangeBook:
        """Another book with the same exchanges; only the last of them still changes."""
        return self.back_to(self.point())

    def point(self) -> Point:
        """Where the book stands now, to come back to."""
        return Point(len(self._all), tuple(replace(last) for last in self._all[-1:]))

    def back_to(self, point: Point) -> ExchangeBook:
        """Another book as this one, which has gone on since, stood at ``point``."""
        return self._of(self._all[: max(0, point.number - 1)] + [replace(last) for last in point.last])

    def going_on_as(self, point: Point, other: ExchangeBook, rows: int) -> ExchangeBook:
        """This book with what ``other`` has from its ``point`` on, where both stood alike.

        ``rows`` more rows come before it here.
        """
        taken_over = [later.after(rows) for later in other._all[max(0, point.number - 1) :]]
        return self._of(self._all[: max(0, len(self._all) - len(point.last))] + taken_over)

    def _of(self, exchanges: list[_Exchange]) -> ExchangeBook:
        book = ExchangeBook()
        book._all = exchanges
        book.current = max(0, len(exchanges) - 1)
        return book

    def begin(
        self, t: Millis, clock: Millis, place: Place, rows: int, title: str | None = None, by_hand: bool = False
    ) -> None:
        """Start an exchange at ``t``. One that began at the same moment and holds no row is taken over."""
        now = self._all[-1] if self._all else None
        if now is not None and now.start == t and now.rows_before == rows:
            now.first = now.last = place
            now.title = title or now.title
            now.by_hand = now.by_hand or by_hand
            return
        self.current = len(self._all)
        self._all.append(_Exchange(t, clock, place, place, title, by_hand, rows))

    def move(self, place: Place) -> None:
        """Note the position reached last in the current exchange."""
        if self._all:
            self._all[-1].last = place

    def close(self, t: Millis, clock: Millis, ledger: Sequence[Award], missed: Sequence[Unheld]) -> tuple[Stretch, ...]:
        """All exchanges with their ends, awards and misses; rows are filed in order, a run of them to each."""
        ends = [(after.start, after.clock_start) for after in self._all[1:]] + [(t, clock)]
        closed = []
        award = miss = 0
        for number, (now, (end, clock_end)) in enumerate(zip(self._all, ends, strict=False)):
            first_award, first_miss = award, miss
            while award < len(ledger) and ledger[award].exchange == number:
                award += 1
            while miss < len(missed) and missed[miss].exchange == number:
                miss += 1
            closed.append(
                Stretch(
                    now.start, max(now.start, end), now.clock_start, clock_end, now.title, now.by_hand, now.first,
                    now.last, tuple(range(first_award, award)), tuple(range(first_miss, miss)),
                )
            )  # fmt: skip
        return tuple(closed)
