"""Made matches: logs played out second by second from known rates, for calibration and for the tests of the model."""

from __future__ import annotations

import random
from math import expm1
from typing import Any

from jurata_core.adjudication.places import STANDING, Place
from jurata_core.chance.rates import Band, Event, Rates
from jurata_core.match_log import FORMAT

EARLY_SECONDS = 3
"""In the presets a position is held for so long; the model's rates differ before and after."""


def made_log(rates: Rates, ruleset: Any, seconds: int, rng: random.Random) -> dict[str, Any]:
    """A match log of one match, a step a second, that ends by a finish or at time."""
    rows: list[dict[str, Any]] = [{"t": 0, "kind": "clock", "action": "start"}]
    place, age = STANDING, 0
    ended = {"t": seconds, "kind": "end", "how": "time"}
    for second in range(1, seconds):
        event = _event(rates, place, age, rng)
        age += 1
        if event is None:
            continue
        if event.what == "finish":
            ended = {"t": second, "kind": "end", "how": "submission", "by": event.side, "technique": "armbar"}
            break
        if event.what == "close":
            attack = {"kind": "submission", "by": event.side, "technique": "armbar", "threat": "close"}
            rows.append({"t": second, **attack})
            continue
        if event.what == "pull":
            rows.append({"t": second, "kind": "pull", "by": event.side})
        assert event.to is not None  # moves and pulls lead somewhere
        place, age = event.to, 0
        rows.append({"t": second, "kind": "position", **_said(place)})
    return {
        "format": FORMAT,
        "ruleset": ruleset,
        "duration": seconds,
        "division": {"age": 30, "belt": "black", "attire": "gi"},
        "observations": [*rows, ended],
    }


def _said(place: Place) -> dict[str, Any]:
    return {"position": place.position, **({} if place.top is None else {"top": place.top})}


def _event(rates: Rates, place: Place, age: int, rng: random.Random) -> Event | None:
    """What happens in a second, where anything does."""
    events = rates.per_minute[Band(place, age < EARLY_SECONDS)]
    total = sum(events.values()) / 60
    if not events or rng.random() >= -expm1(-total):
        return None
    return rng.choices(list(events), weights=list(events.values()))[0]
