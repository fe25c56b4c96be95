"""Where a match stood at any time of its footage: its clock, its place and its exchange, each defined here alone.

    exchange 0        exchange 1
    |-----------------|-----------------|
    0                 start of 1        end of the match

A moment at a boundary belongs to what begins there; the end of the match belongs to the last exchange. Of several
places reached at one moment the last one counts. Every question is answered by bisection.
"""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections.abc import Sequence
from functools import cached_property
from itertools import accumulate
from typing import Any, NamedTuple

from ..times import Millis, to_seconds
from .places import STANDING, Place, passed_through


class Stretch(NamedTuple):
    """The clock ran from ``start`` to ``stop`` of the footage; time is up when it shows ``bell`` (None: never).

    ``period`` is that of overtime, from 1 on; 0 is regular time.
    """

    start: Millis
    stop: Millis
    bell: Millis | None
    period: int


class ClockChange(NamedTuple):
    """From ``t`` of the footage on the match clock shows ``clock``, and goes on from there where it is ``running``.

    ``left`` is what is left then of regular time, or of the period of overtime: below 0 where the clock ran past its
    end, None where it has no end.
    """

    t: Millis
    clock: Millis
    running: bool
    left: Millis | None

    def as_json(self) -> dict[str, Any]:
        left = None if self.left is None else to_seconds(self.left)
        return {"t": to_seconds(self.t), "clock": to_seconds(self.clock), "running": self.running, "left": left}


class Timeline:
    """What the stretches of running clock, the positions and the beginnings of exchanges of one verdict say.

    The match clock shows ``footage_from`` before the first start: 0, or what it showed where the footage begins.
    """

    def __init__(
        self,
        footage_from: Millis,
        running: Sequence[Stretch],
        runs_on: bool,
        positions: Sequence[tuple[Millis, Place]],
        exchange_starts: Sequence[Millis],
    ) -> None:
        self._footage_from, self._running, self._runs_on = footage_from, running, runs_on
        self._starts = [one.start for one in running]
        self._run_before = list(accumulate((one.stop - one.start for one in running), initial=footage_from))
        self._reached, self._positions = [t for t, _ in positions], positions
        self._exchange_starts = exchange_starts
        self.places: list[tuple[Millis, Place]] = [(0, STANDING)]
        """The places in order, from when; what is passed through is left out."""
        for t, place in positions:
            if not passed_through(place) and place != self.places[-1][1]:
                self.places.append((t, place))
        self._since = [t for t, _ in self.places]

    @cached_property
    def clock(self) -> tuple[ClockChange, ...]:
        """Every start and stop with what the clock shows then: between two of them it is as the first says."""
        found: list[ClockChange] = []
        for number, (start, stop, bell, _) in enumerate(self._running):
            before, after = self._run_before[number], self._run_before[number + 1]
            found.append(ClockChange(start, before, True, _until(bell, before)))
            if not (self._runs_on and number == len(self._running) - 1):
                found.append(ClockChange(stop, after, False, _until(bell, after)))
        return tuple(found)

    def clock_at(self, t: Millis) -> Millis:
        """The match clock at footage time ``t``; the last stretch of an unfinished log runs on."""
        number = bisect_right(self._starts, t) - 1
        if number < 0:
            return self._footage_from
        start, stop, *_ = self._running[number]
        runs_on = self._runs_on and number == len(self._running) - 1
        return self._run_before[number] + (t if runs_on else min(t, stop)) - start

    def left_at(self, t: Millis) -> Millis | None:
        """What is left at ``t`` of regular time or of the period of overtime, as in ``ClockChange``."""
        if not self._running:
            return None
        number = max(0, bisect_right(self._starts, t) - 1)
        return _until(self._running[number].bell, self.clock_at(t))

    def period_at(self, t: Millis) -> int:
        """Which period of overtime the clock was started in last; 0 in regular time."""
        number = bisect_right(self._starts, t) - 1
        return self._running[number].period if number >= 0 else 0

    def overtime_at(self, t: Millis) -> Millis | None:
        """How long the period of overtime has run at ``t``; None in regular time."""
        if not (period := self.period_at(t)):
            return None
        first = next(at for at, one in enumerate(self._running) if one.period == period)
        return self.clock_at(t) - self._run_before[first]

    @property
    def clock_at_start(self) -> Millis:
        """What the clock shows when it is first started: 0, but where the footage starts in the middle."""
        return self._footage_from

    def footage_at(self, clock: Millis) -> Millis:
        """When in the footage the match clock showed ``clock``; past the last stretch it is counted on from its end."""
        if not self._running:
            return 0
        number = max(0, bisect_left(self._run_before, clock) - 1)
        if number == len(self._running):
            return self._running[-1].stop + clock - self._run_before[-1]
        return self._running[number].start + clock - self._run_before[number]

    def ran(self, start: Millis, end: Millis) -> Millis:
        """How long the clock ran between two footage times, up to where the log stops."""
        return self._stopped_at(end) - self._stopped_at(start)

    def _stopped_at(self, t: Millis) -> Millis:
        return self.clock_at(min(t, self._running[-1].stop)) if self._running else self._footage_from

    def running_at(self, t: Millis) -> bool:
        """Whether the clock ran at ``t`` of the footage, within what was logged."""
        number = bisect_right(self._starts, t) - 1
        return number >= 0 and t < self._running[number].stop

    def shown_at(self, t: Millis) -> Place | None:
        """The position that was reached last at ``t``, also one that is passed through; None before the first."""
        number = bisect_right(self._reached, t) - 1
        return self._positions[number][1] if number >= 0 else None

    def place_at(self, t: Millis) -> Place:
        """The place at ``t``, which passing through something does not change."""
        return self.places[self._number_at(t)][1]

    def place_since(self, t: Millis) -> Millis:
        """Since when the place at ``t`` is held."""
        return self._since[self._number_at(t)]

    def _number_at(self, t: Millis) -> int:
        return max(0, bisect_right(self._since, t) - 1)

    def exchange_at(self, t: Millis) -> int | None:
        """The number of the exchange that a moment belongs to; of one before the first, the first. None without any."""
        return max(0, bisect_right(self._exchange_starts, t) - 1) if self._exchange_starts else None


def _until(bell: Millis | None, clock: Millis) -> Millis | None:
    return None if bell is None else bell - clock
