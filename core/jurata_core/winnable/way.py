"""One way to win or level: its steps, what it scores, and until when it can be begun."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any, Literal, NamedTuple

from ..adjudication.places import Place
from ..adjudication.sentences import amount
from ..match_log.observations import Tally
from ..times import Millis, to_seconds

Aim = Literal["wins", "levels"]
"""What a way is enough for."""


class Score(NamedTuple):
    """Something scored on a way, and what it changes in the side's lead; ``own`` where it is on the side's sheet."""

    what: str
    tally: Tally
    n: int
    own: bool = True

    @property
    def scorer(self) -> int:
        """1 where the side scored, -1 where the other did, 0 where somebody was charged."""
        gained = self.n if self.own else -self.n
        return 0 if gained < 0 else 1 if self.own else -1

    def as_json(self) -> dict[str, Any]:
        return {"what": self.what, "tally": self.tally, "n": self.n}


class Step(NamedTuple):
    """One step of a way: after so much running clock something is done.

    ``does`` is a place to come to, a close submission, or ``wait`` until what is held is paid; ``time`` is to hold on
    to it as time runs out.
    """

    takes: Millis
    does: Place | Literal["close", "wait", "time"]
    said: str


@dataclass(frozen=True, slots=True)
class Way:
    """One way: what is done, what it pays, and how long it takes at the least."""

    outcome: Aim
    steps: tuple[Step, ...]
    scores: tuple[Score, ...]
    wait: Millis
    """How long it is until points are open, when the first step begins."""
    takes: Millis
    """Of running clock, and from when points are open."""
    closes: Millis
    """The match clock after which it is too late to begin."""
    possible: bool
    """Whether the time that is left is enough."""

    @property
    def said(self) -> str:
        return ", ".join(step.said for step in self.steps if step.said) or "hold on"

    @property
    def takes_a_move(self) -> bool:
        """Whether there is more to do than to hold on."""
        return any(step.said for step in self.steps)

    def as_json(self) -> dict[str, Any]:
        return {
            "outcome": self.outcome,
            "said": self.said,
            "scores": [score.as_json() for score in self.scores],
            "worth": _worth(self.scores),
            "takes": to_seconds(self.takes),
            "closes": to_seconds(self.closes),
            "possible": self.possible,
        }


def _worth(scores: tuple[Score, ...]) -> str:
    """What the side gets on the sheet, and in brackets what the other one gets meanwhile."""
    own = " and ".join(_sums(score for score in scores if score.own))
    other = " and ".join(_sums(score._replace(n=-score.n) for score in scores if not score.own))
    return f"{own} (the opponent gets {other})" if other else own


def _sums(scores: Iterable[Score]) -> list[str]:
    found: dict[Tally, int] = {}
    for score in scores:
        found[score.tally] = found.get(score.tally, 0) + score.n
    return [amount(n, tally) for tally, n in found.items() if n]
