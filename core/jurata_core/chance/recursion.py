"""The chances of all states of the model, solved exactly: backward over the clock, one sparse product a second.

A state is a spot and the athlete's lead in points and in advantages. Leads beyond
``MOST_POINTS`` and ``MOST_ADVANTAGES`` are kept at those. Overtime is a stretch of its own after regular time:

    0 ... seconds | seconds + 1 ... seconds + 1 + overtime_seconds
    regular time    the period, from its first second to its last
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Generator, Sequence
from functools import cache
from typing import Any, NamedTuple, TypeVar

import numpy as np
from scipy import sparse  # type: ignore[import-untyped]

from ..adjudication.tiebreak import Lead, Settled, settled
from ..match_log.observations import SIDES, Side
from .spots import Model, Phase, Shift, Spot

MOST_POINTS, MOST_ADVANTAGES = 14, 4
REAL = np.float32
Answer = TypeVar("Answer")


class Question(NamedTuple):
    """A state whose chance is asked for: a second of the clock, a spot, and the athlete's leads."""

    second: int
    spot: Spot
    points: int
    advantages: int
    penalties: int
    """By how many fewer the athlete has."""
    overtime: bool = False
    """Whether ``second`` is of the period of overtime."""


class Chance(NamedTuple):
    """For the athlete. Where nobody may win, the two do not add up to 1."""

    win: float
    lose: float


class _Leads(NamedTuple):
    points: int
    advantages: int

    def number(self, points: int, advantages: int) -> int:
        """The number of a lead, kept within bounds."""
        row = min(max(points, -self.points), self.points) + self.points
        return row * self.width + min(max(advantages, -self.advantages), self.advantages) + self.advantages

    @property
    def width(self) -> int:
        return 2 * self.advantages + 1

    @property
    def total(self) -> int:
        return (2 * self.points + 1) * self.width

    def all(self) -> list[tuple[int, int]]:
        return [
            (points, advantages)
            for points in range(-self.points, self.points + 1)
            for advantages in range(-self.advantages, self.advantages + 1)
        ]

    def moved(self, shift: Shift) -> Any:
        """The number of each lead after ``shift``."""
        return _moved(self, shift)


@cache
def _moved(leads: _Leads, shift: Shift) -> Any:
    shifted = [leads.number(p + shift.points, a + shift.advantages) for p, a in leads.all()]
    return np.array(shifted, dtype=np.int32)


def solve(model: Model, questions: Sequence[Question]) -> list[Chance]:
    """The chance of each state asked for, in order.

    Raises ValueError for a spot that the model does not have, or a second past its length.
    """
    leads = _Leads(MOST_POINTS, MOST_ADVANTAGES if model.ruleset.advantages else 0)
    sides: tuple[Side, ...] = SIDES if _may_be_level(model) else ("a",)
    last = _last(model)
    asked: dict[int, list[int]] = defaultdict(list)
    earliest: dict[int, int] = {}
    for number, question in enumerate(questions):
        at = _at(model, question)
        asked[at].append(number)
        sign = _sign(question.penalties)
        earliest[sign] = min(at, earliest.get(sign, last))
    # Those asked for the earliest come first: the others are left off on the way.
    columns = [(sign, side) for sign in sorted(earliest, key=lambda one: earliest[one]) for side in sides]
    ends = {column: _at_time(model, leads, *column) for column in columns}
    values = _together(model, leads, list(ends.values()))
    answers: list[Chance] = [Chance(0, 0)] * len(questions)
    steps = {phase: _Step(model, leads, phase) for phase in model.phases}
    for at in range(last, min(asked, default=last) - 1, -1):
        columns = [column for column in columns if earliest[column[0]] <= at]
        values = values[:, : len(columns) * leads.total]
        if at < last and at == model.seconds:
            values = _together(model, leads, _into_overtime(model, leads, values, {one: ends[one] for one in columns}))
        elif at < last:
            values = steps[_phase(model, at)].back(values, columns)
        for number in asked.get(at, ()):
            question = questions[number]
            column = columns.index((_sign(question.penalties), "a"))
            cell = column * leads.total + leads.number(question.points, question.advantages)
            row = values[model.numbers[question.spot]]
            win = float(row[cell])
            answers[number] = Chance(win, float(row[cell + leads.total]) if len(sides) > 1 else 1 - win)
    return answers


def _last(model: Model) -> int:
    """The number of the last moment: of regular time, or of overtime, which is numbered on from it."""
    return model.seconds + (0 if model.overtime_seconds is None else 1 + model.overtime_seconds)


def _at(model: Model, question: Question) -> int:
    """The number of a question's moment. Raises ValueError for a state that the model does not have."""
    length = model.overtime_seconds if question.overtime else model.seconds
    if length is None or not 0 <= question.second <= length or question.spot not in model.numbers:
        raise ValueError(f"no state of the model: {question}")
    return question.second + (model.seconds + 1 if question.overtime else 0)


def _phase(model: Model, at: int) -> Phase:
    past = at - model.seconds - 1
    return model.phase(past, overtime=True) if past >= 0 else model.phase(at)


Asking = Generator[list[Question], list[Chance], Answer]
"""A computation that first says which chances it needs: it yields its questions and is sent their answers."""


def solve_together(model: Model, *askings: Asking[Any]) -> list[Any]:
    """What each of these comes to, by one recursion for all their questions."""
    asked = [next(asking) for asking in askings]
    questions = [question for part in asked for question in part]
    answers = solve(model, questions) if questions else []
    results, at = [], 0
    for asking, part in zip(askings, asked, strict=True):
        try:
            asking.send(answers[at : at + len(part)])
        except StopIteration as done:
            results.append(done.value)
        at += len(part)
    return results


def _sign(number: int) -> int:
    return (number > 0) - (number < 0)


def _may_be_level(model: Model) -> bool:
    """Whether a match may end without a winner; a decision always finds one."""
    return settled(model.ruleset.tiebreak, {}).by != "decision"


def _tally(model: Model, points: int, advantages: int, penalties: int) -> Settled:
    leads: dict[Lead, int] = {"points": points, "advantages": advantages, "penalties": penalties}
    return settled(model.ruleset.tiebreak, leads)


def plays_on(model: Model, points: int, advantages: int, penalties: int) -> bool:
    """Whether a match with these leads goes into overtime."""
    return model.overtime_seconds is not None and not _tally(model, points, advantages, penalties).lead


def won_at_time(model: Model, points: int, advantages: int, penalties: int, side: Side) -> float:
    """The chance of ``side`` with these leads of the athlete when time is up. A decision is even."""
    lead, by = _tally(model, points, advantages, penalties)
    if lead:
        return float((lead > 0) == (side == "a"))
    return 0.5 if by == "decision" else 0.0


def _at_time(model: Model, leads: _Leads, penalties: int, side: Side) -> list[float]:
    """The chance of ``side`` for each lead when the match ends by time."""
    return [won_at_time(model, points, advantages, penalties, side) for points, advantages in leads.all()]


def _into_overtime(
    model: Model, leads: _Leads, values: Any, ends: dict[tuple[int, Side], list[float]]
) -> list[list[float]]:
    """The chances for each lead when regular time is up: what its tally does not settle is played on, standing.

    ``values`` are those of the first moment of overtime, ``ends`` what each lead would be without it.
    """
    begins = values[model.numbers[model.overtime_begins]].reshape(len(ends), leads.total)
    found = []
    for ((penalties, _), end), on in zip(ends.items(), begins, strict=True):
        played_on = [plays_on(model, *lead, penalties) for lead in leads.all()]
        found.append(np.where(played_on, on, end).tolist())
    return found


def _together(model: Model, leads: _Leads, finals: Sequence[list[float]]) -> Any:
    """Chances of each lead at the end of time, for each spot: what is being held there is over as well."""
    left = [model.left_at_time(spot) for spot in model.spots]
    blocks = []
    for final in finals:
        values = np.array(final, dtype=REAL)
        after = {shift: values[leads.moved(shift)] for shift in set(left)}
        blocks.append(np.stack([after[shift] for shift in left]))
    return np.concatenate(blocks, axis=1)


class _Step:
    """One second of the process. Values are a row a spot, and in each row all leads, for each column asked for.

    A sparse matrix sums up for each spot, and each shift of the leads that it can bring,
    what can follow; those sums are then shifted and put together.
    """

    def __init__(self, model: Model, leads: _Leads, phase: Phase) -> None:
        self._mercy = _mercy(model, leads)
        size = len(model.spots)
        self._ends = {side: np.zeros((size, 1), dtype=REAL) for side in SIDES}
        self._total = leads.total
        sums = {(number, Shift()): number for number in range(size)}
        shares: dict[tuple[int, int], float] = defaultdict(float)
        for number, spot in enumerate(model.spots):
            for branch in model.branches(spot, phase):
                if branch.spot is None:
                    self._ends[branch.winner or "a"][number] += branch.probability
                else:
                    row = sums.setdefault((number, branch.shift), len(sums))
                    shares[row, model.numbers[branch.spot]] += branch.probability
        self._shares = _sparse(shares, (len(sums), size))
        shifted = list(sums)[size:]
        self._leads = np.stack([leads.moved(shift) for _, shift in shifted]) if shifted else np.zeros((0, leads.total))
        self._together = _sparse({(number, at): 1.0 for at, (number, _) in enumerate(shifted)}, (size, len(shifted)))
        self._cells: dict[int, Any] = {}

    def back(self, values: Any, columns: Sequence[tuple[int, Side]]) -> Any:
        """The chances a second earlier."""
        sums = self._shares @ values
        size = len(values)
        before = sums[:size]
        before += self._together @ sums[size:].ravel().take(self._gather(len(columns)), mode="clip")
        for number, (_, side) in enumerate(columns):
            block = before[:, number * self._total : (number + 1) * self._total]
            block += self._ends[side]
            for winner, cells in self._mercy.items():
                block[:, cells] = winner == side
        return before

    def _gather(self, columns: int) -> Any:
        """Where each cell of the shifted sums comes from, for so many columns."""
        if columns not in self._cells:
            begins = np.arange(columns, dtype=np.int64) * self._total
            within = (begins[None, :, None] + self._leads[:, None, :]).reshape(len(self._leads), columns * self._total)
            rows = np.arange(len(self._leads), dtype=np.int64)[:, None] * (columns * self._total)
            self._cells[columns] = rows + within.astype(np.int64)
        return self._cells[columns]


def _sparse(cells: dict[tuple[int, int], float], shape: tuple[int, int]) -> Any:
    rows, columns = [row for row, _ in cells], [column for _, column in cells]
    return sparse.csr_array((np.array(list(cells.values()), dtype=REAL), (rows, columns)), shape=shape)


def _mercy(model: Model, leads: _Leads) -> dict[Side, Any]:
    """The numbers of the leads by which each side has won at once."""
    enough = model.ruleset.mercy
    if not 0 < enough <= leads.points:
        return {}
    numbered = list(enumerate(points for points, _ in leads.all()))
    won: dict[Side, list[int]] = {
        "a": [number for number, points in numbered if points >= enough],
        "b": [number for number, points in numbered if points <= -enough],
    }
    return {side: np.array(cells) for side, cells in won.items()}
