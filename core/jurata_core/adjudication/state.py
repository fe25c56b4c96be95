"""The state a fold over observations carries: clock, place, open claims, score.

A state belongs to one run of the fold; logs and rulesets are never changed.
All times are footage milliseconds unless a name says ``clock``.
"""

from __future__ import annotations

from collections.abc import Hashable
from copy import copy
from dataclasses import dataclass, field
from typing import Literal

from ..divisions import Division
from ..match_log.observations import SIDES, Ref, Side, Tally
from ..rulesets import Ruleset
from ..times import Millis
from .exchanges import ExchangeBook
from .places import STANDING, ClaimKind, Place
from .verdict import Award, Barred, Count, Facts, Unheld, Warned

Outcome = Literal["paid", "lost", "moved_on", "dropped", "match_over", "open", "not_open_yet"]


@dataclass(slots=True)
class Claim:
    """A claim being held. ``counting_from`` is None while its count is broken off.

    The count may start in the future, at the end of a submission that shields
    the other side; it is due ``hold`` after ``counting_from``.
    """

    kind: ClaimKind
    side: Side
    since: Millis
    since_clock: Millis
    tally: Tally
    worth: int
    barred: bool
    ref: Ref
    counting_from: Millis | None
    recount: str | None = None
    suspended: bool = False
    held: Millis = 0
    counted: tuple[tuple[Millis, Millis], ...] = ()

    def break_off(self, t: Millis) -> None:
        """Stop counting at ``t`` and remember how long it was held."""
        if self.counting_from is not None:
            self.held = max(0, t - self.counting_from)
            if self.held:
                self.counted += ((self.counting_from, t),)
            self.counting_from = None

    def count_again(self, t: Millis, why: str) -> None:
        """Start again from zero at ``t``."""
        self.counting_from = t
        self.recount = why
        self.held = 0


@dataclass(frozen=True, slots=True)
class Ending:
    """How the match ended. ``winner`` is None for time and where both are disqualified."""

    how: Literal["time", "submission", "withdrawal", "disqualification"]
    t: Millis
    winner: Side | None
    facts: Facts


HISTORY = ("running", "positions", "ledger", "missed", "unpaid", "counts", "barred", "warnings")
"""What a state only ever adds rows to."""


@dataclass(slots=True)
class State:
    ruleset: Ruleset
    division: Division
    opening: Millis
    """The match clock at which claims begin to pay."""

    started: bool = False
    run_from: Millis | None = None
    clock_before: Millis = 0
    running: list[tuple[Millis, Millis]] = field(default_factory=list)

    place: Place = STANDING
    last: Place = STANDING
    """The last position that was not passed through."""
    origin: Place = STANDING
    """Where the next position comes from: ``last``, unless a pull changed that."""
    pullers: tuple[Side, ...] = ()
    spell: Side | None = None
    spell_paid: set[ClaimKind] = field(default_factory=set)
    stay_from: Millis | None = None
    stay_penalised: bool = False
    positions: list[tuple[Millis, Place]] = field(default_factory=list)

    claims: list[Claim] = field(default_factory=list)
    shielded_until: dict[Side, Millis] = field(default_factory=lambda: dict.fromkeys(SIDES, 0))
    """Until when the counts of a side wait, because the other has it in a submission."""

    score: dict[Side, dict[Tally, int]] = field(
        default_factory=lambda: {side: {"points": 0, "advantages": 0, "penalties": 0} for side in SIDES}
    )
    rungs: dict[Side, int] = field(default_factory=lambda: dict.fromkeys(SIDES, 0))
    illegal: dict[Side, int] = field(default_factory=lambda: dict.fromkeys(SIDES, 0))
    votes: tuple[int, int] | None = None
    ending: Ending | None = None

    ledger: list[Award] = field(default_factory=list)
    missed: list[Unheld] = field(default_factory=list)
    unpaid: list[Unheld] = field(default_factory=list)
    counts: list[Count] = field(default_factory=list)
    barred: list[Barred] = field(default_factory=list)
    warnings: list[Warned] = field(default_factory=list)
    lost_at: dict[tuple[Side, ClaimKind], Millis] = field(default_factory=dict)
    near_at: dict[tuple[Side, ClaimKind], Millis] = field(default_factory=dict)
    book: ExchangeBook = field(default_factory=ExchangeBook)

    def fork(self) -> State:
        """A twin that goes on from here by itself. It shares nothing that changes, and starts with no history."""
        twin = copy(self)
        twin.claims = [copy(claim) for claim in self.claims]
        twin.spell_paid = set(self.spell_paid)
        twin.shielded_until = dict(self.shielded_until)
        twin.score = {side: dict(tally) for side, tally in self.score.items()}
        twin.rungs, twin.illegal = dict(self.rungs), dict(self.illegal)
        twin.lost_at, twin.near_at = dict(self.lost_at), dict(self.near_at)
        twin.book = ExchangeBook()
        for name in HISTORY:
            setattr(twin, name, [])
        return twin

    def twin(self) -> State:
        """A twin as of :meth:`fork`, but with all its history."""
        twin = self.fork()
        twin.book = self.book.copy()
        for name in HISTORY:
            setattr(twin, name, list(getattr(self, name)))
        return twin

    def future(self, t: Millis) -> Hashable:
        """Equal for two states at ``t`` from which everything still to come scores the same."""
        score = tuple(n for tally in self.score.values() for n in tally.values())
        if self.ending is not None:
            return score, self.votes, self.ending.how, self.ending.winner
        claims = sorted(
            (claim.kind, claim.side, claim.tally, claim.worth, claim.barred, claim.suspended, claim.counting_from or -1)
            for claim in self.claims
        )
        shields = tuple(max(t, until) for until in self.shielded_until.values())
        return (
            score, self.votes, tuple(claims), shields, self.started, self.run_from is None, self.clock(t),
            self.place, self.last, self.origin, self.pullers, self.spell, frozenset(self.spell_paid),
            self.stay_from, self.stay_penalised, *self.rungs.values(), *self.illegal.values(),
        )  # fmt: skip

    def clock(self, t: Millis) -> Millis:
        """The match clock at footage time ``t``, which is not before the last start or stop."""
        return self.clock_before if self.run_from is None else self.clock_before + t - self.run_from

    def stop_clock(self, t: Millis) -> None:
        """Close the running stretch at ``t``; nothing happens where the clock is stopped already."""
        if self.run_from is not None:
            self.clock_before = self.clock(t)
            self.running.append((self.run_from, t))
            self.run_from = None

    def end(self, ending: Ending) -> None:
        """The match is over: the clock stands still at its time."""
        self.ending = ending
        self.stop_clock(ending.t)

    def warn(self, reason: str, t: Millis | None, ref: Ref | None, facts: Facts | None = None) -> None:
        self.warnings.append(Warned(t, reason, facts or {}, () if ref is None else (ref,)))

    def award(self, t: Millis, to: Side, kind: Tally, n: int, reason: str, facts: Facts, refs: tuple[Ref, ...]) -> None:
        """Write a row of the ledger and add it to the score."""
        if kind == "advantages" and not self.ruleset.advantages:
            return
        self.score[to][kind] += n
        self.ledger.append(Award(t, self.clock(t), to, kind, n, reason, facts, refs))
        self.book.file(awards=1)
