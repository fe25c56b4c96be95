"""What mattered most: the chains in the order in which a coach goes through them, and how many are shown first."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import NamedTuple

from ..adjudication.places import CONTROL, Place
from ..match_log.observations import Submission
from ..times import Millis
from .cost import Swing, otherwise_json, undone
from .errors import Error, marks_of
from .patterns import Pattern
from .roots import Chain
from .seen import Seen
from .why import LASTING, STEPS, mechanisms

MOST_FIRST, LEAST_FIRST = 5, 1
WORTH_TELLING = 0.04
"""A lesson that weighs less is not among the first, unless there is no other."""
SAID_BY_COACH = 0.05
"""What the coach marked, and what is not allowed, weighs so much more than it cost."""
ANOTHER_RESULT = 0.1
"""What would have brought another result weighs so much more than it cost."""
UNEXPLAINED = 0.4
"""Of what a step of the other side cost where the log shows nothing that brought it about: there is less to learn."""
IDLE_MINUTE = 0.1
"""A minute in which a grip was left on or nothing was tried weighs so much, whatever came of it."""
EACH_MORE = 0.02
"""For each further error that came of the first."""
LONG_GRIP: Millis = 45_000
"""A grip that was on for so long weighs something even where nothing came of it."""
BY_RULE = frozenset(("illegal", "penalty", "paid_pull"))
"""What is against the rules, or costs something by them."""
ENDED = frozenset(("submitted",))
ENDED_IT = 0.5
"""What ended the match weighs so much more than it cost: it is what the athlete remembers."""
NEARLY_ENDED = ENDED_IT / 2
"""A finish that was close weighs half of one where no row of the sheet shows it."""


class Weight(NamedTuple):
    """How much a chain matters, the weightier first."""

    lost: float
    """How much of the chance it cost, and what else makes a lesson of it."""
    sheet: float
    """Points, and advantages as tenths of a point."""
    since: float
    """Of two that weigh the same the earlier comes first."""


class Lesson(NamedTuple):
    """What a coach speaks of at one go: chains in which the same happened, the weightiest first."""

    chains: tuple[Chain, ...]

    @property
    def errors(self) -> tuple[str, ...]:
        """The keys of all its errors."""
        return tuple(key for chain in self.chains for key in chain.members)


class Ordered(NamedTuple):
    """The lessons of a match, what mattered most first, and how many of them a coach would name first."""

    lessons: list[Lesson]
    first: int


def ordered(
    seen: Seen,
    errors: Sequence[Error],
    chains: Sequence[Chain],
    swings: Mapping[str, Swing],
    patterns: Sequence[Pattern] = (),
) -> Ordered:
    """The chains as lessons. What happened several times is one lesson, unless it was the matter of single moments."""
    by_key = {error.key: error for error in errors}
    weights = {chain.root: weight(seen, [by_key[key] for key in chain.members], swings) for chain in chains}
    lessons = [
        Lesson(tuple(sorted(together, key=lambda chain: weights[chain.root], reverse=True)))
        for together in _alike(chains, patterns)
    ]
    heavy = {id(lesson): _sum([weights[chain.root] for chain in lesson.chains]) for lesson in lessons}
    lessons.sort(key=lambda lesson: heavy[id(lesson)], reverse=True)
    telling = sum(heavy[id(lesson)].lost >= WORTH_TELLING for lesson in lessons)
    return Ordered(lessons, min(len(lessons), MOST_FIRST, max(LEAST_FIRST, telling)))


def _alike(chains: Sequence[Chain], patterns: Sequence[Pattern]) -> list[list[Chain]]:
    """The chains gathered by what happened in them, through the patterns that say that it was the same."""
    groups = [[chain] for chain in chains]
    for pattern in patterns:
        if not pattern.same:
            continue
        met = [group for group in groups if any(set(chain.members) & set(pattern.errors) for chain in group)]
        if len(met) > 1:
            groups = [group for group in groups if group not in met] + [[chain for group in met for chain in group]]
    return groups


def _sum(weights: Sequence[Weight]) -> Weight:
    return Weight(
        sum(one.lost for one in weights), sum(one.sheet for one in weights), max(one.since for one in weights)
    )


def weight(seen: Seen, members: Sequence[Error], swings: Mapping[str, Swing]) -> Weight:
    """What the errors of one chain weigh together."""
    won = seen.verdict.result.winner == seen.side
    other = None if won else otherwise_json(seen, undone(seen, members))
    lost = sum(_lost(seen, error, swings) for error in members)
    if other and other["better"]:
        lost += ANOTHER_RESULT
    if any(error.kind in BY_RULE or marks_of(seen, error.found) for error in members):
        lost += SAID_BY_COACH
    if any(error.kind in ENDED for error in members) and seen.verdict.result.winner == seen.other:
        lost += ENDED_IT
    if any(_nearly_ended(seen, error) for error in members):
        lost += NEARLY_ENDED
    idle = max((error.found.t - error.found.since for error in members if _matters(error, members)), default=0)
    lost += IDLE_MINUTE * idle / 60_000 + EACH_MORE * (len(members) - 1)
    sheet = sum(error.found.loss.points + error.found.loss.advantages / 10 for error in members)
    return Weight(lost, sheet, -members[0].found.since)


def _nearly_ended(seen: Seen, error: Error) -> bool:
    """Whether the other side came close to a finish from where an error had led, and no row was paid for it."""
    at = error.found.happened
    if error.kind not in STEPS or not _under(seen, seen.place_at(at)):
        return False
    out = next((one.t for one in seen.changes if one.t > at and not _under(seen, one.after)), seen.over)
    holds = (one for one in seen.between(Submission, at, out, seen.other) if one.threat == "close")
    return any(not seen.rows_at(one.until) for one in holds)


def _under(seen: Seen, place: Place) -> bool:
    return place.top == seen.other and place.position in CONTROL


def _matters(error: Error, members: Sequence[Error]) -> bool:
    """Whether a stretch weighs by its length: of a grip only where something came of it, or it was on for very long."""
    if error.kind != "grip_unbroken":
        return error.kind in LASTING
    return len(members) > 1 or error.found.t - error.found.since >= LONG_GRIP


def _lost(seen: Seen, error: Error, swings: Mapping[str, Swing]) -> float:
    lost = swings[error.key].lost if error.key in swings else 0.0
    return lost if _explained(seen, error) else UNEXPLAINED * lost


def _explained(seen: Seen, error: Error) -> bool:
    return bool(error.kind not in STEPS or marks_of(seen, error.found) or mechanisms(seen, error.found))
