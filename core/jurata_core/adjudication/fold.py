"""Adjudication: a fold over the observations of a log, and the result at its end."""

from __future__ import annotations

import gc
from collections.abc import Iterable, Iterator
from contextlib import contextmanager

from ..divisions import doubts
from ..match_log import MatchLog
from ..match_log.observations import OTHER, SIDES, Observation, Side
from ..times import Millis
from .holding import pay, still_open
from .penalties import penalise
from .state import Claim, State
from .steps import take
from .verdict import Result, Verdict

GRACE: Millis = 2_000
"""How far the match clock may run past the length of the match without a warning."""


def adjudicate(log: MatchLog) -> Verdict:
    """What the log is worth under its ruleset, every row with its reason.

    A pure function of the log: the same log gives the same verdict.
    """
    with without_collection():
        state = begin(log)
        fold(state, log.observations)
        return finish(state, log)


@contextmanager
def without_collection() -> Iterator[None]:
    """The fold makes many small rows and no cycles: looking for cycles meanwhile costs and finds nothing."""
    was_on = gc.isenabled()
    gc.disable()
    try:
        yield
    finally:
        if was_on:
            gc.enable()


def finish(state: State, log: MatchLog) -> Verdict:
    """The verdict on a log that was folded to its end; the state is of no further use."""
    last = log.observations[-1].t if log.observations else 0
    advance(state, last)
    t = state.ending.t if state.ending else last
    open_claims = tuple(still_open(state, claim, t) for claim in state.claims)
    clock_running = state.run_from is not None
    state.stop_clock(t)
    clock = state.clock_before
    if clock > log.duration + GRACE:
        state.warn("past_duration", t, None, {"over": clock - log.duration})
    if log.observations and not state.started:
        state.warn("never_started", None, None)
    return Verdict(
        score=state.score,
        result=result(state),
        ledger=tuple(state.ledger),
        open=open_claims,
        missed=tuple(state.missed),
        unpaid=tuple(state.unpaid),
        exchanges=state.book.close(t, clock),
        counts=tuple(state.counts),
        barred=tuple(state.barred),
        positions=tuple(state.positions),
        running=tuple(state.running),
        clock_running=clock_running,
        warnings=tuple(state.warnings),
    )


def begin(log: MatchLog) -> State:
    """The state before anything was seen."""
    state = State(log.ruleset, log.division, log.ruleset.opening(log.duration))
    for setting in log.ruleset.unknown:
        state.warn("unknown_setting", None, None, {"setting": setting})
    for why in doubts(log.division):
        state.warn("odd_division", None, None, {"why": why})
    return state


def fold(state: State, observations: Iterable[Observation]) -> None:
    """Take in observations, in order of time."""
    for observation in observations:
        advance(state, observation.t)
        take(state, observation)


def advance(state: State, t: Millis) -> None:
    """Pay and penalise what falls due up to and including ``t``, in order of time."""
    if not state.claims and state.stay_from is None:
        return
    hold = state.ruleset.hold
    limit = state.ruleset.double_pull
    while state.ending is None and state.run_from is not None:
        due: Claim | None = None
        due_at = t + 1
        for claim in state.claims:
            start = claim.counting_from
            if start is not None and start + hold < due_at:
                due, due_at = claim, start + hold
        if due is not None:
            pay(state, due, due_at)
        elif limit and state.stay_from is not None and state.stay_from + limit <= t:
            stayed_until = state.stay_from + limit
            state.stay_from, state.stay_penalised = None, True
            penalise(state, SIDES, "double_pull", stayed_until, None)
        else:
            return


def result(state: State) -> Result:
    """Who won: by how it ended, or after time by the first difference down the tiebreak."""
    ending = state.ending
    if ending is None:
        return Result(None, "unfinished", {}, None)
    if ending.how != "time":
        return Result(ending.winner, ending.how, ending.facts, ending.t)
    winner, method = _level_or_not(state)
    return Result(winner, method, {}, ending.t)


def _level_or_not(state: State) -> tuple[Side | None, str]:
    a, b = state.score["a"], state.score["b"]
    for step in state.ruleset.tiebreak:
        if step == "draw":
            return None, "draw"
        if step == "decision":
            lead = 0 if state.votes is None else state.votes[0] - state.votes[1]
        elif step == "penalties":
            lead = b["penalties"] - a["penalties"]
        else:
            lead = a[step] - b[step]
        if lead:
            return ("a" if lead > 0 else OTHER["a"]), step
    return None, "undecided"
