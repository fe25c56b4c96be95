"""Whether the chances come true: predicted against happened, in matches that the model had not learned from."""

from __future__ import annotations

import hashlib
from collections import defaultdict
from collections.abc import Iterator, Mapping, Sequence
from typing import Any, NamedTuple

from ..chance import Asking, Model, Rates, solve_together, timeline
from ..lessons import Group, Lesson, added, fitted
from ..review import Seen, model_of
from .certainty import Share, share
from .words import share_json

FOLDS = 5
BINS = 5
LEAST_MATCHES = 10
"""With fewer matches that are over nothing can be said."""


class Trial(NamedTuple):
    """A match that is over: its name, what it taught, and the side of the athlete. A draw counts as half a win."""

    name: str
    group: Group
    lesson: Lesson
    seen: Seen

    @property
    def won(self) -> float | None:
        """1 for a win, 0 for a loss, half for a draw; None where it has no end."""
        result = self.seen.verdict.result
        if result.method == "unfinished":
            return None
        return 0.5 if result.winner is None else float(result.winner == self.seen.side)


class Predicted(NamedTuple):
    chance: float
    won: float


class Bin(NamedTuple):
    """The matches of which about the same was predicted: between what, what on average, and how many were won."""

    low: float
    high: float
    predicted: float
    won: Share


class Calibration(NamedTuple):
    """How far predictions come true. ``score`` is Brier's: the mean square of what they were off by, 0 at best.

    ``usual`` is the score of who always says how many matches are won in all.
    """

    matches: int
    bins: tuple[Bin, ...]
    score: float
    usual: float


def predictions(trials: Sequence[Trial]) -> Iterator[list[Predicted]]:
    """The chance of winning at one moment of each match, by what all other parts of the matches teach, part by part.

    A match is asked of once, at a minute that its name decides: moments of the same match would come true together.
    """
    over = [one for one in trials if one.won is not None and one.lesson]
    parts: dict[int, list[Trial]] = defaultdict(list)
    for one in over:
        parts[_number(one.name, FOLDS)].append(one)
    for number in range(FOLDS):
        lessons: dict[Group, Lesson] = defaultdict(dict)
        for other, held in parts.items():
            if other != number:
                for one in held:
                    lessons[one.group] = added(lessons[one.group], one.lesson)
        yield list(_predicted(parts[number], lessons))


def _predicted(trials: Sequence[Trial], lessons: Mapping[Group, Lesson]) -> Iterator[Predicted]:
    rates: dict[Group, Rates] = {}
    together: dict[Any, list[tuple[Trial, Model]]] = defaultdict(list)
    for one in trials:
        if one.group not in rates:
            rates[one.group] = fitted(lessons, one.group).rates
        model = model_of(one.seen, rates[one.group])
        if model is not None:
            together[repr(model.ruleset), model.seconds, one.group].append((one, model))
    for rows in together.values():
        answers = solve_together(rows[0][1], *(_asked(one, rows[0][1]) for one, _ in rows))
        for (one, _), chance in zip(rows, answers, strict=True):
            if chance is not None and one.won is not None:
                yield Predicted(chance, one.won)


def _asked(one: Trial, model: Model) -> Asking[float | None]:
    """The chance of the athlete at one moment of a match, in which nothing was decided yet; a draw is half a win."""
    moments = timeline(one.seen.verdict)[:-1]
    if not moments:
        yield []
        return None
    moment = moments[_number(f"{one.name} moment", len(moments))]
    answers = yield [moment.question(model)]
    chance = one.seen.own(answers[0])
    return (1 + chance.win - chance.lose) / 2


def _number(name: str, below: int) -> int:
    """A number that a name decides, the same each time."""
    return int.from_bytes(hashlib.sha256(name.encode()).digest()[:8]) % below


def calibrated(predicted: Sequence[Predicted]) -> Calibration | None:
    """What became of predictions; None of too few."""
    if len(predicted) < LEAST_MATCHES:
        return None
    usual = sum(one.won for one in predicted) / len(predicted)
    bins = []
    for number in range(BINS):
        low, high = number / BINS, (number + 1) / BINS
        rows = [one for one in predicted if low <= one.chance < high or (number == BINS - 1 and one.chance == 1)]
        decided = [one for one in rows if one.won != 0.5]
        if rows:
            mean = sum(one.chance for one in rows) / len(rows)
            bins.append(Bin(low, high, mean, share(sum(one.won == 1 for one in decided), len(decided))))
    return Calibration(
        len(predicted), tuple(bins), _off([one.chance for one in predicted], predicted),
        _off([usual] * len(predicted), predicted),
    )  # fmt: skip


def _off(said: Sequence[float], predicted: Sequence[Predicted]) -> float:
    return sum((chance - one.won) ** 2 for chance, one in zip(said, predicted, strict=True)) / len(predicted)


def as_json(found: Calibration | None) -> dict[str, Any] | None:
    if found is None:
        return None
    return {
        "matches": found.matches,
        "score": round(found.score, 4),
        "usual": round(found.usual, 4),
        "bins": [
            {"low": one.low, "high": one.high, "predicted": round(one.predicted, 4), "won": share_json(one.won)}
            for one in found.bins
        ],
    }
