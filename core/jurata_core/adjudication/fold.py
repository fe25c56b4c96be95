"""Adjudication: a fold over the observations of a log, and the result at its end."""

from __future__ import annotations

import gc
from collections.abc import Iterable, Iterator
from contextlib import contextmanager

from ..divisions import doubts
from ..match_log import MatchLog
from ..match_log.observations import SIDES, TALLIES, Observation, Tally
from ..rulesets.model import TieBreak
from ..times import Millis
from .claims import pay, still_open
from .penalties import penalise
from .reasons import (
    AfterTime,
    ByDecision,
    Draw,
    NeverStarted,
    OddDivision,
    OnAdvantages,
    OnPenalties,
    OnPoints,
    PastDuration,
    Undecided,
    Unfinished,
    UnknownSetting,
)
from .rows import Result
from .state import Claim, State, Stay
from .steps import take
from .tiebreak import settled
from .verdict import Tallies, Verdict

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
    clock_running = state.clock.run_from is not None
    state.stop_clock(t)
    clock = state.clock.before
    if clock > log.duration + GRACE:
        state.warn(PastDuration(clock - log.duration), t, None)
    if log.observations and not state.clock.started:
        state.warn(NeverStarted(), None, None)
    record = state.record
    return Verdict(
        score=state.score,
        result=result(state),
        ledger=tuple(record.ledger),
        open=open_claims,
        missed=tuple(record.missed),
        unpaid=tuple(record.unpaid),
        exchanges=state.book.close(t, clock),
        counts=tuple(record.counts),
        illegal=tuple(record.illegal),
        positions=tuple(record.positions),
        running=tuple(record.running),
        clock_running=clock_running,
        warnings=tuple(record.warnings),
    )


def begin(log: MatchLog) -> State:
    """The state before anything was seen."""
    state = State(log.ruleset, log.division, log.ruleset.opening(log.duration))
    for setting in log.ruleset.unknown:
        state.warn(UnknownSetting(setting), None, None)
    for why in doubts(log.division):
        state.warn(OddDivision(why), None, None)
    return state


def fold(state: State, observations: Iterable[Observation]) -> None:
    """Take in observations, in order of time."""
    for observation in observations:
        advance(state, observation.t)
        take(state, observation)


def advance(state: State, t: Millis) -> None:
    """Pay and penalise what falls due up to and including ``t``, in order of time."""
    if not state.claims and state.stay.since is None:
        return
    hold = state.ruleset.hold
    limit = state.ruleset.double_pull
    while state.ending is None and state.clock.run_from is not None:
        due: Claim | None = None
        due_at = t + 1
        for claim in state.claims:
            start = claim.counting_from
            if start is not None and start + hold < due_at:
                due, due_at = claim, start + hold
        if due is not None:
            pay(state, due, due_at)
        elif limit and state.stay.since is not None and state.stay.since + limit <= t:
            stayed_until = state.stay.since + limit
            state.stay = Stay(None, penalised=True)
            penalise(state, SIDES, "double_pull", stayed_until, None)
        else:
            return


def result(state: State) -> Result:
    """Who won: by how it ended, or after time by the first difference down the tiebreak."""
    ending = state.ending
    if ending is None:
        return Result(None, Unfinished(), None)
    if ending.how is not None:
        return Result(ending.winner, ending.how, ending.t)
    votes = 0 if state.votes is None else state.votes[0] - state.votes[1]
    lead, by = settled(state.ruleset.tiebreak, leads(state.score), votes)
    winner = None if lead == 0 else SIDES[0] if lead > 0 else SIDES[1]
    return Result(winner, _METHODS[by](), ending.t)


def leads(score: Tallies) -> dict[Tally, int]:
    """The athlete's leads; of penalties, by how many fewer."""
    ahead = {tally: score["a"][tally] - score["b"][tally] for tally in TALLIES}
    return {**ahead, "penalties": -ahead["penalties"]}


_METHODS: dict[TieBreak | None, type[AfterTime]] = {
    "points": OnPoints,
    "advantages": OnAdvantages,
    "penalties": OnPenalties,
    "decision": ByDecision,
    "draw": Draw,
    None: Undecided,
}
