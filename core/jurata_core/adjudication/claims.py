"""Claims: opening, holding, paying and losing them.

A claim that counts from 20.000 with three seconds needed:

    20.000          23.000
    |===============|          still held at 23.000: paid, at 23.000
    |=========|                ended at 22.400: lost, 2.4 s held
    |====|....|=========|      broken off and counted again from zero
"""

from __future__ import annotations

from collections.abc import Sequence

from ..match_log.observations import OTHER, Ref
from ..times import Millis
from .at_once import Gain, rule_of
from .control import Control
from .places import Place, passed_through
from .reasons import (
    DroppedAsFled,
    DroppedByStop,
    Held,
    HeldAdvantage,
    LossHow,
    Lost,
    MatchOver,
    Missed,
    MissedUnderSubmission,
    MovedOn,
    NearAlreadyShown,
    NotOpenYet,
    PaidAtOnce,
    Recount,
    StillOpen,
    UnpaidReason,
)
from .rows import ClaimEnd, Count, UnpaidClaim
from .state import Claim, State
from .transition import Transition, console

NEAR_WINDOW: Millis = 5_000
"""A ``near`` this close to a lost claim of its kind is probably the same event."""


def apply(state: State, change: Transition[Claim], t: Millis, clock: Millis, points_open: bool, ref: Ref) -> None:
    """End, go on with and open claims as a change of position asks, and give what it pays at once."""
    before, place = state.control, change.control.place
    state.control = change.control
    for claim in change.suspended:
        claim.break_off(state.clock.until_bell(t))
        claim.suspended = True
    for claim in change.moved_on:
        end_quietly(state, claim, t, MovedOn(), "moved_on")
    if change.lost:
        lose(state, change.lost, t, "position", (ref,), place, before)
    for claim in change.kept:
        if claim.suspended:
            claim.suspended = False
            claim.count_again(max(t, state.shielded_until[claim.side]), "passing")
    # Rows up to here belong to the exchange that ends; what opens belongs to the next.
    _begin_exchange(state, before, t, clock)
    if change.at_once:
        give(state, change.at_once, t, ref)
    side = place.top
    if side is None or not (change.opened or change.worth_nothing):
        return
    counting_from = max(t, state.shielded_until[side])
    recount: Recount | None = "submission" if counting_from > t else None
    for kind, tally, n in change.opened:
        claim = Claim(kind, side, t, clock, tally, n, not points_open, ref, counting_from, recount)
        claim.by_hook = place.position == "back_one_hook" and kind in ("sweep", "reversal")
        state.claims.append(claim)
    for name, reason in change.worth_nothing:
        state.record.unpaid.append(UnpaidClaim(t, clock, side, name, t, 0, 0, reason, (ref,)))


def give(state: State, gains: Sequence[Gain], t: Millis, ref: Ref) -> None:
    """Give what a step pays at once."""
    for gain in gains:
        reason = PaidAtOnce(gain.code, rule_of(gain.code).sentence)
        state.award(t, gain.to, gain.tally, gain.n, reason, (ref,))


def _begin_exchange(state: State, before: Control, t: Millis, clock: Millis) -> None:
    last, place = before.last, state.control.place
    feet_to_mat = (last.position == "standing") != (place.position == "standing")
    if (feet_to_mat or last.top != place.top) and not passed_through(place):
        state.book.begin(t, clock, place)
    else:
        state.book.move(place)


def pay(state: State, claim: Claim, t: Millis) -> None:
    """The claim has been held long enough at ``t``."""
    state.claims.remove(claim)
    counted = claim.counting_from
    claim.break_off(t)
    if claim.too_early:
        _close_too_early(state, claim, t)
        return
    _close(state, claim, t, "paid")
    state.control = state.control.with_paid(claim.side, (claim.kind,))
    if claim.n:
        reason = Held if claim.tally == "points" else HeldAdvantage
        began = state.clock.at(t) - t + (t if counted is None else counted)
        facts = reason(claim.kind, claim.since_clock, state.ruleset.holds[claim.kind], claim.recount, began)
        state.award(t, claim.side, claim.tally, claim.n, facts, (claim.ref,))


def lose(
    state: State,
    claims: Sequence[Claim],
    t: Millis,
    ending: LossHow,
    refs: tuple[Ref, ...],
    place: Place | None = None,
    before: Control | None = None,
) -> None:
    """End claims as lost: at most one advantage a side, however many of them one observation ends.

    ``before`` is who was where, if that has changed already.
    """
    position = place.position if place else None
    lost: list[Claim] = []
    for claim in claims:
        _end(state, claim, t)
        if claim.too_early:
            _close_too_early(state, claim, t)
            continue
        _close(state, claim, t, "lost")
        if not claim.n:
            continue
        lost.append(claim)
        under = claim.recount == "submission" and not claim.held and not claim.counted
        reason = (MissedUnderSubmission if under else Missed)(
            ending,
            position,
            claim.recount if claim.held else None,
            state.clock.at(t) - claim.held,
            OTHER[claim.side],
            (claim.n, claim.tally),
        )
        _unpaid(state, claim, t, reason, refs)
        if claim.tally == "points":
            _note_lost(state, claim, t)
    state.control, sides = console(state.ruleset, before or state.control, state.control, lost)
    for side, together in sides.items():
        kinds = tuple(claim.kind for claim in together)
        longest = max(together, key=lambda claim: claim.held)
        reached = Lost(kinds, longest.held, state.ruleset.holds[longest.kind], ending, position)
        cited = (*dict.fromkeys(claim.ref for claim in together), *refs)
        state.award(t, side, "advantages", 1, reached, cited)


def end_quietly(
    state: State,
    claim: Claim,
    t: Millis,
    reason: MovedOn | DroppedByStop | DroppedAsFled | MatchOver,
    outcome: ClaimEnd,
) -> None:
    """End a claim with nothing: moved on, dropped, or the match is over."""
    _end(state, claim, t)
    if claim.n and not claim.too_early:
        _unpaid(state, claim, t, reason)
    _close(state, claim, t, outcome)


def still_open(state: State, claim: Claim, t: Millis) -> UnpaidClaim:
    """The row of a claim that is open where the log stops."""
    counting_from = claim.counting_from
    claim.break_off(state.clock.until_bell(t))
    _close(state, claim, t, "open", counting_from)
    return _row(state, claim, t, StillOpen())


def _end(state: State, claim: Claim, t: Millis) -> None:
    state.claims.remove(claim)
    claim.break_off(state.clock.until_bell(t))


def _row(state: State, claim: Claim, t: Millis, reason: UnpaidReason, refs: tuple[Ref, ...] = ()) -> UnpaidClaim:
    needed = state.ruleset.holds[claim.kind]
    cited = (claim.ref, *refs)
    return UnpaidClaim(t, state.clock.at(t), claim.side, claim.kind, claim.since, claim.held, needed, reason, cited)


def _unpaid(state: State, claim: Claim, t: Millis, reason: UnpaidReason, refs: tuple[Ref, ...] = ()) -> None:
    row = _row(state, claim, t, reason, refs)
    if isinstance(reason, Missed | MissedUnderSubmission):
        state.record.missed.append(row)
        state.book.file(missed=1)
    else:
        state.record.unpaid.append(row)


def _close_too_early(state: State, claim: Claim, t: Millis) -> None:
    """The claim opened before points did: it is worth nothing, however it ended."""
    if claim.n:
        _unpaid(state, claim, t, NotOpenYet(state.opening))
    _close(state, claim, t, "not_open_yet")


def _close(state: State, claim: Claim, t: Millis, outcome: ClaimEnd, counting_from: Millis | None = None) -> None:
    n = 0 if claim.too_early else claim.n
    needed = state.ruleset.holds[claim.kind]
    count = Count(
        claim.kind, claim.side, claim.since, t, outcome, claim.tally, n, needed, claim.counted, counting_from
    )  # fmt: skip
    state.record.counts.append(count)


def _note_lost(state: State, claim: Claim, t: Millis) -> None:
    key = (claim.side, claim.kind)
    state.lost_at[key] = t
    near = state.near_at.get(key)
    if near is not None and t - near <= NEAR_WINDOW:
        state.warn(NearAlreadyShown(claim.kind), near, claim.ref)
