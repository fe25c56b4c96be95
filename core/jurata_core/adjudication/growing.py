"""Adjudicating a log that grows and changes: only what a change has an effect on is folded again.

    |--- alike ---|-- changed --|------ alike again ------|
    mark      mark             mark         mark        end
                  |== folded ===|
                                same state as before: the rest stands

A change near the beginning mostly has no effect any more a few observations later, but for
the score, and for how many rows and exchanges come before.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from copy import copy
from itertools import islice
from typing import Any, NamedTuple

from ..match_log import MatchLog
from ..match_log.observations import Observation
from ..times import Millis
from .claims import NEAR_WINDOW
from .common_rows import common_ends
from .exchanges import Point
from .fold import begin, finish, fold, without_collection
from .moves import Outlook, outlook_from
from .rendering import Rendered, rendered
from .state import ONWARD_FIELDS, RECENT_FIELDS, State
from .verdict import Verdict

LEAST_STRIDE, MOST_MARKS = 32, 32
"""Between two marks lie so many observations at least; a long log has so many marks at most, or as many as asked."""


class _Mark(NamedTuple):
    """The fold after the first ``folded`` observations: its state, how many rows there were, and its exchanges."""

    folded: int
    state: State
    lengths: tuple[int, ...]
    point: Point


class Adjudicator:
    """The verdict on one match, kept up as its log changes.

    It says what :func:`adjudicate` says of the same log, in the time that the changed
    part of it takes. Not to be used by two threads at once.
    """

    def __init__(self, log: MatchLog, most_marks: int = MOST_MARKS) -> None:
        self.log, self._most_marks = log, most_marks
        self._marks: list[_Mark] = []
        self._rendered: Rendered | None = None
        self._begin_again()
        self.verdict: Verdict = self._adjudicate([], 0)

    @property
    def json(self) -> Mapping[str, Any]:
        """As :func:`rendered`: rows that stay the same from one change to the next are the same objects."""
        if self._rendered is None or self._rendered.verdict is not self.verdict:
            self._rendered = Rendered(self.verdict, rendered(self.verdict, self._rendered))
        return self._rendered.json

    def take(self, log: MatchLog) -> None:
        """Go on with the changed log of the same match."""
        was, self.log = self.log, log
        if (log.ruleset, log.division, log.duration) != (was.ruleset, was.division, was.duration):
            self._begin_again()
        before, later, shift = self._around(was, log)
        self._marks = before
        self.verdict = self._adjudicate(later, shift)

    def glimpse(self, log: MatchLog) -> Verdict:
        """The verdict on a changed log of the same match and ruleset; this one goes on with its own."""
        before, later, shift = self._around(self.log, log)
        with without_collection():
            state, _ = self._folded_on(before[-1], log.observations, later, shift)
            return finish(state.twin(), log)

    def _around(self, was: MatchLog, log: MatchLog) -> tuple[list[_Mark], list[_Mark], int]:
        """The marks up to where a log begins to differ, those after it, and by how much these are moved."""
        alike, again = common_ends(was.observations, log.observations)
        later = [mark for mark in self._marks if mark.folded > alike and mark.folded >= len(was.observations) - again]
        before = [mark for mark in self._marks if mark.folded <= alike]
        return before, later, len(log.observations) - len(was.observations)

    def outlook(self, t: Millis) -> Outlook:
        """What can follow from where the match stands at ``t``."""
        seen = self.log.observations
        mark = next(mark for mark in reversed(self._marks) if mark.folded == 0 or seen[mark.folded - 1].t <= t)
        return outlook_from(self._resumed(mark), islice(seen, mark.folded, None), t)

    def _begin_again(self) -> None:
        self._whole = begin(self.log)
        self._marks = [_marked(0, self._whole)]

    def _resumed(self, mark: _Mark) -> State:
        """The state at a mark, with its rows."""
        state = mark.state.fork()
        state.record = self._whole.record.up_to(mark.lengths)
        state.book = self._whole.book.back_to(mark.point)
        return state

    def _adjudicate(self, later: list[_Mark], shift: int) -> Verdict:
        """Fold on from the last mark, leaving marks on the way and one at the end.

        ``later`` are marks of the log before, with the same observations after them, ``shift`` places on: where
        the state is the same at one of them, the rest stands as it is.
        """
        with without_collection():
            self._whole, marks = self._folded_on(self._marks[-1], self.log.observations, later, shift)
            self._marks += marks()
            return finish(self._whole.twin(), self.log)

    def _folded_on(
        self, start: _Mark, seen: tuple[Observation, ...], later: list[_Mark], shift: int
    ) -> tuple[State, Callable[[], list[_Mark]]]:
        """The state at the end, from a mark on, and the marks on the way, which are made where they are asked for."""
        state, count = self._resumed(start), start.folded
        stride = max(LEAST_STRIDE, len(seen) // max(1, self._most_marks))
        marks: list[_Mark] = []
        while count < len(seen):
            ahead = next((at for at, mark in enumerate(later) if mark.folded + shift > count), None)
            stop = min(len(seen), count + stride)
            if ahead is not None:
                stop = min(stop, later[ahead].folded + shift)
            fold(state, seen[count:stop])
            count = stop
            there = ahead is not None and count == later[ahead].folded + shift
            if ahead is not None and there and _goes_on_alike(state, later[ahead], seen[count - 1].t):
                return _spliced(state, self._whole, later[ahead:], shift, marks)
            if marks and count - (marks[-2] if len(marks) > 1 else start).folded <= stride:
                marks.pop()
            marks.append(_marked(count, state))
        return state, lambda: marks


def _marked(folded: int, state: State) -> _Mark:
    return _Mark(folded, state.fork(), state.record.lengths(), state.book.point())


def _goes_on_alike(state: State, mark: _Mark, t: Millis) -> bool:
    """Whether everything after ``t`` is taken in the same way from a state as from the mark."""
    other = mark.state
    if any(getattr(state, name) != getattr(other, name) for name in ONWARD_FIELDS):
        return False
    if state.ruleset.mercy and state.score != other.score:
        return False
    for name in RECENT_FIELDS:
        mine, theirs = (_lately(getattr(one, name), t) for one in (state, other))
        if mine != theirs:
            return False
    here = state.book.point()
    return (here.current, here.early) == (mark.point.current, mark.point.early)


def _lately(times: dict[Any, Millis], t: Millis) -> dict[Any, Millis]:
    """What is still near enough to be taken for the same event."""
    return {key: at for key, at in times.items() if at >= t - NEAR_WINDOW}


def _spliced(
    state: State, whole: State, later: list[_Mark], shift: int, marks: list[_Mark]
) -> tuple[State, Callable[[], list[_Mark]]]:
    """``state`` going on as the match did before, from the first of the marks ``later``; and those as they are now."""
    mark = later[0]
    more = [now - then for now, then in zip(state.record.lengths(), mark.lengths, strict=True)]
    exchanges = state.book.point().closed - mark.point.closed
    gained = {
        side: {tally: n - mark.state.score[side][tally] for tally, n in score.items()}
        for side, score in state.score.items()
    }
    level = not any(n for tally in gained.values() for n in tally.values())
    end = _with_score(whole, gained)
    end.record = state.record.going_on_as(whole.record, mark.lengths)
    end.book = state.book.going_on_as(mark.point, whole.book)

    def moved(one: _Mark) -> _Mark:
        return _Mark(
            one.folded + shift,
            one.state if level else _with_score(one.state, gained),
            tuple(length + by for length, by in zip(one.lengths, more, strict=True)),
            one.point._replace(closed=one.point.closed + exchanges),
        )

    return end, lambda: marks + [moved(one) for one in later]


def _with_score(state: State, gained: Any) -> State:
    """The same with so much more on the sheet; it shares the rest, which is not to change."""
    twin = copy(state)
    twin.score = {
        side: {kind: n + gained[side][kind] for kind, n in tally.items()} for side, tally in state.score.items()
    }
    return twin
