"""The state that a fold over observations carries: clock, control, open claims, score, and the rows written so far.

A state belongs to one run of the fold; logs and rulesets are never changed.
All times are footage milliseconds unless a name says ``clock``.

What a field is for the observations still to come is said with the field, and nowhere else: ``ONWARD`` decides how
they are taken, ``SCORE`` is only ever added to, ``RECENT`` matters for a few seconds, ``RECORD`` not at all.
"""

from __future__ import annotations

from collections.abc import Hashable
from copy import copy
from dataclasses import dataclass, field, fields, replace
from typing import Any, Literal, NamedTuple

from ..divisions import Division
from ..match_log.observations import SIDES, Ref, Side, Tally
from ..records import record
from ..rulesets import Ruleset
from ..times import Millis
from .control import Control
from .exchanges import ExchangeBook
from .places import ClaimKind, Place
from .reasons import NOT_SCORED, AwardReason, BeforeTime, Doubt, Recount
from .rows import Award, Count, IllegalMove, UnpaidClaim, Warned
from .timeline import Stretch

Part = Literal["onward", "score", "recent", "record"]
ONWARD, SCORE, RECENT, RECORD = ({"part": part} for part in ("onward", "score", "recent", "record"))


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
    n: int
    too_early: bool
    """Whether it opened before points did: then it pays nothing and gives nothing."""
    ref: Ref
    counting_from: Millis | None
    recount: Recount | None = None
    suspended: bool = False
    by_hook: bool = False
    """Whether it is a sweep or reversal that opened with one hook: then it gives way to the back."""
    held: Millis = 0
    counted: tuple[tuple[Millis, Millis], ...] = ()

    def break_off(self, t: Millis) -> None:
        """Stop counting at ``t`` and remember how long it was held."""
        if self.counting_from is not None:
            self.held = max(0, t - self.counting_from)
            if self.held:
                self.counted += ((self.counting_from, t),)
            self.counting_from = None

    def count_again(self, t: Millis, why: Recount) -> None:
        """Start again from zero at ``t``."""
        self.counting_from = t
        self.recount = why
        self.held = 0

    def future(self) -> tuple[Any, ...]:
        """Equal for two claims that everything still to come treats alike."""
        from_t = -1 if self.counting_from is None else self.counting_from
        return self.kind, self.side, self.tally, self.n, self.too_early, self.suspended, self.by_hook, from_t


@record
class Clock:
    """The match clock: since when it runs (None while stopped), and how long it ran before that.

    ``bell`` is what it shows when regular time, or the period of overtime that goes on, is over; None where that has
    no end. ``periods`` of overtime have begun; ``between``: one has, and the next start is from standing.
    """

    started: bool = False
    run_from: Millis | None = None
    before: Millis = 0
    bell: Millis | None = None
    periods: int = 0
    between: bool = False

    def at(self, t: Millis) -> Millis:
        """What it shows at footage time ``t``, which is not before the last start or stop."""
        return self.before if self.run_from is None else self.before + t - self.run_from

    def until_bell(self, t: Millis) -> Millis:
        """``t``, or the bell where that comes first: no count runs past it."""
        if self.bell is None or self.run_from is None:
            return t
        rings = self.run_from + self.bell - self.before
        return t if t < rings else rings


@record
class Stay:
    """Both seated: since when of running clock (None: not, or not counted), and whether that was penalised already."""

    since: Millis | None = None
    penalised: bool = False


NO_STAY = Stay()


class Hold(NamedTuple):
    """A legal submission that was close and is not over: it gives an advantage at ``until`` if it has not won."""

    side: Side
    until: Millis
    technique: str
    ref: Ref


@record
class FirstAndLast:
    """Who got the first and the last points, leaving out times that gave points to both: as far as ``t``, and what
    was given at ``t`` itself."""

    first: Side | None = None
    last: Side | None = None
    t: Millis | None = None
    now: Side | Literal["both"] | None = None

    def scored(self, t: Millis, side: Side) -> FirstAndLast:
        """The same after points to a side at ``t``."""
        if t == self.t:
            return self if self.now in (side, "both") else replace(self, now="both")
        before = self.so_far()
        return FirstAndLast(before[0], before[1], t, side)

    def so_far(self) -> tuple[Side | None, Side | None]:
        """The first and the last."""
        if self.now is None or self.now == "both":
            return self.first, self.last
        return self.first or self.now, self.now


@record
class Ending:
    """How the match ended. ``how`` is None for time; ``winner`` is None also where both are disqualified."""

    how: BeforeTime | None
    t: Millis
    winner: Side | None


@dataclass(slots=True)
class Record:
    """The rows of the verdict so far: they are only ever added to."""

    running: list[Stretch] = field(default_factory=list)
    positions: list[tuple[Millis, Place]] = field(default_factory=list)
    ledger: list[Award] = field(default_factory=list)
    missed: list[UnpaidClaim] = field(default_factory=list)
    unpaid: list[UnpaidClaim] = field(default_factory=list)
    counts: list[Count] = field(default_factory=list)
    illegal: list[IllegalMove] = field(default_factory=list)
    warnings: list[Warned] = field(default_factory=list)

    def copy(self) -> Record:
        return Record(*(list(getattr(self, name)) for name in ROW_LISTS))

    def lengths(self) -> tuple[int, ...]:
        """How many rows each list has."""
        return tuple(len(getattr(self, name)) for name in ROW_LISTS)

    def up_to(self, lengths: tuple[int, ...]) -> Record:
        """As it was when its lists were so long."""
        return Record(*(getattr(self, name)[:n] for name, n in zip(ROW_LISTS, lengths, strict=True)))

    def going_on_as(self, other: Record, lengths: tuple[int, ...]) -> Record:
        """This one with the rows of another that come after so many."""
        lists = zip(ROW_LISTS, lengths, strict=True)
        return Record(*(getattr(self, name) + getattr(other, name)[n:] for name, n in lists))


ROW_LISTS = tuple(one.name for one in fields(Record))


def _level() -> dict[Side, dict[Tally, int]]:
    return {side: {"points": 0, "advantages": 0, "penalties": 0} for side in SIDES}


def _no_times() -> dict[Side, Millis]:
    return dict.fromkeys(SIDES, 0)


def _no_counts() -> dict[Side, int]:
    return dict.fromkeys(SIDES, 0)


@dataclass(slots=True)
class State:
    ruleset: Ruleset
    division: Division
    opening: Millis
    """The match clock at which claims begin to pay; 0 in overtime."""

    clock: Clock = field(default_factory=Clock, metadata=ONWARD)
    control: Control = field(default_factory=Control, metadata=ONWARD)
    stay: Stay = field(default_factory=Stay, metadata=ONWARD)
    claims: list[Claim] = field(default_factory=list, metadata=ONWARD)
    shielded_until: dict[Side, Millis] = field(default_factory=_no_times, metadata=ONWARD)
    """Until when the counts of a side wait, because the other has it in a submission."""
    holds: tuple[Hold, ...] = field(default=(), metadata=ONWARD)
    """Close submissions that are not over yet."""
    footage_from: Millis | None = field(default=None, metadata=ONWARD)
    """What the match clock showed where the footage starts in the middle of the match; None where it does not."""
    penalties: dict[Side, int] = field(default_factory=_no_counts, metadata=ONWARD)
    """As on the sheet; how many there are decides what the next one costs."""
    illegal_moves: dict[Side, int] = field(default_factory=_no_counts, metadata=ONWARD)
    scorers: FirstAndLast = field(default_factory=FirstAndLast, metadata=ONWARD)
    close: dict[Side, int] = field(default_factory=_no_counts, metadata=ONWARD)
    """Legal submissions logged as close. Like ``scorers``, kept only where the tiebreak asks for it."""
    votes: tuple[int, int] | None = field(default=None, metadata=ONWARD)
    ending: Ending | None = field(default=None, metadata=ONWARD)
    judged: bool = field(default=False, metadata=ONWARD)
    """Whether the score alone can end the match now: by a lead, or in overtime."""
    score: dict[Side, dict[Tally, int]] = field(default_factory=_level, metadata=SCORE)
    lost_at: dict[tuple[Side, ClaimKind], Millis] = field(default_factory=dict, metadata=RECENT)
    near_at: dict[tuple[Side, ClaimKind], Millis] = field(default_factory=dict, metadata=RECENT)
    record: Record = field(default_factory=Record, metadata=RECORD)
    book: ExchangeBook = field(default_factory=ExchangeBook, metadata=RECORD)

    def fork(self) -> State:
        """A twin that goes on from here by itself. It shares nothing that changes, and starts with no rows."""
        twin = copy(self)
        twin.claims = [copy(claim) for claim in self.claims]
        twin.score = {side: dict(tally) for side, tally in self.score.items()}
        for name in _COPIED:
            setattr(twin, name, dict(getattr(self, name)))
        twin.record, twin.book = Record(), ExchangeBook()
        return twin

    def twin(self) -> State:
        """A twin as of :meth:`fork`, but with all its rows."""
        twin = self.fork()
        twin.record, twin.book = self.record.copy(), self.book.copy()
        return twin

    def future(self, t: Millis) -> Hashable:
        """Equal for two states at ``t`` from which everything still to come scores the same."""
        score = tuple(n for tally in self.score.values() for n in tally.values())
        if self.ending is not None:
            return score, self.votes, type(self.ending.how), self.ending.winner
        later: dict[str, Hashable] = {
            "clock": replace(self.clock, run_from=self.clock.run_from and 0, before=self.clock.at(t)),
            "claims": tuple(sorted(claim.future() for claim in self.claims)),
            "shielded_until": tuple(max(t, until) for until in self.shielded_until.values()),
        }
        return score, *(later[name] if name in later else _hashable(getattr(self, name)) for name in ONWARD_FIELDS)

    def points_open(self, t: Millis) -> bool:
        """Whether what opens at ``t`` can pay."""
        return self.clock.at(t) >= self.opening

    def stop_clock(self, t: Millis) -> None:
        """Close the running stretch at ``t``; nothing happens where the clock is stopped already."""
        if self.clock.run_from is not None:
            self.record.running.append(Stretch(self.clock.run_from, t, self.clock.bell, self.clock.periods))
            self.clock = replace(self.clock, run_from=None, before=self.clock.at(t))

    def end(self, ending: Ending) -> None:
        """The match is over: the clock stands still at its time."""
        self.ending = ending
        self.stop_clock(ending.t)

    def warn(self, reason: Doubt, t: Millis | None, ref: Ref | None) -> None:
        self.record.warnings.append(Warned(t, reason, () if ref is None else (ref,)))

    def award(self, t: Millis, to: Side, kind: Tally, n: int, reason: AwardReason, refs: tuple[Ref, ...]) -> None:
        """Write a row of the ledger and add it to the score."""
        if kind == "advantages" and not self.ruleset.advantages:
            return
        self.score[to][kind] += n
        if kind == "penalties":
            self.penalties[to] += n
        elif kind == "points" and n > 0 and self.ruleset.counts_scorers and not isinstance(reason, NOT_SCORED):
            self.scorers = self.scorers.scored(t, to)
        self.record.ledger.append(Award(t, self.clock.at(t), to, kind, n, reason, refs))
        self.book.file(awards=1)


def _fields_of(part: Part) -> tuple[str, ...]:
    return tuple(one.name for one in fields(State) if one.metadata.get("part") == part)


def _hashable(value: Any) -> Hashable:
    return tuple(value.items()) if isinstance(value, dict) else value


ONWARD_FIELDS, RECENT_FIELDS = _fields_of("onward"), _fields_of("recent")
_COPIED = ("shielded_until", "penalties", "illegal_moves", "close", *RECENT_FIELDS)
