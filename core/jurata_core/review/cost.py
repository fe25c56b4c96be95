"""What an error cost: on the sheet, in the result, and in the chance of winning."""

from __future__ import annotations

from bisect import insort_right
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from operator import attrgetter
from typing import Any, NamedTuple

from ..adjudication.rows import Award, Result
from ..adjudication.verdict import Tallies
from ..chance import LONGEST_S, Asking, Chance, Model, Question, Rates
from ..chance.moments import Moment
from ..match_log.observations import TALLIES, Ruling, Side, Tally
from ..rulesets import Ruleset
from .errors import Error
from .seen import Found, Loss, Seen, loss_of

HELPED = 0.01
"""A difference of less than this is within what the model can tell."""


@dataclass(frozen=True, slots=True)
class Swing:
    """The chances of the side just after an error, and as they would have been without it."""

    was: Chance
    otherwise: Chance

    @property
    def lost(self) -> float:
        """The chance of winning that it cost; of being finished, half of what was added."""
        return max(0.0, _worth(self.otherwise) - _worth(self.was))

    @property
    def helped(self) -> bool:
        """Whether the side stood better after it: then it was no error."""
        return _worth(self.was) > _worth(self.otherwise)

    def as_json(self) -> dict[str, float]:
        return {
            "was": round(self.was.win, 4), "otherwise": round(self.otherwise.win, 4),
            "was_lose": round(self.was.lose, 4), "otherwise_lose": round(self.otherwise.lose, 4),
            "lost": round(self.lost, 4),
        }  # fmt: skip


def _worth(chance: Chance) -> float:
    """A chance as one number: a match that nobody wins counts half."""
    return (1 + chance.win - chance.lose) / 2


def in_danger(ruleset: Ruleset) -> bool:
    """Whether costs are said as the danger of being finished, because nothing scores."""
    return not ruleset.advantages and not any(ruleset.points.values())


def model_of(seen: Seen, rates: Rates) -> Model | None:
    """The model of a match; None for one that is too long for it.

    Where nothing scores it asks who finishes: a match that goes the distance is nobody's, whatever the decision.
    """
    seconds = max(1, round(seen.length / 1000))
    if max(seconds, seen.clock(seen.over) / 1000) > LONGEST_S:
        return None
    rules = seen.log.ruleset
    return Model(replace(rules, tiebreak=("draw",)) if in_danger(rules) else rules, seconds, rates)


class Again(NamedTuple):
    """What a match comes to that was scored again."""

    score: Tallies
    result: Result
    summary: dict[str, Any]


def undone(seen: Seen, errors: Sequence[Error]) -> Again | None:
    """The match scored again with these errors gone otherwise, all else as it was; None where that changes no row.

    It is scored once, however often it is asked for. What was seen and should not have been is left out of the log; a
    claim that was not held is taken as held, and what the other side won by it as not won, each as a ruling at that
    moment.
    """
    return seen.once(("undone", *(error.key for error in errors)), lambda: _undone(seen, errors))


def _undone(seen: Seen, errors: Sequence[Error]) -> Again | None:
    errors = [_with_what_ended_it(seen, error) for error in errors]
    dropped = {ref for error in errors for ref in error.found.drop}
    rulings = [ruling for found, rows in _turned(errors) for ruling in _rulings(seen, found, rows)]
    if not dropped and not rulings:
        return None
    changed = list(seen.log.observations)
    for number in sorted((seen.number_of(ref) for ref in dropped), reverse=True):
        del changed[number]
    for ruling in rulings:
        insort_right(changed, ruling, key=attrgetter("t"))
    verdict = seen.scored_again(replace(seen.log, observations=tuple(changed)))
    return Again(verdict.score, verdict.result, verdict.summary())


def _with_what_ended_it(seen: Seen, error: Error) -> Error:
    """An error without which overtime would have gone on: no ruling can take back a score that ends a match at once."""
    result, found = seen.verdict.result, error.found
    ending = tuple(ref for row in found.rows if row.t == result.t for ref in row.observations)
    if result.method != "golden_score" or found.drop or not ending:
        return error
    return replace(error, found=found._replace(drop=ending))


def _turned(errors: Iterable[Error]) -> list[tuple[Found, list[Award]]]:
    """What is turned for each error, so that no row is turned twice."""
    turned: set[int] = set()
    found = []
    for error in errors:
        if error.found.drop:
            continue  # its rows go with the observation
        rows = [row for row in error.found.rows if id(row) not in turned]
        turned.update(map(id, rows))
        found.append((error.found, rows))
    return found


def _rulings(seen: Seen, found: Found, rows: list[Award]) -> list[Ruling]:
    sums: dict[Side, dict[str, int]] = {side: dict.fromkeys(TALLIES, 0) for side in (seen.side, seen.other)}
    for row in rows:
        sums[row.to][row.kind] -= row.n
    gained = gain_of(seen, found)
    for tally, n in zip(TALLIES, gained, strict=True):
        sums[seen.side][tally] += -n if tally == "penalties" else n
    return [
        Ruling(-1, found.t, None, None, True, side, tally["points"], tally["advantages"], tally["penalties"])
        for side, tally in sums.items()
        if any(tally.values())
    ]


def gain_of(seen: Seen, found: Found) -> Loss:
    """What the side would have won itself: the part of the loss that no row of the ledger shows."""
    shown = loss_of(list(found.rows), seen.side)
    return Loss(*(max(0, lost - row) for lost, row in zip(found.loss, shown, strict=True)))


def swings(seen: Seen, errors: Sequence[Error], model: Model) -> Asking[list[Swing | None]]:
    """The swing of each error; None for one that left the match where it was."""
    pairs = [_questions(seen, error.found, model) for error in errors]
    chances = yield [question for pair in pairs if pair for question in pair if isinstance(question, Question)]
    answers = iter(chances)
    found: list[Swing | None] = []
    for pair in pairs:
        if pair is None:
            found.append(None)
        else:
            was, otherwise = (seen.own(next(answers)) if isinstance(one, Question) else one for one in pair)
            less = _worth(otherwise) - _worth(was)
            found.append(Swing(was, was if -HELPED < less < 0 else otherwise))
    return found


def _questions(seen: Seen, found: Found, model: Model) -> tuple[Question | Chance, Question] | None:
    """The state after the error, or who had won by then; and the state without it.

    None for a stretch of time in which something was left undone: what would have come of it no state says.
    """
    if found.place is None and not found.rows and not found.drop and not any(found.loss):
        return None
    after = seen.moment(found.t)
    result = seen.verdict.result
    was: Question | Chance
    if result.t is not None and result.t <= found.t and not seen.full_time:
        was = Chance(float(result.winner == seen.side), float(result.winner == seen.other))
    else:
        was = _at(seen, after, model)
    place = found.place or seen.place_at(found.since - 1)
    lead = dict(after.leads)
    sign = 1 if seen.side == "a" else -1
    gained = loss_of(list(found.rows), seen.side)
    for tally, n, own in zip(TALLIES, gained, gain_of(seen, found), strict=True):
        lead[tally] += sign * (n + own)
    otherwise = Moment(after.t, after.clock, place, seen.log.ruleset.hold, (), lead)
    if otherwise.place == after.place and lead == after.leads and isinstance(was, Question):
        return None
    return was, _at(seen, otherwise, model)


def _at(seen: Seen, moment: Moment, model: Model) -> Question:
    question = moment.question(model)
    if not seen.full_time or moment.t < seen.over:
        return question
    # Time ran out: whatever the clock shows, nothing more can follow.
    last = model.overtime_seconds if question.overtime else None
    return question._replace(second=model.seconds if last is None else last)


def regained(seen: Seen, again: Again) -> Loss:
    """By how much better the side stands on the sheet of a match scored again."""

    def lead(score: Tallies, tally: Tally) -> int:
        return score[seen.side][tally] - score[seen.other][tally]

    gains = {tally: lead(again.score, tally) - lead(seen.verdict.score, tally) for tally in TALLIES}
    return Loss(gains["points"], gains["advantages"], -gains["penalties"])


def otherwise_json(seen: Seen, again: Again | None) -> dict[str, Any] | None:
    """The result with something gone otherwise, and whether it is another one."""
    if again is None:
        return None
    was, now = seen.verdict.result, again.result
    said = dict(again.summary)
    if now.method == "unfinished" and was.method != "unfinished":
        said["because"] = "The match would have continued."
    changes = (was.winner, was.method) != (now.winner, now.method)
    return {**said, "changes": changes, "better": _rank(now.winner, seen.side) > _rank(was.winner, seen.side)}


def without_it(seen: Seen, again: Again | None) -> str | None:
    """The sentence of a match that would have come out otherwise with something gone; None where it would not have."""
    if again is None:
        return None
    was, now = seen.verdict.result, again.result
    if (was.winner, was.method) == (now.winner, now.method):
        return None
    if now.method == "unfinished" and was.method != "unfinished":
        return "Without it, the match would have continued."
    return now.without_it


def _rank(winner: Side | None, side: Side) -> int:
    return 0 if winner is None else 1 if winner == side else -1
