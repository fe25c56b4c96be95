"""A scored match as the rules of the review look at it: from the side of the athlete who is reviewed."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Iterable, Iterator
from functools import cached_property
from itertools import pairwise
from typing import NamedTuple, TypeVar

from ..adjudication.places import RANK, Place
from ..adjudication.sentences import amount
from ..adjudication.verdict import Award, Count, Unheld, Verdict
from ..chance.moments import Moment, lead_of, moments_at, places_of
from ..match_log import MatchLog
from ..match_log.observations import OTHER, TALLIES, Observation, Ref, Side, Tally
from ..times import Millis

Kind = TypeVar("Kind", bound=Observation)


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
        self.over: Millis = verdict.running[-1][1] if verdict.running else 0
        """When the clock stood still for good."""
        self._told: list[Award | Unheld] = []

    def tell(self, rows: Iterable[Award | Unheld]) -> None:
        """Keep in mind that an error tells of these rows."""
        self._told += rows

    def is_told(self, row: Award | Unheld) -> bool:
        """Whether an error tells of a row already."""
        return any(row is one for one in self._told)

    @cached_property
    def places(self) -> list[tuple[Millis, Place]]:
        return places_of(self.verdict)

    def place_at(self, t: Millis) -> Place:
        return self.places[bisect_right([since for since, _ in self.places], t) - 1][1]

    def since(self, t: Millis) -> Millis:
        """Since when the place at ``t`` is held."""
        return self.places[bisect_right([since for since, _ in self.places], t) - 1][0]

    def place_before(self, t: Millis) -> Place:
        return self.place_at(t - 1)

    @cached_property
    def changes(self) -> list[Change]:
        return [Change(t, before, after) for (_, before), (t, after) in pairwise(self.places)]

    def exchange_at(self, t: Millis) -> int | None:
        """The number of the exchange that a time falls into."""
        return next((n for n, one in enumerate(self.verdict.exchanges) if one.start <= t <= one.end), None)

    def exchange_of(self, row: Award | Unheld) -> int:
        """The number of the exchange that a row is filed under; of one that paid nothing, the one that began last."""
        filed = self._filed.get(id(row))
        return max(0, bisect_right(self._starts, row.t) - 1) if filed is None else filed

    @cached_property
    def _filed(self) -> dict[int, int]:
        """Of each row of the verdict, by its identity."""
        verdict = self.verdict
        rows = [*verdict.ledger, *verdict.missed]
        numbers = [*verdict.exchanges_of_awards(), *verdict.exchanges_of_missed()]
        return {id(row): number for row, number in zip(rows, numbers, strict=True)}

    @cached_property
    def _starts(self) -> list[Millis]:
        return [one.start for one in self.verdict.exchanges]

    def clock(self, t: Millis) -> Millis:
        return self.verdict.clock_at(t)

    def left(self, t: Millis) -> Millis:
        """How much of the match is left at ``t``."""
        return max(0, self.log.duration - self.clock(t))

    def after_clock(self, t: Millis, by: Millis) -> Millis:
        """The footage time ``by`` of running clock after ``t``."""
        return self.verdict.footage_at(self.clock(t) + by)

    @cached_property
    def full_time(self) -> bool:
        """Whether the match went to the end of its time."""
        return self.verdict.result.t is not None and self.verdict.result.method not in (
            "submission", "withdrawal", "disqualification", "unfinished",
        )  # fmt: skip

    def of(self, kind: type[Kind], by: Side | None = None) -> Iterator[Kind]:
        """Observations of a kind while the match went on, of one side where it is said."""
        for seen in self.log.observations:
            if isinstance(seen, kind) and seen.t <= self.over and by in (None, getattr(seen, "by", None)):
                yield seen

    def moment(self, t: Millis) -> Moment:
        return moments_at(self.verdict, [t])[0]

    def lead(self, t: Millis) -> dict[Tally, int]:
        """The leads of the side that is reviewed."""
        return lead_of(self.side, self.moment(t))

    def standing(self, t: Millis) -> int:
        """Whether the side is ahead (1), behind (-1) or level by the tiebreak at ``t``."""
        return self.lead_in(t)[0]

    def lead_in(self, t: Millis) -> tuple[int, str]:
        """Ahead, behind or level, and by what, in words."""
        lead = self.lead(t)
        for step in self.log.ruleset.tiebreak:
            if step != "decision" and step != "draw" and lead[step]:
                return (1 if lead[step] > 0 else -1), f"by {amount(abs(lead[step]), step)}"
        return 0, "on nothing"

    def count_of(self, row: Award | Unheld) -> Count | None:
        """The count that a row of a claim came from."""
        claims = (row.claim,) if isinstance(row, Unheld) else (row.facts.get("claim"), *row.facts.get("claims", ()))
        ended = (one for one in self.verdict.counts if one.ended == row.t and one.to == row.to and one.claim in claims)
        return next(ended, None)

    def began(self, row: Award | Unheld) -> Millis:
        """When what a row tells of began: where its claim was reached, or the row itself."""
        count = self.count_of(row)
        return row.t if count is None else count.since

    def gains(self, row: Award) -> bool:
        """Whether a row is something that the other side won, not by a penalty or a ruling."""
        return row.to == self.other and row.n > 0 and row.kind != "penalties" and row.reason in WON

    def progressed(self, start: Millis, end: Millis) -> bool:
        """Whether the side came to something better after ``start``, up to ``end``."""
        for change in self.changes:
            if start < change.t <= end and change.after.top == self.side:
                rose = change.before.top != self.side or RANK[change.after.position] > RANK[change.before.position]
                if rose:
                    return True
        return False


WON = ("held", "held_advantage", "lost", "near", "close_submission")


class Found(NamedTuple):
    """What a rule has found. ``since`` is where it began, ``t`` where it was decided."""

    kind: str
    since: Millis
    t: Millis
    exchange: int | None
    refs: tuple[Ref, ...]
    facts: dict[str, object]
    loss: Loss = Loss()
    rows: tuple[Award, ...] = ()
    """Rows of the ledger that would not be there without it."""
    drop: tuple[Ref, ...] = ()
    """Observations that would not be there without it; where there are some, the rows follow from them."""
    place: Place | None = None
    """Where the match would stand without it; None: where it stood at ``since``."""
    held: Millis | None = None
    needed: Millis | None = None
