"""What ends a match before its time by the score alone: a lead too large, or the first score of overtime."""

from __future__ import annotations

from typing import NamedTuple

from ..match_log.observations import OTHER, SIDES, Side, Tally
from ..times import Millis
from .holds import give_over
from .penalties import end_match
from .reasons import NOT_SCORED, ByGoldenScore, ByMercy
from .state import Ending, State


class Before(NamedTuple):
    """Where the match stood before one observation, or one moment at which something falls due."""

    rows: int
    periods: int
    over: bool


def before(state: State) -> Before:
    """How it stands now, to judge later what was given since."""
    return Before(len(state.record.ledger), state.clock.periods, state.ending is not None)


def judge(state: State, was: Before, t: Millis) -> None:
    """End the match where what was given at ``t`` ends it; all of that has been given.

    A disqualification goes before a lead, and both before the first score of overtime. An end by time is decided by
    that score too, where the end itself gives one.
    """
    by_time = state.ending is not None and state.ending.how is None
    if was.over or (state.ending is not None and not by_time) or len(state.record.ledger) == was.rows:
        return
    if state.ruleset.mercy and not by_time:
        _mercy(state, was, t)
    if was.periods and (state.ending is None or by_time):
        _golden(state, was, t)


def _mercy(state: State, was: Before, t: Millis) -> None:
    for side in _scorers(state, was, ("points",)):
        lead = state.score[side]["points"] - state.score[OTHER[side]]["points"]
        if lead >= state.ruleset.mercy:
            end_match(state, Ending(ByMercy(lead, state.ruleset.mercy), t, side))
            return


def golden_tallies(state: State) -> tuple[Tally, ...]:
    """The tallies of which the first score ends the match; none in regular time."""
    overtime = state.ruleset.overtime
    if overtime is None or overtime.golden is None or not state.clock.periods:
        return ()
    return ("points",) if overtime.golden == "points" else ("points", "advantages")


def _golden(state: State, was: Before, t: Millis) -> None:
    counted = golden_tallies(state)
    if not _scorers(state, was, counted):
        return
    give_over(state, t)
    scorers = _scorers(state, was, counted)
    if len(scorers) == 1:
        ending = Ending(ByGoldenScore(), t, scorers[0])
        if state.ending is None:
            end_match(state, ending)
        else:
            state.ending = ending


def _scorers(state: State, was: Before, counted: tuple[Tally, ...]) -> list[Side]:
    """Who was given something since, by whatever way but a ruling."""
    rows = state.record.ledger[was.rows :]
    scored = {row.to for row in rows if row.kind in counted and row.n > 0 and not isinstance(row.reason, NOT_SCORED)}
    return [side for side in SIDES if side in scored]
