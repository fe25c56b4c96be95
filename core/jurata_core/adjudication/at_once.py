"""What a step scores at once, beyond the claims that it opens: one rule for each such thing, with all its words.

To add one: a ruleset setting, if it depends on one, and a row in ``AT_ONCE``. The verdict, the outlook of the desk,
the ways to win, the chance of winning, what-if, the rulebook page and the briefing follow from the row.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from typing import Literal, NamedTuple

from ..match_log.observations import Side, Tally
from ..rulesets import Ruleset
from .control import Control
from .places import PLACE_OF, Place

When = Literal["pull", "change"]
"""The steps that a rule looks at: sitting to guard, or coming to another position."""


class Step(NamedTuple):
    """A change of position, or a pull by ``pullers``: where it comes from, and who is where after it."""

    ruleset: Ruleset
    origin: Place
    after: Control
    pullers: tuple[Side, ...]
    points_open: bool
    attack: bool
    """Of a pull, whether it went straight into a submission."""


class Gain(NamedTuple):
    """``n`` of a tally to a side, by the rule with this code; below zero where it costs."""

    to: Side
    tally: Tally
    n: int
    code: str


@dataclass(frozen=True, slots=True)
class AtOnceRule:
    """A rule that scores at once.

    ``applies`` says whether a ruleset has it. ``sentence`` is the reason in the ledger, with the facts ``to``, ``n``
    and ``kind``. ``said`` is the rule itself for the rulebook and ``plainly`` for a child, of a ruleset that has it;
    ``missing`` says why another ruleset does not give it.
    """

    code: str
    when: When
    applies: Callable[[Ruleset], bool]
    gains: Callable[[Step], Iterable[Gain]]
    sentence: str
    topic: str
    said: Callable[[Ruleset], str]
    plainly: Callable[[Ruleset], str]
    missing: Callable[[Ruleset], str]


def _pull_costs(step: Step) -> Iterable[Gain]:
    if step.attack or not step.points_open:
        return ()
    return [Gain(side, "points", -step.ruleset.pull_cost, "pull_cost") for side in step.pullers]


def _pull_price(ruleset: Ruleset) -> str:
    return f"{ruleset.pull_cost} point{'s' if ruleset.pull_cost > 1 else ''}"


PULL_COST = AtOnceRule(
    code="pull_cost",
    when="pull",
    applies=lambda ruleset: ruleset.pull_cost > 0,
    gains=_pull_costs,
    sentence="{to:Who} pulled guard after points had started: {n:award}.",
    topic="Pulling guard",
    said=lambda ruleset: f"Costs {_pull_price(ruleset)} once points have started, except straight into a submission.",
    plainly=lambda ruleset: f"Sitting down to guard costs you {_pull_price(ruleset)}.",
    missing=lambda ruleset: (
        f"Under {ruleset.title} pulling guard costs nothing{' before points start' if ruleset.pull_cost else ''}."
    ),
)


def _turtle_escape(step: Step) -> Iterable[Gain]:
    place = step.after.place
    if not step.points_open:
        return ()
    if place.position != "turtle" or place.top is None or step.origin != PLACE_OF["guard", place.top]:
        return ()
    return [Gain(place.top, "advantages", 1, "turtle_escape")]


TURTLE_ESCAPE = AtOnceRule(
    code="turtle_escape",
    when="change",
    applies=lambda ruleset: ruleset.turtle_escape == "advantage" and ruleset.advantages,
    gains=_turtle_escape,
    sentence="{to:Who} forced a turn from guard to turtle: advantage.",
    topic="Turtle",
    said=lambda ruleset: "Turning from guard to turtle gives the opponent an advantage.",
    plainly=lambda ruleset: "Turning to turtle to avoid being passed gives your opponent an advantage.",
    missing=lambda ruleset: f"Under {ruleset.title} turning from guard to turtle gives nothing.",
)

AT_ONCE: list[AtOnceRule] = [PULL_COST, TURTLE_ESCAPE]


def rules_of(ruleset: Ruleset) -> list[AtOnceRule]:
    """The rules that a ruleset has."""
    return [rule for rule in AT_ONCE if rule.applies(ruleset)]


def rule_of(code: str) -> AtOnceRule:
    """The rule with a code. Raises StopIteration for a code that no rule has."""
    return next(rule for rule in AT_ONCE if rule.code == code)
