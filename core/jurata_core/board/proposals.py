"""What a board proposes for a log: its clock as starts and stops, and the officials' calls.

Each is an observation that could be logged, with what the log has in its place. What the log has already is no
proposal any more; what it has at another moment is said with how far off it is.
"""

from __future__ import annotations

from collections.abc import Callable, Collection, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any, Literal

from ..adjudication import Verdict
from ..adjudication.places import STANDING
from ..adjudication.sentences import WHO, amount
from ..faults import Fault
from ..match_log import MatchLog
from ..match_log.kinds import read_observation
from ..match_log.observations import SIDES, TALLIES, Begin, Call, Clock, End, Observation, Period, Ref, Side, Tally
from ..times import Millis, minutes, span, to_seconds
from .counters import Figure, Step, merged
from .course import Course, Moment

CLOCK_NEAR: Millis = 10_000
"""A logged start or stop so near is the board's, only that it is off."""
CALL_NEAR: Millis = 8_000
"""A logged call of the same so near is the board's: it was seen on the board, or when the referee gave it."""
SLACK: Millis = 250
"""So much past the span that the board allows, a logged start or stop agrees with it."""
RUN_ALREADY: Millis = 1_500
"""From so much on, the clock had run before the footage begins."""
STILL: Millis = 20_000
"""So long after its clock has stopped for good a board may still show what the officials gave."""
Standing = Literal["new", "logged", "differs"]


@dataclass(frozen=True, slots=True)
class Proposal:
    """An observation that the board speaks for. ``logged``: the observation that stands for it in the log, if any.

    ``asks``: whether it matters if the two started again standing or as they were, and nobody has said so.
    ``part``: the figure that a call was read from.
    """

    key: str
    t: Millis
    since: Millis
    until: Millis
    body: Mapping[str, Any]
    because: str
    sure: float
    part: str | None = None
    asks: bool = False
    standing: Standing = "new"
    logged: Ref | None = None
    off: Millis = 0

    def as_json(self) -> dict[str, Any]:
        return {
            "key": self.key,
            "t": to_seconds(self.t),
            "since": to_seconds(self.since),
            "until": to_seconds(self.until),
            "body": dict(self.body),
            "because": self.because,
            "sure": self.sure,
            "part": self.part,
            "asks": self.asks,
            "standing": self.standing,
            "logged": self.logged,
            "off": to_seconds(self.off),
        }


def proposals(
    course: Course | None,
    figures: Mapping[str, Figure],
    log: MatchLog,
    verdict: Verdict,
    said: Collection[Ref] = frozenset(),
) -> list[Proposal]:
    """All that the board proposes, in order of time. ``figures`` by the part, as ``a.points``.

    ``said``: the restarts of the log of which somebody has said how they went on.
    """
    found: list[Proposal] = []
    first, last = None, None
    if course is not None and course.readable:
        clock = _clock(course, figures, log, verdict)
        starts = [one.t for one in clock if one.body.get("action") == "start"]
        first = min(starts, default=None)
        last = max((one.t for one in clock), default=None) if not course.stretches[-1].runs else None
        found += _held_against(clock, log, CLOCK_NEAR, _same_clock, said)
    calls = [
        proposal
        for part, figure in sorted(figures.items())
        for proposal in _calls(part, figure, first, last)
    ]  # fmt: skip
    found += _held_against(calls, log, CALL_NEAR, _same_call, said)
    return sorted(found, key=lambda one: (one.t, _ORDER.get(str(one.body["kind"]), 9)))


_ORDER = {"begin": 0, "clock": 1, "period": 2, "end": 3}


def with_calls(log: MatchLog, found: Sequence[Proposal]) -> MatchLog:
    """The log with the calls that a board proposes and that it lacks, for the audit; each has its key as ``id``."""
    new = [one for one in found if one.part is not None and one.standing == "new"]
    faults: list[Fault] = []
    count = len(log.observations)
    seen = [read_observation({**one.body, "id": one.key}, count + n, "", faults) for n, one in enumerate(new)]
    calls = [one for one in seen if one is not None]
    return replace(log, observations=tuple(sorted((*log.observations, *calls), key=lambda one: one.t)))


def only_logged(course: Course | None, found: Sequence[Proposal], log: MatchLog) -> list[dict[str, Any]]:
    """Starts and stops of the log that the board does not show, although its clock was read around them."""
    if course is None or not course.readable:
        return []
    matched = {one.logged for one in found}
    rows = []
    for seen in log.observations:
        if not isinstance(seen, Clock) or seen.ref in matched or course.value_at(seen.t) is None:
            continue
        value = course.value_at(seen.t) or 0
        runs = any(one.runs for one in course.stretches if one.t <= seen.t <= one.until)
        said = f"runs through at {minutes(value)}" if runs else f"stands at {minutes(value)}"
        rows.append({"logged": seen.ref, "t": to_seconds(seen.t), "because": f"The scoreboard's clock {said} here."})
    return rows


def _clock(course: Course, figures: Mapping[str, Figure], log: MatchLog, verdict: Verdict) -> list[Proposal]:
    """The clock as starts and stops, the beginning inside a match, overtime, and the end of time."""
    found = _beginning(course, figures, log)
    moments = _as_set_right(course)
    for number, moment in enumerate(moments):
        again = number > 0 and moment.action == "start"
        overtime = _overtime(course, moments, number)
        if overtime is not None:
            if log.ruleset.overtime is None:
                break  # another match, or the board's own affair
            found.append(_plain("period", overtime, f"The scoreboard's clock was set again after {minutes(0)}."))
        asks = again and overtime is None and verdict.timeline.place_at(moments[number - 1].t) != STANDING
        ended = moment.action == "stop" and moment.value == 0 and course.rule.counts == "down"
        goes_on = _overtime(course, moments, number + 1) is not None and log.ruleset.overtime is not None
        if ended and not goes_on:
            found.append(_end(moment))
            if number + 1 < len(moments):
                break
        else:
            found.append(replace(_moment(moment), asks=asks))
    return found


def _moment(moment: Moment) -> Proposal:
    shown = minutes(moment.value) if moment.value % 1000 == 0 else minutes(moment.value + 999)
    verb = "starts" if moment.action == "start" else "stops"
    off = (moment.until - moment.since) // 2
    where = f", give or take {span(off)}" if off > SLACK else ""
    return Proposal(
        key=f"board-{moment.action}-{moment.t}",
        t=moment.t, since=moment.since, until=moment.until,
        body={"t": to_seconds(moment.t), "kind": "clock", "action": moment.action},
        because=f"The scoreboard's clock {verb} at {shown}{where}.",
        sure=moment.sure,
    )  # fmt: skip


def _end(moment: Moment) -> Proposal:
    return Proposal(
        key=f"board-end-{moment.t}",
        t=moment.t, since=moment.since, until=moment.until,
        body={"t": to_seconds(moment.t), "kind": "end", "how": "time"},
        because="The scoreboard's clock comes to 0:00.",
        sure=moment.sure,
    )  # fmt: skip


def _plain(kind: str, t: Millis, because: str) -> Proposal:
    return Proposal(f"board-{kind}-{t}", t, t, t, {"t": to_seconds(t), "kind": kind}, because, 1.0)


def _beginning(course: Course, figures: Mapping[str, Figure], log: MatchLog) -> list[Proposal]:
    """That the footage starts inside the match, with the clock and the score that the board shows first."""
    first = course.stretches[0]
    full = log.duration if course.rule.counts == "down" else 0
    if full is None:
        return []
    ran = abs(full - first.value)
    if ran < RUN_ALREADY or first.value > full > 0:
        return []
    score: dict[Side, dict[Tally, int]] = {
        side: {tally: figures[name].first or 0 for tally in TALLIES if (name := f"{side}.{tally}") in figures}
        for side in SIDES
    }
    body = {"t": to_seconds(first.t), "kind": "begin", "clock": to_seconds(ran), "score": score}
    said = f"The footage starts inside the match: {minutes(ran)} of it had run."
    found = [Proposal(f"board-begin-{first.t}", first.t, first.t, first.t, body, said, 1.0)]
    if first.runs:
        found.append(_moment(Moment("start", first.t, first.t, first.t, first.value, 1.0)))
    return found


def _as_set_right(course: Course) -> list[Moment]:
    """The starts and stops as they should have been: where the table set the clock during a stop, it had stopped it
    too late, or started it too late."""
    moments = list(course.moments)
    for setting in course.settings:
        back = -setting.by * course.rule.sign
        before = [n for n, one in enumerate(moments) if one.t <= setting.until and one.action == "stop"]
        after = [n for n, one in enumerate(moments) if one.t >= setting.since and one.action == "start"]
        if not before or not after or after[0] != before[-1] + 1 or setting.before == 0:
            continue
        number, by = (before[-1], -back) if back > 0 else (after[0], back)
        one = moments[number]
        moments[number] = replace(one, t=one.t + by, since=one.since + by, until=one.until + by)
    return moments


def _overtime(course: Course, moments: Sequence[Moment], number: int) -> Millis | None:
    """When the clock was set again before a start, after it had come to zero."""
    if number == 0 or number >= len(moments) or course.rule.counts != "down":
        return None
    stop, start = moments[number - 1], moments[number]
    if start.action != "start" or stop.action != "stop" or stop.value != 0:
        return None
    return next((one.until for one in course.settings if stop.t <= one.until <= start.t), stop.t)


def _calls(part: str, figure: Figure, first: Millis | None, last: Millis | None) -> list[Proposal]:
    """The steps of one figure as calls; not what was on the board before the match, nor what it is cleared to after."""
    side, tally = part.split(".")
    found = []
    for step in merged(figure.steps):
        if first is not None and step.until <= first:
            continue
        if last is not None and (step.since > last + STILL or (step.after == 0 and step.since > last)):
            continue
        found.append(_call(part, side, tally, step))
    return found


def _call(part: str, side: Any, tally: Any, step: Step) -> Proposal:
    n = step.after - step.before
    body = {"t": to_seconds(step.t), "kind": "call", "to": side, tally: n}
    given = amount(abs(n), tally)
    verb = "gives" if n > 0 else "takes"
    toward = "against" if tally == "penalties" else ("to" if n > 0 else "from")
    said = f"The scoreboard {verb} {given} {toward} {WHO[side]}: {step.before} becomes {step.after}."
    if n < 0 and tally == "penalties":
        said = f"The scoreboard takes back {given} against {WHO[side]}: {step.before} becomes {step.after}."
    return Proposal(f"board-{part}-{step.until}", step.t, step.since, step.until, body, said, step.sure, part)


def _same_clock(seen: Observation, body: Mapping[str, Any]) -> bool:
    if isinstance(seen, Clock):
        return bool(body.get("action") == seen.action)
    return type(seen) is _KINDS.get(str(body["kind"]))


_KINDS = {"begin": Begin, "period": Period, "end": End}


def _same_call(seen: Observation, body: Mapping[str, Any]) -> bool:
    if not isinstance(seen, Call) or seen.to not in (None, body["to"]):
        return False
    return any(name in body and getattr(seen, name) == body[name] for name in TALLIES)


def _held_against(
    found: Sequence[Proposal],
    log: MatchLog,
    near: Millis,
    same: Callable[[Observation, Mapping[str, Any]], bool],
    said: Collection[Ref],
) -> list[Proposal]:
    """The proposals with what stands for each in the log: the nearest of the same, and none twice."""
    pairs = sorted(
        (abs(seen.t - one.t), number, place)
        for number, one in enumerate(found)
        for place, seen in enumerate(log.observations)
        if same(seen, one.body) and (abs(seen.t - one.t) <= near or one.body["kind"] in ("begin", "end"))
    )
    rows, taken = list(found), set()
    for _, number, place in pairs:
        one, seen = rows[number], log.observations[place]
        if one.standing != "new" or (seen.ref, one.part) in taken:
            continue
        taken.add((seen.ref, one.part))
        agrees = one.part is not None or one.since - SLACK <= seen.t <= one.until + SLACK or one.body["kind"] != "clock"
        off = 0 if agrees else seen.t - one.t
        asks = one.asks and seen.ref not in said
        rows[number] = replace(one, asks=asks, standing="logged" if agrees else "differs", logged=seen.ref, off=off)
    return rows
