"""Two questions of the last minutes: who has the last one of a see-saw, and whether to let go."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import islice
from typing import Any, NamedTuple

from ..adjudication.places import Place
from ..adjudication.sentences import PLACES
from ..chance import Asking, Model, Question
from ..chance.moments import Moment
from ..chance.rates import Event
from ..match_log.observations import OTHER, Side
from ..times import Millis

LEAST_BETTER = 0.02
"""By how much the chance must be better for letting go to be worth saying."""


class LastTurn(NamedTuple):
    """In a see-saw in which each needs ``each``: how many come off yet, and whose is the last."""

    turns: int
    last: Side | None
    """None where not even one comes off."""


def last_turn(left: Millis, each: Millis, first: Side) -> LastTurn:
    """Who has the last sweep when both sweep in turn, ``first`` beginning, each in ``each`` with its holding time.

    Exactly enough time for one is enough. Raises ValueError where ``each`` is not above zero.
    """
    if each <= 0:
        raise ValueError("a turn takes some time")
    turns = left // each
    if turns == 0:
        return LastTurn(0, None)
    return LastTurn(turns, first if turns % 2 else OTHER[first])


class Letting(NamedTuple):
    """Letting go of what is held, to ``to``: the chance of winning then, and when holding on."""

    to: Place
    goes: float
    holds: float

    def as_json(self) -> dict[str, Any]:
        return {"to": PLACES[self.to.position], "goes": self.goes, "holds": self.holds}


def letting_go(model: Model, moments: Sequence[Moment], side: Side) -> Asking[list[Letting | None]]:
    """Where giving up the position for the advantage is better than holding on, by the model; None where it is not."""
    asked = [_letting_questions(model, moment, side) for moment in moments]
    answers = iter((yield [question for part in asked for question in part]))
    found: list[Letting | None] = []
    for part in asked:
        chances = [chance.win if side == "a" else chance.lose for chance in islice(answers, len(part))]
        best = max(zip(chances[1:], _left_for(side), strict=True)) if part else None
        better = best is not None and best[0] > chances[0] + LEAST_BETTER
        found.append(Letting(best[1], best[0], chances[0]) if best is not None and better else None)
    return found


def _left_for(side: Side) -> tuple[Place, Place]:
    """Where one is who lets go: on the feet, or below."""
    return Place("standing", None), Place("guard", OTHER[side])


def _letting_questions(model: Model, moment: Moment, side: Side) -> list[Question]:
    """Holding on, and letting go to each place; empty where there is nothing to let go of."""
    question = moment.question(model)
    spot = question.spot
    if spot.place.top != side or not spot.pending.points or not model.ruleset.advantages:
        return []
    asked = [question]
    phase = model.phase(question.second, question.overtime)
    for place in _left_for(side):
        after, shift = model.moved(spot, Event("move", place, None), phase != "waiting")
        leads = (question.points + shift.points, question.advantages + shift.advantages, question.penalties)
        asked.append(Question(question.second, after, *leads, question.overtime))
    return asked
