"""What a scorer or an official gave, as entries that can be paired one to one."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any, NamedTuple

from ..adjudication.rows import Award
from ..adjudication.sentences import WHO, amount
from ..adjudication.verdict import Verdict
from ..match_log import MatchLog
from ..match_log.observations import SIDES, TALLIES, Call, Ref, Side, Tally
from ..times import Millis, to_seconds


class Entry(NamedTuple):
    """``n`` of one kind given to one side at ``t`` (footage). A call has no ``because`` and no exchange, and no side
    where it was not seen whose it was."""

    t: Millis
    to: Side | None
    kind: Tally
    n: int
    because: str
    observations: tuple[Ref, ...]
    exchange: int | None = None

    def as_json(self) -> dict[str, Any]:
        return {
            "t": to_seconds(self.t),
            "to": self.to,
            "kind": self.kind,
            "n": self.n,
            "because": self.because,
            "observations": list(self.observations),
        }

    @property
    def given(self) -> str:
        """What was given, and to whom or against whom."""
        said = amount(self.n, self.kind)
        if self.to is None:
            return f"{said} to a side that was not seen"
        return f"{said} {'against' if self.kind == 'penalties' else 'to'} {WHO[self.to]}"

    def may_be_of(self, other: Entry) -> bool:
        """Whether both are of one side, or may be."""
        return self.to == other.to or self.to is None or other.to is None


def awarded(verdict: Verdict) -> list[Entry]:
    """Every row of the ledger, in its order."""
    return [_of(row, number) for row, number in zip(verdict.ledger, verdict.exchanges_of_awards(), strict=True)]


def _of(row: Award, exchange: int) -> Entry:
    return Entry(row.t, row.to, row.kind, row.n, row.because, row.observations, exchange)


def called(log: MatchLog) -> list[Entry]:
    """Every call of the officials, one entry for each kind that it shows, in order of time."""
    return [
        Entry(seen.t, seen.to, kind, getattr(seen, kind), "", (seen.ref,))
        for seen in log.observations
        if isinstance(seen, Call)
        for kind in TALLIES
        if getattr(seen, kind)
    ]


def label(entries: Iterable[Entry]) -> str:
    """What a stretch of the match gave, as one label: ``a 2 points, b 1 penalty``, or ``nothing``."""
    sums: dict[tuple[Side | None, Tally], int] = {}
    for entry in entries:
        sums[entry.to, entry.kind] = sums.get((entry.to, entry.kind), 0) + entry.n
    said = [
        f"{side or 'unseen'} {amount(sums[side, kind], kind)}"
        for side in (*SIDES, None)
        for kind in TALLIES
        if sums.get((side, kind))
    ]
    return ", ".join(said) or "nothing"
