"""What mattered most: the chains in the order in which a coach goes through them, and how many are shown first."""

from __future__ import annotations

from collections import Counter
from collections.abc import Mapping, Sequence
from typing import NamedTuple

from .cost import Swing, otherwise_json, undone
from .errors import Error, marks_of
from .roots import Chain
from .seen import Seen

MOST_FIRST, LEAST_FIRST = 5, 3
WORTH_TELLING = 0.03
"""A chain that cost less of the chance is shown first only where there are not enough others."""
SAID_BY_COACH = 0.05
"""What the coach marked, and what is not allowed, weighs so much more than it cost."""
OF_SAFETY = "illegal"


class Weight(NamedTuple):
    """What would have been different without a chain, the weightier first."""

    result: bool
    """Whether the result would have been better."""
    lost: float
    """How much of the chance it cost, and what the coach said of it."""
    sheet: float
    """Points, and advantages as tenths of a point."""
    since: float
    """Of two that weigh the same the earlier comes first."""


def ordered(
    seen: Seen, errors: Sequence[Error], chains: Sequence[Chain], swings: Mapping[str, Swing]
) -> tuple[list[Chain], int]:
    """The chains, what mattered most first, and how many of them a coach would name first: three to five."""
    by_key = {error.key: error for error in errors}
    weights = {chain.root: weight(seen, [by_key[key] for key in chain.members], swings) for chain in chains}
    found = sorted(chains, key=lambda chain: weights[chain.root], reverse=True)
    telling = sum(weights[chain.root].result or weights[chain.root].lost >= WORTH_TELLING for chain in found)
    return found, min(len(found), MOST_FIRST, max(LEAST_FIRST, telling))


def weight(seen: Seen, members: Sequence[Error], swings: Mapping[str, Swing]) -> Weight:
    """What the errors of one chain weigh together."""
    other = otherwise_json(seen, undone(seen, members))
    lost = sum(swings[error.key].lost for error in members if error.key in swings)
    if any(error.kind == OF_SAFETY or marks_of(seen, error.found) for error in members):
        lost += SAID_BY_COACH
    sheet = sum(error.found.loss.points + error.found.loss.advantages / 10 for error in members)
    return Weight(bool(other and other["better"]), lost, sheet, -members[0].found.since)


def times_of(errors: Sequence[Error]) -> dict[str, int]:
    """How often each error happened in the match, by its key: those of one kind about the same thing count together."""
    about = {error.key: (error.kind, *(str(error.found.facts.get(name, "")) for name in _ABOUT)) for error in errors}
    counted: Counter[tuple[str, ...]] = Counter()
    for error in errors:
        counted[about[error.key]] += int(str(error.found.facts.get("times", 1)))
    return {key: counted[what] for key, what in about.items()}


_ABOUT = ("what", "technique", "move", "claim", "grip", "foul", "from", "place")
"""The facts that say what an error is about."""
