"""A score of the practice clip, set against what the clip shows, moment by moment.

The clip is filmed from a log, so what truly happened in it is known to the frame.
"""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache
from pathlib import Path
from typing import Any

from ..adjudication import Verdict, adjudicate
from ..match_log import MatchLog, read_log
from ..match_log.observations import Attempt, Clock, End, Observation, Position
from ..times import Millis, minutes, to_seconds

SAME: Millis = 4_000
"""So far from what truly happened an observation still means it."""
CLOSE: Millis = 700
"""Up to here two people who watch the same clip are taken to agree."""


@dataclass(frozen=True, slots=True)
class Moment:
    """One thing that happened in the clip, and when it was logged; ``logged`` is None where it was not."""

    t: Millis
    what: str
    logged: Millis | None
    because: str

    def as_json(self) -> dict[str, Any]:
        logged = None if self.logged is None else to_seconds(self.logged)
        return {"t": to_seconds(self.t), "what": self.what, "logged": logged, "because": self.because}


@dataclass(frozen=True, slots=True)
class LookingBack:
    """All moments of the clip, the score of both, and a sentence that sums it up."""

    moments: tuple[Moment, ...]
    score: dict[str, Any]
    """What the clip comes to."""
    own: dict[str, Any]
    """What the score that was logged comes to."""
    because: str

    def as_json(self) -> dict[str, Any]:
        moments = [one.as_json() for one in self.moments]
        return {"moments": moments, "score": self.score, "own": self.own, "because": self.because}


@cache
def practice_log() -> dict[str, Any]:
    """The log that the practice clip is filmed from; not to be changed."""
    found: dict[str, Any] = json.loads(Path(__file__).with_name("match.json").read_text("utf-8"))
    return found


_WHAT = (
    "The referee starts the match",
    "The takedown: you are on top, in the guard",
    "The guard is passed: side control",
    "Half guard again, after twelve seconds of side control",
    "The opponent tries a sweep and fails",
    "Side control once more",
    "Half guard again, after 2.2 seconds: not held",
    "Side control, and this time it stays",
    "The opponent taps",
)
"""What happens in the clip, in order; the takedown itself and the armlock are not asked for."""


def look_back(log: MatchLog, verdict: Verdict) -> LookingBack:
    """Set a score of the practice clip against what the clip shows."""
    truth = read_log(practice_log())
    asked = [one for one in truth.observations if _asked(one)]
    left = list(log.observations)
    moments = []
    for what, true in zip(_WHAT, asked, strict=True):
        found = _nearest(true, left)
        if found is not None:
            left.remove(found)
        moments.append(_moment(what, true, found))
    score, own = (one.summary()["score"] for one in (adjudicate(truth), verdict))
    return LookingBack(tuple(moments), score, own, _summed_up(moments, score == own))


def _asked(one: Observation) -> bool:
    return isinstance(one, Clock | Position | End) or (isinstance(one, Attempt) and one.by == "b")


def _nearest(true: Observation, logged: Sequence[Observation]) -> Observation | None:
    same = [one for one in logged if _means(one, true) and abs(one.t - true.t) <= SAME]
    return min(same, key=lambda one: abs(one.t - true.t), default=None)


def _means(one: Observation, true: Observation) -> bool:
    """Whether one observation says what another does, times and details aside."""
    if isinstance(one, Position) and isinstance(true, Position):
        return (one.position, one.top) == (true.position, true.top)
    if isinstance(one, Attempt) and isinstance(true, Attempt):
        return one.by == true.by
    if isinstance(one, Clock) and isinstance(true, Clock):
        return one.action == true.action
    return isinstance(one, End) and isinstance(true, End)


def _moment(what: str, true: Observation, found: Observation | None) -> Moment:
    if found is None:
        return Moment(true.t, what, None, f"Not logged. It is at {minutes(true.t)} in the clip; have another look.")
    off = found.t - true.t
    if abs(off) <= CLOSE:
        return Moment(true.t, what, found.t, "Logged at the right moment.")
    way = "late" if off > 0 else "early"
    return Moment(true.t, what, found.t, f"Logged {abs(off) / 1000:.1f} s {way}. Step frame by frame to catch it.")


def _summed_up(moments: Sequence[Moment], same: bool) -> str:
    found = sum(one.logged is not None for one in moments)
    seen = f"You logged {found} of {len(moments)} moments"
    if same:
        return f"{seen}, and your score is what the clip comes to. You are ready for a match of your own."
    if found == len(moments):
        return f"{seen}. The score differs all the same: a time that is off can make or lose three seconds."
    return f"{seen}. What is missing makes the score differ; that is what a second look is for."
