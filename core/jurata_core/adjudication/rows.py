"""The rows of a verdict: what was awarded, what was not paid and why, how claims were counted, what was doubtful.

Rows are named tuples: a long match makes thousands, and a tuple is made in a third of a frozen dataclass's time.
Times are milliseconds of footage, those called ``clock`` of the match clock.
"""

from __future__ import annotations

from typing import Any, Literal, NamedTuple

from ..legality import Status
from ..match_log.observations import Ref, Side, Tally
from ..times import Millis, to_seconds
from .places import Place
from .reasons import AwardReason, Consequence, Doubt, Method, UnpaidReason
from .sentences import amount, sentence


class Award(NamedTuple):
    """A row of the ledger: ``n`` of one kind, to a side, at a time, for a reason."""

    t: Millis
    clock: Millis
    to: Side
    kind: Tally
    n: int
    reason: AwardReason
    observations: tuple[Ref, ...]

    @property
    def because(self) -> str:
        return sentence(self.reason, to=self.to, n=self.n, kind=self.kind)

    def as_json(self) -> dict[str, Any]:
        return {
            "t": to_seconds(self.t),
            "clock": to_seconds(self.clock),
            "to": self.to,
            "kind": self.kind,
            "n": self.n,
            "reason": self.reason.code,
            "because": self.because,
            "observations": list(self.observations),
        }


class UnpaidClaim(NamedTuple):
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
    reason: UnpaidReason
    observations: tuple[Ref, ...]

    @property
    def because(self) -> str:
        return sentence(self.reason, to=self.to, claim=self.claim, held=self.held, needed=self.needed)

    def as_json(self) -> dict[str, Any]:
        return {
            "t": to_seconds(self.t),
            "clock": to_seconds(self.clock),
            "to": self.to,
            "claim": self.claim,
            "since": to_seconds(self.since),
            "held": to_seconds(self.held),
            "needed": to_seconds(self.needed),
            "reason": self.reason.code,
            "because": self.because,
            "observations": list(self.observations),
        }


ClaimEnd = Literal["paid", "lost", "moved_on", "dropped", "match_over", "open", "not_open_yet"]
"""How a claim ended; ``open``: not yet, where the log stops."""


class Count(NamedTuple):
    """The life of one claim for the display: when it counted, and how it ended."""

    claim: str
    to: Side
    since: Millis
    ended: Millis
    outcome: ClaimEnd
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


class IllegalMove(NamedTuple):
    """A technique that this division does not allow, and what it led to."""

    t: Millis
    clock: Millis
    by: Side
    technique: str
    status: Status
    consequence: Consequence
    observations: tuple[Ref, ...]

    @property
    def because(self) -> str:
        return sentence(self.consequence)

    def as_json(self) -> dict[str, Any]:
        return {
            "t": to_seconds(self.t),
            "clock": to_seconds(self.clock),
            "by": self.by,
            "technique": self.technique,
            "status": self.status,
            "consequence": self.consequence.code,
            "because": self.because,
            "observations": list(self.observations),
        }


class Exchange(NamedTuple):
    """One exchange. ``awards`` and ``missed`` are how many rows of the verdict's lists it holds.

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
    reason: Doubt
    observations: tuple[Ref, ...]

    @property
    def because(self) -> str:
        return sentence(self.reason)

    def as_json(self) -> dict[str, Any]:
        return {
            "t": None if self.t is None else to_seconds(self.t),
            "reason": self.reason.code,
            "because": self.because,
            "observations": list(self.observations),
        }


class Result(NamedTuple):
    """Who won and how, and when; ``t`` is None for a match that is not over."""

    winner: Side | None
    how: Method
    t: Millis | None

    @property
    def method(self) -> str:
        """The stable word for how the match came out."""
        return self.how.code

    @property
    def because(self) -> str:
        return sentence(self.how, winner=self.winner)

    @property
    def without_it(self) -> str:
        """The sentence of a result that something that happened has prevented."""
        if self.winner is None or "{won}" not in self.how.sentence:
            return f"Without it: {self.because}"
        would = sentence(self.how, winner=self.winner, won="would have won")
        return f"Without it, {would[:1].lower()}{would[1:]}"
