"""What to ask the officials at the event: a question for each difference, with the rule and the held time."""

from __future__ import annotations

from typing import Any, NamedTuple

from ..adjudication import Verdict
from ..adjudication.places import Place, holds
from ..adjudication.reasons import Held, HeldAdvantage, claims_of
from ..adjudication.rows import Award
from ..adjudication.sentences import CLAIMS
from ..match_log import MatchLog
from ..match_log.observations import Submission
from ..times import Millis, minutes, span, to_seconds
from .comparison import Comparison, Line
from .entries import Entry

SOON: Millis = 10_000
"""A hold that ended so shortly before a count began may be why the count was not seen."""


class OpenQuestion(NamedTuple):
    """``t`` is footage; ``text`` can be read out as it stands."""

    t: Millis
    clock: Millis
    text: str

    def as_json(self) -> dict[str, Any]:
        return {"t": to_seconds(self.t), "clock": to_seconds(self.clock), "text": self.text}


def questions(log: MatchLog, verdict: Verdict, comparison: Comparison) -> list[OpenQuestion]:
    """One for each line on which log and officials differ, in order of time."""
    found = []
    for line in comparison.lines:
        entry = line.award or line.call
        if line.standing != "agreed" and entry is not None:
            clock = verdict.clock_at(entry.t)
            found.append(OpenQuestion(entry.t, clock, f"{minutes(clock)} {_asked(log, verdict, line)}"))
    return sorted(found)


def _asked(log: MatchLog, verdict: Verdict, line: Line) -> str:
    if line.award is None:
        assert line.call is not None  # a line has at least one of them
        return f"{line.call.given}: we have nothing there. What was it for?"
    ours = line.award.given + _evidence(log, verdict, line.award)
    if line.call is not None:
        return f"{line.call.given} given; we scored {ours}. Which is right, and why?"
    return f"We scored {ours}. It was not given: what was missing?"


def _evidence(log: MatchLog, verdict: Verdict, award: Entry) -> str:
    """How long it was held by our eye, and that a hold was off by then."""
    row = next((one for one in verdict.ledger if _is(one, award)), None)
    if row is None or not isinstance(row.reason, Held | HeldAdvantage):
        return f" ({award.because.rstrip('.')})" if award.because else ""
    began = row.t - row.reason.needed
    said = f" for the {CLAIMS[row.reason.claim]}, held {span(_held(verdict, row, began))}"
    for hold in reversed(log.observations):
        if isinstance(hold, Submission) and hold.by != row.to and began - SOON <= hold.until <= row.t:
            return f"{said}; the {hold.technique} was already off at {minutes(verdict.clock_at(hold.until))}"
    return said


def _is(row: Award, entry: Entry) -> bool:
    return (row.t, row.to, row.kind, row.n) == (entry.t, entry.to, entry.kind, entry.n)


def _held(verdict: Verdict, row: Award, began: Millis) -> Millis:
    """Of running clock, from where its count began to where it was no longer held."""
    left = (t for t, place in verdict.positions if t >= row.t and not _goes_on(row, place))
    end = next(left, verdict.running[-1].stop if verdict.running else row.t)
    return verdict.clock_at(end) - verdict.clock_at(began)


def _goes_on(row: Award, place: Place) -> bool:
    return holds(claims_of(row.reason)[0], row.to, place)
