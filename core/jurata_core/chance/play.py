"""The model played out at random, many matches at once: what the recursion is checked against.

It keeps each match's score as it is, without bounds, and knows nothing of the recursion.
"""

from __future__ import annotations

from typing import Any

import numpy as np

from ..match_log.observations import SIDES
from .recursion import Question, plays_on, won_at_time
from .spots import Model, Phase


def play(model: Model, start: Question, matches: int, random: np.random.Generator) -> tuple[Any, Any]:
    """Play ``matches`` from ``start`` to the end.

    What each gave the athlete, and what the opponent: 1, 0, or ½ for a decision.
    """
    tables = {phase: _Tables(model, phase) for phase in model.phases}
    left = np.array([model.left_at_time(one) for one in model.spots])
    spot = np.full(matches, model.numbers[start.spot])
    points, advantages = np.full(matches, start.points), np.full(matches, start.advantages)
    winner, over = np.zeros(matches, dtype=int), np.zeros(matches, dtype=bool)

    def go_on(phase: Phase) -> None:
        table = tables[phase]
        going = np.flatnonzero(~over & (winner == 0))
        chosen = table.choose(spot[going], random.random(len(going)))
        points[going] += table.points[spot[going], chosen]
        advantages[going] += table.advantages[spot[going], chosen]
        winner[going] = table.winner[spot[going], chosen]
        spot[going] = table.spot[spot[going], chosen]
        if model.ruleset.mercy:
            won = going[np.abs(points[going]) >= model.ruleset.mercy]
            winner[won] = np.sign(points[won])

    def run_out() -> None:
        nonlocal points, advantages
        last = (~over).astype(int)
        points, advantages = points + last * left[spot, 0], advantages + last * left[spot, 1]

    if not start.overtime:
        for second in range(start.second, model.seconds):
            go_on(model.phase(second))
        run_out()
        on = {lead: plays_on(model, *lead, start.penalties) for lead in _leads(points, advantages)}
        over = np.array([not on[lead] for lead in zip(points.tolist(), advantages.tolist(), strict=True)])
        spot[~over] = model.numbers[model.overtime_begins]
    if model.overtime_seconds is not None:
        for _ in range(start.second if start.overtime else 0, model.overtime_seconds):
            go_on("overtime")
        run_out()
    given = {}
    for side in SIDES:
        by_lead = {lead: won_at_time(model, *lead, start.penalties, side) for lead in _leads(points, advantages)}
        at_time = np.array([by_lead[lead] for lead in zip(points.tolist(), advantages.tolist(), strict=True)])
        given[side] = np.where(winner == 0, at_time, winner == (1 if side == "a" else -1))
    return given["a"], given["b"]


def _leads(points: Any, advantages: Any) -> set[tuple[int, int]]:
    return set(zip(points.tolist(), advantages.tolist(), strict=True))


class _Tables:
    """What each spot's second can bring, as arrays with one row a spot."""

    def __init__(self, model: Model, phase: Phase) -> None:
        rows = [model.branches(spot, phase) for spot in model.spots]
        width = max(len(row) for row in rows)
        shape = (len(rows), width)
        self.bounds = np.ones(shape)
        self.spot, self.points, self.advantages, self.winner = (np.zeros(shape, dtype=int) for _ in range(4))
        for number, row in enumerate(rows):
            self.bounds[number, : len(row)] = np.cumsum([branch.probability for branch in row])
            self.bounds[number, len(row) - 1 :] = 1.0
            for column, branch in enumerate(row):
                self.spot[number, column] = number if branch.spot is None else model.numbers[branch.spot]
                self.points[number, column] = branch.shift.points
                self.advantages[number, column] = branch.shift.advantages
                self.winner[number, column] = {"a": 1, "b": -1, None: 0}[branch.winner]

    def choose(self, spots: Any, numbers: Any) -> Any:
        """The branch of each, by a random number between 0 and 1."""
        return (self.bounds[spots] <= numbers[:, None]).sum(axis=1)
