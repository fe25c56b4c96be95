"""Submissions: finished, attacked with, and got out of."""

from __future__ import annotations

from collections.abc import Iterator

from ...adjudication.places import CONTROL
from ...adjudication.reasons import BySubmission
from ...match_log.observations import End, Submission
from ...techniques import same_technique, within_sentence
from ...times import Millis, span
from ..rules.conceding import STILL_ON
from ..seen import Seen
from .rows import Good, at_clock, level, worst

SETTLED: Millis = 20_000
"""So long after an own attack the position has to stand as it stood before it."""
AFTER: Millis = 2_000
"""So long after a hold it shows where it has left both."""


def finished(seen: Seen) -> Iterator[Good]:
    """The match was won by a submission."""
    result = seen.verdict.result
    if isinstance(result.how, BySubmission) and result.winner == seen.side and result.t is not None:
        began = [one.t for one in seen.of(Submission, seen.side) if one.until >= result.t - STILL_ON]
        said = f"Finished the match by {within_sentence(result.how.technique)}."
        yield Good("finished", seen.side, min([*began, result.t]), result.t, said)


def attacked(seen: Seen) -> Iterator[Good]:
    """An own hold after which the position was no worse than before it; not one that is not allowed here."""
    barred = {ref for row in seen.verdict.illegal for ref in row.observations}
    for hold in seen.of(Submission, seen.side):
        after = min(hold.until + AFTER, seen.over)
        before = level(seen, seen.place_before(hold.t))
        if hold.ref in barred or hold.until >= seen.over - STILL_ON:
            continue
        if worst(seen, after, min(hold.until + SETTLED, seen.over)) < before:
            continue
        said = f"{within_sentence(hold.technique)} at {at_clock(seen, hold.t)}, and nothing lost by it."
        yield Good("attacked", seen.side, hold.t, hold.until, said[:1].upper() + said[1:], hold.threat == "close")


def defended(seen: Seen) -> Iterator[Good]:
    """Out of a hold of the other side, and not left under control by it; not of the one that ended the match later."""
    ended_by = _finish(seen)
    for hold in seen.of(Submission, seen.other):
        still_on = hold.until >= seen.over - (STILL_ON if ended_by else 0)
        if hold.until <= hold.t or still_on or (ended_by and same_technique(hold.technique, ended_by)):
            continue
        after = seen.place_at(min(hold.until + AFTER, seen.over))
        if after.top == seen.other and after.position in CONTROL:
            continue
        lasted, at = span(hold.until - hold.t), at_clock(seen, hold.t)
        said = f"Out of the {within_sentence(hold.technique)} of {at} after {lasted}."
        yield Good("defended", seen.side, hold.t, hold.until, said, hold.until - hold.t)


def _finish(seen: Seen) -> str | None:
    """The submission by which the other side finished the match."""
    result = seen.verdict.result
    if result.method != "submission" or result.winner != seen.other:
        return None
    return next((end.technique or "a submission" for end in seen.of(End)), None)
