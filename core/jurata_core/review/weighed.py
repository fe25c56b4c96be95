"""What referees are asked to weigh where a match goes to their decision: for each side, whatever the result."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any, NamedTuple

from ..adjudication.places import Place
from ..adjudication.sentences import amount
from ..adjudication.tiebreak import Lead, settled
from ..match_log.observations import SIDES, Attempt, Side, Submission, Tally
from ..times import Millis, span, to_seconds
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


def weighed(seen: Seen, since: Millis, until: Millis) -> Weighed:
    """All that is weighed from a time of the footage to another."""
    attempts = [one for one in seen.between(Attempt, since, until) if one.outcome == "near"]
    holds = [*seen.between(Submission, since, until)]
    near = [one.by for one in attempts] + [one.by for one in holds if one.threat == "close"]
    return Weighed(
        near={side: near.count(side) for side in SIDES},
        submissions={side: sum(one.by == side for one in holds) for side in SIDES},
        attacking={side: _attacking(seen, side, since, until) for side in SIDES},
        on_top={side: _on_top(seen, side, since, until) for side in SIDES},
    )


def decision_json(seen: Seen, until: Millis | None = None) -> dict[str, Any]:
    """What is weighed over the match up to a time, or to its end, and the same for the minute before that.

    ``quiet_for`` is for how many seconds nothing has scored or come near, None where one side is ahead; ``tipped_by``
    is what would decide for a side; ``said`` is both in words, empty where one side is ahead.
    """
    end = seen.over if until is None else min(until, seen.over)
    last = seen.after_clock(0, max(0, seen.clock(end) - LAST))
    level = seen.standing(end) == 0
    quiet, tipping = (_quiet(seen, end), _tipping(seen, end)) if level else (None, [])
    return {
        **weighed(seen, 0, end).as_json(),
        "last_minute": weighed(seen, last, end).as_json(),
        "quiet_for": None if quiet is None else to_seconds(quiet),
        "tipped_by": tipping,
        "said": "" if quiet is None else _said(quiet, tipping),
    }


def decision_ahead(seen: Seen, t: Millis) -> dict[str, Any] | None:
    """The same while the match goes on: in its last minute, where it is level; None at other times."""
    length = seen.log.duration
    if length is None or t >= seen.over or not 0 < seen.left(t) <= LAST or seen.standing(t) != 0:
        return None
    return decision_json(seen, t)


def _said(quiet: Millis, tipping: list[str]) -> str:
    said = f"Level, and for {span(quiet)} nothing has scored or come near."
    return f"{said} {' or '.join(tipping)} would decide it." if tipping else said


def _quiet(seen: Seen, until: Millis) -> Millis:
    """For how much of the clock nothing has scored or come near."""
    came = [row.t for row in seen.verdict.ledger if row.t <= until]
    came += [one.t for one in seen.between(Attempt, 0, until) if one.outcome == "near"]
    came += [min(one.until, until) for one in seen.between(Submission, 0, until) if one.threat == "close"]
    return seen.clock(until) - seen.clock(max(came, default=0))


def _tipping(seen: Seen, t: Millis) -> list[str]:
    """The least of each tally by which a side would have been ahead."""
    rules = seen.log.ruleset
    leads: dict[Lead, int] = dict(seen.lead(t).items())
    least: dict[Tally, int] = {
        "points": min((n for n in rules.points.values() if n > 0), default=0),
        "advantages": int(rules.advantages),
    }
    return [
        amount(n, tally) for tally, n in least.items()
        if n and settled(rules.tiebreak, {**leads, tally: leads[tally] + n}).lead > 0
    ]  # fmt: skip


def _attacking(seen: Seen, side: Side, since: Millis, until: Millis) -> Millis:
    attacks = [(one.t, one.until) for one in seen.of(Attempt, side)]
    attacks += [(one.t, one.until) for one in seen.of(Submission, side)]
    return _ran(seen, since, until, ((t, max(end, t + LEAST)) for t, end in attacks))


def _on_top(seen: Seen, side: Side, since: Millis, until: Millis) -> Millis:
    places = seen.verdict.timeline.places
    ends = [*(t for t, _ in places[1:]), seen.over]
    held = ((t, end) for (t, place), end in zip(places, ends, strict=True) if _is_on_top(place, side))
    return _ran(seen, since, until, held)


def _is_on_top(place: Place, side: Side) -> bool:
    return place.top == side and place.position != "guard"


def _ran(seen: Seen, since: Millis, until: Millis, spans: Iterable[tuple[Millis, Millis]]) -> Millis:
    """The running clock inside of some stretches, each moment once."""
    total, reached = 0, since
    for start, end in sorted(spans):
        first, last = max(start, reached), min(end, until)
        if last > first:
            total += seen.verdict.timeline.ran(first, last)
            reached = last
    return total
