"""Where a scored match stood: its place, what was being held, and the leads, at any time of the footage."""

from __future__ import annotations

from bisect import bisect_right
from dataclasses import dataclass
from math import ceil

from ..adjudication.places import OWN_POSITION, STANDING, Place, passed_through
from ..adjudication.verdict import Count, Verdict
from ..match_log.observations import TALLIES, Side, Tally
from ..times import Millis
from .recursion import Question
from .spots import NOTHING, Model, Pending, Spot


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

    def question(self, model: Model) -> Question:
        """The model's state that comes nearest."""
        return Question(
            min(model.seconds, self.clock // 1000),
            self._spot(model),
            self.leads["points"],
            self.leads["advantages"],
            self.leads["penalties"],
        )

    def held(self, claim: Count) -> Millis:
        """How long a claim's present count has run."""
        spans = [*claim.counted]
        if claim.counting_from is not None:
            spans.append((claim.counting_from, self.t))
        now = [start for start, end in spans if start <= self.t <= end]
        return self.t - now[-1] if now else 0

    def _spot(self, model: Model) -> Spot:
        side, held = self.place.top, NOTHING
        left = 0
        for claim in self.open:
            if claim.to != side or not claim.n:
                continue
            part = "passing" if claim.claim == "guard_pass" else "here" if claim.claim in OWN_POSITION else "anyhow"
            part = "advantages" if claim.tally == "advantages" else part
            held = held._replace(**{part: getattr(held, part) + claim.n})
            left = max(left, claim.needed - self.held(claim))
        age = min(model.hold, self.lasted // 1000)
        if held != NOTHING:
            age = max(0, model.hold - max(1, ceil(left / 1000)))
        spot = Spot(self.place, age, held)
        if spot in model.numbers:
            return spot
        # A combination that the model cannot reach: what is held is taken as the position's alone.
        plain = Spot(self.place, age, Pending(anyhow=0, passing=0, here=held.here))
        return plain if plain in model.numbers else Spot(self.place, model.hold, NOTHING)


class _Sheet:
    """The athlete's leads after each row of the ledger."""

    def __init__(self, verdict: Verdict) -> None:
        self.times: list[Millis] = []
        self.leads: list[dict[Tally, int]] = [dict.fromkeys(TALLIES, 0)]
        for row in verdict.ledger:
            gain = row.n if (row.to == "a") != (row.kind == "penalties") else -row.n
            self.times.append(row.t)
            self.leads.append({**self.leads[-1], row.kind: self.leads[-1][row.kind] + gain})

    def at(self, t: Millis) -> dict[Tally, int]:
        return self.leads[bisect_right(self.times, t)]


def places_of(verdict: Verdict) -> list[tuple[Millis, Place]]:
    """The places of a match in order, from when; what is passed through is left out."""
    found: list[tuple[Millis, Place]] = [(0, STANDING)]
    for t, place in verdict.positions:
        if not passed_through(place) and place != found[-1][1]:
            found.append((t, place))
    return found


def moment_at(verdict: Verdict, t: Millis) -> Moment:
    return moments_at(verdict, [t])[0]


def moments_at(verdict: Verdict, times: list[Millis]) -> list[Moment]:
    """Where the match stood at each of these times."""
    sheet, places = _Sheet(verdict), places_of(verdict)
    begins = [t for t, _ in places]
    found = []
    for t in times:
        since, place = places[bisect_right(begins, t) - 1]
        held = tuple(one for one in verdict.counts if one.since <= t and (t < one.ended or one.outcome == "open"))
        lasted = verdict.clock_at(t) - verdict.clock_at(since)
        found.append(Moment(t, verdict.clock_at(t), place, lasted, held, sheet.at(t)))
    return found


def timeline(verdict: Verdict) -> list[Moment]:
    """The match at every second of its clock, from the start to its end."""
    if not verdict.running:
        return []
    last = verdict.clock_at(verdict.running[-1][1])
    return moments_at(verdict, [verdict.footage_at(second * 1000) for second in range(last // 1000 + 1)])


def lead_of(side: Side, moment: Moment) -> dict[Tally, int]:
    """The leads as ``side`` has them."""
    sign = 1 if side == "a" else -1
    return {tally: sign * n for tally, n in moment.leads.items()}
