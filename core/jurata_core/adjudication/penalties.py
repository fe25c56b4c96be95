"""Fouls, the ladder of penalties, illegal techniques, and how they can end a match."""

from __future__ import annotations

from ..legality import Legality, legality
from ..match_log.observations import OTHER, Foul, Ref, Side, Submission, Technique
from ..techniques import suggestions
from ..times import Millis
from .holding import end_quietly
from .state import Ending, State
from .verdict import Barred, Facts

TWO_POINTS = 2
"""What fleeing from a takedown or sweep, and the rung ``two_points``, give the other side."""


def end_match(state: State, ending: Ending) -> None:
    """Any end but time: open claims give nothing."""
    for claim in list(state.claims):
        end_quietly(state, claim, ending.t, "match_over", "match_over")
    state.end(ending)


def disqualify(state: State, side: Side, t: Millis, cause: str, facts: Facts | None = None) -> None:
    """The match ends there and then; the other side wins."""
    end_match(state, Ending("disqualification", t, OTHER[side], {"cause": cause, "by": side, **(facts or {})}))


def penalise(state: State, sides: tuple[Side, ...], foul: str, t: Millis, ref: Ref | None) -> None:
    """One penalty to each side at the same moment, and what its rung leads to."""
    refs = () if ref is None else (ref,)
    out: list[Side] = []
    for side in sides:
        state.rungs[side] += 1
        count = state.rungs[side]
        state.award(t, side, "penalties", 1, "penalty", {"foul": foul, "count": count}, refs)
        rung = state.ruleset.ladder[min(count, len(state.ruleset.ladder)) - 1]
        other = OTHER[side]
        if rung == "advantage":
            state.award(t, other, "advantages", 1, "rung_advantage", {"count": count, "other": side}, refs)
        elif rung == "two_points":
            state.award(t, other, "points", TWO_POINTS, "rung_two_points", {"count": count, "other": side}, refs)
        elif rung == "minus_point":
            state.award(t, side, "points", -1, "rung_minus_point", {"count": count}, refs)
        elif rung == "disqualify":
            out.append(side)
    if len(out) == 1:
        disqualify(state, out[0], t, "cause_ladder", {"count": state.rungs[out[0]]})
    elif out:
        end_match(state, Ending("disqualification", t, None, {"cause": "cause_both"}))


def foul(state: State, seen: Foul) -> None:
    if seen.foul == "severe":
        disqualify(state, seen.by, seen.t, "cause_severe")
        return
    if seen.foul == "fleeing" and seen.avoiding == "submission":
        disqualify(state, seen.by, seen.t, "cause_fled")
        return
    if seen.foul == "fleeing" and seen.avoiding is not None:
        other = OTHER[seen.by]
        for claim in [claim for claim in state.claims if claim.side == other and claim.kind == seen.avoiding]:
            end_quietly(state, claim, seen.t, "dropped_fled", "dropped")
        facts = {"other": seen.by, "avoiding": seen.avoiding}
        state.award(seen.t, other, "points", TWO_POINTS, "fled", facts, (seen.ref,))
    penalise(state, (seen.by,), seen.foul, seen.t, seen.ref)


def look_up(state: State, name: str, t: Millis, ref: Ref) -> Legality:
    """The legality of a technique seen; an unknown name is warned of."""
    answer = legality(name, state.division, state.ruleset)
    if answer.technique is None and answer.status == "legal":
        near = suggestions(name)
        nearest = f" (did you mean {' or '.join(near)}?)" if near else ""
        state.warn("unknown_technique", t, ref, {"technique": name, "nearest": nearest})
    return answer


def attack(state: State, seen: Submission | Technique) -> Legality:
    """The consequences of a technique that may not be legal. It is enough to have tried it."""
    answer = look_up(state, seen.technique, seen.t, seen.ref)
    if answer.status == "illegal":
        _illegal(state, seen, answer)
    elif answer.status == "stop":
        _bar(state, seen.t, seen.by, seen.technique, answer, "illegal_stop", {}, seen.ref)
        for claim in [claim for claim in state.claims if claim.side == seen.by]:
            end_quietly(state, claim, seen.t, "dropped_stop", "dropped", {"technique": seen.technique})
    return answer


def _illegal(state: State, seen: Submission | Technique, answer: Legality) -> None:
    ruleset = state.ruleset
    state.illegal[seen.by] += 1
    count = state.illegal[seen.by]
    if ruleset.illegal == "disqualify" or count >= ruleset.illegal_disqualify_on:
        _bar(state, seen.t, seen.by, seen.technique, answer, "illegal_disqualify", {}, seen.ref)
        disqualify(state, seen.by, seen.t, "cause_illegal", {"because": answer.because})
        return
    facts = {"because": answer.because, "count": count, "limit": ruleset.illegal_disqualify_on, "by": seen.by}
    _bar(state, seen.t, seen.by, seen.technique, answer, "illegal_warned", facts, seen.ref)
    state.warn("illegal_warned", seen.t, seen.ref, facts)


def finish(state: State, by: Side, technique: str, t: Millis, ref: Ref) -> None:
    """The match ends by submission, unless the finish is not legal."""
    answer = look_up(state, technique, t, ref)
    if answer.status == "legal":
        end_match(state, Ending("submission", t, by, {"technique": technique}))
        return
    _bar(state, t, by, technique, answer, "illegal_finish", {}, ref)
    disqualify(state, by, t, "cause_illegal", {"because": answer.because})


def _bar(
    state: State, t: Millis, by: Side, technique: str, answer: Legality, consequence: str, facts: Facts, ref: Ref
) -> None:
    told = {"because": answer.because, "by": by, **facts}
    state.barred.append(Barred(t, state.clock(t), by, technique, answer.status, consequence, told, (ref,)))
