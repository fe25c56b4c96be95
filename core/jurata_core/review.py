"""The athlete's errors, read off a verdict: what was missed, conceded, penalised or not allowed."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Literal

from .adjudication.sentences import CLAIMS, amount, sentence
from .adjudication.verdict import Award, Barred, Unheld, Verdict
from .match_log.observations import OTHER, Side
from .times import Millis, to_seconds

FindingKind = Literal["miss", "concession", "penalty", "illegal"]
ORDER: tuple[FindingKind, ...] = ("illegal", "miss", "penalty", "concession")
"""What comes first of what happened at one moment: the cause before what it led to."""
LEAD_IN: Millis = 4_000
"""How long before it happened the clip of a finding begins."""


@dataclass(frozen=True, slots=True)
class Finding:
    """One thing to look at again. ``start`` is where the clip should begin, ``t`` when it was decided."""

    kind: FindingKind
    t: Millis
    clock: Millis
    start: Millis
    title: str
    because: str
    cost: str
    held: Millis | None
    needed: Millis | None
    exchange: int | None

    def as_json(self) -> dict[str, Any]:
        return {
            "kind": self.kind,
            "t": to_seconds(self.t),
            "clock": to_seconds(self.clock),
            "start": to_seconds(self.start),
            "title": self.title,
            "because": self.because,
            "cost": self.cost,
            "held": None if self.held is None else to_seconds(self.held),
            "needed": None if self.needed is None else to_seconds(self.needed),
            "exchange": self.exchange,
        }


def findings(verdict: Verdict, side: Side = "a") -> list[Finding]:
    """Everything that went against ``side``, in order of time."""
    found = [_miss(row) for row in verdict.missed if row.to == side]
    found += [_concession(row) for row in verdict.ledger if _conceded(row, side)]
    found += [_penalty(row) for row in verdict.ledger if row.to == side and _against(row)]
    found += [_illegal(row) for row in verdict.barred if row.by == side]
    return sorted(found, key=lambda finding: (finding.t, ORDER.index(finding.kind)))


def _conceded(row: Award, side: Side) -> bool:
    return row.to == OTHER[side] and row.n > 0 and row.kind != "penalties" and row.reason != "ruling"


def _against(row: Award) -> bool:
    return row.reason == "penalty" or (row.n < 0 and row.reason != "ruling")


def _miss(row: Unheld) -> Finding:
    because = row.as_json()["because"]
    return Finding(
        "miss", row.t, row.clock, _lead_in(row.since), f"{_titled(row.claim)} not held", because,
        f"{amount(*row.facts['worth'])} not taken", row.held, row.needed, row.exchange,
    )  # fmt: skip


def _concession(row: Award) -> Finding:
    title = f"{_titled(row.facts['claim'])} conceded" if "claim" in row.facts else _CONCEDED.get(row.reason, "Conceded")
    needed = row.facts.get("needed", 0) if row.reason.startswith("held") else 0
    return _award(row, "concession", title, amount(row.n, row.kind), row.t - needed)


def _penalty(row: Award) -> Finding:
    title = {"penalty": "Penalty", "pull_cost": "Paid for the pull"}.get(row.reason, "Point lost")
    return _award(row, "penalty", title, amount(abs(row.n), row.kind), row.t)


def _award(row: Award, kind: FindingKind, title: str, cost: str, began: Millis) -> Finding:
    because = row.as_json()["because"]
    return Finding(kind, row.t, row.clock, _lead_in(began), title, because, cost, None, None, row.exchange)


def _illegal(row: Barred) -> Finding:
    lost = row.consequence in ("illegal_disqualify", "illegal_finish")
    cost = (
        "the match"
        if lost
        else {"illegal_warned": "a warning", "illegal_stop": "what was being counted"}[row.consequence]
    )
    because = sentence(row.consequence, row.facts)
    return Finding("illegal", row.t, row.clock, _lead_in(row.t), row.technique, because, cost, None, None, None)


_CONCEDED = {
    "lost": "Advantage conceded",
    "close_submission": "Caught, and got out",
    "near": "Very nearly conceded",
    "rung_advantage": "Advantage by penalty",
    "rung_two_points": "Two points by penalty",
    "fled": "Fled: two points conceded",
}


def _titled(claim: str) -> str:
    name = CLAIMS[claim]
    return name[:1].upper() + name[1:]


def _lead_in(t: Millis) -> Millis:
    return max(0, t - LEAD_IN)
