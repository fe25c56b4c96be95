"""A scored match as the rules of the review look at it: from the side of the athlete who is reviewed."""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections.abc import Callable, Hashable, Iterable, Iterator, Mapping
from functools import cached_property
from itertools import pairwise
from operator import attrgetter, itemgetter
from typing import NamedTuple, TypeVar, cast

from ..adjudication import Adjudicator
from ..adjudication.places import CONTROL, RANK, Place
from ..adjudication.reasons import CloseSubmission, Held, HeldAdvantage, Lost, NearScore, claims_of
from ..adjudication.rows import Award, Count, UnpaidClaim
from ..adjudication.sentences import amount
from ..adjudication.tiebreak import Lead, settled
from ..adjudication.verdict import Verdict
from ..chance import Chance
from ..chance.moments import Moment, Moments, lead_of
from ..match_log import MatchLog
from ..match_log.observations import (
    OTHER,
    TALLIES,
    Clock,
    Grip,
    Mark,
    Observation,
    Ref,
    Side,
    Submission,
    Tally,
    Unwatched,
)
from ..times import Millis

Kind = TypeVar("Kind", bound=Observation)
Answer = TypeVar("Answer")
Span = TypeVar("Span", Submission, Grip, Unwatched)
_time = attrgetter("t")


class Loss(NamedTuple):
    """By how much better the athlete would stand on the sheet. A penalty less is better too."""

    points: int = 0
    advantages: int = 0
    penalties: int = 0

    def __str__(self) -> str:
        said = [amount(n, tally) for tally, n in zip(TALLIES, self, strict=True) if n > 0]
        return " and ".join(said) or "nothing"


def loss_of(rows: list[Award], side: Side) -> Loss:
    """What rows of the ledger gave to the other side, and cost this one."""
    sums = dict.fromkeys(TALLIES, 0)
    for row in rows:
        gained = row.n if row.to != side else -row.n
        sums[row.kind] += -gained if row.kind == "penalties" else gained
    return Loss(**sums)


class Change(NamedTuple):
    t: Millis
    before: Place
    after: Place


class Seen:
    """A log with its verdict, and what rules ask of them."""

    def __init__(self, log: MatchLog, verdict: Verdict, side: Side = "a") -> None:
        self.log, self.verdict, self.side, self.other = log, verdict, side, OTHER[side]
        self.over: Millis = verdict.running[-1].stop if verdict.running else 0
        """When the clock stood still for good."""
        self._answers: dict[Hashable, object] = {}
        self.reported: set[Millis] = set()
        """When changes of place happened that an error is about already."""
        self.joined: set[Ref] = set()
        """Marks that belong to an error."""
        self._covered: set[int] = set()
        """The identities of rows; the verdict keeps them alive."""

    def cover(self, rows: Iterable[Award | UnpaidClaim]) -> None:
        """Keep in mind that an error covers these rows."""
        self._covered.update(id(row) for row in rows)

    def is_covered(self, row: Award | UnpaidClaim) -> bool:
        """Whether an error covers a row already."""
        return id(row) in self._covered

    def once(self, name: Hashable, find: Callable[[], Answer]) -> Answer:
        """What was found under a name before, or else what ``find`` finds."""
        if name not in self._answers:
            self._answers[name] = find()
        return cast(Answer, self._answers[name])

    @cached_property
    def places(self) -> list[tuple[Millis, Place]]:
        """When each place began; of several logged at one time the last."""
        found: list[tuple[Millis, Place]] = []
        for t, place in dict(self.verdict.timeline.places).items():
            if not found or found[-1][1] != place or t in self.breaks:
                found.append((t, place))
        return found

    @cached_property
    def breaks(self) -> set[Millis]:
        """When somebody else, or nobody, was on top for no time at all, as at a restart on the feet."""
        return {
            t for (t, place), (later, after) in pairwise(self.verdict.timeline.places)
            if t == later and place.top != after.top
        }  # fmt: skip

    def place_at(self, t: Millis) -> Place:
        return self.verdict.timeline.place_at(t)

    def since(self, t: Millis) -> Millis:
        """Since when the place at ``t`` is held."""
        return self.places[max(0, bisect_right(self.places, t, key=itemgetter(0)) - 1)][0]

    def top_since(self, t: Millis) -> Millis:
        """Since when whoever is on top at ``t`` has been there, in whatever position."""
        return _last(self._tops, t)

    def control_since(self, t: Millis) -> Millis | None:
        """Since when whoever is on top at ``t`` has been past the guard; None where nobody is."""
        return _last(self._controls, t) if self.place_at(t).position in CONTROL else None

    @cached_property
    def _tops(self) -> list[Millis]:
        return self._spells(lambda place: place.top)

    @cached_property
    def _controls(self) -> list[Millis]:
        return self._spells(lambda place: (place.top, place.position in CONTROL))

    def _spells(self, what: Callable[[Place], Hashable]) -> list[Millis]:
        """When ``what`` of the place began to be another."""
        found: list[Millis] = []
        before: Hashable = None
        for t, place in self.places:
            if not found or what(place) != before or t in self.breaks:
                found.append(t)
            before = what(place)
        return found

    def place_before(self, t: Millis) -> Place:
        return self.place_at(t - 1)

    @cached_property
    def changes(self) -> list[Change]:
        return [Change(t, before, after) for (_, before), (t, after) in pairwise(self.places)]

    def changed_at(self, start: Millis, end: Millis) -> list[Millis]:
        """When the place changed after ``start`` and up to ``end``."""
        first, last = (bisect_right(self.changes, t, key=_time) for t in (start, end))
        return [change.t for change in self.changes[first:last]]

    def exchange_at(self, t: Millis) -> int | None:
        """The number of the exchange that a moment belongs to."""
        return self.verdict.timeline.exchange_at(t)

    def exchange_of(self, row: Award | UnpaidClaim) -> int:
        """The number of the exchange that a row is filed under; of one that paid nothing, the one of its moment."""
        filed = self._filed.get(id(row))
        return (self.exchange_at(row.t) or 0) if filed is None else filed

    @cached_property
    def _filed(self) -> dict[int, int]:
        """Of each row of the verdict, by its identity."""
        verdict = self.verdict
        rows = [*verdict.ledger, *verdict.missed]
        numbers = [*verdict.exchanges_of_awards(), *verdict.exchanges_of_missed()]
        return {id(row): number for row, number in zip(rows, numbers, strict=True)}

    def rows_at(self, t: Millis) -> list[Award]:
        """The rows of the ledger at a time."""
        return self._rows_by_time.get(t, [])

    def missed_at(self, t: Millis) -> list[UnpaidClaim]:
        """What was missed at a time."""
        return self._missed_by_time.get(t, [])

    @cached_property
    def _missed_by_time(self) -> dict[Millis, list[UnpaidClaim]]:
        found: dict[Millis, list[UnpaidClaim]] = {}
        for row in self.verdict.missed:
            found.setdefault(row.t, []).append(row)
        return found

    @cached_property
    def _rows_by_time(self) -> dict[Millis, list[Award]]:
        found: dict[Millis, list[Award]] = {}
        for row in self.verdict.ledger:
            found.setdefault(row.t, []).append(row)
        return found

    def clock(self, t: Millis) -> Millis:
        return self.verdict.clock_at(t)

    def left(self, t: Millis) -> Millis:
        """How much is left at ``t`` of the match, or of the period of overtime.

        Of one whose end no clock sets, as much as it still went on.
        """
        left = self.verdict.timeline.left_at(t)
        return max(0, self.clock(self.over) - self.clock(t) if left is None else left)

    def bell(self, t: Millis) -> Millis:
        """What the match clock shows when the time that runs at ``t`` is up: of the match, or of the period."""
        return self.clock(t) + self.left(t)

    @cached_property
    def length(self) -> Millis:
        """The length of the match; of one without, as long as it went."""
        return max(1, self.clock(self.over)) if self.log.duration is None else self.log.duration

    def after_clock(self, t: Millis, by: Millis) -> Millis:
        """The footage time ``by`` of running clock after ``t``."""
        return self.verdict.footage_at(self.clock(t) + by)

    @cached_property
    def full_time(self) -> bool:
        """Whether the match went to the end of its time."""
        return self.verdict.result.t is not None and self.verdict.result.method not in (
            "submission", "withdrawal", "stoppage", "disqualification", "mercy", "golden_score", "unfinished",
        )  # fmt: skip

    def of(self, kind: type[Kind], by: Side | None = None) -> Iterator[Kind]:
        """Observations of a kind while the match went on, of one side where it is said."""
        for seen in self._by_kind.get(kind, ()):
            if by in (None, getattr(seen, "by", None)):
                yield cast(Kind, seen)

    def marks(self, good: bool) -> Iterator[Mark]:
        """What the coach marked of this side, as done well or as wrong, while the match went on."""
        for mark in self.of(Mark):
            if mark.on == self.side and mark.good == good:
                yield mark

    def on_purpose(self, start: Millis, end: Millis) -> bool:
        """Whether the coach marked waiting or a retreat around that time as done well."""
        return any(
            mark.cause in WAITING and start - NEAR <= mark.t <= end + NEAR for mark in self.marks(good=True)
        )  # fmt: skip

    def between(self, kind: type[Kind], start: Millis, end: Millis, by: Side | None = None) -> Iterator[Kind]:
        """Those of a kind whose time lies from ``start`` to ``end``, both included."""
        found = self._by_kind.get(kind, [])
        for seen in found[bisect_left(found, start, key=_time) : bisect_right(found, end, key=_time)]:
            if by in (None, getattr(seen, "by", None)):
                yield cast(Kind, seen)

    def lasting_into(self, kind: type[Span], start: Millis, end: Millis, by: Side | None = None) -> Iterator[Span]:
        """Those of a kind with an end that began by ``end`` and ended at or after ``start``."""
        for seen in self.between(kind, start - self._longest, end, by):
            if seen.until >= start:
                yield seen

    def watched(self, start: Millis, end: Millis) -> bool:
        """Whether all of a stretch was watched: of what was not, nothing follows from what is not logged."""
        return not any(one.t < end and one.until > start for one in self.of(Unwatched))

    def grip_end(self, grip: Grip) -> Millis:
        """When a grip was over: where it was broken or let go, or at a restart after which nobody had it any more."""
        lost = (one.t for one in self._let_go if one.t > grip.t)
        return min(grip.until, self.over, next(lost, grip.until))

    @cached_property
    def _let_go(self) -> list[Clock]:
        """The restarts on the feet, and those for which the grips were let go."""
        starts = [one for one in self.of(Clock) if one.action == "start"][1:]
        return [one for one in starts if one.restart == "standing" or one.grips == "let_go"]

    @cached_property
    def _longest(self) -> Millis:
        spans = (one for one in self.log.observations if isinstance(one, Submission | Grip | Unwatched))
        return max((one.until - one.t for one in spans), default=0)

    @cached_property
    def _by_kind(self) -> dict[type[Observation], list[Observation]]:
        found: dict[type[Observation], list[Observation]] = {}
        for seen in self.log.observations:
            if seen.t <= self.over:
                found.setdefault(type(seen), []).append(seen)
        return found

    @cached_property
    def _moments(self) -> Moments:
        return Moments(self.verdict)

    def number_of(self, ref: Ref) -> int:
        """The place of an observation among all of the log, in order of time."""
        return self._numbers[ref]

    def observation(self, ref: Ref) -> Observation:
        return self.log.observations[self._numbers[ref]]

    @cached_property
    def _numbers(self) -> dict[Ref, int]:
        return {one.ref: number for number, one in enumerate(self.log.observations)}

    @cached_property
    def _adjudicator(self) -> Adjudicator:
        return Adjudicator(self.log, len(self.log.observations))

    def scored_again(self, log: MatchLog) -> Verdict:
        """The verdict on the match with a few observations more or less; only that part of it is scored again."""
        return self._adjudicator.glimpse(log)

    def moment(self, t: Millis) -> Moment:
        return self._moments.at(t)

    def own(self, chance: Chance) -> Chance:
        """A chance of the athlete as the side that is reviewed has it."""
        return chance if self.side == "a" else Chance(chance.lose, chance.win)

    def lead(self, t: Millis) -> dict[Tally, int]:
        """The leads of the side that is reviewed."""
        return lead_of(self.side, self.moment(t))

    def standing(self, t: Millis) -> int:
        """Whether the side is ahead (1), behind (-1) or level by the tiebreak at ``t``."""
        return self.lead_in(t)[0]

    def lead_in(self, t: Millis) -> tuple[int, str]:
        """Ahead, behind or level, and by what, in words."""
        leads: dict[Lead, int] = dict(self.lead(t).items())
        lead, by = settled(self.log.ruleset.tiebreak, leads)
        if lead and by in TALLIES:
            return (1 if lead > 0 else -1), f"by {amount(abs(lead), by)}"
        return 0, "on nothing"

    def count_of(self, row: Award | UnpaidClaim) -> Count | None:
        """The count that a row of a claim came from."""
        claims = (row.claim,) if isinstance(row, UnpaidClaim) else claims_of(row.reason)
        ended = self._counts_by_end.get((row.t, row.to), ())
        return next((one for one in ended if one.claim in claims), None)

    @cached_property
    def _counts_by_end(self) -> dict[tuple[Millis, Side], list[Count]]:
        found: dict[tuple[Millis, Side], list[Count]] = {}
        for one in self.verdict.counts:
            found.setdefault((one.ended, one.to), []).append(one)
        return found

    def began(self, row: Award | UnpaidClaim) -> Millis:
        """When what a row is about began: where its claim was reached or its hold was on, or the row itself."""
        if isinstance(row.reason, CloseSubmission):
            return self.observation(row.observations[0]).t
        count = self.count_of(row)
        return row.t if count is None else count.since

    def gains(self, row: Award) -> bool:
        """Whether a row is something that the other side won, not by a penalty or a ruling."""
        return row.to == self.other and row.n > 0 and row.kind != "penalties" and isinstance(row.reason, WON)

    def progressed(self, start: Millis, end: Millis) -> bool:
        """Whether the side came to something better after ``start``, up to ``end``."""
        first, last = (bisect_right(self.changes, t, key=_time) for t in (start, end))
        for change in self.changes[first:last]:
            if change.after.top == self.side:
                rose = change.before.top != self.side or RANK[change.after.position] > RANK[change.before.position]
                if rose:
                    return True
        return False


def _last(times: list[Millis], t: Millis) -> Millis:
    """The last of some times that is not after ``t``; the first of all where there is none."""
    return times[max(0, bisect_right(times, t) - 1)] if times else 0


WAITING = ("plan", "pace", "timing")
"""Causes by which a good mark says that something was done on purpose."""
NEAR: Millis = 10_000
WON = (Held, HeldAdvantage, Lost, NearScore, CloseSubmission)
"""For what a side wins by its own doing."""


class Found(NamedTuple):
    """What a rule has found. ``since`` is where it began, ``t`` where it was decided."""

    kind: str
    since: Millis
    t: Millis
    exchange: int | None
    refs: tuple[Ref, ...]
    facts: Mapping[str, object]
    loss: Loss = Loss()
    rows: tuple[Award, ...] = ()
    """Rows of the ledger that would not be there without it."""
    drop: tuple[Ref, ...] = ()
    """Observations that would not be there without it; where there are some, the rows follow from them."""
    place: Place | None = None
    """Where the match would stand without it; None: where it stood at ``since``."""
    held: Millis | None = None
    needed: Millis | None = None
    changed: Millis | None = None
    """When the place changed that it is about; None: at ``since``."""

    @property
    def happened(self) -> Millis:
        """The moment that decided it, up to which what brought it about can lie."""
        return self.since if self.changed is None else self.changed
