"""Exchanges: the match cut at every clock start, change of top, and step between feet and mat."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

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
        """All exchanges with their ends, awards and misses."""
        awards: list[list[int]] = [[] for _ in self._all]
        misses: list[list[int]] = [[] for _ in self._all]
        if self._all:
            for index, row in enumerate(ledger):
                awards[row.exchange].append(index)
            for index, miss in enumerate(missed):
                misses[miss.exchange].append(index)
        ends = [(after.start, after.clock_start) for after in self._all[1:]] + [(t, clock)]
        return tuple(
            Stretch(
                now.start, max(now.start, end), now.clock_start, clock_end, now.title, now.by_hand, now.first, now.last,
                tuple(awards[index]), tuple(misses[index]),
            )
            for index, (now, (end, clock_end)) in enumerate(zip(self._all, ends, strict=False))
        )  # fmt: skip
