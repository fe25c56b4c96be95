"""How long a quick move takes, in milliseconds of running clock, by who is where."""

from __future__ import annotations

import json
from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cache
from itertools import pairwise
from pathlib import Path
from typing import Any

from ..adjudication.places import Place
from ..adjudication.verdict import Verdict
from ..match_log.observations import OTHER, SIDES, Side
from ..times import Millis

QUICKEST_SHARE = 4
"""Of what was seen the quickest quarter counts: the rest was waiting, not moving."""

Role = str
"""A place as one side has it: ``guard top``, ``guard bottom``, ``standing``."""


@dataclass(frozen=True, slots=True)
class Paces:
    """``moves[role][role]``: how long one side is in the first before a quick move to the second."""

    moves: Mapping[Role, Mapping[Role, Millis]]
    close: Millis
    """How long an attack takes to be close."""
    seen: int
    """How many moves of scored matches they come from."""


def role_of(place: Place, side: Side) -> Role:
    if place.top is None:
        return place.position
    return f"{place.position} {'top' if place.top == side else 'bottom'}"


def place_of(role: Role, side: Side) -> Place:
    position, _, where = role.partition(" ")
    if not where:
        return Place(position, None)
    return Place(position, side if where == "top" else OTHER[side])


@cache
def _data() -> dict[str, Any]:
    data: dict[str, Any] = json.loads((Path(__file__).parent / "paces.json").read_text("utf-8"))
    return data


@cache
def guessed() -> Paces:
    """Before anything is seen."""
    moves = {role: {to: seconds * 1000 for to, seconds in found.items()} for role, found in _data()["moves"].items()}
    return Paces(moves, _data()["close"] * 1000, 0)


Move = tuple[Role, Role, Millis]
"""From where to where, and how long after coming there."""


def moves_of(verdict: Verdict) -> Counter[Move]:
    """How often each move was made in a match, as each side has it; times to a tenth of a second."""
    found: Counter[Move] = Counter()
    for (since, place), (until, after) in pairwise(verdict.timeline.places):
        lasted = round(verdict.clock_at(until) - verdict.clock_at(since), -2)
        found.update((role_of(place, side), role_of(after, side), lasted) for side in SIDES)
    return found


def learned(moves: Mapping[Move, int]) -> Paces:
    """The guess moved towards the quickest quarter of what was seen, by how often it was seen."""
    seen: dict[tuple[Role, Role], dict[Millis, int]] = {}
    for (role, to, lasted), n in moves.items():
        seen.setdefault((role, to), {})[lasted] = n
    weight, before = _data()["weight"], guessed()
    found = {
        role: {to: _moved(guess, weight, seen.get((role, to), {})) for to, guess in guesses.items()}
        for role, guesses in before.moves.items()
    }
    known = sum(sum(seen.get((role, to), {}).values()) for role, guesses in found.items() for to in guesses)
    return Paces(found, before.close, known)


def _moved(guess: Millis, weight: int, times: Mapping[Millis, int]) -> Millis:
    wanted = quick = -(-sum(times.values()) // QUICKEST_SHARE)
    total = 0
    for lasted in sorted(times):
        taken = min(wanted, times[lasted])
        total += taken * lasted
        wanted -= taken
    return round((guess * weight + total) / (weight + quick))
