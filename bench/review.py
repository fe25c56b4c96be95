"""How fast a review is: everything ``bin/jurata review`` does for one side, without starting a process.

bench/run review
"""

from __future__ import annotations

import random
import statistics
import sys
import time
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT / "core"))

from jurata_core.answers import review_of  # noqa: E402

ROUNDS = 5
BARS = {300: 0.5, 1_000: 2.0}
"""Seconds that a review of so many observations may take."""
PLACES = [(name, side) for name in ("guard", "side", "mount", "back", "turtle") for side in "ab"]
SECONDS_EACH = 2.0
"""A dense log: 300 observations in a match of ten minutes."""


def busy_log(length: int) -> dict[str, Any]:
    """A log of positions, attempts, grips, holds and marks that goes its whole time."""
    rng = random.Random(length)
    observations: list[dict[str, Any]] = [{"t": 0, "kind": "clock", "action": "start"}]
    t = 0.0
    while len(observations) < length - 1:
        t = round(t + rng.uniform(0.5, 1.5) * SECONDS_EACH, 1)
        side = rng.choice("ab")
        kind = rng.choices(("position", "attempt", "grip", "submission", "mark"), (60, 20, 8, 8, 4))[0]
        seen: dict[str, Any] = {"t": t, "kind": kind}
        if kind == "position":
            seen["position"], seen["top"] = rng.choice(PLACES)
        elif kind == "attempt":
            seen |= {"by": side, "move": rng.choice(("sweep", "guard_pass")), "technique": "scissor-sweep"}
        elif kind == "grip":
            seen |= {"by": side, "grip": "cross collar", "until": t + rng.randrange(5, 40)}
        elif kind == "submission":
            seen |= {"by": side, "technique": "armbar", "threat": "attempt", "until": t + 3}
        else:
            seen |= {"on": side, "good": rng.random() < 0.3, "cause": "grips", "text": "elbow out"}
        observations.append(seen)
    observations.append({"t": t + 5, "kind": "end", "how": "time"})
    return {
        "format": "jurata-match/3",
        "ruleset": "full-points",
        "duration": round(t + 5),
        "division": {"age": 25, "belt": "blue", "attire": "gi"},
        "observations": observations,
    }


def seconds(length: int) -> tuple[float, int]:
    """The median of the rounds, and how many errors were found."""
    log = busy_log(length)
    times, found = [], 0
    for _ in range(ROUNDS):
        start = time.perf_counter()
        found = len(review_of(log)["errors"])
        times.append(time.perf_counter() - start)
    return statistics.median(times), found


def main() -> int:
    review_of(busy_log(60))  # loads what is loaded once
    slow = 0
    for length in (150, 300, 500, 1_000):
        took, found = seconds(length)
        bar = BARS.get(length)
        print(f"{length:5} observations, {found:4} errors: {took:.3f} s" + (f" (bar {bar} s)" if bar else ""))
        slow += bar is not None and took > bar
    return slow


if __name__ == "__main__":
    sys.exit(main())
