"""What can follow from where the match stands, and what each step would be worth.

An expectation for the scorer, made by the same rules as the verdict.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from itertools import takewhile
from typing import Any

from ..match_log import MatchLog
from ..match_log.observations import SIDES, TOPPED, Observation, Side
from ..times import Millis, to_seconds
from .fold import advance, begin, fold, leads
from .places import Place, passed_through
from .sentences import CLAIMS, amount, sentence
from .state import State
from .steps import why_no_period
from .tiebreak import settled
from .transition import established, transition
from .verdict import Tallies


@dataclass(frozen=True, slots=True)
class Move:
    """Coming to ``place``: the claims it opens as (claim, tally, n), those it loses as (claim, side)."""

    place: Place
    opens: tuple[tuple[str, str, int], ...]
    loses: tuple[tuple[str, Side], ...]
    because: str

    def as_json(self) -> dict[str, Any]:
        return {
            "position": self.place.position,
            "top": self.place.top,
            "opens": [{"claim": claim, "tally": tally, "n": n} for claim, tally, n in self.opens],
            "loses": [{"claim": claim, "side": side} for claim, side in self.loses],
            "because": self.because,
        }


@dataclass(frozen=True, slots=True)
class Outlook:
    """Where the match stands at ``t``, and every move from there."""

    t: Millis
    place: Place
    running: bool
    started: bool
    over: bool
    overtime: bool
    """Whether time is up, nobody is ahead, and overtime may begin."""
    clock: Millis
    score: Tallies
    moves: tuple[Move, ...]

    def as_json(self) -> dict[str, Any]:
        return {
            "t": to_seconds(self.t),
            "position": self.place.position,
            "top": self.place.top,
            "running": self.running,
            "started": self.started,
            "over": self.over,
            "overtime": self.overtime,
            "clock": to_seconds(self.clock),
            "score": {side: dict(tally) for side, tally in self.score.items()},
            "moves": [move.as_json() for move in self.moves],
        }


DAY: Millis = 86_400_000
"""Longer than any count."""


def _candidates() -> tuple[Place, ...]:
    topped = [Place(position, side) for position in (*TOPPED, "entangled") for side in SIDES]
    return (
        Place("standing", None),
        *topped,
        Place("entangled", None),
        Place("double_pull", None),
        Place("scramble", None),
    )


CANDIDATES = _candidates()


def outlook(log: MatchLog, t: Millis) -> Outlook:
    """The state after everything seen up to ``t``, and what each position would bring next."""
    return outlook_from(begin(log), log.observations, t)


def outlook_from(state: State, to_come: Iterable[Observation], t: Millis) -> Outlook:
    """The same from a state on the way to ``t``, and the observations that come after it."""
    fold(state, takewhile(lambda seen: seen.t <= t, to_come))
    advance(state, t)
    moves = tuple(_move(state, place, t) for place in CANDIDATES if place != state.control.place)
    over = state.ending is not None
    clock = state.clock
    level = settled(state.ruleset.tiebreak, leads(state.score)).lead == 0
    overtime = not over and not clock.between and level and why_no_period(state) is None
    return Outlook(
        t,
        state.control.place,
        clock.run_from is not None,
        clock.started,
        over,
        overtime,
        clock.at(t),
        state.score,
        moves,
    )


def _move(state: State, place: Place, t: Millis) -> Move:
    if not state.clock.started:
        return Move(place, (), (), "Sets where the match starts.")
    if passed_through(place):
        return Move(place, (), (), "Passed through: what is being counted waits, and counts again from zero.")
    points_open = state.points_open(t)
    control = established(state.ruleset, state.control, state.claims, t)
    change = transition(state.ruleset, control, state.claims, place, points_open, t)
    if points_open:
        paying = [one for one in change.opened if one.n]
        opened = [one for one in paying if t + state.ruleset.holds[one.kind] <= state.clock.until_bell(t + DAY)]
        said = [f"{amount(n, tally)} for the {CLAIMS[kind]} once held." for kind, tally, n in opened]
        if len(opened) < len(paying):
            said.append("Too little time is left to hold it.")
    else:
        opened = []
        said = ["Points are not open yet."] if change.opened else []
    said += [f"{amount(gain.n, gain.tally)} at once." for gain in change.at_once]
    lost = [(claim.kind, claim.side) for claim in change.lost if claim.n and not claim.too_early]
    said += [f"Ends the {CLAIMS[kind]} before it scores." for kind, _ in lost]
    said += [sentence(reason, to=place.top, claim=claim) for claim, reason in change.worth_nothing]
    return Move(place, tuple(opened), tuple(lost), " ".join(said) or "Scores nothing on its own.")
