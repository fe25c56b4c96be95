"""What was tried and came off, by either side: one definition for a season and for what one match shows stopped."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Iterator, Mapping
from itertools import pairwise
from typing import Literal, NamedTuple

from ..adjudication.places import CONTROL, GUARDS, Place
from ..adjudication.rows import Count
from ..match_log.observations import OTHER, SIDES, Attempt, End, Grip, Position, Side, Submission
from ..techniques import NOT_NAMED
from ..times import Millis
from .seen import Seen

Move = Literal["takedown", "sweep", "guard_pass", "back", "escape", "submission"]
MOVES: tuple[Move, ...] = ("takedown", "sweep", "guard_pass", "back", "escape", "submission")
"""What a season counts tries and successes of; ``back`` is the taking of the back."""
CLAIMED: dict[str, Move] = {"takedown": "takedown", "sweep": "sweep", "guard_pass": "guard_pass", "back": "back"}
CAME_OFF = ("paid", "moved_on", "not_open_yet")
"""How the count of a move ends that came off: also one left for a better position, or made before points open."""
SAME_MOVE: Millis = 2_500
"""So far apart in the footage, an attempt and the position that it led to are still one move."""


class Try(NamedTuple):
    """A move that somebody tried. ``t`` is of the footage; ``start`` to ``end`` of the footage shows it."""

    move: Move
    by: Side
    done: bool
    t: Millis
    clock: Millis
    technique: str | None
    detail: str | None
    """From where: the detail of the guard for a sweep or pass, else the position."""
    start: Millis
    end: Millis


LEAD: Millis = 4_000
"""How long before a move its footage begins, and after it ends."""


def tries_of(seen: Seen) -> tuple[Try, ...]:
    """Every try of either side, in order of time."""
    return tuple(sorted((*_claimed(seen), *_escapes(seen), *_submissions(seen)), key=lambda one: one.t))


class Stopped(NamedTuple):
    """The tries of the other side at one move that did not work, and at how many there were.

    ``under`` says how many of them were stopped while a grip of one's own was on, by the grip.
    """

    move: Move
    tries: tuple[Try, ...]
    of: int
    under: Mapping[str, int]


def stopped_by(seen: Seen) -> list[Stopped]:
    """What was stopped of each move that the other side tried at all."""
    theirs = [one for one in tries_of(seen) if one.by == seen.other]
    found = []
    for move in MOVES:
        tried = [one for one in theirs if one.move == move]
        failed = tuple(one for one in tried if not one.done)
        if tried:
            found.append(Stopped(move, failed, len(tried), _under_grips(seen, failed)))
    return found


CALLED: dict[Move, tuple[str, str]] = {
    "takedown": ("takedown", "takedowns"), "sweep": ("sweep", "sweeps"), "guard_pass": ("guard pass", "guard passes"),
    "back": ("step to the back", "steps to the back"), "escape": ("escape", "escapes"),
    "submission": ("submission", "submissions"),
}  # fmt: skip
"""What one try and several are called."""


def stopped_said(found: Iterable[Stopped]) -> str | None:
    """What was stopped, in one sentence; None where nothing was."""
    said = [f"{len(one.tries)} of {one.of} {CALLED[one.move][one.of > 1]}" for one in found if one.tries]
    return f"Stopped {', '.join(said)}." if said else None


def _under_grips(seen: Seen, tries: Iterable[Try]) -> dict[str, int]:
    """How many tries came while an own grip was on, by the grip, the commonest first."""
    counted: Counter[str] = Counter()
    for one in tries:
        grips = (grip for grip in seen.lasting_into(Grip, one.t, one.t, seen.side) if grip.outcome == "held")
        counted.update({grip.grip for grip in grips if grip.grip != NOT_NAMED and seen.grip_end(grip) >= one.t})
    return dict(counted.most_common())


def _claimed(seen: Seen) -> Iterator[Try]:
    """Takedowns, sweeps, passes and backs: those that counted, and those that were tried only."""
    tried = [one for one in seen.of(Attempt) if one.move in CLAIMED]
    used: set[int] = set()
    for count in seen.verdict.counts:
        move = CLAIMED.get(count.claim)
        if move is None or count.outcome not in (*CAME_OFF, "lost"):
            continue  # what the match's end, a stop or a retreat cut off was neither held nor lost
        attempt = next((one for one in tried if one.index not in used and _leads_to(one, count)), None)
        if attempt is not None:
            used.add(attempt.index)
        technique = None if attempt is None else attempt.technique
        begun = count.since if attempt is None else attempt.t
        yield _try(seen, move, count.to, count.outcome in CAME_OFF, begun, count.ended, technique, count.since)
    for one in tried:
        if one.index not in used:
            yield _try(seen, CLAIMED[one.move], one.by, one.outcome == "done", one.t, one.until, one.technique, one.t)


def _leads_to(attempt: Attempt, count: Count) -> bool:
    near = attempt.t - SAME_MOVE <= count.since <= attempt.until + SAME_MOVE
    return attempt.by == count.to and attempt.move == count.claim and near


def _escapes(seen: Seen) -> Iterator[Try]:
    """Stretches under a pin or with the back taken, of either side: each is one try to escape, which works or does not.

    One that was over before it was held does not count, nor does one that the referee ended. Where the match ended in
    one, the escape did not work.
    """
    held = seen.log.ruleset.hold
    stops = {one.stop for one in seen.verdict.running}
    for side in SIDES:
        began: Millis | None = None
        places = [*seen.places, (seen.over, Place("end", None))]
        for (t, place), (until, after) in pairwise(places):
            if place.top != OTHER[side] or place.position not in CONTROL or t >= seen.over:
                began = None
                continue
            began = t if began is None else began
            if after.top == OTHER[side] and after.position in CONTROL:
                continue
            if after.position != "end" and (until in stops or until >= seen.over):
                continue
            if seen.clock(until) - seen.clock(began) < held:
                continue
            done = after.position != "end"
            yield Try("escape", side, done, until, seen.clock(until), _technique(seen, side, until), place.position,
                      max(0, until - LEAD), until + LEAD)  # fmt: skip


def _technique(seen: Seen, side: Side, t: Millis) -> str | None:
    """With what an escape came off, where it was logged."""
    near = seen.between(Attempt, t - 2 * SAME_MOVE, t + SAME_MOVE, side)
    return next((one.technique for one in near if one.move == "escape" and one.outcome == "done"), None)


def _submissions(seen: Seen) -> Iterator[Try]:
    """Attacks on a submission; the one that finished came off."""
    end = next(seen.of(End), None)
    by = end.by if end is not None and end.how == "submission" else None
    attacks = list(seen.of(Submission))
    last = next((one for one in reversed(attacks) if one.by == by), None)
    for one in attacks:
        done = one is last and end is not None and one.until >= end.t - SAME_MOVE
        yield _try(seen, "submission", one.by, done, one.t, one.until, one.technique, one.t)
    if end is not None and by in SIDES and (last is None or last.until < end.t - SAME_MOVE):
        yield _try(seen, "submission", by, True, end.t, end.t, end.technique, end.t)


def _try(
    seen: Seen, move: Move, by: Side, done: bool, begun: Millis, ended: Millis, technique: str | None, at: Millis
) -> Try:  # fmt: skip
    shown = (max(0, begun - LEAD), ended + LEAD)
    return Try(move, by, done, at, seen.clock(at), technique, _from_where(seen, move, at), *shown)


def _from_where(seen: Seen, move: Move, t: Millis) -> str | None:
    """The detail of the guard that a sweep or pass began in; else the position, where it says something."""
    before = seen.place_at(t) if move == "submission" else seen.place_before(t)
    if move == "takedown":
        return None
    return (detail_before(seen, t) if before.position in GUARDS else None) or before.position


def detail_before(seen: Seen, t: Millis) -> str | None:
    """The detail of the position just before a moment, as which guard it was; None where none was logged."""
    position = seen.place_before(t).position
    shown = [one.detail for one in seen.between(Position, seen.since(t - 1), t - 1) if one.position == position]
    return next((one for one in reversed(shown) if one), None)
