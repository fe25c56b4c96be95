"""Fouls, the ladder of penalties, illegal techniques, and how they can end a match."""

from __future__ import annotations

from ..legality import Legality, legality
from ..match_log.observations import OTHER, End, Foul, Ref, Side, Submission, Technique
from ..techniques import suggestions
from ..times import Millis
from .claims import end_quietly
from .reasons import (
    ByDisqualification,
    BySubmission,
    Cause,
    CauseBoth,
    CauseFled,
    CauseIllegal,
    CauseLadder,
    CauseSevere,
    Consequence,
    DroppedAsFled,
    DroppedByStop,
    Fled,
    IllegalDisqualify,
    IllegalFinish,
    IllegalStop,
    IllegalWarned,
    MatchOver,
    Penalty,
    RungAdvantage,
    RungMinusPoint,
    RungTwoPoints,
    UnknownTechnique,
)
from .rows import IllegalMove
from .state import Ending, State

TWO_POINTS = 2
"""What fleeing from a takedown or sweep, and the rung ``two_points``, give the other side."""


def end_match(state: State, ending: Ending) -> None:
    """Any end but time: open claims give nothing."""
    for claim in list(state.claims):
        end_quietly(state, claim, ending.t, MatchOver(), "match_over")
    state.end(ending)


def disqualify(state: State, side: Side, t: Millis, cause: Cause) -> None:
    """The match ends there and then; the other side wins."""
    end_match(state, Ending(ByDisqualification(cause), t, OTHER[side]))


def penalise(state: State, sides: tuple[Side, ...], foul: str, t: Millis, ref: Ref | None) -> None:
    """One penalty to each side at the same moment, and what its rung leads to."""
    refs = () if ref is None else (ref,)
    out: list[Side] = []
    for side in sides:
        state.rungs[side] += 1
        count = state.rungs[side]
        state.award(t, side, "penalties", 1, Penalty(foul, count), refs)
        rung = state.ruleset.ladder[min(count, len(state.ruleset.ladder)) - 1]
        other = OTHER[side]
        if rung == "advantage":
            state.award(t, other, "advantages", 1, RungAdvantage(count, side), refs)
        elif rung == "two_points":
            state.award(t, other, "points", TWO_POINTS, RungTwoPoints(count, side), refs)
        elif rung == "minus_point":
            state.award(t, side, "points", -1, RungMinusPoint(count), refs)
        elif rung == "disqualify":
            out.append(side)
    if len(out) == 1:
        disqualify(state, out[0], t, CauseLadder(out[0], state.rungs[out[0]]))
    elif out:
        end_match(state, Ending(ByDisqualification(CauseBoth()), t, None))


def foul(state: State, seen: Foul) -> None:
    if seen.foul == "severe":
        disqualify(state, seen.by, seen.t, CauseSevere(seen.by))
        return
    if seen.foul == "fleeing" and seen.avoiding == "submission":
        disqualify(state, seen.by, seen.t, CauseFled(seen.by))
        return
    if seen.foul == "fleeing" and seen.avoiding is not None:
        other = OTHER[seen.by]
        for claim in [claim for claim in state.claims if claim.side == other and claim.kind == seen.avoiding]:
            end_quietly(state, claim, seen.t, DroppedAsFled(), "dropped")
        state.award(seen.t, other, "points", TWO_POINTS, Fled(seen.by, seen.avoiding), (seen.ref,))
    penalise(state, (seen.by,), seen.foul, seen.t, seen.ref)


def look_up(state: State, name: str, t: Millis, ref: Ref) -> Legality:
    """The legality of a technique seen; an unknown name is warned of."""
    answer = legality(name, state.division, state.ruleset)
    if answer.technique is None and answer.status == "legal":
        near = suggestions(name)
        nearest = f" (did you mean {' or '.join(near)}?)" if near else ""
        state.warn(UnknownTechnique(name, nearest), t, ref)
    return answer


def attack(state: State, seen: Submission | Technique) -> Legality:
    """The consequences of a technique that may not be legal. It is enough to have tried it."""
    answer = look_up(state, seen.technique, seen.t, seen.ref)
    if answer.status == "illegal":
        _illegal(state, seen, answer)
    elif answer.status == "stop":
        _note(state, seen, seen.technique, answer, IllegalStop(answer.because, seen.by))
        for claim in [claim for claim in state.claims if claim.side == seen.by]:
            end_quietly(state, claim, seen.t, DroppedByStop(seen.technique), "dropped")
    return answer


def _illegal(state: State, seen: Submission | Technique, answer: Legality) -> None:
    ruleset, by = state.ruleset, seen.by
    state.illegal_moves[by] += 1
    count = state.illegal_moves[by]
    if ruleset.illegal == "disqualify" or count >= ruleset.illegal_disqualify_on:
        _note(state, seen, seen.technique, answer, IllegalDisqualify(answer.because, by))
        disqualify(state, by, seen.t, CauseIllegal(answer.because, by))
        return
    warned = IllegalWarned(answer.because, by, count, ruleset.illegal_disqualify_on)
    _note(state, seen, seen.technique, answer, warned)
    state.warn(warned, seen.t, seen.ref)


def finish(state: State, end: End, by: Side, technique: str) -> None:
    """The match ends by submission, unless the finish is not legal."""
    answer = look_up(state, technique, end.t, end.ref)
    if answer.status == "legal":
        end_match(state, Ending(BySubmission(technique), end.t, by))
        return
    _note(state, end, technique, answer, IllegalFinish(answer.because, by))
    disqualify(state, by, end.t, CauseIllegal(answer.because, by))


def _note(
    state: State, seen: Submission | Technique | End, technique: str, answer: Legality, then: Consequence
) -> None:
    """Keep what was not allowed, and what it leads to."""
    assert seen.by is not None  # only an end by time has no side, and no technique
    row = IllegalMove(seen.t, state.clock.at(seen.t), seen.by, technique, answer.status, then, (seen.ref,))
    state.record.illegal.append(row)
