"""How the match stood all along: the chance of winning, what each error swung, and what was still winnable."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Any

from ..adjudication.fold import states_at
from ..adjudication.places import GUARDS
from ..adjudication.sentences import PLACES, WHO
from ..chance import Asking, Chance, Model, solve_together, timeline
from ..chance.moments import Moment
from ..match_log.observations import Side
from ..times import Millis, minutes, span, to_seconds
from ..winnable import Letting, Paces, Way, last_turn, letting_go, standpoint, ways
from .cost import Swing, swings
from .errors import Error
from .seen import Seen

MOST_WAYS, MOST_CLOSINGS = 3, 4
INTO: Millis = 1_000
"""How long after a claim was reached it is asked whether to let go of it."""
LAST_MINUTES: Millis = 120_000
"""Who has the last one of a see-saw of sweeps is said from so much on before the end."""


@dataclass(frozen=True, slots=True)
class Window:
    """A stretch in which place and score stayed the same, and what would have won or levelled from there."""

    t: Millis
    clock: Millis
    until: Millis
    """The match clock at its end."""
    stands: str
    ways: tuple[Way, ...]
    turns: str | None
    """Who has the last one, if both sweep in turn."""

    def as_json(self) -> dict[str, Any]:
        return {
            "t": to_seconds(self.t),
            "clock": to_seconds(self.clock),
            "until": to_seconds(self.until),
            "stands": self.stands,
            "ways": [way.as_json() for way in self.ways],
            "turns": self.turns,
        }


@dataclass(frozen=True, slots=True)
class Let:
    """A claim that was better given up for its advantage than held."""

    t: Millis
    clock: Millis
    letting: Letting

    def as_json(self) -> dict[str, Any]:
        goes, holds = (f"{round(100 * chance)}%" for chance in (self.letting.goes, self.letting.holds))
        because = (
            f"At {minutes(self.clock)}, letting go to {PLACES[self.letting.to.position]} would have given the "
            f"advantage and a {goes} chance to win; holding on, {holds}."
        )
        return {"t": to_seconds(self.t), "clock": to_seconds(self.clock), "because": because}


@dataclass(frozen=True, slots=True)
class Closing:
    """A way that became too late while the side still needed it, from when it was open; times of the match clock."""

    said: str
    since: Millis
    closes: Millis

    def as_json(self) -> dict[str, Any]:
        return {"said": self.said, "from": to_seconds(self.since), "closes": to_seconds(self.closes)}


@dataclass(frozen=True, slots=True)
class Prospects:
    moments: tuple[Moment, ...]
    """One for each second of the match clock."""
    chances: tuple[Chance, ...]
    swings: tuple[Swing | None, ...]
    """Of each error."""
    windows: tuple[Window, ...]
    closings: tuple[Closing, ...]
    lets: tuple[Let, ...]


def prospects(seen: Seen, errors: Sequence[Error], model: Model, paces: Paces) -> Prospects:
    """All of it, by one recursion."""
    moments = timeline(seen.verdict)
    held = [
        seen.moment(count.since + INTO)
        for count in seen.verdict.counts
        if count.to == seen.side and count.tally == "points" and count.n and count.ended > count.since + INTO
    ]
    chances, swung, lets = solve_together(
        model, chances_of(moments, model, seen), swings(seen, errors, model), letting_go(model, held, seen.side)
    )
    found = tuple(Let(one.t, one.clock, let) for one, let in zip(held, lets, strict=True) if let is not None)
    cut = windows(seen, paces)
    over = seen.clock(seen.over)
    return Prospects(tuple(moments), tuple(chances), tuple(swung), tuple(cut), tuple(closings(cut, over)), found)


def chances_of(moments: Sequence[Moment], model: Model, seen: Seen) -> Asking[list[Chance]]:
    """The chance of the side at each moment; once the match is over, who has won."""
    answers = yield [moment.question(model) for moment in moments]
    found = [seen.own(one) for one in answers]
    result = seen.verdict.result
    if found and result.t is not None and result.t >= seen.over:
        found[-1] = Chance(*(float(result.winner == side) for side in (seen.side, seen.other)))
    return found


def windows(seen: Seen, paces: Paces) -> list[Window]:
    """The match cut where the place or the score changed, with the ways from there where the side needs one."""
    cuts = sorted({t for t, _ in seen.places} | {row.t for row in seen.verdict.ledger} | {seen.over})
    begin = seen.verdict.running[0].start if seen.verdict.running else 0
    cuts = [begin, *(t for t in cuts if begin < t <= seen.over)]
    found = []
    for (t, end), state in zip(pairwise(cuts), states_at(seen.log, cuts[:-1]), strict=True):
        moment, until = seen.moment(t), seen.clock(end)
        if until <= moment.clock:
            continue
        point = standpoint(state, seen.side, t, seen.bell(t))
        reached = () if point is None else tuple(ways(point, seen.log.ruleset, paces, MOST_WAYS))
        ahead, by = seen.lead_in(t)
        stands = ("level", f"ahead {by}", f"behind {by}")[ahead]
        if moment.overtime is not None:
            stands += "; overtime"
        elif moment.clock < (opening := seen.log.ruleset.opening(seen.log.duration)):
            stands += f"; points start at {minutes(opening)}"
        found.append(Window(t, moment.clock, until, stands, reached[:MOST_WAYS], _turns(seen, moment, paces)))
    return found


def closings(cut: Sequence[Window], over: Millis) -> list[Closing]:
    """The last few ways that closed before the match was over; holding on does not count."""
    found: dict[str, Closing] = {}
    for window in cut:
        for way in window.ways:
            if way.takes_a_move and way.closes < over and _needed(way, cut):
                since = found[way.said].since if way.said in found else window.clock
                found[way.said] = Closing(way.said, since, way.closes)
    return sorted(found.values(), key=lambda one: one.closes)[-MOST_CLOSINGS:]


def _needed(way: Way, cut: Sequence[Window]) -> bool:
    """Whether the side still needed a way when it closed."""
    then = (window for window in cut if window.clock <= way.closes <= window.until)
    return any(other.said == way.said for window in then for other in window.ways)


def _turns(seen: Seen, moment: Moment, paces: Paces) -> str | None:
    left = seen.left(moment.t)
    if moment.place.position not in GUARDS or moment.place.top is None or left > LAST_MINUTES:
        return None
    below: Side = "b" if moment.place.top == "a" else "a"
    each = paces.moves["guard bottom"]["guard top"] + seen.log.ruleset.holds["sweep"]
    turns, last = last_turn(left, each, below)
    if last is None:
        return f"With {span(left)} left there is no time to score a sweep; it needs {span(each)}."
    return f"If they trade sweeps there is time for {turns} more, and {WHO[last]} gets the last one."
