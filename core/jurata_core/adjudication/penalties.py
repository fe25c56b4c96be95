"""Fouls, the ladder of penalties, illegal techniques, and how they can end a match."""

from __future__ import annotations

from dataclasses import replace

from ..legality import Legality, barred_near, legality, nearest
from ..match_log.observations import (
    OTHER,
    SIDES,
    Attempt,
    End,
    Foul,
    Observation,
    Ref,
    Side,
    Submission,
    Technique,
)
from ..rulesets.model import Rung
from ..techniques import NOT_NAMED
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
    NearBarred,
    Penalty,
    RungAdvantage,
    RungMinusPoint,
    RungOnePoint,
    RungTwoPoints,
    TechniqueNotNamed,
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


def disqualify_both(state: State, t: Millis) -> None:
    """The match ends there and then; nobody wins."""
    end_match(state, Ending(ByDisqualification(CauseBoth()), t, None))


def penalise(state: State, sides: tuple[Side, ...], foul: str, t: Millis, ref: Ref | None) -> None:
    """One penalty to each side at the same moment, and what its rung leads to."""
    refs = () if ref is None else (ref,)
    counts: dict[Side, int] = {}
    for side in sides:
        counts[side] = max(1, state.penalties[side] + 1)
        state.award(t, side, "penalties", 1, Penalty(foul, counts[side]), refs)
    out = [side for side in sides if _rung(state, side, counts[side], t, refs)]
    if len(out) == 1:
        disqualify(state, out[0], t, CauseLadder(out[0], counts[out[0]]))
    elif out:
        disqualify_both(state, t)


def _rung(state: State, side: Side, count: int, t: Millis, refs: tuple[Ref, ...]) -> bool:
    """What a side's penalty of that number leads to; whether that is the end of the match for it."""
    ladder = state.ruleset.ladder
    rung: Rung = ladder[min(count, len(ladder)) - 1] if ladder else "none"
    other = OTHER[side]
    if rung == "advantage":
        state.award(t, other, "advantages", 1, RungAdvantage(count, side), refs)
    elif rung == "one_point":
        state.award(t, other, "points", 1, RungOnePoint(count, side), refs)
    elif rung == "two_points":
        state.award(t, other, "points", TWO_POINTS, RungTwoPoints(count, side), refs)
    elif rung == "minus_point":
        state.award(t, side, "points", -1, RungMinusPoint(count), refs)
    return rung == "disqualify"


def foul(state: State, seen: Foul) -> None:
    """A foul of one side or of both. A caution by word alone costs nothing."""
    if seen.verbal:
        return
    if seen.by == "both":
        if seen.foul == "severe":
            disqualify_both(state, seen.t)
        else:
            penalise(state, SIDES, seen.foul, seen.t, seen.ref)
        return
    if seen.foul == "severe":
        disqualify(state, seen.by, seen.t, CauseSevere(seen.by))
        return
    if seen.foul == "fleeing" and seen.avoiding == "submission":
        disqualify(state, seen.by, seen.t, CauseFled(seen.by))
        return
    if seen.foul == "fleeing" and seen.avoiding in ("takedown", "sweep"):
        _fled(state, seen, seen.by, seen.avoiding)
    penalise(state, (seen.by,), seen.foul, seen.t, seen.ref)


def _fled(state: State, seen: Foul, by: Side, move: str) -> None:
    """Two points to the other where the move pays points; what it had open of that kind is dropped in any case."""
    other = OTHER[by]
    kinds = ("takedown", "double_pull_top") if move == "takedown" else (move,)
    for claim in [claim for claim in state.claims if claim.side == other and claim.kind in kinds]:
        end_quietly(state, claim, seen.t, DroppedAsFled(by), "dropped")
    if state.ruleset.points[move]:
        state.award(seen.t, other, "points", TWO_POINTS, Fled(by, move), (seen.ref,))


def look_up(state: State, seen: Submission | Technique | Attempt | End, name: str) -> Legality:
    """The legality of a technique seen. An unknown name is warned of, in an attempt only where a near one is barred."""
    answer = legality(name, state.division, state.ruleset)
    if name == NOT_NAMED:
        state.warn(TechniqueNotNamed(), seen.t, seen.ref)
        return answer
    if answer.technique is None and answer.status == "legal":
        barred = barred_near(name, state.division, state.ruleset)
        if barred is not None:
            state.warn(NearBarred(name, barred.because, isinstance(seen, End)), seen.t, seen.ref)
        elif not isinstance(seen, Attempt):
            near = nearest(name, state.division, state.ruleset)
            if isinstance(seen, End):  # nobody is told to have finished with what is barred
                near = {one: status for one, status in near.items() if status == "legal"}
            hint = f" (did you mean {' or '.join(near)}?)" if near else ""
            state.warn(UnknownTechnique(name, hint), seen.t, seen.ref)
        return replace(answer, doubtful=barred is not None)
    return answer


def attack(state: State, seen: Submission | Technique | Attempt, name: str) -> Legality:
    """The consequences of a technique that may not be legal. It is enough to have tried it."""
    answer = look_up(state, seen, name)
    if answer.status == "illegal":
        _illegal(state, seen, name, answer)
    elif answer.status == "stop":
        _note(state, seen, seen.by, name, answer, IllegalStop(answer.because, seen.by))
        for claim in [claim for claim in state.claims if claim.side == seen.by]:
            end_quietly(state, claim, seen.t, DroppedByStop(name), "dropped")
    return answer


def _illegal(state: State, seen: Submission | Technique | Attempt, name: str, answer: Legality) -> None:
    ruleset, by = state.ruleset, seen.by
    state.illegal_moves[by] += 1
    count = state.illegal_moves[by]
    if ruleset.illegal == "disqualify" or count >= ruleset.illegal_disqualify_on:
        _note(state, seen, by, name, answer, IllegalDisqualify(answer.because, by))
        disqualify(state, by, seen.t, CauseIllegal(answer.because, by))
        return
    warned = IllegalWarned(answer.because, by, count, ruleset.illegal_disqualify_on)
    _note(state, seen, by, name, answer, warned)
    state.warn(warned, seen.t, seen.ref)


def finish(state: State, end: End, by: Side, technique: str) -> None:
    """The match ends by submission, unless the finish is not legal, or may not be by its unknown name."""
    answer = look_up(state, end, technique)
    if answer.doubtful:
        return
    if answer.status == "legal":
        end_match(state, Ending(BySubmission(technique), end.t, by))
        return
    _note(state, end, by, technique, answer, IllegalFinish(answer.because, by))
    disqualify(state, by, end.t, CauseIllegal(answer.because, by))


def _note(state: State, seen: Observation, by: Side, technique: str, answer: Legality, then: Consequence) -> None:
    """Keep what was not allowed, and what it leads to."""
    row = IllegalMove(seen.t, state.clock.at(seen.t), by, technique, answer.status, then, (seen.ref,))
    state.record.illegal.append(row)
