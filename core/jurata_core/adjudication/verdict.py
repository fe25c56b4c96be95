"""What the adjudication says: frozen rows, each with its reason and its sentence.

Rows are named tuples: a long match makes thousands, and a tuple is made in a third of a frozen dataclass's time.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, NamedTuple

from ..match_log.observations import Ref, Side, Tally
from ..times import Millis, to_seconds
from .places import Place
from .sentences import amount, sentence

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
    exchange: int

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
    exchange: int

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
    """One exchange. Times are footage; ``awards`` and ``missed`` index the verdict's lists."""

    start: Millis
    end: Millis
    clock_start: Millis
    clock_end: Millis
    title: str | None
    by_hand: bool
    first: Place
    last: Place
    awards: tuple[int, ...]
    missed: tuple[int, ...]


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


@dataclass(frozen=True, slots=True)
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

    def summary(self) -> dict[str, Any]:
        """The score, the result and its sentence."""
        return {
            "score": {side: dict(tally) for side, tally in self.score.items()},
            "result": {"winner": self.result.winner, "method": self.result.method},
            "because": sentence(f"result_{self.result.method}", {**self.result.facts, "winner": self.result.winner}),
        }

    def as_json(self) -> dict[str, Any]:
        """The verdict as ``bin/jurata score`` prints it, but for its range; times in seconds."""
        return {
            **self.summary(),
            "ended": None if self.result.t is None else to_seconds(self.result.t),
            "ledger": [row.as_json() for row in self.ledger],
            "open": [row.as_json() for row in self.open],
            "missed": [row.as_json() for row in self.missed],
            "unpaid": [row.as_json() for row in self.unpaid],
            "exchanges": [self._exchange(stretch) for stretch in self.exchanges],
            "counts": [count.as_json() for count in self.counts],
            "barred": [row.as_json() for row in self.barred],
            "positions": [
                {"t": to_seconds(t), "position": place.position, "top": place.top} for t, place in self.positions
            ],
            "running": [[to_seconds(start), to_seconds(end)] for start, end in self.running],
            "clock_running": self.clock_running,
            "warnings": [warning.as_json() for warning in self.warnings],
        }

    def _exchange(self, stretch: Stretch) -> dict[str, Any]:
        awarded = {side: {"points": 0, "advantages": 0, "penalties": 0} for side in self.score}
        for index in stretch.awards:
            row = self.ledger[index]
            awarded[row.to][row.kind] += row.n
        missed: dict[str, list[str]] = {side: [] for side in self.score}
        for index in stretch.missed:
            missed[self.missed[index].to].append(self.missed[index].claim)
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
            "ledger_rows": list(stretch.awards),
            "missed_rows": list(stretch.missed),
        }
