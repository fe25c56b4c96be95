"""What a step pays at once, beyond the claims that it opens: one rule for each such thing, with all its words.

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

When = Literal["pull", "change"]
"""The steps that a rule looks at: sitting to guard, or coming to another position."""


class Step(NamedTuple):
    """A change of position, or a pull by ``pullers``: who was where before it, and after."""

    ruleset: Ruleset
    before: Control
    after: Control
    pullers: tuple[Side, ...]
    points_open: bool


class Gain(NamedTuple):
    """``n`` of a tally to a side, by the rule with this code; below zero where it costs."""

    to: Side
    tally: Tally
    n: int
    code: str


@dataclass(frozen=True, slots=True)
class AtOnceRule:
    """A rule that pays at once.

    ``sentence`` is the reason in the ledger, with the facts ``to``, ``n`` and ``kind``. ``said`` is the rule itself
    for the rulebook and ``plainly`` for a child; both are empty under a ruleset that has no such rule. ``missing``
    says why another ruleset does not give it.
    """

    code: str
    when: When
    gains: Callable[[Step], Iterable[Gain]]
    sentence: str
    topic: str
    said: Callable[[Ruleset], str]
    plainly: Callable[[Ruleset], str]
    missing: Callable[[Ruleset], str]


def _pull_costs(step: Step) -> Iterable[Gain]:
    cost = step.ruleset.pull_cost
    if not (cost and step.points_open):
        return ()
    return [Gain(side, "points", -cost, "pull_cost") for side in step.pullers]


def _pull_price(ruleset: Ruleset) -> str:
    return f"{ruleset.pull_cost} point{'s' if ruleset.pull_cost > 1 else ''}"


PULL_COST = AtOnceRule(
    code="pull_cost",
    when="pull",
    gains=_pull_costs,
    sentence="{to:Who} pulled guard while points were open: {n:award}.",
    topic="Pulling guard",
    said=lambda ruleset: f"Costs {_pull_price(ruleset)} once points are open." if ruleset.pull_cost else "",
    plainly=lambda ruleset: f"Sitting down to guard costs you {_pull_price(ruleset)}." if ruleset.pull_cost else "",
    missing=lambda ruleset: (
        f"Under {ruleset.title} a pull costs nothing{' before points open' if ruleset.pull_cost else ''}."
    ),
)

AT_ONCE: list[AtOnceRule] = [PULL_COST]


def rule_of(code: str) -> AtOnceRule:
    """The rule with a code. Raises StopIteration for a code that no rule has."""
    return next(rule for rule in AT_ONCE if rule.code == code)
