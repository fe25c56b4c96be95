"""Where a scored match stood: its place, what was being held, and the leads, at any time of the footage."""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from dataclasses import dataclass
from math import ceil

from ..adjudication.places import Place
from ..adjudication.rows import Count
from ..adjudication.transition import Opened
from ..adjudication.verdict import Verdict
from ..match_log.observations import TALLIES, Side, Tally
from ..times import Millis
from .recursion import Question
from .spots import NOTHING, Model, Pending, Spot, pending_of


@dataclass(frozen=True, slots=True)
class Moment:
    """The match at footage time ``t``, everything that fell due at ``t`` included."""

    t: Millis
    clock: Millis
    place: Place
    lasted: Millis
    """How long the place has been held, of running clock."""
    open: tuple[Count, ...]
    """Claims being held."""
    leads: dict[Tally, int]
    """The athlete's; of penalties, by how many fewer."""
    overtime: Millis | None = None
    """How long the period of overtime has run; None in regular time."""

    def question(self, model: Model) -> Question:
        """The model's state that comes nearest."""
        leads = (self.leads["points"], self.leads["advantages"], self.leads["penalties"])
        if self.overtime is None or model.overtime_seconds is None:
            return Question(min(model.seconds, self.clock // 1000), self._spot(model), *leads)
        return Question(min(model.overtime_seconds, self.overtime // 1000), self._spot(model), *leads, overtime=True)

    def held(self, claim: Count) -> Millis:
        """How long a claim's present count has run."""
        spans = [*claim.counted]
        if claim.counting_from is not None:
            spans.append((claim.counting_from, self.t))
        now = [start for start, end in spans if start <= self.t <= end]
        return self.t - now[-1] if now else 0

    def _spot(self, model: Model) -> Spot:
        pending = [claim for claim in self.open if claim.to == self.place.top and claim.n]
        held = pending_of([Opened(claim.claim, claim.tally, claim.n) for claim in pending])
        left = max((claim.needed - self.held(claim) for claim in pending), default=0)
        age = min(model.hold, self.lasted // 1000)
        if held != NOTHING:
            age = max(0, model.hold - max(1, ceil(left / 1000)))
        spot = Spot(self.place, age, held)
        if spot in model.numbers:
            return spot
        # A combination that the model cannot reach: what is held is taken as the position's alone.
        plain = Spot(self.place, age, Pending(anyhow=0, passing=0, here=held.here))
        return plain if plain in model.numbers else Spot(self.place, model.hold, NOTHING)


class Moments:
    """The moments of one verdict, each found in the time of a few bisections."""

    def __init__(self, verdict: Verdict) -> None:
        self._timeline = verdict.timeline
        self._counts = sorted(verdict.counts, key=lambda count: count.since)
        self._begun = [count.since for count in self._counts]
        self._longest = max((count.ended - count.since for count in self._counts), default=0)
        self._open = [count for count in self._counts if count.outcome == "open"]
        self._times: list[Millis] = []
        self._leads: list[dict[Tally, int]] = [dict.fromkeys(TALLIES, 0)]
        for row in verdict.ledger:
            gain = row.n if (row.to == "a") != (row.kind == "penalties") else -row.n
            self._times.append(row.t)
            self._leads.append({**self._leads[-1], row.kind: self._leads[-1][row.kind] + gain})

    def at(self, t: Millis) -> Moment:
        """Where the match stood at ``t``."""
        timeline = self._timeline
        clock, place = timeline.clock_at(t), timeline.place_at(t)
        lasted = clock - timeline.clock_at(timeline.place_since(t))
        leads = self._leads[bisect_right(self._times, t)]
        return Moment(t, clock, place, lasted, self._held_at(t), leads, timeline.overtime_at(t))

    def _held_at(self, t: Millis) -> tuple[Count, ...]:
        """The claims that were open at ``t``: of those that began at or before it, the ones that last so long."""
        low, high = bisect_left(self._begun, t - self._longest), bisect_right(self._begun, t)
        held = [one for one in self._counts[low:high] if t < one.ended or one.outcome == "open"]
        held += [one for one in self._open if one.since < t - self._longest]
        return tuple(held)


def timeline(verdict: Verdict) -> list[Moment]:
    """The match at every second of its clock, from the start to its end."""
    if not verdict.running:
        return []
    first, last = verdict.timeline.clock_at_start, verdict.clock_at(verdict.running[-1].stop)
    moments = Moments(verdict)
    return [moments.at(verdict.footage_at(second * 1000)) for second in range(ceil(first / 1000), last // 1000 + 1)]


def lead_of(side: Side, moment: Moment) -> dict[Tally, int]:
    """The leads as ``side`` has them."""
    sign = 1 if side == "a" else -1
    return {tally: sign * n for tally, n in moment.leads.items()}
