"""Claims: opening, holding, paying and losing them.

A claim that counts from 20.000 with three seconds needed:

    20.000          23.000
    |===============|          still held at 23.000: paid, at 23.000
    |=========|                ended at 22.400: lost, 2.4 s held
    |====|....|=========|      broken off and counted again from zero
"""

from __future__ import annotations

from typing import NamedTuple

from ..match_log.observations import OTHER, Ref, Side, Tally
from ..rulesets import Ruleset
from ..times import Millis
from .places import CONTROL, OWN_POSITION, PASSED, ClaimKind, Place, claims_from, holds, is_reversal, moved_up
from .state import Claim, Outcome, State
from .verdict import Count, Facts, Unheld

NO_FACTS: Facts = {}
NEAR_WINDOW: Millis = 5_000
"""A ``near`` this close to a lost claim of its kind is probably the same event."""


class Change(NamedTuple):
    """What a change of position does to claims, before any of it is done."""

    kept: list[Claim]
    lost: list[Claim]
    moved_on: list[Claim]
    opened: list[tuple[ClaimKind, Tally, int]]
    unpaid: list[tuple[str, str]]
    """Pairs of (claim, reason) for what a coach might expect and is not opened."""


def worth(ruleset: Ruleset, kind: ClaimKind, place: Place) -> tuple[Tally, int]:
    """What a claim that opens in ``place`` will pay when held."""
    if kind == "double_pull_top":
        if ruleset.double_pull_top == "advantage":
            return "advantages", 1 if ruleset.advantages else 0
        return "points", ruleset.points["takedown"] if ruleset.double_pull_top == "takedown" else 0
    if kind in ("takedown", "sweep") and place.position in PASSED:
        return "points", ruleset.points[f"{kind}_clear"]
    return "points", ruleset.points[kind]


def change_to(state: State, place: Place) -> Change:
    """What coming to ``place`` would end and open. Changes nothing."""
    kept: list[Claim] = []
    lost: list[Claim] = []
    moved_on: list[Claim] = []
    opened: list[tuple[ClaimKind, Tally, int]] = []
    unpaid: list[tuple[str, str]] = []
    change = Change(kept, lost, moved_on, opened, unpaid)
    side = place.top
    for claim in state.claims:
        if claim.side == side and holds(claim.kind, side, place):
            kept.append(claim)
        elif claim.side == side and moved_up(state.last, place, side):
            moved_on.append(claim)
        else:
            lost.append(claim)
    if side is None or place == state.place:
        return change
    same_spell = state.spell == side and place.position in CONTROL
    once = state.ruleset.repeat == "after_recovery"
    for kind in claims_from(state.origin, place):
        if once and same_spell and kind in OWN_POSITION and kind in state.spell_paid:
            unpaid.append((kind, "paid_before"))
        elif not kept or not any(claim.kind == kind and claim.side == side for claim in kept):
            opened.append((kind, *worth(state.ruleset, kind, place)))
    if is_reversal(state.origin, place):
        unpaid.append(("reversal", "reversal"))
    elif len(state.pullers) == 1 and state.origin.top == side and not opened:
        unpaid.append(("takedown", "pulled"))
    return change


def apply_change(state: State, change: Change, place: Place, t: Millis, ref: Ref) -> None:
    """End, go on with and open claims as a change of position asks."""
    side = place.top
    for claim in change.moved_on:
        end_quietly(state, claim, t, "moved_on", "moved_on")
    if change.lost:
        lose(state, change.lost, t, "position", (ref,), place)
    for claim in change.kept:
        if claim.suspended:
            claim.suspended = False
            claim.count_again(max(t, state.shielded_until[claim.side]), "passing")
    # Rows up to here belong to the exchange that ends; what opens belongs to the next.
    _begin_exchange(state, place, t)
    if side is None or place.position not in CONTROL:
        state.spell, state.spell_paid = None, set()
    elif state.spell != side:
        state.spell, state.spell_paid = side, set()
    if side is None or not (change.opened or change.unpaid):
        return
    clock = state.clock(t)
    barred = clock < state.opening
    counting_from = max(t, state.shielded_until[side])
    recount = "submission" if counting_from > t else None
    for kind, tally, n in change.opened:
        state.claims.append(Claim(kind, side, t, clock, tally, n, barred, ref, counting_from, recount))
    for name, reason in change.unpaid:
        facts: Facts = {"place": state.origin.position, "other": OTHER[side]}
        state.unpaid.append(Unheld(t, clock, side, name, t, 0, 0, reason, facts, (ref,)))


def _begin_exchange(state: State, place: Place, t: Millis) -> None:
    feet_to_mat = (state.last.position == "standing") != (place.position == "standing")
    if feet_to_mat or state.last.top != place.top:
        state.book.begin(t, state.clock(t), place)
    else:
        state.book.move(place)


def pay(state: State, claim: Claim, t: Millis) -> None:
    """The claim has been held long enough at ``t``."""
    state.claims.remove(claim)
    counted = claim.counting_from
    claim.break_off(t)
    if claim.barred:
        _unpaid(state, claim, t, "not_open_yet")
        _close(state, claim, t, "not_open_yet")
        return
    _close(state, claim, t, "paid")
    if claim.kind in OWN_POSITION and state.spell == claim.side:
        state.spell_paid.add(claim.kind)
    if claim.worth:
        reason = "held" if claim.tally == "points" else "held_advantage"
        facts = {
            "claim": claim.kind,
            "opened": claim.since_clock,
            "needed": state.ruleset.hold,
            "recount": claim.recount,
            "counted": state.clock(t) - t + (t if counted is None else counted),
        }
        state.award(t, claim.side, claim.tally, claim.worth, reason, facts, (claim.ref,))


def lose(
    state: State, claims: list[Claim], t: Millis, ending: str, refs: tuple[Ref, ...], place: Place | None = None
) -> None:
    """End claims as lost: at most one advantage a side, however many of them one observation ends."""
    consoled: dict[Side, list[Claim]] = {}
    for claim in claims:
        _end(state, claim, t)
        if claim.barred:
            _unpaid(state, claim, t, "not_open_yet")
            _close(state, claim, t, "not_open_yet")
            continue
        _close(state, claim, t, "lost")
        if not claim.worth:
            continue
        recount = claim.recount if claim.held else None
        under = claim.recount == "submission" and not claim.held and not claim.counted
        facts = {
            "ending": ending,
            "place": place.position if place else None,
            "recount": recount,
            "counted": state.clock(t) - claim.held,
            "other": OTHER[claim.side],
            "worth": (claim.worth, claim.tally),
        }
        _unpaid(state, claim, t, "missed_under_submission" if under else "missed", facts, refs)
        if claim.tally == "points":
            consoled.setdefault(claim.side, []).append(claim)
            _note_lost(state, claim, t)
    for side, lost in consoled.items():
        consoled_facts: Facts = {
            "claims": [claim.kind for claim in lost],
            "held": max(claim.held for claim in lost),
            "needed": state.ruleset.hold,
            "ending": ending,
            "place": place.position if place else None,
        }
        state.award(
            t, side, "advantages", 1, "lost", consoled_facts, (*dict.fromkeys(claim.ref for claim in lost), *refs)
        )


def end_quietly(
    state: State, claim: Claim, t: Millis, reason: str, outcome: Outcome, facts: Facts | None = None
) -> None:
    """End a claim with nothing: moved on, dropped, or the match is over."""
    _end(state, claim, t)
    if claim.worth and not claim.barred:
        _unpaid(state, claim, t, reason, facts)
    _close(state, claim, t, outcome)


def still_open(state: State, claim: Claim, t: Millis) -> Unheld:
    """The row of a claim that is open where the log stops."""
    counting_from = claim.counting_from
    claim.break_off(t)
    _close(state, claim, t, "open", counting_from)
    needed = state.ruleset.hold
    return Unheld(t, state.clock(t), claim.side, claim.kind, claim.since, claim.held, needed, "open", {}, (claim.ref,))


def _end(state: State, claim: Claim, t: Millis) -> None:
    state.claims.remove(claim)
    claim.break_off(t)


def _unpaid(
    state: State, claim: Claim, t: Millis, reason: str, facts: Facts | None = None, refs: tuple[Ref, ...] = ()
) -> None:
    if reason == "not_open_yet":
        facts = {"opening": state.opening}
    row = Unheld(
        t, state.clock(t), claim.side, claim.kind, claim.since, claim.held, state.ruleset.hold, reason,
        NO_FACTS if facts is None else facts, (claim.ref, *refs),
    )  # fmt: skip
    if reason.startswith("missed"):
        state.missed.append(row)
        state.book.file(missed=1)
    else:
        state.unpaid.append(row)


def _close(state: State, claim: Claim, t: Millis, outcome: Outcome, counting_from: Millis | None = None) -> None:
    n = 0 if claim.barred else claim.worth
    state.counts.append(
        Count(
            claim.kind, claim.side, claim.since, t, outcome, claim.tally, n, state.ruleset.hold, claim.counted,
            counting_from,
        )
    )  # fmt: skip


def _note_lost(state: State, claim: Claim, t: Millis) -> None:
    key = (claim.side, claim.kind)
    state.lost_at[key] = t
    near = state.near_at.get(key)
    if near is not None and t - near <= NEAR_WINDOW:
        state.warn("near_already_shown", near, claim.ref, {"claim": claim.kind})
