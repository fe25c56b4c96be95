"""What one scored match adds to a season: what was tried and came off, where the time went, what was won and lost when.

Figures are whole numbers and moments that are made once, when a match is scored, and kept with it: a season is put
together from them, and no log is scored again for it. Times are milliseconds, of running clock unless said otherwise.
"""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Iterable, Iterator, Sequence
from itertools import pairwise
from typing import Any, Literal, NamedTuple

from ..adjudication.places import Place
from ..adjudication.reasons import CloseSubmission, Penalty, claims_of
from ..adjudication.rows import Award
from ..match_log.observations import Side, Tally
from ..review import LEAD, MOVES, Seen, Try, found_well, tries_of
from ..times import Millis

THIRDS = 3
State = Literal["ahead", "level", "behind"]
STATES: dict[int, State] = {1: "ahead", 0: "level", -1: "behind"}


class Given(NamedTuple):
    """Something that was given: points or advantages for a claim, or a penalty, with the footage that shows it."""

    what: str
    """What it was for: a claim, a submission, a foul, or the stable word of another reason."""
    by: Side
    """Who got it; of a penalty, against whom."""
    tally: Tally
    n: int
    t: Millis
    start: Millis
    end: Millis
    third: int
    """In which third of the match it was given, from 0."""
    state: State
    """How the athlete stood before it."""


class Part(NamedTuple):
    """A part of the match: how long it lasted, and the points of the athlete and of the opponent in it."""

    lasted: Millis = 0
    points_a: int = 0
    points_b: int = 0


class Well(NamedTuple):
    """Something done well, of a kind of the review, with the footage that shows it."""

    kind: str
    t: Millis
    start: Millis
    end: Millis


class Figures(NamedTuple):
    """What one match adds to a season, with the coached athlete as side ``a``."""

    length: Millis
    top: Millis
    below: Millis
    feet: Millis
    tries: tuple[Try, ...]
    given: tuple[Given, ...]
    """Every row of the ledger, in its order."""
    thirds: tuple[Part, ...]
    states: dict[State, Part]
    illegal: tuple[tuple[str, Side, Millis], ...]
    """Illegal techniques, by whom, and when in the footage."""
    well: tuple[Well, ...]

    @property
    def scored(self) -> dict[str, tuple[int, int, int, int]]:
        """By what it was for: points and advantages of the athlete, then of the opponent."""
        found: dict[str, list[int]] = {}
        for one in self.given:
            if one.tally != "penalties":
                sums = found.setdefault(one.what, [0, 0, 0, 0])
                sums[(0 if one.by == "a" else 2) + (one.tally == "advantages")] += one.n
        return {what: (a, b, c, d) for what, (a, b, c, d) in found.items()}

    @property
    def penalties(self) -> dict[str, tuple[int, int]]:
        """By the foul: against the athlete and against the opponent."""
        found: dict[str, list[int]] = {}
        for one in self.given:
            if one.tally == "penalties":
                found.setdefault(one.what, [0, 0])[0 if one.by == "a" else 1] += one.n
        return {foul: (a, b) for foul, (a, b) in found.items()}


def figures_of(seen: Seen) -> Figures:
    """What a scored match adds; ``seen`` is from the side of the athlete."""
    verdict = seen.verdict
    places = list(_places(seen))
    given = tuple(_given(seen))
    return Figures(
        length=seen.clock(seen.over) - verdict.timeline.clock_at_start,
        top=sum(lasted for place, lasted in places if place.top == seen.side),
        below=sum(lasted for place, lasted in places if place.top == seen.other),
        feet=sum(lasted for place, lasted in places if place.top is None),
        tries=tries_of(seen),
        given=given,
        thirds=_thirds(seen, given),
        states=_states(seen, given),
        illegal=tuple((one.technique, one.by, one.t) for one in verdict.illegal),
        well=tuple(_well(seen)),
    )


def _places(seen: Seen) -> Iterator[tuple[Place, Millis]]:
    """Each place with how long the clock ran in it."""
    timeline = seen.verdict.timeline
    ends = [t for t, _ in timeline.places[1:]] + [seen.over]
    for (t, place), end in zip(timeline.places, ends, strict=True):
        yield place, max(0, timeline.ran(t, max(t, min(end, seen.over))))


def _given(seen: Seen) -> Iterator[Given]:
    """The rows of the ledger; penalties are those for fouls alone."""
    bounds = _bounds(seen)
    for row in seen.verdict.ledger:
        if row.kind == "penalties" and not isinstance(row.reason, Penalty):
            continue
        what = row.reason.foul if isinstance(row.reason, Penalty) and row.kind == "penalties" else _what_for(row)
        began = seen.began(row) if row.kind != "penalties" else row.t
        yield Given(
            what, "a" if row.to == seen.side else "b", row.kind, row.n, row.t, max(0, began - LEAD), row.t + LEAD,
            bisect_right(bounds, row.clock - 1), STATES[seen.standing(row.t - 1)],
        )  # fmt: skip


def _bounds(seen: Seen) -> list[Millis]:
    """Where on the match clock the second and the last third begin."""
    whole = max(1, seen.length)
    return [whole * number // THIRDS for number in range(1, THIRDS)]


def _what_for(row: Award) -> str:
    """What a row of the ledger was for: a claim, a submission, or the stable word of another reason."""
    if isinstance(row.reason, CloseSubmission):
        return "submission"
    claims = claims_of(row.reason)
    return claims[0] if claims else row.reason.code


def _thirds(seen: Seen, given: Sequence[Given]) -> tuple[Part, ...]:
    """The match in three parts of the same length; overtime belongs to the last."""
    start, ended = seen.verdict.timeline.clock_at_start, seen.clock(seen.over)
    edges = [0, *_bounds(seen), max(ended, seen.length, 1)]
    lasted = [max(0, min(high, ended) - max(low, start)) for low, high in pairwise(edges)]
    return tuple(
        Part(ms, *_points(one for one in given if one.third == number)) for number, ms in enumerate(lasted)
    )  # fmt: skip


def _points(given: Iterable[Given]) -> tuple[int, int]:
    """The points of the athlete and of the opponent."""
    sums = [0, 0]
    for one in given:
        if one.tally == "points":
            sums[0 if one.by == "a" else 1] += one.n
    return sums[0], sums[1]


def _states(seen: Seen, given: Sequence[Given]) -> dict[State, Part]:
    """Time and points while ahead, level and behind by the tiebreak; a score belongs to the state that it changed."""
    timeline = seen.verdict.timeline
    times = sorted({row.t for row in seen.verdict.ledger if row.t < seen.over})
    lasted: dict[State, Millis] = dict.fromkeys(STATES.values(), 0)
    for t, until in pairwise([0, *times, seen.over]):
        lasted[STATES[seen.standing(t)]] += max(0, timeline.ran(t, until))
    return {state: Part(ms, *_points(one for one in given if one.state == state)) for state, ms in lasted.items()}


def _well(seen: Seen) -> Iterator[Well]:
    for one in sorted(found_well(seen), key=lambda one: one.t):
        yield Well(one.kind, one.t, max(0, one.since - LEAD), one.t + LEAD)


def tried_of(figures: Figures) -> dict[str, tuple[int, int]]:
    """Of each move that the athlete tried, how often it came off, and how often it was tried."""
    own = {move: [one.done for one in figures.tries if (one.move, one.by) == (move, "a")] for move in MOVES}
    return {move: (sum(done), len(done)) for move, done in own.items() if done}


def as_json(figures: Figures) -> dict[str, Any]:
    """The figures as they are stored; :func:`from_json` reads them again."""
    return {
        **figures._asdict(),
        "tries": [list(one) for one in figures.tries],
        "given": [list(one) for one in figures.given],
        "thirds": [list(one) for one in figures.thirds],
        "states": {state: list(part) for state, part in figures.states.items()},
        "well": [list(one) for one in figures.well],
    }


def from_json(stored: dict[str, Any]) -> Figures:
    """Stored figures; empty ones where nothing is stored."""
    if not stored:
        return NOTHING
    return Figures(
        **{name: stored[name] for name in ("length", "top", "below", "feet")},
        tries=tuple(Try(*one) for one in stored["tries"]),
        given=tuple(Given(*one) for one in stored["given"]),
        thirds=tuple(Part(*one) for one in stored["thirds"]),
        states={state: Part(*part) for state, part in stored["states"].items()},
        illegal=tuple(tuple(one) for one in stored["illegal"]),
        well=tuple(Well(*one) for one in stored["well"]),
    )


NOTHING = Figures(
    0, 0, 0, 0, (), (), (Part(),) * THIRDS, {state: Part() for state in STATES.values()}, (), ()
)  # fmt: skip
"""The figures of a match in which nothing is logged."""
