"""One step per kind of observation: state before, what was seen, state after."""

from __future__ import annotations

from ..match_log import observations as seen
from ..match_log.observations import OTHER, SIDES, TALLIES, Observation, Side
from .holding import NEAR_WINDOW, apply_change, change_to, lose
from .penalties import attack, end_match, finish, foul
from .places import DOUBLE_PULL, PLACE_OF, STANDING, passed_through
from .state import Ending, State

AFTER_END = (seen.Decision, seen.Ruling, seen.Call)
SILENT = (seen.Exchange, seen.Grip, seen.Call)


def take(state: State, observation: Observation) -> None:
    """Apply one observation at its time; what fell due before it is already done."""
    if state.ending is not None and not isinstance(observation, AFTER_END):
        if not isinstance(observation, SILENT) and not _closing_stop(observation):
            state.warn("after_end", observation.t, observation.ref, {"kind": type(observation).__name__})
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
        case seen.Exchange():
            clock = state.clock(observation.t)
            state.book.begin(observation.t, clock, state.place, observation.title, by_hand=True)
        case seen.Decision():
            state.votes = observation.votes
        case seen.End():
            _end(state, observation)


def _closing_stop(observation: Observation) -> bool:
    return isinstance(observation, seen.Clock) and observation.action == "stop"


def _start(state: State, start: seen.Clock) -> None:
    t = start.t
    if state.run_from is not None:
        state.warn("start_while_running", t, start.ref)
        return
    state.run_from = t
    if state.started and start.restart == "standing":
        state.shielded_until = dict.fromkeys(SIDES, 0)
        lose(state, list(state.claims), t, "restart", (start.ref,))
        state.place = state.last = state.origin = STANDING
        state.pullers, state.spell, state.spell_paid = (), None, set()
        state.stay_from, state.stay_penalised = None, False
        state.positions.append((t, STANDING))
    elif state.started:
        for claim in state.claims:
            if not claim.suspended:
                claim.count_again(max(t, state.shielded_until[claim.side]), "restart")
    if state.place == DOUBLE_PULL and not state.stay_penalised:
        state.stay_from = t
    if not state.started:
        state.started = True
        state.positions.append((t, state.place))
    state.book.begin(t, state.clock_before, state.place)


def _stop(state: State, stop: seen.Clock) -> None:
    if state.run_from is None:
        state.warn("stop_while_stopped", stop.t, stop.ref)
        return
    state.stop_clock(stop.t)
    state.stay_from = None
    for claim in state.claims:
        claim.break_off(stop.t)


def _position(state: State, position: seen.Position) -> None:
    place = PLACE_OF[position.position, position.top]
    t = position.t
    if not state.started:
        state.place = place
        if not passed_through(place):
            state.last = state.origin = place
        return
    if state.run_from is None:
        state.warn("position_while_stopped", t, position.ref, {"place": place.position})
        return
    if place != state.place:
        state.positions.append((t, place))
    if passed_through(place):
        for claim in state.claims:
            claim.break_off(t)
            claim.suspended = True
        state.stay_from, state.stay_penalised = None, False
        state.place = place
        state.book.move(place)
        return
    if place != state.place:
        apply_change(state, change_to(state, place), place, t, position.ref)
        state.stay_from, state.stay_penalised = (t if place == DOUBLE_PULL else None), False
    state.place = state.last = state.origin = place
    state.pullers = ()


def _pull(state: State, pull: seen.Pull) -> None:
    t = pull.t
    pulling: tuple[Side, ...] = SIDES if pull.by == "both" else (pull.by,)
    if state.run_from is None:
        state.warn("pull_while_stopped", t, pull.ref)
        return
    if state.last != STANDING:
        state.warn("pull_not_from_standing", t, pull.ref)
        return
    if pull.by == "both":
        if state.pullers:
            state.warn("pull_again", t, pull.ref)
            return
        if pull.caught:
            state.warn("pull_both_caught", t, pull.ref)
        state.origin = DOUBLE_PULL
    elif not state.pullers:
        if not (pull.caught and state.ruleset.pull_caught == "takedown"):
            state.origin = PLACE_OF["guard", OTHER[pull.by]]
    elif len(state.pullers) == 1 and pull.by not in state.pullers:
        state.origin = DOUBLE_PULL
    else:
        state.warn("pull_again", t, pull.ref)
        return
    state.pullers += pulling
    cost = state.ruleset.pull_cost
    if cost and state.clock(t) >= state.opening:
        for side in pulling:
            state.award(t, side, "points", -cost, "pull_cost", {}, (pull.ref,))


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
        facts = {"technique": _named(move.technique, answer.technique), "other": OTHER[move.by]}
        state.award(move.t, move.by, "advantages", 1, "close_submission", facts, (move.ref,))


def _named(written: str, technique: object) -> str:
    name = getattr(technique, "name", None) or written
    return str(name[:1].upper() + name[1:])


def _near(state: State, near: seen.Near) -> None:
    key = (near.by, near.claim)
    lost = state.lost_at.get(key)
    if lost is not None and near.t - lost <= NEAR_WINDOW:
        state.warn("near_already_shown", near.t, near.ref, {"claim": near.claim})
    state.near_at[key] = near.t
    if not state.ruleset.advantages:
        state.warn("no_advantages", near.t, near.ref, {"ruleset": state.ruleset.title})
    state.award(near.t, near.by, "advantages", 1, "near", {"claim": near.claim}, (near.ref,))


def _ruling(state: State, ruling: seen.Ruling) -> None:
    for tally in TALLIES:
        n = getattr(ruling, tally)
        if not n:
            continue
        if tally == "advantages" and not state.ruleset.advantages:
            state.warn("no_advantages", ruling.t, ruling.ref, {"ruleset": state.ruleset.title})
        state.award(ruling.t, ruling.to, tally, n, "ruling", {}, (ruling.ref,))


def _end(state: State, end: seen.End) -> None:
    if end.how == "time":
        lose(state, list(state.claims), end.t, "time", (end.ref,))
        state.end(Ending("time", end.t, None, {}))
        return
    assert end.by is not None  # the loader asks for it
    if end.how == "submission":
        assert end.technique is not None
        finish(state, end.by, end.technique, end.t, end.ref)
    elif end.how == "withdrawal":
        end_match(state, Ending("withdrawal", end.t, OTHER[end.by], {}))
    else:
        facts = {"cause": "cause_logged", "by": end.by}
        end_match(state, Ending("disqualification", end.t, OTHER[end.by], facts))
