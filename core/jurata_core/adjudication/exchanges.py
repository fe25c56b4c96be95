"""Exchanges: the match cut at every clock start, change of top, and step between feet and mat."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

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


class ExchangeBook:
    """Collects exchanges while the fold runs. ``current`` is the index that rows are filed under."""

    def __init__(self) -> None:
        self._all: list[_Exchange] = []
        self.current = 0

    def copy(self) -> ExchangeBook:
        """Another book with the same exchanges; only the last of them still changes."""
        other = ExchangeBook()
        other._all = self._all[:-1] + [replace(last) for last in self._all[-1:]]
        other.current = self.current
        return other

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
