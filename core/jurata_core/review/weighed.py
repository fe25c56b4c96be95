"""What referees are asked to weigh where a match goes to their decision: for each side, whatever the result."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any, NamedTuple

from ..match_log.observations import SIDES, Attempt, Side, Submission
from ..times import Millis, to_seconds
from .seen import Seen

LAST: Millis = 60_000
"""The last stretch of running clock that is shown by itself."""
LEAST: Millis = 1_000
"""How long an attack counts at least."""


class Weighed(NamedTuple):
    """For each side: near attempts and close submissions, submissions tried, and in milliseconds of running clock the
    time inside own attacks and on top in any position but the guard."""

    near: dict[Side, int]
    submissions: dict[Side, int]
    attacking: dict[Side, Millis]
    on_top: dict[Side, Millis]

    def as_json(self) -> dict[str, Any]:
        return {
            "near": self.near,
            "submissions": self.submissions,
            "attacking": {side: to_seconds(ms) for side, ms in self.attacking.items()},
            "on_top": {side: to_seconds(ms) for side, ms in self.on_top.items()},
        }


def weighed(seen: Seen, since: Millis = 0) -> Weighed:
    """All that is weighed from a time of the footage on."""
    attempts = [one for one in seen.of(Attempt) if one.t >= since and one.outcome == "near"]
    holds = [one for one in seen.of(Submission) if one.t >= since]
    near = [one.by for one in attempts] + [one.by for one in holds if one.threat == "close"]
    return Weighed(
        near={side: near.count(side) for side in SIDES},
        submissions={side: sum(one.by == side for one in holds) for side in SIDES},
        attacking={side: _attacking(seen, side, since) for side in SIDES},
        on_top={side: _on_top(seen, side, since) for side in SIDES},
    )


def decision_json(seen: Seen) -> dict[str, Any]:
    """What is weighed over the match, and the same for its last minute."""
    last = seen.after_clock(0, max(0, seen.clock(seen.over) - LAST))
    return {**weighed(seen).as_json(), "last_minute": weighed(seen, last).as_json()}


def _attacking(seen: Seen, side: Side, since: Millis) -> Millis:
    attacks = [(one.t, one.until) for one in seen.of(Attempt, side)]
    attacks += [(one.t, one.until) for one in seen.of(Submission, side)]
    return _ran(seen, since, ((t, max(until, t + LEAST)) for t, until in attacks))


def _on_top(seen: Seen, side: Side, since: Millis) -> Millis:
    places = seen.verdict.timeline.places
    ends = [*(t for t, _ in places[1:]), seen.over]
    spans = zip(places, ends, strict=True)
    return _ran(seen, since, ((t, end) for (t, place), end in spans if place.top == side and place.position != "guard"))


def _ran(seen: Seen, since: Millis, spans: Iterable[tuple[Millis, Millis]]) -> Millis:
    """The running clock inside of some stretches, each moment once."""
    total, reached = 0, since
    for start, end in sorted(spans):
        first, last = max(start, reached), min(end, seen.over)
        if last > first:
            total += seen.verdict.timeline.ran(first, last)
            reached = last
    return total
