"""Where errors come from: links to earlier ones, each with its reason, and the chains they make."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any, NamedTuple, Protocol

from ..adjudication.places import CONTROL
from ..adjudication.sentences import PLACES, WHO
from ..match_log.observations import TOPLESS, Ref
from ..times import Millis, minutes
from .errors import Error
from .seen import Seen
from .why import Mechanism, mechanisms

FADES: Millis = 20_000
"""So long after the place had changed, what follows from there is a new story, even in the same position; but not under
a control that was never got out of."""
LOGGED_LATE: Millis = 2_000
"""So soon after an error the position that it led to may be logged."""
MOST_SUGGESTED = 3
FROM_PLACE = frozenset(("risk_ahead", "given", "taken", "worth_zero", "control_lost", "chased", "unheld"))
"""Kinds that can come from the position into which an earlier error led."""
NEVER_OUT = frozenset(("submitted", "stuck"))
"""Kinds that come only from a control which the side never got out of."""
LEADING = frozenset((
    "risk_ahead", "given", "taken", "worth_zero", "control_lost", "leg_swept", "chased", "unheld", "paid_pull",
))  # fmt: skip
"""Kinds after which the match stands in another position."""
OWN_LOST = frozenset(("control_lost", "unheld", "chased"))
"""Kinds by which the side lost a position of its own."""
MARKS = frozenset(("technical", "out_of_plan"))
"""What the coach marked comes from nothing else."""
IDLE = frozenset(("stuck", "dragged_out", "no_attempt"))
"""Stretches in which nothing was done, for which a referee gives penalties."""
PASSIVE = ("stalling", "double_pull")
PENALISED: Millis = 5_000
"""So long after such a stretch a penalty for it may be given."""


class Link(NamedTuple):
    """An earlier error that a later one may have come from, and why that is likely."""

    earlier: str
    because: str
    weight: int


def suggested(seen: Seen, errors: Sequence[Error]) -> dict[str, list[Link]]:
    """For each error, by its key, the earlier ones it may have come from, the likeliest first.

    None is suggested because of the time alone: something that an earlier error is about brought the later one about,
    or the later one began in the position to which the earlier one had led. Nothing is decided by it: the coach
    accepts it, or does not.
    """
    about: dict[Ref, list[Error]] = {}
    for error in errors:
        for ref in error.found.refs:
            about.setdefault(ref, []).append(error)
    leading = [error for error in errors if error.kind in LEADING]
    found: dict[str, list[Link]] = {}
    for later in errors:
        links = (*_from_mechanisms(seen, about, later), *_from_place(seen, leading, later))
        best: dict[str, Link] = {}
        links += (*_same_moment(leading, later), *_from_idling(errors, later))
        for link in sorted(links, key=lambda link: -link.weight):
            best.setdefault(link.earlier, link)
        if best:
            found[later.key] = list(best.values())[:MOST_SUGGESTED]
    return found


def _comes_before(earlier: Error, later: Error) -> bool:
    """Whether one error can be the root of another, so that no chain leads back to itself.

    What was marked can lie within what came of it, and so can a grip within the time in which nothing was done.
    """
    return _rank(earlier) < _rank(later)


def _rank(error: Error) -> tuple[int, Millis, Millis, str]:
    tier = 0 if error.kind in MARKS else 1 if error.kind == "grip_unbroken" else 2
    return tier, error.found.since, error.found.happened, error.key


def _from_mechanisms(seen: Seen, about: Mapping[Ref, Sequence[Error]], later: Error) -> Iterator[Link]:
    """Errors about the very thing that brought the later one about."""
    for one in mechanisms(seen, later.found):
        if one.kind in ("foul", "again"):
            continue  # a repetition is no root
        for earlier in about.get(one.ref, ()):
            if earlier is not later and _comes_before(earlier, later):
                yield Link(earlier.key, _short(seen, one, earlier), 4)


def _short(seen: Seen, one: Mechanism, earlier: Error) -> str:
    """What brought an error about, next to the earlier error that says it in full already."""
    if one.kind == "mark" and earlier.kind in MARKS:
        return f"The coach had marked it at {minutes(seen.clock(one.t))}."
    if one.kind == "grip" and earlier.kind == "grip_unbroken":
        return f"It came under that grip of {WHO[seen.other]}."
    return one.said


def _from_place(seen: Seen, leading: Sequence[Error], later: Error) -> Iterator[Link]:
    """Errors that led to the position which the later one came from, the last of them first."""
    at = later.found.happened
    place, held = seen.place_at(at - 1), seen.since(at - 1)
    first = _since(seen, later, at)
    if first is None:
        return
    under = place.top == seen.other and place.position in CONTROL
    for earlier in reversed(leading):
        before = earlier.found
        if earlier is later or not before.happened < at or not _comes_before(earlier, later):
            continue
        if place.position in TOPLESS and earlier.kind not in OWN_LOST:
            continue  # back on the feet is a way out, but for one who had been on top
        if not first - LOGGED_LATE <= before.happened or _stopped(seen, before.happened, at):
            continue
        if not under and later.found.since - before.happened > FADES:
            continue
        if before.since <= held <= before.t + LOGGED_LATE:
            yield Link(earlier.key, f"It led to {PLACES[place.position]}; this began from there.", 3)
        elif place.top == seen.other:
            since, where = seen.control_since(at - 1), "past the guard"
            if since is None or since > before.t + LOGGED_LATE:
                since, where = seen.top_since(at - 1), "on top"
            said = f"{WHO[seen.other].capitalize()} had been {where} ever since {minutes(seen.clock(since))}."
            yield Link(earlier.key, said, 2)


def _since(seen: Seen, later: Error, at: Millis) -> Millis | None:
    """Since when the match stood so that an earlier error can have led there; None for what comes from no place."""
    place = seen.place_at(at - 1)
    if place.top == seen.other and place.position in CONTROL:
        return seen.control_since(at - 1) if later.kind in FROM_PLACE | NEVER_OUT else None
    if later.kind not in FROM_PLACE:
        return None
    return seen.top_since(at - 1) if place.top == seen.other else seen.since(at - 1)


def _stopped(seen: Seen, since: Millis, until: Millis) -> bool:
    """Whether the match was stopped between two moments."""
    return any(since < one.stop <= until for one in seen.verdict.running[:-1])


def _same_moment(leading: Sequence[Error], later: Error) -> Iterator[Link]:
    """What else is said of the very moment in which the place changed."""
    if later.kind in LEADING:
        for earlier in leading:
            if earlier.found.happened == later.found.happened and _comes_before(earlier, later):
                yield Link(earlier.key, "It is the same moment.", 6)


def _from_idling(errors: Sequence[Error], later: Error) -> Iterator[Link]:
    """Stretches in which nothing was done, which went on to the end or brought a penalty."""
    if later.kind == "no_attempt":
        for earlier in errors:
            if earlier.kind == "dragged_out" and earlier.found.since < later.found.since < earlier.found.t:
                yield Link(earlier.key, "Nothing had been tried for some time already.", 3)
    if later.kind == "penalty" and later.found.facts["foul"] in PASSIVE:
        for earlier in errors:
            span = earlier.found
            if earlier.kind in IDLE and span.since < later.found.t <= span.t + PENALISED:
                yield Link(earlier.key, "Nothing was done in that time; the penalty was for it.", 5)


@dataclass(frozen=True, slots=True)
class Chain:
    """A root, and after it the errors that came from it in order of time."""

    root: str
    members: tuple[str, ...]

    def as_json(self) -> dict[str, Any]:
        return {"first": self.root, "members": list(self.members)}


class Keyed(Protocol):
    """What is known by its key."""

    @property
    def key(self) -> str: ...


def chains(errors: Sequence[Keyed], links: Mapping[str, str]) -> list[Chain]:
    """The errors gathered under their roots, by links from each to the earlier one it came from.

    A link to an error that is not there counts as none. Raises ValueError for links that lead back to themselves.
    """
    keys = {error.key for error in errors}
    members: dict[str, list[str]] = {}
    for error in errors:
        members.setdefault(_root(error.key, links, keys), []).append(error.key)
    return [Chain(root, (root, *(key for key in found if key != root))) for root, found in members.items()]


def _root(key: str, links: Mapping[str, str], keys: set[str]) -> str:
    passed = {key}
    while (earlier := links.get(key)) is not None and earlier in keys:
        if earlier in passed:
            raise ValueError("an error can't come from itself")
        passed.add(earlier)
        key = earlier
    return key
