"""How sure the chance of winning is: its range when the rates that it comes from are drawn again and again."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any, NamedTuple

import numpy as np

from ..chance import draw, solve_together
from ..chance.rates import Rates
from ..chance.rates import Seen as Counted
from .cost import model_of, swings
from .errors import Error
from .prospects import Prospects, chances_of
from .seen import Seen

DRAWS = 8
"""How many times the rates are drawn."""
WITHIN = 1.28
"""Standard deviations on either side that hold four fifths of a normal distribution."""


class Spread(NamedTuple):
    """The range of four cases in five: of the chance at each moment, and of what each error cost of it.

    ``lost`` has the low and the high of each error of which that is known, by its key; all are from 0 to 1.
    """

    low: list[float]
    high: list[float]
    lost: dict[str, tuple[float, float]]


NO_SPREAD = Spread([], [], {})


def spread(seen: Seen, errors: Sequence[Error], outlook: Prospects, counted: Counted, before: Rates | None) -> Spread:
    """The spread of an outlook on a match, by what the rates were counted from. A match has the same each time."""
    if not outlook.moments:
        return NO_SPREAD
    random = np.random.default_rng(1)
    rows, lost = [], []
    for _ in range(DRAWS):
        model = model_of(seen, draw(counted, random, before))
        assert model is not None  # there is an outlook, so the match is not too long
        chances, swung = solve_together(model, chances_of(outlook.moments, model, seen), swings(seen, errors, model))
        rows.append([chance.win for chance in chances])
        lost.append([0.0 if swing is None else swing.lost for swing in swung])
    low, high = _within(np.array(rows))
    least, most = _within(np.array(lost))
    known_of = [number for number, swing in enumerate(outlook.swings) if swing is not None]
    return Spread(low, high, {errors[number].key: (least[number], most[number]) for number in known_of})


def _within(rows: Any) -> tuple[list[float], list[float]]:
    """The low and the high of some draws of each chance: they are taken as normal in their logits."""
    sure = np.clip(rows, 1e-4, 1 - 1e-4)
    logits = np.log(sure / (1 - sure))
    middle, width = logits.mean(axis=0), WITHIN * logits.std(axis=0, ddof=1)
    low, high = (1 / (1 + np.exp(-(middle + sign * width))) for sign in (-1, 1))
    return [round(float(one), 4) for one in low], [round(float(one), 4) for one in high]
