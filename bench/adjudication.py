"""How fast the core is: the adjudication alone, and ``bin/jurata score`` as a process.

bench/run adjudication
"""

from __future__ import annotations

import json
import random
import resource
import statistics
import subprocess
import sys
import tempfile
import time
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parents[1]
JURATA = ROOT / "bin" / "jurata"
sys.path.insert(0, str(ROOT / "core"))

from jurata_core.adjudication import adjudicate  # noqa: E402
from jurata_core.match_log import read_log  # noqa: E402


def long_log(length: int) -> dict[str, Any]:
    """A log of exchanges between guard, passes, mount and back that never ends early."""
    rng = random.Random(length)
    places = [(name, "a") for name in ("guard", "side", "mount", "back")] + [
        (name, "b") for name in ("guard", "turtle")
    ]
    observations: list[dict[str, Any]] = [{"t": 0, "kind": "clock", "action": "start"}]
    t = 0.0
    while len(observations) < length - 1:
        t = round(t + rng.choice((1, 2.5, 4)), 1)
        position, top = rng.choice(places)
        observations.append({"t": t, "kind": "position", "position": position, "top": top})
        if rng.random() < 0.1:
            hold = {"by": "a", "technique": "armbar", "threat": "attempt", "until": t + 2}
            observations.append({"t": t, "kind": "submission", **hold})
    observations.append({"t": t + 5, "kind": "end", "how": "time"})
    return {
        "format": "jurata-match/1",
        "ruleset": "full-points",
        "duration": t + 5,
        "division": {"age": 25, "belt": "blue", "attire": "gi"},
        "observations": observations[: length - 1] + observations[-1:],
    }


def median(times: list[float]) -> float:
    return statistics.median(times) * 1000


def timed(length: int, rounds: int) -> list[float]:
    log = read_log(long_log(length))
    times = []
    for _ in range(rounds):
        start = time.perf_counter()
        adjudicate(log)
        times.append(time.perf_counter() - start)
    return times


def growth(rounds: int = 7) -> float:
    """The cost of an observation among 100,000 against one among 1,000.

    A hundred short logs and the long one, straight after each other, take as long:
    what slows a shared machine down falls on both. The median of the rounds.
    """
    ratios = [sum(timed(100_000, 1)) / sum(timed(1_000, 100)) for _ in range(rounds)]
    return statistics.median(ratios)


def rescored(matches: int, observations: int) -> None:
    """A whole library under one ruleset, by two processes, with the most memory any of them took."""
    how = ("--ruleset", "late-points", "--brief", "--jobs", "2")
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "library.jsonl"
        line = json.dumps(long_log(observations))
        with path.open("w") as file:
            for _ in range(matches):
                file.write(line + "\n")
        start = time.perf_counter()
        subprocess.run([str(JURATA), "score", "--lines", str(path), *how], check=True, stdout=subprocess.DEVNULL)
        took = time.perf_counter() - start
    most = resource.getrusage(resource.RUSAGE_CHILDREN).ru_maxrss / 1024
    print(f"{matches:,} matches of {observations} observations scored again: {took:.1f} s, {most:.0f} MB a process")


def main() -> None:
    times = timed(300, 1_000)
    print(f"adjudicate 300 observations: {median(times):.2f} ms median, {min(times) * 1000:.2f} ms at best")
    print(f"cost an observation, 100,000 against 1,000: {growth():.2f} times")
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "log.json"
        path.write_text(json.dumps(long_log(300)))
        times = []
        for _ in range(10):
            start = time.perf_counter()
            subprocess.run([JURATA, "score", path], check=True, stdout=subprocess.DEVNULL)
            times.append(time.perf_counter() - start)
    print(f"bin/jurata score, 300 observations, as a process: {median(times):.0f} ms median")
    rescored(10_000, 150)


if __name__ == "__main__":
    main()
