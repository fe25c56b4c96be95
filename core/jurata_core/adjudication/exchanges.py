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

    @property
    def current(self) -> int:
        return max(0, len(self._all) - 1)

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
        self._all.append(_Exchange(t, clock, place, place, title, by_hand, rows))

    def move(self, place: Place) -> None:
        """Note the position reached last in the current exchange."""
        if self._all:
            self._all[-1].last = place

    def close(
        self, t: Millis, clock: Millis, ledger: Sequence[Award], missed: Sequence[Unheld]
    ) -> tuple[Stretch, ...]:
        """All exchanges with their ends, awards and misses."""
        stretches = []
        for index, now in enumerate(self._all):
            after = self._all[index + 1] if index + 1 < len(self._all) else None
            stretches.append(
                Stretch(
                    start=now.start,
                    end=after.start if after else max(t, now.start),
                    clock_start=now.clock_start,
                    clock_end=after.clock_start if after else clock,
                    title=now.title,
                    by_hand=now.by_hand,
                    first=now.first,
                    last=now.last,
                    awards=(),
                    missed=(),
                )
            )
        return _filed(stretches, ledger, missed)


def _filed(stretches: list[Stretch], ledger: Sequence[Award], missed: Sequence[Unheld]) -> tuple[Stretch, ...]:
    if not stretches:
        return ()
    awards: list[list[int]] = [[] for _ in stretches]
    misses: list[list[int]] = [[] for _ in stretches]
    for index, row in enumerate(ledger):
        awards[row.exchange].append(index)
    for index, miss in enumerate(missed):
        misses[miss.exchange].append(index)
    return tuple(
        replace(stretch, awards=tuple(rows), missed=tuple(unheld))
        for stretch, rows, unheld in zip(stretches, awards, misses, strict=True)
    )
