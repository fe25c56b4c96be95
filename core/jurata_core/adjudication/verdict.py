"""The verdict: all that the adjudication says about one log."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any

from ..match_log.observations import Side, Tally
from ..times import Millis
from .places import Place
from .rendering import numbered, rendered
from .rows import Award, Count, Exchange, IllegalMove, Result, UnpaidClaim, Warned
from .timeline import ClockChange, Stretch, Timeline

Tallies = Mapping[Side, Mapping[Tally, int]]


@dataclass(frozen=True)
class Verdict:
    """What one log is worth under its ruleset."""

    score: Tallies
    result: Result
    ledger: tuple[Award, ...]
    open: tuple[UnpaidClaim, ...]
    missed: tuple[UnpaidClaim, ...]
    unpaid: tuple[UnpaidClaim, ...]
    exchanges: tuple[Exchange, ...]
    counts: tuple[Count, ...]
    illegal: tuple[IllegalMove, ...]
    positions: tuple[tuple[Millis, Place], ...]
    footage_from: Millis
    """What the match clock shows before its first start: 0, but where the footage starts in the middle of the match."""
    running: tuple[Stretch, ...]
    clock_running: bool
    """Whether the clock still runs where an unfinished log stops."""
    warnings: tuple[Warned, ...]

    @cached_property
    def timeline(self) -> Timeline:
        """Where the match stood at any time."""
        starts = [one.start for one in self.exchanges]
        return Timeline(self.footage_from, self.running, self.clock_running, self.positions, starts)

    @property
    def clock(self) -> tuple[ClockChange, ...]:
        """The starts and stops of the match clock."""
        return self.timeline.clock

    def clock_at(self, t: Millis) -> Millis:
        """The match clock at footage time ``t``."""
        return self.timeline.clock_at(t)

    def footage_at(self, clock: Millis) -> Millis:
        """When in the footage the match clock showed ``clock``."""
        return self.timeline.footage_at(clock)

    def summary(self) -> dict[str, Any]:
        """The score, the result and its sentence."""
        return {
            "score": {side: dict(tally) for side, tally in self.score.items()},
            "result": {"winner": self.result.winner, "method": self.result.method},
            "because": self.result.because,
        }

    def by_exchange(self, first: int = 0) -> Iterator[tuple[Exchange, Sequence[Award], Sequence[UnpaidClaim]]]:
        """Each exchange from the one at place ``first`` on, with its awards and misses."""
        before = self.exchanges[:first]
        award, miss = sum(one.awards for one in before), sum(one.missed for one in before)
        for exchange in self.exchanges[first:]:
            awards, misses = award + exchange.awards, miss + exchange.missed
            yield exchange, self.ledger[award:awards], self.missed[miss:misses]
            award, miss = awards, misses

    def exchanges_of_awards(self) -> list[int]:
        """The number of the exchange of each row of the ledger; 0 where there is no exchange."""
        return _numbers([one.awards for one in self.exchanges], len(self.ledger))

    def exchanges_of_missed(self) -> list[int]:
        """The same for each row of what was missed."""
        return _numbers([one.missed for one in self.exchanges], len(self.missed))

    def as_json(self) -> dict[str, Any]:
        """The verdict as ``bin/jurata score`` prints it, but for its range; times in seconds."""
        return numbered(rendered(self))


def _numbers(counts: Sequence[int], rows: int) -> list[int]:
    numbers = [number for number, count in enumerate(counts) for _ in range(count)]
    return numbers + [0] * (rows - len(numbers))
