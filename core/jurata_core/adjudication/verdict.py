"""What the adjudication says: frozen rows, each with its reason and its sentence.

Rows are named tuples: a long match makes thousands, and a tuple is made in a third of a frozen dataclass's time.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import islice
from typing import Any, NamedTuple

from ..match_log.observations import SIDES, TALLIES, Ref, Side, Tally
from ..times import Millis, to_seconds
from .places import Place
from .sentences import amount, sentence
from .timeline import Timeline

Facts = Mapping[str, Any]


class Award(NamedTuple):
    """A row of the ledger: ``n`` of one kind, to a side, at a time, for a reason."""

    t: Millis
    clock: Millis
    to: Side
    kind: Tally
    n: int
    reason: str
    facts: Facts
    observations: tuple[Ref, ...]

    def as_json(self) -> dict[str, Any]:
        return {
            "t": to_seconds(self.t),
            "clock": to_seconds(self.clock),
            "to": self.to,
            "kind": self.kind,
            "n": self.n,
            "reason": self.reason,
            "because": sentence(self.reason, {**self.facts, "to": self.to, "n": self.n, "kind": self.kind}),
            "observations": list(self.observations),
        }


class Unheld(NamedTuple):
    """A claim that was not paid: missed, still open, or worth nothing.

    ``t`` is when it ended (or where the log stops), ``since`` when it was reached.
    """

    t: Millis
    clock: Millis
    to: Side
    claim: str
    since: Millis
    held: Millis
    needed: Millis
    reason: str
    facts: Facts
    observations: tuple[Ref, ...]

    def as_json(self) -> dict[str, Any]:
        return {
            "t": to_seconds(self.t),
            "clock": to_seconds(self.clock),
            "to": self.to,
            "claim": self.claim,
            "since": to_seconds(self.since),
            "held": to_seconds(self.held),
            "needed": to_seconds(self.needed),
            "reason": self.reason,
            "because": sentence(
                self.reason,
                {**self.facts, "to": self.to, "claim": self.claim, "held": self.held, "needed": self.needed},
            ),
            "observations": list(self.observations),
        }


class Count(NamedTuple):
    """The life of one claim for the display: when it counted, and how it ended."""

    claim: str
    to: Side
    since: Millis
    ended: Millis
    outcome: str
    tally: Tally
    n: int
    """What it would have paid; 0 where nothing."""
    needed: Millis
    counted: tuple[tuple[Millis, Millis], ...]
    counting_from: Millis | None
    """Since when an open claim counts where the log stops; None where it waits or has ended."""

    def as_json(self) -> dict[str, Any]:
        return {
            "claim": self.claim,
            "to": self.to,
            "since": to_seconds(self.since),
            "ended": to_seconds(self.ended),
            "outcome": self.outcome,
            "worth": amount(self.n, self.tally) if self.n else "nothing",
            "needed": to_seconds(self.needed),
            "counted": [[to_seconds(start), to_seconds(end)] for start, end in self.counted],
            "counting_from": None if self.counting_from is None else to_seconds(self.counting_from),
        }


class Barred(NamedTuple):
    """A technique that this division does not allow, and what it led to."""

    t: Millis
    clock: Millis
    by: Side
    technique: str
    status: str
    consequence: str
    facts: Facts
    observations: tuple[Ref, ...]

    def as_json(self) -> dict[str, Any]:
        return {
            "t": to_seconds(self.t),
            "clock": to_seconds(self.clock),
            "by": self.by,
            "technique": self.technique,
            "status": self.status,
            "consequence": self.consequence,
            "because": sentence(self.consequence, self.facts),
            "observations": list(self.observations),
        }


class Stretch(NamedTuple):
    """One exchange. Times are footage; ``awards`` and ``missed`` are how many rows of the verdict's lists it holds.

    Exchanges hold the rows in their order, so where the rows of one begin is where those of the one before end.
    """

    start: Millis
    end: Millis
    clock_start: Millis
    clock_end: Millis
    title: str | None
    by_hand: bool
    first: Place
    last: Place
    awards: int
    missed: int


class Warned(NamedTuple):
    """Something doubtful that was scored all the same."""

    t: Millis | None
    reason: str
    facts: Facts
    observations: tuple[Ref, ...]

    def as_json(self) -> dict[str, Any]:
        return {
            "t": None if self.t is None else to_seconds(self.t),
            "reason": self.reason,
            "because": sentence(self.reason, self.facts),
            "observations": list(self.observations),
        }


class Result(NamedTuple):
    """Who won and how. ``method`` is one of the contract's words."""

    winner: Side | None
    method: str
    facts: Facts
    t: Millis | None


Tallies = Mapping[Side, Mapping[Tally, int]]


@dataclass(frozen=True)
class Verdict:
    """What one log is worth under its ruleset."""

    score: Tallies
    result: Result
    ledger: tuple[Award, ...]
    open: tuple[Unheld, ...]
    missed: tuple[Unheld, ...]
    unpaid: tuple[Unheld, ...]
    exchanges: tuple[Stretch, ...]
    counts: tuple[Count, ...]
    barred: tuple[Barred, ...]
    positions: tuple[tuple[Millis, Place], ...]
    running: tuple[tuple[Millis, Millis], ...]
    clock_running: bool
    """Whether the clock still runs where an unfinished log stops."""
    warnings: tuple[Warned, ...]

    @cached_property
    def timeline(self) -> Timeline:
        """Where the match stood at any time."""
        starts = [one.start for one in self.exchanges]
        return Timeline(self.running, self.clock_running, self.positions, starts)

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
            "because": sentence(f"result_{self.result.method}", {**self.result.facts, "winner": self.result.winner}),
        }

    def filed(self, first: int = 0) -> Iterator[tuple[Stretch, Sequence[Award], Sequence[Unheld]]]:
        """Each exchange from the one at place ``first`` on, with its awards and misses."""
        before = self.exchanges[:first]
        award, miss = sum(stretch.awards for stretch in before), sum(stretch.missed for stretch in before)
        for stretch in self.exchanges[first:]:
            awards, misses = award + stretch.awards, miss + stretch.missed
            yield stretch, self.ledger[award:awards], self.missed[miss:misses]
            award, miss = awards, misses

    def exchanges_of_awards(self) -> list[int]:
        """The number of the exchange of each row of the ledger; 0 where there is no exchange."""
        return _filed_under([stretch.awards for stretch in self.exchanges], len(self.ledger))

    def exchanges_of_missed(self) -> list[int]:
        """The same for each row of what was missed."""
        return _filed_under([stretch.missed for stretch in self.exchanges], len(self.missed))

    def as_json(self) -> dict[str, Any]:
        """The verdict as ``bin/jurata score`` prints it, but for its range; times in seconds."""
        return numbered(self.told())

    def told(self, before: Told | None = None) -> dict[str, Any]:
        """The verdict as JSON, in which each exchange numbers its rows from its own first one.

        What stands as in the verdict ``before`` is taken from what was told of it, the same objects.
        """
        rows = {name: self._rows(name, before) for name in ROWS}
        rows["exchanges"] = self._exchanges(before)
        ended = None if self.result.t is None else to_seconds(self.result.t)
        return {**self.summary(), "ended": ended, **rows, "clock_running": self.clock_running}

    def _rows(self, name: str, before: Told | None) -> list[Any]:
        rows, tell = getattr(self, name), ROWS[name]
        if before is None:
            return [tell(row) for row in rows]
        known, told = getattr(before.verdict, name), before.json[name]
        head, tail = common_ends(rows, known)
        middle = [tell(row) for row in rows[head : len(rows) - tail]]
        return [*told[:head], *middle, *told[len(known) - tail :]]

    def _exchanges(self, before: Told | None) -> list[dict[str, Any]]:
        if before is None:
            return [_exchange(*filed) for filed in self.filed()]
        known = before.verdict
        lists = ((self.exchanges, known.exchanges), (self.ledger, known.ledger), (self.missed, known.missed))
        # An exchange is told alike where its rows are alike too.
        begun, *rows = [common_head(*one) for one in lists]
        head = _holding(self.exchanges[:begun], *rows)
        ended, *rows = [common_tail(*one) for one in lists]
        shorter = min(len(self.exchanges), len(known.exchanges))
        tail = _holding(self.exchanges[::-1][: min(ended, shorter - head)], *rows)
        told = before.json["exchanges"]
        middle = [_exchange(*filed) for filed in islice(self.filed(head), len(self.exchanges) - tail - head)]
        return [*told[:head], *middle, *told[len(told) - tail :]]


def _holding(stretches: Sequence[Stretch], awards: int, missed: int) -> int:
    """How many exchanges hold no more than so many rows."""
    most = len(stretches)
    held = sum(stretch.awards for stretch in stretches), sum(stretch.missed for stretch in stretches)
    while most and (held[0] > awards or held[1] > missed):
        most -= 1
        held = held[0] - stretches[most].awards, held[1] - stretches[most].missed
    return most


def _exchange(stretch: Stretch, awards: Sequence[Award], misses: Sequence[Unheld]) -> dict[str, Any]:
    awarded = {side: dict.fromkeys(TALLIES, 0) for side in SIDES}
    missed: dict[Side, list[str]] = {side: [] for side in SIDES}
    for award in awards:
        awarded[award.to][award.kind] += award.n
    for miss in misses:
        missed[miss.to].append(miss.claim)
    return {
        "start": to_seconds(stretch.start),
        "end": to_seconds(stretch.end),
        "clock_start": to_seconds(stretch.clock_start),
        "clock_end": to_seconds(stretch.clock_end),
        "title": stretch.title,
        "by_hand": stretch.by_hand,
        "first": stretch.first._asdict(),
        "last": stretch.last._asdict(),
        "awarded": awarded,
        "missed": missed,
        "ledger_rows": list(range(stretch.awards)),
        "missed_rows": list(range(stretch.missed)),
    }


def numbered(told: Mapping[str, Any]) -> dict[str, Any]:
    """What :meth:`Verdict.told` says, with the rows of the exchanges numbered as in the verdict's lists."""
    exchanges = []
    award = miss = 0
    for one in told["exchanges"]:
        awards, misses = award + len(one["ledger_rows"]), miss + len(one["missed_rows"])
        exchanges.append({**one, "ledger_rows": list(range(award, awards)), "missed_rows": list(range(miss, misses))})
        award, miss = awards, misses
    return {**told, "exchanges": exchanges}


def _filed_under(counts: Sequence[int], rows: int) -> list[int]:
    filed = [number for number, count in enumerate(counts) for _ in range(count)]
    return filed + [0] * (rows - len(filed))


def common_ends(rows: Sequence[Any], others: Sequence[Any]) -> tuple[int, int]:
    """How many rows two lists have in common from their beginnings, and beyond those from their ends."""
    head = common_head(rows, others)
    return head, common_tail(rows, others, min(len(rows), len(others)) - head)


def common_head(rows: Sequence[Any], others: Sequence[Any]) -> int:
    """How many rows two lists have in common from their beginnings."""
    return _alike(lambda low, high: rows[low:high] == others[low:high], min(len(rows), len(others)))


def common_tail(rows: Sequence[Any], others: Sequence[Any], most: int | None = None) -> int:
    """How many rows two lists have in common from their ends, at most so many."""
    n, m = len(rows), len(others)
    most = min(n, m) if most is None else most
    return _alike(lambda low, high: rows[n - high : n - low] == others[m - high : m - low], most)


def _alike(same: Callable[[int, int], bool], most: int) -> int:
    """How far it is the same from 0 on, by halves: whole slices are compared faster than rows one by one."""
    low, high = 0, most
    if same(0, most):
        return most
    while low < high:
        middle = (low + high + 1) // 2
        if same(low, middle):
            low = middle
        else:
            high = middle - 1
    return low


class Told(NamedTuple):
    """A verdict with its JSON."""

    verdict: Verdict
    json: Mapping[str, Any]


ROWS: dict[str, Callable[[Any], Any]] = {
    "ledger": Award.as_json,
    "open": Unheld.as_json,
    "missed": Unheld.as_json,
    "unpaid": Unheld.as_json,
    "counts": Count.as_json,
    "barred": Barred.as_json,
    "positions": lambda row: {"t": to_seconds(row[0]), "position": row[1].position, "top": row[1].top},
    "running": lambda row: [to_seconds(row[0]), to_seconds(row[1])],
    "warnings": Warned.as_json,
}
"""The lists of a verdict that tell each row by itself, and how."""
