"""Submissions that are held: they keep the other side's counts waiting, and a close one gives an advantage at its end.

|====== on ======|          over without having won: an advantage, here
|=== on ===X                the match ends first: nothing
|=== on ===|                a restart or overtime ends it: an advantage, there
"""

from __future__ import annotations

from ..legality import Legality
from ..match_log.observations import OTHER, Submission
from ..times import Millis
from .reasons import CloseSubmission
from .state import Hold, State

SHORTEST_SHIELD: Millis = 1_000
"""A submission that is on for less keeps no count waiting."""


def hold_on(state: State, hold: Submission, answer: Legality) -> None:
    """What a submission does while it is on, once it is known whether it is legal."""
    legal = answer.status == "legal"
    if hold.until - hold.t >= SHORTEST_SHIELD and (legal or state.ruleset.illegal_hold_blocks):
        _shield(state, hold)
    if not legal or hold.threat != "close":
        return
    if "submission_attempts" in state.ruleset.tiebreak:
        state.close[hold.by] += 1
    if not state.points_open(hold.t):
        return
    held = Hold(hold.by, hold.until, _named(hold.technique, answer), hold.ref)
    if hold.until > hold.t:
        state.holds += (held,)
    else:
        _give(state, held, hold.t)


def _shield(state: State, hold: Submission) -> None:
    """The counts of the side that is held wait until it is out."""
    held = OTHER[hold.by]
    until = state.shielded_until[held] = max(state.shielded_until[held], hold.until)
    for claim in state.claims:
        if claim.side == held and claim.counting_from is not None:
            claim.break_off(state.clock.until_bell(hold.t))
            claim.count_again(until, "submission")


def give_over(state: State, t: Millis) -> None:
    """Give for those that are over at ``t``."""
    if state.holds:
        over = [hold for hold in state.holds if hold.until <= t]
        state.holds = tuple(hold for hold in state.holds if hold.until > t)
        for hold in over:
            _give(state, hold, t)


def give_all(state: State, t: Millis) -> None:
    """Something ends all that are on at ``t``."""
    held, state.holds = state.holds, ()
    for hold in held:
        _give(state, hold, t)


def _give(state: State, hold: Hold, t: Millis) -> None:
    state.award(t, hold.side, "advantages", 1, CloseSubmission(hold.technique), (hold.ref,))


def _named(written: str, answer: Legality) -> str:
    name = written if answer.technique is None else answer.technique.name
    return name[:1].upper() + name[1:]
