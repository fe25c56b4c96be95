"""One step per kind of observation: state before, what was seen, state after."""

from __future__ import annotations

from dataclasses import replace

from ..match_log import observations as seen
from ..match_log.observations import OTHER, SIDES, TALLIES, Observation
from .claims import NEAR_WINDOW, apply, give, lose
from .control import Control
from .penalties import attack, end_match, finish, foul
from .places import DOUBLE_PULL, PLACE_OF, STANDING, passed_through
from .reasons import (
    AfterEnd,
    ByDisqualification,
    ByWithdrawal,
    CauseLogged,
    CloseSubmission,
    CoachRuling,
    NearAlreadyShown,
    NearScore,
    NoAdvantages,
    PositionWhileStopped,
    PullAgain,
    PullBothCaught,
    PullNotFromStanding,
    PullWhileStopped,
    StartWhileRunning,
    StopWhileStopped,
)
from .state import Clock, Ending, State, Stay
from .transition import pull, transition

AFTER_END = (seen.Decision, seen.Ruling, seen.Call)
SILENT = (seen.ExchangeStart, seen.Grip, seen.Call)


def take(state: State, observation: Observation) -> None:
    """Apply one observation at its time; what fell due before it is already done."""
    if state.ending is not None and not isinstance(observation, AFTER_END):
        if not isinstance(observation, SILENT) and not _closing_stop(observation):
            state.warn(AfterEnd(type(observation).__name__), observation.t, observation.ref)
        return
    match observation:
        case seen.Position():
            _position(state, observation)
        case seen.Submission() | seen.Technique():
            _technique(state, observation)
        case seen.Clock():
            _start(state, observation) if observation.action == "start" else _stop(state, observation)
        case seen.Pull():
            _pull(state, observation)
        case seen.Near():
            _near(state, observation)
        case seen.Foul():
            foul(state, observation)
        case seen.Ruling():
            _ruling(state, observation)
        case seen.ExchangeStart():
            clock = state.clock.at(observation.t)
            state.book.begin(observation.t, clock, state.control.place, observation.title, by_hand=True)
        case seen.Decision():
            state.votes = observation.votes
        case seen.End():
            _end(state, observation)


def _closing_stop(observation: Observation) -> bool:
    return isinstance(observation, seen.Clock) and observation.action == "stop"


def _start(state: State, start: seen.Clock) -> None:
    t, clock = start.t, state.clock
    if clock.run_from is not None:
        state.warn(StartWhileRunning(), t, start.ref)
        return
    state.clock = Clock(True, t, clock.before)
    if clock.started and start.restart == "standing":
        state.shielded_until = dict.fromkeys(SIDES, 0)
        lose(state, list(state.claims), t, "restart", (start.ref,))
        state.control, state.stay = Control(), Stay()
        state.record.positions.append((t, STANDING))
    elif clock.started:
        for claim in state.claims:
            if not claim.suspended:
                claim.count_again(max(t, state.shielded_until[claim.side]), "restart")
    if state.control.place == DOUBLE_PULL and not state.stay.penalised:
        state.stay = Stay(t)
    if not clock.started:
        state.record.positions.append((t, state.control.place))
    state.book.begin(t, clock.before, state.control.place)


def _stop(state: State, stop: seen.Clock) -> None:
    if state.clock.run_from is None:
        state.warn(StopWhileStopped(), stop.t, stop.ref)
        return
    state.stop_clock(stop.t)
    state.stay = Stay(None, state.stay.penalised)
    for claim in state.claims:
        claim.break_off(stop.t)


def _position(state: State, position: seen.Position) -> None:
    place = PLACE_OF[position.position, position.top]
    t, before = position.t, state.control
    if not state.clock.started:
        at = before if passed_through(place) else Control(place, place, place)
        state.control = replace(at, place=place)
        return
    if state.clock.run_from is None:
        state.warn(PositionWhileStopped(place.position), t, position.ref)
        return
    clock = state.clock.at(t)
    change = transition(state.ruleset, before, state.claims, place, clock >= state.opening)
    if place != before.place:
        state.record.positions.append((t, place))
    elif not change.suspended:
        state.control = change.control
        return
    apply(state, change, t, clock, position.ref)
    state.stay = Stay(t) if place == DOUBLE_PULL else Stay()


def _pull(state: State, seated: seen.Pull) -> None:
    t = seated.t
    if state.clock.run_from is None:
        state.warn(PullWhileStopped(), t, seated.ref)
        return
    pulled = pull(state.ruleset, state.control, seated.by, seated.caught, state.points_open(t))
    if isinstance(pulled, str):
        state.warn(PullNotFromStanding() if pulled == "not_from_standing" else PullAgain(), t, seated.ref)
        return
    if seated.by == "both" and seated.caught:
        state.warn(PullBothCaught(), t, seated.ref)
    state.control = pulled.control
    give(state, pulled.at_once, t, seated.ref)


def _technique(state: State, move: seen.Submission | seen.Technique) -> None:
    answer = attack(state, move)
    if state.ending is not None or not isinstance(move, seen.Submission):
        return
    legal = answer.status == "legal"
    if move.until > move.t and (legal or state.ruleset.illegal_hold_blocks):
        held = OTHER[move.by]
        state.shielded_until[held] = max(state.shielded_until[held], move.until)
        for claim in state.claims:
            if claim.side == held and claim.counting_from is not None:
                claim.break_off(move.t)
                claim.count_again(state.shielded_until[held], "submission")
    if legal and move.threat == "close":
        close = CloseSubmission(_named(move.technique, answer.technique))
        state.award(move.t, move.by, "advantages", 1, close, (move.ref,))


def _named(written: str, technique: object) -> str:
    name = getattr(technique, "name", None) or written
    return str(name[:1].upper() + name[1:])


def _near(state: State, near: seen.Near) -> None:
    key = (near.by, near.claim)
    lost = state.lost_at.get(key)
    if lost is not None and near.t - lost <= NEAR_WINDOW:
        state.warn(NearAlreadyShown(near.claim), near.t, near.ref)
    state.near_at[key] = near.t
    if not state.ruleset.advantages:
        state.warn(NoAdvantages(state.ruleset.title), near.t, near.ref)
    state.award(near.t, near.by, "advantages", 1, NearScore(near.claim), (near.ref,))


def _ruling(state: State, ruling: seen.Ruling) -> None:
    for tally in TALLIES:
        n = getattr(ruling, tally)
        if not n:
            continue
        if tally == "advantages" and not state.ruleset.advantages:
            state.warn(NoAdvantages(state.ruleset.title), ruling.t, ruling.ref)
        state.award(ruling.t, ruling.to, tally, n, CoachRuling(), (ruling.ref,))


def _end(state: State, end: seen.End) -> None:
    if end.how == "time":
        lose(state, list(state.claims), end.t, "time", (end.ref,))
        state.end(Ending(None, end.t, None))
        return
    assert end.by is not None  # the loader asks for it
    if end.how == "submission":
        assert end.technique is not None
        finish(state, end, end.by, end.technique)
    elif end.how == "withdrawal":
        end_match(state, Ending(ByWithdrawal(), end.t, OTHER[end.by]))
    else:
        logged = ByDisqualification(CauseLogged(end.by))
        end_match(state, Ending(logged, end.t, OTHER[end.by]))
