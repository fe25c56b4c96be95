"""One step per kind of observation: state before, what was seen, state after."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Any

from ..match_log import observations as seen
from ..match_log.observations import OTHER, SIDES, TALLIES, Observation, Side, Tally
from ..times import Millis
from .claims import NEAR_WINDOW, apply, give, lose
from .control import control_at
from .holds import give_all, hold_on
from .penalties import attack, disqualify_both, end_match, finish, foul
from .places import DOUBLE_PULL, PLACE_OF, STANDING, Place, passed_through
from .reasons import (
    AfterEnd,
    BeginIgnored,
    ByDisqualification,
    ByStoppage,
    ByWithdrawal,
    CarriedIn,
    CauseLogged,
    CoachRuling,
    LossHow,
    NearAlreadyShown,
    NearForNothing,
    NearScore,
    NoAdvantages,
    NotOpenYet,
    PastDuration,
    PeriodIgnored,
    PositionWhileStopped,
    PullAgain,
    PullBothCaught,
    PullNotFromStanding,
    PullWhileStopped,
    StartWhileRunning,
    StopWhileStopped,
    WhyNoPeriod,
)
from .rows import UnpaidClaim
from .state import NO_STAY, Ending, State, Stay
from .transition import FRESH, broken_off, established, pull, spell_goes_on, transition

AFTER_END = (seen.Decision, seen.Ruling, seen.Call)
SILENT = (
    seen.ExchangeStart, seen.Grip, seen.Call, seen.Mark, seen.Legs, seen.Contest, seen.Board, seen.Unwatched,
)  # fmt: skip
GRACE: Millis = 2_000
"""How far the match clock may run past the end of time without a warning, and how early overtime may begin."""


def take(state: State, observation: Observation) -> None:
    """Apply one observation at its time; what fell due before it is already done."""
    if state.ending is not None and not isinstance(observation, AFTER_END):
        if not isinstance(observation, SILENT) and not _closing_stop(observation):
            state.warn(AfterEnd(type(observation).__name__), observation.t, observation.ref)
        return
    step = _STEPS.get(type(observation))
    if step is not None:
        step(state, observation)


def _closing_stop(observation: Observation) -> bool:
    return isinstance(observation, seen.Clock) and observation.action == "stop"


def _begin(state: State, begin: seen.Begin) -> None:
    second = state.footage_from is not None
    if state.clock.started or second:
        state.warn(BeginIgnored(second), begin.t, begin.ref)
        return
    state.footage_from = begin.clock
    state.clock = replace(state.clock, before=begin.clock)
    for side in SIDES:
        for tally in TALLIES:
            if begin.score[side][tally]:
                _given(state, begin, side, tally, begin.score[side][tally], CarriedIn())


def _start(state: State, start: seen.Clock) -> None:
    t, clock = start.t, state.clock
    if clock.run_from is not None:
        state.warn(StartWhileRunning(), t, start.ref)
        return
    state.clock = replace(clock, started=True, run_from=t, between=False)
    if clock.started:
        _restart(state, start, clock.between)
    else:
        state.record.positions.append((t, state.control.place))
    if state.control.place == DOUBLE_PULL and not state.stay.penalised:
        state.stay = Stay(t)
    state.book.begin(t, clock.before, state.control.place)


def _restart(state: State, start: seen.Clock, from_standing: bool) -> None:
    """Go on after a stop: in the same position, or from where the referee put the two.

    Put into the position that they are in at that moment is the same; put on the feet never is.
    """
    place = STANDING
    same = start.restart == "same"
    if start.restart == "placed":
        assert start.position is not None  # the loader asks for it
        place = PLACE_OF[start.position, start.top]
        same = place == state.control.place and place != STANDING
    if same and not from_standing:
        _goes_on(state, start.t)
    else:
        _begin_from(state, start.t, place, "restart", start)


def _goes_on(state: State, t: Millis) -> None:
    """The position stands; every count begins again from zero."""
    control = state.control
    if not control.established and not passed_through(control.place):
        state.control = replace(control, top_from=t)
    for claim in state.claims:
        if not claim.suspended:
            claim.count_again(max(t, state.shielded_until[claim.side]), "restart")


def _begin_from(state: State, t: Millis, place: Place, how: LossHow, by: Observation) -> None:
    """Whatever was on is over; the two go on from ``place``."""
    give_all(state, t)
    state.shielded_until = dict.fromkeys(SIDES, 0)
    lose(state, list(state.claims), t, how, (by.ref,))
    state.control = control_at(place, FRESH if spell_goes_on(state.ruleset, place) else None)
    state.stay = NO_STAY
    state.record.positions.append((t, place))


def _stop(state: State, stop: seen.Clock) -> None:
    if state.clock.run_from is None:
        state.warn(StopWhileStopped(), stop.t, stop.ref)
        return
    state.control = broken_off(state.ruleset, state.control, state.claims, stop.t)
    for claim in state.claims:
        claim.break_off(state.clock.until_bell(stop.t))
    state.stop_clock(stop.t)
    state.stay = Stay(None, state.stay.penalised)


def _period(state: State, period: seen.Period) -> None:
    t, clock, overtime = period.t, state.clock, state.ruleset.overtime
    why = why_no_period(state)
    if why is not None or overtime is None:
        state.warn(PeriodIgnored(why or "no_overtime"), t, period.ref)
        return
    warn_past_bell(state, t)
    _begin_from(state, t, STANDING, "period", period)
    bell = None if overtime.length is None else clock.before + overtime.length
    state.clock = replace(clock, bell=bell, periods=clock.periods + 1, between=True)
    state.judged, state.opening = True, 0
    state.book.begin(t, clock.before, STANDING)


def why_no_period(state: State) -> WhyNoPeriod | None:
    """Why overtime can't begin now; None where it can."""
    clock = state.clock
    if state.ruleset.overtime is None:
        return "no_overtime"
    if clock.bell is None and not clock.periods:
        return "no_length"
    if not clock.started:
        return "not_started"
    if clock.run_from is not None:
        return "running"
    if not clock.periods and clock.bell is not None and clock.before < clock.bell - GRACE:
        return "too_early"
    return None


def warn_past_bell(state: State, t: Millis) -> None:
    """Warn where the clock, which stands still, ran on past the end of time."""
    clock = state.clock
    if clock.bell is not None and clock.before > clock.bell + GRACE:
        state.warn(PastDuration(clock.before - clock.bell, clock.periods > 0), t, None)


def _position(state: State, position: seen.Position) -> None:
    place = PLACE_OF[position.position, position.top]
    t = position.t
    if not state.clock.started:
        at = state.control if passed_through(place) else control_at(place)
        state.control = replace(at, place=place)
        if place.top is not None and spell_goes_on(state.ruleset, place):
            state.control = state.control.with_spell(place.top, FRESH)
        return
    if state.clock.run_from is None:
        state.warn(PositionWhileStopped(place.position), t, position.ref)
        return
    before = state.control = established(state.ruleset, state.control, state.claims, t)
    clock = state.clock.at(t)
    points_open = clock >= state.opening
    change = transition(state.ruleset, before, state.claims, place, points_open, t)
    if place != before.place:
        state.record.positions.append((t, place))
    elif not change.suspended:
        state.control = change.control
        return
    apply(state, change, t, clock, points_open, position.ref)
    state.stay = Stay(t) if place == DOUBLE_PULL else NO_STAY


def _pull(state: State, seated: seen.Pull) -> None:
    t = seated.t
    if state.clock.run_from is None:
        state.warn(PullWhileStopped(), t, seated.ref)
        return
    pulled = pull(state.ruleset, state.control, seated.by, seated.caught, state.points_open(t), seated.attack)
    if isinstance(pulled, str):
        state.warn(PullNotFromStanding() if pulled == "not_from_standing" else PullAgain(), t, seated.ref)
        return
    if seated.by == "both" and seated.caught:
        state.warn(PullBothCaught(), t, seated.ref)
    state.control = pulled.control
    give(state, pulled.at_once, t, seated.ref)


def _submission(state: State, hold: seen.Submission) -> None:
    answer = attack(state, hold, hold.technique)
    if state.ending is None:
        hold_on(state, hold, answer)


def _attempt(state: State, tried: seen.Attempt) -> None:
    legal = tried.technique is None or attack(state, tried, tried.technique).status == "legal"
    if state.ending is not None or tried.outcome != "near" or not legal:
        return
    if not state.ruleset.points.get(tried.move):
        _near_for_nothing(state, tried, NearForNothing(state.ruleset.title))
        return
    if not state.points_open(tried.t):
        _near_for_nothing(state, tried, NotOpenYet(state.opening))
        return
    key = (tried.by, tried.move)
    lost = state.lost_at.get(key)
    if lost is not None and tried.t - lost <= NEAR_WINDOW:
        state.warn(NearAlreadyShown(tried.move), tried.t, tried.ref)
    state.near_at[key] = tried.t
    _given(state, tried, tried.by, "advantages", 1, NearScore(tried.move))


def _near_for_nothing(state: State, tried: seen.Attempt, reason: NearForNothing | NotOpenYet) -> None:
    clock = state.clock.at(tried.t)
    row = UnpaidClaim(tried.t, clock, tried.by, tried.move, tried.t, 0, 0, reason, (tried.ref,))
    state.record.unpaid.append(row)


def _ruling(state: State, ruling: seen.Ruling) -> None:
    for tally in TALLIES:
        n = getattr(ruling, tally)
        if n:
            _given(state, ruling, ruling.to, tally, n, CoachRuling())


def _given(
    state: State, by: Observation, to: Side, tally: Tally, n: int, reason: NearScore | CoachRuling | CarriedIn
) -> None:
    """Award what a scorer gives by hand; an advantage that the ruleset does not know is warned of."""
    if tally == "advantages" and not state.ruleset.advantages:
        state.warn(NoAdvantages(state.ruleset.title), by.t, by.ref)
    state.award(by.t, to, tally, n, reason, (by.ref,))


def _end(state: State, end: seen.End) -> None:
    if end.how == "time":
        lose(state, list(state.claims), end.t, "time", (end.ref,))
        give_all(state, end.t)
        state.end(Ending(None, end.t, None))
        return
    if end.by == "both":
        disqualify_both(state, end.t)
        return
    assert end.by is not None  # the loader asks for it
    if end.how == "submission":
        assert end.technique is not None
        finish(state, end, end.by, end.technique)
    elif end.how == "withdrawal":
        end_match(state, Ending(ByWithdrawal(), end.t, OTHER[end.by]))
    elif end.how == "stoppage":
        end_match(state, Ending(ByStoppage(end.by), end.t, OTHER[end.by]))
    else:
        logged = ByDisqualification(CauseLogged(end.by))
        end_match(state, Ending(logged, end.t, OTHER[end.by]))


def _clock(state: State, clock: seen.Clock) -> None:
    if clock.action == "start":
        _start(state, clock)
    else:
        _stop(state, clock)


def _technique(state: State, tried: seen.Technique) -> None:
    attack(state, tried, tried.technique)


def _exchange(state: State, exchange: seen.ExchangeStart) -> None:
    state.book.begin(exchange.t, state.clock.at(exchange.t), state.control.place, exchange.title, by_hand=True)


def _decision(state: State, decision: seen.Decision) -> None:
    state.votes = decision.votes


_STEPS: dict[type[Observation], Callable[[State, Any], None]] = {
    seen.Position: _position,
    seen.Submission: _submission,
    seen.Technique: _technique,
    seen.Attempt: _attempt,
    seen.Clock: _clock,
    seen.Pull: _pull,
    seen.Foul: foul,
    seen.Ruling: _ruling,
    seen.ExchangeStart: _exchange,
    seen.Begin: _begin,
    seen.Period: _period,
    seen.Decision: _decision,
    seen.End: _end,
}
"""The step of each kind of observation; what is only remembered, such as a grip or a mark, has none."""
