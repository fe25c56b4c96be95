"""Lessons of one match that come back: errors that have the same in common, whatever each of them cost."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import Any, NamedTuple

from ..adjudication.sentences import CLAIMS, FOULS, PLACES
from ..match_log.observations import Submission
from .errors import Error, marks_of
from .kinds import kinds
from .seen import Seen
from .tries import detail_before
from .why import STEPS, mechanisms


class Pattern(NamedTuple):
    """The same lesson several times: in words what is shared, its errors, by their keys in order of time, and how many
    moments they are. ``same`` is whether the same happened, and not only by the same means."""

    said: str
    errors: tuple[str, ...]
    times: int
    same: bool

    def as_json(self) -> dict[str, Any]:
        return {"said": self.said, "errors": list(self.errors), "times": self.times}


def patterns(seen: Seen, errors: Sequence[Error]) -> list[Pattern]:
    """What came back in a match, what happened most often first.

    An error can be part of several. Of two with the same errors the one that says more stands.
    """
    shared: dict[tuple[str, bool], list[Error]] = {}
    for error in errors:
        by_means, same = dict.fromkeys(_by_means(seen, error)), dict.fromkeys(_same_kind(seen, error))
        for lesson in (*((said, False) for said in by_means), *((said, True) for said in same)):
            shared.setdefault(lesson, []).append(error)
    found: dict[tuple[str, ...], Pattern] = {}
    for (said, alike), together in shared.items():
        keys, times = tuple(error.key for error in together), _moments(together)
        if times > 1:
            found.setdefault(keys, Pattern(said, keys, times, alike))
    return sorted(found.values(), key=lambda one: -one.times)


def _moments(errors: Sequence[Error]) -> int:
    """How many moments some errors, in order of time, are: those that overlap are one."""
    count, until = 0, -1
    for error in errors:
        if error.found.since > until:
            count += 1
        until = max(until, error.found.t)
    return count


def _by_means(seen: Seen, error: Error) -> Iterator[str]:
    """By what an error was brought about, in words: errors of different kinds can share it."""
    found = error.found
    had = {one.kind for one in mechanisms(seen, found)}
    if "own_hold" in had or error.kind in ("chased", "leg_swept") or _marked_in_own_hold(seen, error):
        yield "an own hold gave the place away"
    if "own_try" in had and error.kind in STEPS:
        yield "an own attempt failed and opened the way"
    if error.kind == "grip_unbroken" or ("grip" in had and error.kind in STEPS):
        yield "a grip was left on"


def _same_kind(seen: Seen, error: Error) -> Iterator[str]:
    """What happened, in words, what says most first."""
    found, facts = error.found, error.found.facts
    match error.kind:
        case "taken" | "given" | "worth_zero":
            yield f"{facts['what']}{_from(seen, error)}"
            yield str(facts["what"])
        case "control_lost" | "unheld":
            before = seen.place_before(found.happened)
            if before.top == seen.side:
                yield f"{PLACES[before.position]} lost"
            yield "a position reached and not kept"
        case "penalty":
            yield f"a penalty for {FOULS[str(facts['foul'])]}"
        case "illegal":
            yield "a technique that is not allowed"
        case "technical" | "out_of_plan":
            for mark in marks_of(seen, found):
                if mark.cause:
                    yield f"marked for {mark.cause}"
        case "retaken":
            yield f"{CLAIMS[str(facts['claim'])]} given up and taken again"
        case kind:
            yield kinds()[kind].name.lower() if kind in kinds() else kind


def _from(seen: Seen, error: Error) -> str:
    """Out of which guard something was conceded, where it says something."""
    at = error.found.happened
    before = seen.place_before(at)
    if before.position != "guard":
        return ""
    detail = detail_before(seen, at)
    return f" out of the {_detail(detail)}" if detail else ""


def _detail(detail: str) -> str:
    return detail if "guard" in detail else f"{detail} guard"


def _marked_in_own_hold(seen: Seen, error: Error) -> bool:
    return any(
        hold.until >= mark.t
        for mark in marks_of(seen, error.found)
        for hold in seen.lasting_into(Submission, mark.t, mark.t, seen.side)
    )
