"""Adjudication: a fold over the observations of a log, and the result at its end."""

from __future__ import annotations

import gc
from bisect import bisect_right
from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from operator import attrgetter

from ..divisions import doubts
from ..match_log import MatchLog
from ..match_log.observations import SIDES, TALLIES, Observation, Side
from ..rulesets.model import TieBreak
from ..times import Millis
from .claims import pay, still_open
from .early_end import before, judge
from .holds import give_over
from .penalties import penalise
from .reasons import (
    AfterTime,
    ByDecision,
    Draw,
    NeverStarted,
    OddDivision,
    OnAdvantages,
    OnAttempts,
    OnFirstScore,
    OnLastScore,
    OnPenalties,
    OnPoints,
    Undecided,
    Unfinished,
    UnknownSetting,
)
from .rows import Result
from .state import Clock, State, Stay
from .steps import take, warn_past_bell
from .tiebreak import Lead, settled
from .verdict import Tallies, Verdict


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
    warn_past_bell(state, t)
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
        footage_from=state.footage_from or 0,
        running=tuple(record.running),
        clock_running=clock_running,
        warnings=tuple(record.warnings),
    )


def begin(log: MatchLog) -> State:
    """The state before anything was seen."""
    state = State(log.ruleset, log.division, log.ruleset.opening(log.duration), Clock(bell=log.duration))
    state.judged = log.ruleset.mercy > 0
    for setting in log.ruleset.unknown:
        state.warn(UnknownSetting(setting), None, None)
    for why in doubts(log.division):
        state.warn(OddDivision(why), None, None)
    return state


def fold(state: State, observations: Iterable[Observation]) -> None:
    """Take in observations, in order of time."""
    for observation in observations:
        if state.judged:
            step(state, observation)
        else:
            advance(state, observation.t)
            take(state, observation)


def step(state: State, observation: Observation) -> None:
    """Take in one observation: what falls due before it, the observation itself, and whether that ends the match."""
    advance(state, observation.t)
    was = before(state)
    take(state, observation)
    if state.judged:
        judge(state, was, observation.t)


def advance(state: State, t: Millis) -> None:
    """Pay and penalise what falls due up to and including ``t``, in order of time.

    A close submission gives its advantage once the log goes beyond its end.
    """
    while (state.claims or state.stay.since is not None or state.holds) and state.ending is None:
        due = _next_due(state, t)
        if due is None:
            return
        was = before(state) if state.judged else None
        _fall_due(state, due)
        if due < t and state.holds:
            give_over(state, due)
        if was is not None:
            judge(state, was, due)


def _next_due(state: State, t: Millis) -> Millis | None:
    """The first moment up to ``t`` at which something falls due; no count runs past the bell."""
    due: Millis | None = None
    clock = state.clock
    if clock.run_from is not None:
        needed, last = state.ruleset.holds, t
        for claim in state.claims:
            start = claim.counting_from
            if start is not None and (at := start + needed[claim.kind]) <= last and at <= clock.until_bell(at):
                due, last = at, at
        if state.stay.since is not None and state.ruleset.double_pull:
            at = state.stay.since + state.ruleset.double_pull
            if at <= last and at <= clock.until_bell(at):
                due = at
    for hold in state.holds:
        if hold.until < t and (due is None or hold.until < due):
            due = hold.until
    return due


def _fall_due(state: State, due: Millis) -> None:
    """Pay and penalise what is due at that very moment, unless the bell has gone before it."""
    if state.clock.run_from is None or state.clock.until_bell(due) < due:
        return
    needed = state.ruleset.holds
    for claim in list(state.claims):
        if claim.counting_from is not None and claim.counting_from + needed[claim.kind] == due:
            pay(state, claim, due)
    limit = state.ruleset.double_pull
    if limit and state.stay.since is not None and state.stay.since + limit == due:
        state.stay = Stay(None, penalised=True)
        penalise(state, SIDES, "double_pull", due, None)


def states_at(log: MatchLog, times: Iterable[Millis]) -> Iterator[State]:
    """The state at each of some times, which are in order, with all that fell due at it and without the rows."""
    state, folded = begin(log), 0
    for t in times:
        until = bisect_right(log.observations, t, folded, key=attrgetter("t"))
        fold(state, log.observations[folded:until])
        folded = until
        here = state.fork()
        advance(here, t)
        yield here


def result(state: State) -> Result:
    """Who won: by how it ended, or after time by the first difference down the tiebreak."""
    ending = state.ending
    if ending is None:
        return Result(None, Unfinished(), None)
    if ending.how is not None:
        return Result(ending.winner, ending.how, ending.t)
    votes = 0 if state.votes is None else state.votes[0] - state.votes[1]
    lead, by = settled(state.ruleset.tiebreak, all_leads(state), votes)
    winner = None if lead == 0 else SIDES[0] if lead > 0 else SIDES[1]
    return Result(winner, _METHODS[by](), ending.t)


def leads(score: Tallies) -> dict[Lead, int]:
    """The athlete's leads; of penalties, by how many fewer."""
    ahead: dict[Lead, int] = {tally: score["a"][tally] - score["b"][tally] for tally in TALLIES}
    return {**ahead, "penalties": -ahead["penalties"]}


def all_leads(state: State) -> dict[Lead, int]:
    """The athlete's leads in all that a tiebreak can ask for."""
    first, last = state.scorers.so_far()
    return {
        **leads(state.score),
        "first_score": _ahead(first),
        "last_score": _ahead(last),
        "submission_attempts": state.close["a"] - state.close["b"],
    }


def _ahead(side: Side | None) -> int:
    return 0 if side is None else 1 if side == "a" else -1


_METHODS: dict[TieBreak | None, type[AfterTime]] = {
    "points": OnPoints,
    "advantages": OnAdvantages,
    "penalties": OnPenalties,
    "first_score": OnFirstScore,
    "last_score": OnLastScore,
    "submission_attempts": OnAttempts,
    "decision": ByDecision,
    "draw": Draw,
    None: Undecided,
}
