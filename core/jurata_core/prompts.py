"""What a scorer may have overlooked: each prompt says why, and can be taken or let be."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise
from typing import Any, Literal

from .adjudication import Verdict
from .adjudication.places import CONTROL
from .adjudication.sentences import PLACES, WHO
from .adjudication.steps import GRACE
from .audit import shown_on_boards
from .match_log import MatchLog
from .match_log.observations import (
    Board,
    Call,
    End,
    ExchangeStart,
    Foul,
    Grip,
    Observation,
    Side,
    Submission,
    Unwatched,
)
from .scoreboard import Check
from .techniques import goes_for_a_leg
from .times import Millis, minutes, span, to_seconds

IDLE: Millis = 20_000
"""So long without progress, where one side has to act, is what referees call stalling. Common practice, no source."""

Kind = Literal["idle", "leap", "stop_missing", "time_left", "board", "up_and_attacking"]


@dataclass(frozen=True, slots=True)
class Prompt:
    """Something to look at again at ``t``. ``take`` is the observation that would settle it, where there is one."""

    kind: Kind
    t: Millis
    because: str
    take: dict[str, Any] | None

    @property
    def key(self) -> str:
        """Names the prompt, so that one let be stays away."""
        return f"{self.kind}-{self.t}"

    def as_json(self) -> dict[str, Any]:
        return {
            "key": self.key,
            "kind": self.kind,
            "t": to_seconds(self.t),
            "because": self.because,
            "take": self.take,
        }


def prompts(log: MatchLog, verdict: Verdict, checks: list[Check] | None = None) -> list[Prompt]:
    """All prompts of a log, in order of time. ``checks`` are those of the scoreboard."""
    found = _idle(log, verdict) + _leaps(verdict) + _time_left(log, verdict) + _up_and_attacking(log, verdict)
    found += [Prompt("board", one.t, one.because, None) for one in shown_on_boards(log, verdict) if not one.agrees]
    found += [
        Prompt("stop_missing", check.start, check.because, None) for check in checks or () if check.finding != "agrees"
    ]
    return sorted(found, key=lambda prompt: prompt.t)


def _idle(log: MatchLog, verdict: Verdict) -> list[Prompt]:
    """Stretches of running clock under one side's control with nothing logged in them."""
    counted = [seen for seen in log.observations if not isinstance(seen, Board | Call | Grip | ExchangeStart)]
    moments = sorted({seen.t for seen in counted} | {end for seen in counted for end in _until(seen)})
    if verdict.result.t is None and verdict.clock_running and moments:
        moments.append(moments[-1])
    found = []
    for start, end in pairwise(moments):
        place = verdict.timeline.shown_at(start)
        if place is None or place.position not in CONTROL or place.top is None:
            continue
        ran = verdict.timeline.ran(start, end)
        if ran >= IDLE and not _explained(log, start, end) and not _fouled(log, end):
            said = (
                f"Nothing logged for {span(ran)} in {PLACES[place.position]} from {minutes(start)} of the footage. "
                f"Was {WHO[place.top]} stalling, or is an entry missing?"
            )
            take = {"t": to_seconds(start + IDLE), "kind": "foul", "by": place.top, "foul": "stalling"}
            found.append(Prompt("idle", start + IDLE, said, take))
    return found


def _time_left(log: MatchLog, verdict: Verdict) -> list[Prompt]:
    """An end by time before its time."""
    found = []
    for seen in log.observations:
        left = verdict.timeline.left_at(seen.t) if isinstance(seen, End) and seen.how == "time" else None
        if left is not None and left > GRACE:
            said = (
                f"Logged as ended by time with {minutes(left)} left on the clock. "
                "Did it end in another way, or is a start or stop of the clock off?"
            )
            found.append(Prompt("time_left", seen.t, said, None))
    return found


def _up_and_attacking(log: MatchLog, verdict: Verdict) -> list[Prompt]:
    """A side that is logged as up in a leg entanglement, attacks the leg there, and then is below.

    In an entanglement the side on top is the one that is up. Where the attacker was logged instead, lying back for the
    lock would pay the other a sweep that nobody made.
    """
    found = []
    for (start, place), (end, after) in pairwise(verdict.positions):
        if place.position != "entangled" or place.top is None or not _turned(place.top, after.top):
            continue
        attacks = [
            seen for seen in log.observations
            if isinstance(seen, Submission) and seen.by == place.top and start <= seen.t <= end
        ]  # fmt: skip
        if any(goes_for_a_leg(seen.technique) for seen in attacks):
            said = (
                f"From {minutes(start)} of the footage {WHO[place.top]} is logged as up in the leg entanglement, "
                f"attacks the leg, and at {minutes(end)} is below. On top is whoever is up, not whoever attacks: "
                "if no one was up, log the entanglement without a top."
            )
            found.append(Prompt("up_and_attacking", start, said, None))
    return found


def _until(seen: Observation) -> list[Millis]:
    return [seen.until] if isinstance(seen, Submission | Unwatched) else []


def _explained(log: MatchLog, start: Millis, end: Millis) -> bool:
    """Whether a hold was on in a stretch, or nobody watched some of it."""
    holds = (seen for seen in log.observations if isinstance(seen, Submission | Unwatched))
    return any(seen.t < end and seen.until > start for seen in holds)


def _fouled(log: MatchLog, t: Millis) -> bool:
    """Whether the stretch ended in a foul: then it was seen."""
    return any(isinstance(seen, Foul) and seen.t == t for seen in log.observations)


def _leaps(verdict: Verdict) -> list[Prompt]:
    """Control by one side straight after control by the other: something must have lain between."""
    found = []
    for (_, before), (t, after) in pairwise(verdict.positions):
        if before.position in CONTROL and after.position in CONTROL and _turned(before.top, after.top):
            said = (
                f"At {minutes(t)} of the footage {WHO[after.top]} is in {PLACES[after.position]} straight after "
                f"{WHO[before.top]} had {PLACES[before.position]}. Was there a guard, turtle or scramble in between?"
            )
            found.append(Prompt("leap", t, said, None))
    return found


def _turned(before: Side | None, after: Side | None) -> bool:
    return before is not None and after is not None and before != after
