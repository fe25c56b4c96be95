"""How long a coach needs for a match at the desk, estimated by the keystroke-level model; no person was measured.

.venv/bin/python -m bench.scoring

Operators: S. K. Card, T. P. Moran, A. Newell, "The keystroke-level model for user performance time with
interactive systems", Communications of the ACM 23 (7), 1980, values from memory: a key press of somebody who
types now and then (K), and deciding what to do next (M). The bar is twice the playing time.
"""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

DATA = Path(__file__).resolve().parents[1] / "server" / "demo" / "data"
KEY_S, DECIDE_S = 0.28, 1.35
KEYS_AN_OBSERVATION = 1.7
"""The most that the journey over a whole match allows."""
STEP_S = 0.5
"""A held arrow key, from a second before the moment up to its frame: 15 frames at 30 repeats a second."""


def seconds_an_observation() -> float:
    """See it, pause; a second back and on to the frame; decide and log it; look at what it gave; play on."""
    pausing = DECIDE_S + KEY_S
    finding = KEY_S + STEP_S + DECIDE_S
    logging = DECIDE_S + KEYS_AN_OBSERVATION * KEY_S
    going_on = DECIDE_S + KEY_S
    return pausing + finding + logging + going_on


def estimate(log: dict[str, Any]) -> tuple[float, float, int]:
    """The playing time, the time it takes to score all of it (seconds), and how many observations there are."""
    observations = [one for one in log["observations"] if one["kind"] != "call"]  # those are read off the table
    playing = observations[-1]["t"]
    return playing, playing + len(observations) * seconds_an_observation(), len(observations)


def main() -> None:
    for path in sorted(DATA.glob("*.json")):
        log = json.loads(path.read_text())
        log = log.get("log", log)
        if not log.get("observations"):
            continue
        playing, scoring, observations = estimate(log)
        times = scoring / playing
        print(
            f"{path.stem}: {observations} observations in {playing:.0f} s, scored in {scoring:.0f} s: {times:.2f} times"
        )


if __name__ == "__main__":
    main()
