"""What of a plan was tried: the moves and techniques that it names, with what came of each."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from typing import Any, NamedTuple

from ..match_log.observations import Pull
from ..techniques import find, lineage, named_in, within_sentence
from ..times import Millis, to_seconds
from ..vocabulary import phrases
from .seen import Seen
from .tries import LEAD, MOVES, Move, Try, tries_of

WORDS: dict[str, Move] = {
    "takedown": "takedown", "takedowns": "takedown", "sweep": "sweep", "sweeps": "sweep", "pass": "guard_pass",
    "passes": "guard_pass", "passing": "guard_pass", "escape": "escape", "submission": "submission",
}  # fmt: skip
"""Words of a plan that name a move without saying which technique."""
PULLS = frozenset(("pull", "pulls", "pulling"))


class Tried(NamedTuple):
    """A try at what was planned: when, whether it came off, and the footage that shows it."""

    clock: Millis
    done: bool
    start: Millis
    end: Millis

    def as_json(self) -> dict[str, Any]:
        shown = {name: to_seconds(ms) for name, ms in self._asdict().items() if name != "done"}
        return {**shown, "done": self.done}


class Planned(NamedTuple):
    """One thing that a plan names, and the tries at it in order of time; none where it was never tried."""

    what: str
    tries: tuple[Tried, ...]

    def as_json(self) -> dict[str, Any]:
        return {"what": self.what, "tries": [one.as_json() for one in self.tries]}


def planned(seen: Seen, plan: str) -> list[Planned]:
    """What a plan names, as it went; empty where it names nothing that a log shows."""
    return [*_named(seen, plan)]


def _named(seen: Seen, plan: str) -> Iterator[Planned]:
    own = [one for one in tries_of(seen) if one.by == seen.side]
    words = {word.strip(".,;:!?()").casefold() for word in plan.split()}
    ids = {found.id: found for form in named_in(plan) if (found := find(form)) is not None}
    parents = {parent.id for found in ids.values() for parent in lineage(found)[1:]}
    for technique in ids.values():
        if technique.id not in parents:  # which a longer name in the plan says more exactly
            yield _of(within_sentence(technique.id), (one for one in own if _is(one, technique.id)))
    moves = {move for word in words if (move := WORDS.get(word)) is not None}
    for move in (one for one in MOVES if one in moves):
        yield _of(phrases("moves").get(move, move), (one for one in own if one.move == move))
    if words & PULLS:
        yield Planned("guard pull", tuple(_pulls(seen)))


def _of(what: str, tries: Iterable[Try]) -> Planned:
    return Planned(what, tuple(Tried(one.clock, one.done, one.start, one.end) for one in tries))


def _is(one: Try, technique: str) -> bool:
    found = None if one.technique is None else find(one.technique)
    return found is not None and technique in {each.id for each in lineage(found)}


def _pulls(seen: Seen) -> Iterator[Tried]:
    for pull in seen.of(Pull):
        if pull.by in (seen.side, "both"):
            yield Tried(seen.clock(pull.t), not pull.caught, max(0, pull.t - LEAD), pull.t + LEAD)
