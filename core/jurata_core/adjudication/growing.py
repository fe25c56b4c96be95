"""Adjudicating a log that grows and changes: only what lies after the first change is folded again."""

from __future__ import annotations

from itertools import islice
from typing import Any, NamedTuple

from ..match_log import MatchLog
from ..times import Millis
from .fold import begin, finish, fold, without_collection
from .moves import Outlook, outlook_from
from .state import State
from .verdict import Told, Verdict, common_ends

LEAST_STRIDE, MOST_MARKS = 32, 32
"""Between two marks lie so many observations at least; a long log has so many marks at most."""


class _Mark(NamedTuple):
    """The state after the first ``folded`` observations."""

    folded: int
    state: State


class Adjudicator:
    """The verdict on one match, kept up as its log changes.

    It says what :func:`adjudicate` says of the same log, in the time that the changed
    end of it takes. Not to be used by two threads at once.
    """

    def __init__(self, log: MatchLog) -> None:
        self.log = log
        self._marks = [_Mark(0, begin(log))]
        self.verdict: Verdict = self._adjudicate()
        self.json: dict[str, Any] = self.verdict.as_json()

    def take(self, log: MatchLog) -> None:
        """Go on with the changed log of the same match."""
        was, self.log = self.log, log
        if (log.ruleset, log.division, log.duration) != (was.ruleset, was.division, was.duration):
            self._marks = [_Mark(0, begin(log))]
        alike, _ = common_ends(was.observations, log.observations)
        self._marks = [mark for mark in self._marks if mark.folded <= alike]
        before = Told(self.verdict, self.json)
        self.verdict = self._adjudicate()
        self.json = self.verdict.as_json(before)

    def outlook(self, t: Millis) -> Outlook:
        """What can follow from where the match stands at ``t``."""
        seen = self.log.observations
        mark = next(mark for mark in reversed(self._marks) if mark.folded == 0 or seen[mark.folded - 1].t <= t)
        return outlook_from(mark.state.twin(), islice(seen, mark.folded, None), t)

    def _adjudicate(self) -> Verdict:
        """Fold what is not folded yet, leaving marks on the way and one at the end."""
        seen = self.log.observations
        stride = max(LEAST_STRIDE, len(seen) // MOST_MARKS)
        with without_collection():
            count, state = self._marks[-1].folded, self._marks[-1].state.twin()
            while count < len(seen):
                fold(state, seen[count : count + stride])
                count = min(len(seen), count + stride)
                if len(self._marks) > 1 and self._marks[-1].folded - self._marks[-2].folded < stride:
                    self._marks.pop()
                self._marks.append(_Mark(count, state.twin()))
            return finish(state, self.log)
