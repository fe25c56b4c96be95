"""The model played out at random, many matches at once: what the recursion is checked against.

It keeps each match's score as it is, without bounds, and knows nothing of the recursion.
"""

from __future__ import annotations

from typing import Any

import numpy as np

from ..match_log.observations import SIDES
from .recursion import Question, won_at_time
from .spots import Model


def play(model: Model, start: Question, matches: int, random: np.random.Generator) -> tuple[Any, Any]:
    """Play ``matches`` from ``start`` to the end.

    What each gave the athlete, and what the opponent: 1, 0, or ½ for a decision.
    """
    tables = {points_open: _Tables(model, points_open) for points_open in model.bands}
    spot = np.full(matches, model.numbers[start.spot])
    points, advantages = np.full(matches, start.points), np.full(matches, start.advantages)
    winner = np.zeros(matches, dtype=int)
    for second in range(start.second, model.seconds):
        table = tables[model.open(second)]
        going = np.flatnonzero(winner == 0)
        chosen = table.choose(spot[going], random.random(len(going)))
        points[going] += table.points[spot[going], chosen]
        advantages[going] += table.advantages[spot[going], chosen]
        winner[going] = table.winner[spot[going], chosen]
        spot[going] = table.spot[spot[going], chosen]
    left = np.array([model.left_at_time(one) for one in model.spots])
    points, advantages = points + left[spot, 0], advantages + left[spot, 1]
    given = {}
    for side in SIDES:
        by_lead = {
            lead: won_at_time(model, int(lead[0]), int(lead[1]), start.penalties, side)
            for lead in set(zip(points.tolist(), advantages.tolist(), strict=True))
        }
        at_time = np.array([by_lead[lead] for lead in zip(points.tolist(), advantages.tolist(), strict=True)])
        given[side] = np.where(winner == 0, at_time, winner == (1 if side == "a" else -1))
    return given["a"], given["b"]


class _Tables:
    """What each spot's second can bring, as arrays with one row a spot."""

    def __init__(self, model: Model, points_open: bool) -> None:
        rows = [model.branches(spot, points_open) for spot in model.spots]
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
